import { addDays, addMonths } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';

/** How often something repeats: its word, and its step in days or in months. */
export const FREQUENCIES = {
  week: { word: 'every week', days: 7, aYear: 52 },
  fortnight: { word: 'every two weeks', days: 14, aYear: 26 },
  month: { word: 'every month', months: 1, aYear: 12 },
  quarter: { word: 'every quarter', months: 3, aYear: 4 },
  half: { word: 'every half-year', months: 6, aYear: 2 },
  year: { word: 'every year', months: 12, aYear: 1 },
} as const;
export type Frequency = keyof typeof FREQUENCIES;

const HOW_OFTEN: readonly (readonly [Frequency, RegExp])[] = [
  ['fortnight', /^(?:bi-?weekly|fortnight(?:ly)?|every (?:two|2|other|second) weeks?)$/],
  ['week', /^(?:weekly|(?:every |each |a |per )?week)$/],
  ['quarter', /^(?:quarterly|(?:every |each |a |per )?quarter|every (?:three|3) months)$/],
  ['half', /^(?:(?:semi|bi)-?annual(?:ly)?|half-?yearly|twice a year|(?:every )?half-?year|every (?:six|6) months)$/],
  ['month', /^(?:monthly|(?:every |each |a |per )?month)$/],
  ['year', /^(?:yearly|annual(?:ly)?|(?:every |each |a |per )?year)$/],
];

/** How often, as people and files write it: `monthly`, `every quarter`; null for what says nothing of that. */
export function frequencyOf(text: string): Frequency | null {
  const plain = text.trim().toLowerCase().replace(/\s+/g, ' ');
  return HOW_OFTEN.find(([, words]) => words.test(plain))?.[0] ?? null;
}

/** Dates that repeat from a first one; with `lastDay` each falls on the last day of its month. */
export interface Schedule {
  start: IsoDate;
  every: Frequency;
  lastDay: boolean;
}

/**
 * The date at a place of a schedule, 0 for the first. Months are counted from the first date, not from the one
 * before, so a schedule from 31 January falls on 28 or 29 February and on 31 March again.
 */
export function dateAt(schedule: Schedule, place: number): IsoDate {
  const step = FREQUENCIES[schedule.every];
  if ('days' in step) return addDays(schedule.start, step.days * place);
  return addMonths(schedule.start, step.months * place, schedule.lastDay ? 31 : undefined);
}

/** The dates of a schedule from one day to another, both included; at most 5,000. */
export function datesBetween(schedule: Schedule, from: IsoDate, to: IsoDate): IsoDate[] {
  const dates: IsoDate[] = [];
  for (let place = 0; place < 5000; place++) {
    const date = dateAt(schedule, place);
    if (date > to) break;
    if (date >= from) dates.push(date);
  }
  return dates;
}

/** `every month on the last day`, `every two weeks`. */
export const describeSchedule = ({ every, lastDay }: Schedule): string =>
  `${FREQUENCIES[every].word}${lastDay && 'months' in FREQUENCIES[every] ? ' on the last day' : ''}`;
