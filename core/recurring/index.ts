import { addDays } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import type { Cents } from '../money/index.ts';
import { datesBetween } from '../schedule/index.ts';
import type { Schedule } from '../schedule/index.ts';

/** A promise without an end, or until a day: its dates, its amounts from a day on, and its pauses. */
export interface RecurringPlan {
  schedule: Schedule;
  until: IsoDate | null;
  /** One at least; the first holds from the start. */
  amounts: readonly { from: IsoDate; cents: Cents }[];
  /** Both ends are days on which nothing is expected; without `until` it goes on. */
  pauses: readonly { from: IsoDate; until: IsoDate | null }[];
}

/** The amount that holds on a day: the latest that began by then, or the first. */
export function amountOn(plan: RecurringPlan, date: IsoDate): Cents {
  let found = plan.amounts[0];
  for (const amount of plan.amounts)
    if (amount.from <= date && (!found || amount.from >= found.from || found.from > date)) found = amount;
  return found?.cents ?? 0;
}

export const isPaused = (plan: RecurringPlan, date: IsoDate): boolean =>
  plan.pauses.some((pause) => pause.from <= date && (pause.until === null || date <= pause.until));

/** What is expected from one day to another, both included. It is no gift until money comes. */
export function expected(plan: RecurringPlan, from: IsoDate, to: IsoDate): { due: IsoDate; cents: Cents }[] {
  const end = plan.until !== null && plan.until < to ? plan.until : to;
  return datesBetween(plan.schedule, from, end)
    .filter((due) => !isPaused(plan, due))
    .map((due) => ({ due, cents: amountOn(plan, due) }));
}

/** Days after a declined charge on which it is asked for again; after the last the donor is called. */
export const RETRY_DAYS = [1, 3, 7] as const;

/** When a charge is tried again after so many failures, or null when a person takes over. */
export function nextTry(failures: number, today: IsoDate): IsoDate | null {
  const days = RETRY_DAYS[failures - 1];
  return days === undefined ? null : addDays(today, days);
}

/** `R-77`: the number people read. */
export const recurringNumber = (id: number): string => `R-${id}`;
