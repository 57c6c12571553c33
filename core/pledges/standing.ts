import type { IsoDate } from '../dates/index.ts';
import type { Cents } from '../money/index.ts';
import type { DraftInstallment } from './plan.ts';

export interface Installment extends DraftInstallment {
  id: number;
}

/** A part of an installment that was paid or written off on a day. */
export interface Settled {
  installmentId: number;
  date: IsoDate;
  cents: Cents;
}

/** All that a pledge's figures are worked out from. */
export interface PledgeBooks {
  pledgedOn: IsoDate;
  installments: readonly Installment[];
  payments: readonly Settled[];
  writeOffs: readonly Settled[];
}

export type InstallmentState = 'paid' | 'written off' | 'overdue' | 'due' | 'to come';

/** A pledge as it stood on a day; `pledged` is always `paid` + `writtenOff` + `balance`. */
export interface PledgeStanding {
  pledged: Cents;
  paid: Cents;
  writtenOff: Cents;
  balance: Cents;
  /** The open part of installments due before that day. */
  overdue: Cents;
  /** The first installment with anything open, overdue ones among them. */
  next: { due: IsoDate; cents: Cents } | null;
  installments: (Installment & { paid: Cents; writtenOff: Cents; open: Cents; state: InstallmentState })[];
}

/** A pledge at a date, counting what was paid and written off up to and on it. Before it was made it is nothing. */
export function pledgeAt(books: PledgeBooks, date: IsoDate): PledgeStanding {
  const made = date >= books.pledgedOn;
  const sumOf = (rows: readonly Settled[]): Map<number, Cents> => {
    const sums = new Map<number, Cents>();
    for (const row of rows)
      if (row.date <= date) sums.set(row.installmentId, (sums.get(row.installmentId) ?? 0) + row.cents);
    return sums;
  };
  const [paid, writtenOff] = [sumOf(books.payments), sumOf(books.writeOffs)];
  const installments = (made ? inOrder(books.installments) : []).map((one) => {
    const done = { paid: paid.get(one.id) ?? 0, writtenOff: writtenOff.get(one.id) ?? 0 };
    const open = one.cents - done.paid - done.writtenOff;
    return { ...one, ...done, open, state: stateOf(one, done.paid, open, date) };
  });
  const sum = (of: (one: (typeof installments)[number]) => Cents): Cents =>
    installments.reduce((total, one) => total + of(one), 0);
  const next = installments.find((one) => one.open > 0);
  return {
    pledged: sum((one) => one.cents),
    paid: sum((one) => one.paid),
    writtenOff: sum((one) => one.writtenOff),
    balance: sum((one) => one.open),
    overdue: sum((one) => (one.state === 'overdue' ? one.open : 0)),
    next: next ? { due: next.due, cents: next.open } : null,
    installments,
  };
}

function stateOf(one: DraftInstallment, paid: Cents, open: Cents, date: IsoDate): InstallmentState {
  if (open <= 0) return paid > 0 ? 'paid' : 'written off';
  if (one.due < date) return 'overdue';
  return one.due === date ? 'due' : 'to come';
}

const inOrder = <T extends Installment>(rows: readonly T[]): T[] =>
  [...rows].sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : a.id - b.id));

/**
 * Which installments a sum goes to: the oldest open first, or those `chosen` in that order. `over` is what is left
 * when they are all done.
 */
export function allocate(
  open: readonly { id: number; due: IsoDate; open: Cents }[],
  cents: Cents,
  chosen: readonly number[] = [],
): { parts: { installmentId: number; cents: Cents }[]; over: Cents } {
  const order =
    chosen.length > 0
      ? [...new Set(chosen)].flatMap((id) => open.filter((one) => one.id === id))
      : [...open].sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : a.id - b.id));
  const parts: { installmentId: number; cents: Cents }[] = [];
  let left = cents;
  for (const one of order) {
    const part = Math.min(left, one.open);
    if (part > 0) parts.push({ installmentId: one.id, cents: part });
    left -= Math.max(0, part);
  }
  return { parts, over: left };
}

/**
 * What rescheduling does to the installments: those paid or written off in part keep just that part, those with
 * nothing of it go, and `rest` is to be spread anew.
 */
export function remaining(standing: PledgeStanding): {
  keep: { id: number; cents: Cents }[];
  drop: number[];
  rest: Cents;
} {
  const open = standing.installments.filter((one) => one.open > 0);
  const touched = (one: { paid: Cents; writtenOff: Cents }): boolean => one.paid + one.writtenOff > 0;
  return {
    keep: open.filter(touched).map((one) => ({ id: one.id, cents: one.paid + one.writtenOff })),
    drop: open.filter((one) => !touched(one)).map((one) => one.id),
    rest: standing.balance,
  };
}

/**
 * What a pledge's installments become when it is another amount: more goes onto the last open installment, or falls
 * due on `due` where none is open; less is taken off the last open ones. Null where less would be left than was paid
 * and written off.
 */
export function resized(
  standing: PledgeStanding,
  cents: Cents,
  due: IsoDate,
): { change: { id: number; cents: Cents }[]; drop: number[]; add: DraftInstallment[] } | null {
  const more = cents - standing.pledged;
  if (cents < standing.paid + standing.writtenOff) return null;
  const open = standing.installments.filter((one) => one.open > 0).reverse();
  const [last] = open;
  if (more > 0)
    return last
      ? { change: [{ id: last.id, cents: last.cents + more }], drop: [], add: [] }
      : { change: [], drop: [], add: [{ due, cents: more }] };
  let less = -more;
  const left = open.flatMap((one) => {
    const off = Math.min(less, one.open);
    less -= off;
    return off > 0 ? [{ id: one.id, cents: one.cents - off }] : [];
  });
  return {
    change: left.filter((one) => one.cents > 0),
    drop: left.filter((one) => one.cents === 0).map((one) => one.id),
    add: [],
  };
}
