import { isPlausible } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import { divide, typedMoney } from '../money/index.ts';
import type { Cents } from '../money/index.ts';
import { dateAt } from '../schedule/index.ts';
import type { Schedule } from '../schedule/index.ts';

/** How a pledge is to be paid: in so many equal parts, so much each time, or by rows of one's own. */
export type PledgePlan =
  | { kind: 'count'; schedule: Schedule; count: number }
  | { kind: 'each'; schedule: Schedule; each: Cents }
  | { kind: 'rows'; rows: readonly DraftInstallment[] };

export interface DraftInstallment {
  due: IsoDate;
  cents: Cents;
}

export const MOST_INSTALLMENTS = 600;

/**
 * The installments of a pledge; they add up to `cents` exactly and fall in order. Equal parts that do not come
 * out even differ by one cent, the larger first; with an amount each, the last takes what is left. Answers a
 * reason in words where the plan does not fit the amount.
 */
export function installmentsOf(cents: Cents, plan: PledgePlan): { ok: true; rows: DraftInstallment[] } | Fault {
  const made = laidOut(cents, plan);
  if (!made.ok || made.rows.every((row) => isPlausible(row.due))) return made;
  return fault('That would go on beyond the year 2199; take fewer installments or a shorter time between them.');
}

function laidOut(cents: Cents, plan: PledgePlan): { ok: true; rows: DraftInstallment[] } | Fault {
  switch (plan.kind) {
    case 'count': {
      const { count, schedule } = plan;
      if (!(count >= 1 && count <= MOST_INSTALLMENTS))
        return fault(`A pledge has from 1 to ${MOST_INSTALLMENTS} installments.`);
      if (count > cents)
        return fault(`${cents} ${cents === 1 ? 'cent' : 'cents'} cannot make ${count} installments of a cent or more.`);
      const parts = divide(
        cents,
        Array.from({ length: count }, () => 1),
      );
      return { ok: true, rows: parts.map((part, place) => ({ due: dateAt(schedule, place), cents: part })) };
    }
    case 'each': {
      const { each, schedule } = plan;
      if (!(each > 0)) return fault('The amount of each installment must be above zero.');
      const count = Math.ceil(cents / each);
      if (count > MOST_INSTALLMENTS)
        return fault(`That would be ${count} installments; the most kept is ${MOST_INSTALLMENTS}.`);
      const rows = Array.from({ length: count }, (_, place) => ({
        due: dateAt(schedule, place),
        cents: place === count - 1 ? cents - each * (count - 1) : each,
      }));
      return { ok: true, rows };
    }
    case 'rows': {
      const rows = [...plan.rows].sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : 0));
      const sum = rows.reduce((total, row) => total + row.cents, 0);
      if (rows.length === 0) return fault('Give the pledge one installment at least.');
      if (rows.some((row) => row.cents <= 0)) return fault('Each installment must be above zero.');
      if (sum !== cents) return fault(differs(sum, cents));
      return { ok: true, rows };
    }
  }
}

interface Fault {
  ok: false;
  reason: string;
}
const fault = (reason: string): Fault => ({ ok: false, reason });
const differs = (sum: Cents, cents: Cents): string =>
  `The installments add up to ${typedMoney(sum)}, ${typedMoney(Math.abs(sum - cents))} ${sum < cents ? 'less' : 'more'} than the ${typedMoney(cents)} to be paid.`;
