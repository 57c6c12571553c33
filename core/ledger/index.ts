import type { IsoDate } from '../dates/index.ts';
import type { Correction, GiftState, PaymentMethod } from '../gifts/index.ts';
import type { Cents } from '../money/index.ts';
import type { EntryKind, Sum } from './journal.ts';

export { ENTRIES, giftSums, pledgeSums, toBook, type EntryKind, type Sum } from './journal.ts';

/** What accounts are set for, with the words for its two sides. */
export const ACCOUNTS_FOR = {
  gift: { word: 'Gifts', debit: 'Money', credit: 'Income' },
  pledge: { word: 'Pledges', debit: 'Pledges receivable', credit: 'Income, as of gifts' },
  write_off: { word: 'Write-offs', debit: 'Expense', credit: '' },
  sale: { word: 'Sales of stock', debit: 'Money, as of gifts', credit: 'Gain or loss' },
  fee: { word: 'Processor fees', debit: 'Expense', credit: '' },
} as const;
export type AccountsFor = keyof typeof ACCOUNTS_FOR;

/** Which accounts something is booked to; a rule without a fund or a method holds for any. */
export interface AccountRule {
  what: AccountsFor;
  fundId: number | null;
  /** Only of gifts. */
  method: PaymentMethod | null;
  /** Of gifts: where the money is. */
  debit: string;
  /** Of gifts: what the money is, income of the fund. */
  credit: string;
}

/** Money booked on a day: above zero for a gift, below for what a correction takes back. */
export interface Booking {
  date: IsoDate;
  fundId: number;
  method: PaymentMethod;
  cents: Cents;
}

/**
 * How a gift stands in the books: as it was first, on the day it was booked; then, for each correction on the day of
 * that, what it was taken back and what it became put in its place. `corrections` are in the order in which they were
 * made.
 */
export function bookingsOf(
  now: GiftState,
  bookedOn: IsoDate,
  corrections: readonly Omit<Correction, 'kind'>[],
): Booking[] {
  const of = (date: IsoDate, state: GiftState, sign: 1 | -1): Booking[] =>
    state.parts.map(({ fundId, cents }) => ({ date, fundId, method: state.method, cents: sign * cents }));
  return [
    ...of(bookedOn, corrections[0]?.before ?? now, 1),
    ...corrections.flatMap((one) => [...of(one.bookedOn, one.before, -1), ...of(one.bookedOn, one.after, 1)]),
  ];
}

export interface LedgerLine {
  date: IsoDate;
  account: string;
  fundId: number;
  debit: Cents;
  credit: Cents;
}

/** What stands in an export where no rule names an account; it shows that one is missing. */
export const NO_ACCOUNT = { debit: 'UNSET-MONEY', credit: 'UNSET-INCOME' } as const;

/**
 * The accounts of gifts, or of something else, for a fund and a method: each side from the closest rule that names one.
 * A rule for both is closer than one for the fund, that closer than one for the method, that closer than one for all.
 */
export function accountsFor(
  rules: readonly AccountRule[],
  fundId: number,
  method: PaymentMethod | null,
  what: AccountsFor = 'gift',
): { debit: string; credit: string } {
  const closeness = (rule: AccountRule): number => (rule.fundId === null ? 0 : 2) + (rule.method === null ? 0 : 1);
  const fitting = rules
    .filter(
      (rule) =>
        rule.what === what &&
        (rule.fundId === null || rule.fundId === fundId) &&
        (rule.method === null || rule.method === method),
    )
    .sort((a, b) => closeness(b) - closeness(a));
  const side = (name: 'debit' | 'credit'): string =>
    fitting.find((rule) => rule[name] !== '')?.[name] ?? NO_ACCOUNT[name];
  return { debit: side('debit'), credit: side('credit') };
}

/** Which rules an entry needs: without any, it is not in the books of an organization, such as one that books cash. */
const NEEDS: Readonly<Record<EntryKind, AccountsFor>> = {
  pledged: 'pledge',
  paid: 'pledge',
  written_off: 'pledge',
  sold: 'sale',
  gain: 'sale',
  fee: 'fee',
};

/** An entry of the journal on its day: below zero for what is taken back. */
export type Entry = Sum & { date: IsoDate };

/** The two accounts that an entry is booked to. The income of pledges and the money of sales are by default those of gifts. */
function sidesOf({ what, fundId, method }: Entry, rules: readonly AccountRule[]): { debit: string; credit: string } {
  const of = (kind: AccountsFor, by: PaymentMethod | null = null) => {
    const own = accountsFor(rules, fundId, by, kind);
    const gift = accountsFor(rules, fundId, null);
    if (kind === 'pledge' && own.credit === NO_ACCOUNT.credit) return { ...own, credit: gift.credit };
    return kind === 'sale' && own.debit === NO_ACCOUNT.debit ? { ...own, debit: gift.debit } : own;
  };
  switch (what) {
    case 'pledged':
      return of('pledge');
    // The gift that pays books its income, which was booked with the pledge: that is taken back.
    case 'paid':
      return { debit: of('pledge').credit, credit: of('pledge').debit };
    case 'written_off':
      return { debit: of('write_off').debit, credit: of('pledge').debit };
    case 'sold':
      return { debit: of('sale').debit, credit: of('gift', 'stock').debit };
    case 'gain':
      return of('sale');
    case 'fee':
      return { debit: of('fee').debit, credit: of('gift', method).debit };
  }
}

/** What accounts are set for no kind of: its entries are left out of the lines. */
export const notBooked = (entries: readonly Entry[], rules: readonly AccountRule[]): AccountsFor[] => [
  ...new Set(entries.map((entry) => NEEDS[entry.what]).filter((need) => !rules.some((rule) => rule.what === need))),
];

/**
 * The lines of a general-ledger export, one for each day, account and fund, sorted so. Debits equal credits for
 * each day; what is taken back is booked the other way round, never as a negative.
 */
export function ledgerLines(
  bookings: readonly Booking[],
  rules: readonly AccountRule[],
  entries: readonly Entry[] = [],
): LedgerLine[] {
  const lines = new Map<string, LedgerLine>();
  const add = ({ date, fundId, cents }: Omit<Booking, 'method'>, account: string, side: 'debit' | 'credit'): void => {
    const way = cents > 0 ? side : side === 'debit' ? 'credit' : 'debit';
    const key = [date, account, fundId, way].join('|');
    const line = lines.get(key) ?? { date, account, fundId, debit: 0, credit: 0 };
    lines.set(key, { ...line, [way]: line[way] + Math.abs(cents) });
  };
  const book = (one: Omit<Booking, 'method'>, { debit, credit }: { debit: string; credit: string }): void => {
    if (one.cents === 0) return;
    add(one, debit, 'debit');
    add(one, credit, 'credit');
  };
  for (const booking of bookings) book(booking, accountsFor(rules, booking.fundId, booking.method));
  const left = new Set(notBooked(entries, rules));
  for (const entry of entries) if (!left.has(NEEDS[entry.what])) book(entry, sidesOf(entry, rules));
  const order = (line: LedgerLine): string =>
    [line.date, line.account, String(line.fundId).padStart(9, '0'), line.debit === 0].join('|');
  return [...lines.values()].sort((a, b) => (order(a) < order(b) ? -1 : 1));
}
