import { addDays } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';

/** How often a feed runs by itself, in words. */
export const OFTEN = {
  never: 'only when somebody begins it',
  quarter: 'every quarter of an hour',
  hour: 'every hour',
  day: 'once a day',
} as const;
export type Often = keyof typeof OFTEN;

/** A feed that is looked at each quarter of an hour is looked at a little early or late. */
const MINUTES: Partial<Record<Often, number>> = { quarter: 10, hour: 50 };

/**
 * Whether a feed is due. `last` is when it last began by itself, or was set to do so: minutes ago, and its day in the
 * organization's calendar; `now` is the day and hour there. `at` is the hour of a feed that runs once a day; one that
 * was set after its hour begins on the next day.
 */
export function isDue(
  { often, at }: { often: Often; at: number },
  last: { minutesAgo: number; day: IsoDate; hour: number },
  now: { day: IsoDate; hour: number },
): boolean {
  if (often === 'never') return false;
  if (often !== 'day') return last.minutesAgo >= (MINUTES[often] ?? 0);
  const hourOf = now.hour < at ? addDays(now.day, -1) : now.day;
  return last.day < hourOf || (last.day === hourOf && last.hour < at);
}
