import type { IsoDate } from '../dates/index.ts';
import type { Correction, GiftState, PaymentMethod } from '../gifts/index.ts';
import type { Cents } from '../money/index.ts';

/** Which accounts a gift is booked to; a rule without a fund or a method holds for any. */
export interface AccountRule {
  fundId: number | null;
  method: PaymentMethod | null;
  /** Where the money is: raised by a gift. */
  debit: string;
  /** What the money is: income of the fund. */
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
 * The accounts for a fund and a method: each side from the closest rule that names one. A rule for both is closer
 * than one for the fund, that closer than one for the method, that closer than one for all.
 */
export function accountsFor(
  rules: readonly AccountRule[],
  fundId: number,
  method: PaymentMethod,
): { debit: string; credit: string } {
  const closeness = (rule: AccountRule): number => (rule.fundId === null ? 0 : 2) + (rule.method === null ? 0 : 1);
  const fitting = rules
    .filter(
      (rule) => (rule.fundId === null || rule.fundId === fundId) && (rule.method === null || rule.method === method),
    )
    .sort((a, b) => closeness(b) - closeness(a));
  const side = (name: 'debit' | 'credit'): string =>
    fitting.find((rule) => rule[name] !== '')?.[name] ?? NO_ACCOUNT[name];
  return { debit: side('debit'), credit: side('credit') };
}

/**
 * The lines of a general-ledger export, one for each day, account and fund, sorted so. Debits equal credits for
 * each day; what is taken back is booked the other way round, never as a negative.
 */
export function ledgerLines(bookings: readonly Booking[], rules: readonly AccountRule[]): LedgerLine[] {
  const lines = new Map<string, LedgerLine>();
  const add = (booking: Booking, account: string, side: 'debit' | 'credit'): void => {
    const way = booking.cents > 0 ? side : side === 'debit' ? 'credit' : 'debit';
    const key = [booking.date, account, booking.fundId, way].join('|');
    const line = lines.get(key) ?? { date: booking.date, account, fundId: booking.fundId, debit: 0, credit: 0 };
    lines.set(key, { ...line, [way]: line[way] + Math.abs(booking.cents) });
  };
  for (const booking of bookings) {
    if (booking.cents === 0) continue;
    const { debit, credit } = accountsFor(rules, booking.fundId, booking.method);
    add(booking, debit, 'debit');
    add(booking, credit, 'credit');
  }
  const order = (line: LedgerLine): string =>
    [line.date, line.account, String(line.fundId).padStart(9, '0'), line.debit === 0].join('|');
  return [...lines.values()].sort((a, b) => (order(a) < order(b) ? -1 : 1));
}
