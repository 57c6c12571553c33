import { parseDate } from '@tallystick/core/dates';
import { parseGiftAmount } from '@tallystick/core/money';
import type { PledgePlan } from '@tallystick/core/pledges';
import type { Frequency, Schedule } from '@tallystick/core/schedule';

export interface TypedSchedule {
  start: string;
  every: Frequency;
  lastDay: boolean;
}
/** How a pledge is to be paid, as it is typed. */
export interface TypedPlan extends TypedSchedule {
  kind: 'once' | 'count' | 'each' | 'rows';
  count: string;
  each: string;
  rows: { due: string; amount: string }[];
}
export const freshPlan = (today: string): TypedPlan => ({
  ...{ kind: 'count', start: today, every: 'month', lastDay: false, count: '12', each: '' },
  rows: [{ due: today, amount: '' }],
});

export const scheduleOf = (typed: TypedSchedule): Schedule | null => {
  const start = parseDate(typed.start);
  return start.ok ? { start: start.date, every: typed.every, lastDay: typed.lastDay } : null;
};

/** The plan that was typed for an amount, or null while something is missing. */
export function planOf(typed: TypedPlan, cents: number): PledgePlan | null {
  const schedule = scheduleOf(typed);
  if (typed.kind === 'rows' || typed.kind === 'once') {
    const rows = typed.kind === 'once' ? [{ due: typed.start, amount: '' }] : typed.rows;
    const read = rows.map((row) => ({
      due: parseDate(row.due),
      amount: typed.kind === 'once' ? { ok: true as const, cents } : parseGiftAmount(row.amount),
    }));
    const made = read.flatMap(({ due, amount }) =>
      due.ok && amount.ok ? [{ due: due.date, cents: amount.cents }] : [],
    );
    return made.length === rows.length ? { kind: 'rows', rows: made } : null;
  }
  if (!schedule) return null;
  if (typed.kind === 'count')
    return /^\d{1,3}$/.test(typed.count) && Number(typed.count) > 0
      ? { kind: 'count', schedule, count: Number(typed.count) }
      : null;
  const each = parseGiftAmount(typed.each);
  return each.ok ? { kind: 'each', schedule, each: each.cents } : null;
}
