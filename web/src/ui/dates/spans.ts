import { addDays, addMonths, fiscalYearOf, fiscalYearSpan } from '@tallystick/core/dates';
import type { Calendar, IsoDate } from '@tallystick/core/dates';

/** From and to, both included; empty where the span is open at that end. */
export interface Span {
  from: string;
  to: string;
}

const monthOf = (day: IsoDate): Span => {
  const from = `${day.slice(0, 7)}-01`;
  return { from, to: addDays(addMonths(from, 1), -1) };
};

/** The spans that are asked for by name. */
export function namedSpans({ today, fiscalYearStart }: Calendar): readonly (readonly [string, Span])[] {
  const year = fiscalYearOf(today, fiscalYearStart);
  return [
    ['This month', monthOf(today)],
    ['Last month', monthOf(addDays(`${today.slice(0, 7)}-01`, -1))],
    ['The last 30 days', { from: addDays(today, -29), to: today }],
    ['The last 90 days', { from: addDays(today, -89), to: today }],
    ['This fiscal year', fiscalYearSpan(year, fiscalYearStart)],
    ['Last fiscal year', fiscalYearSpan(year - 1, fiscalYearStart)],
    ['This calendar year', { from: `${today.slice(0, 4)}-01-01`, to: `${today.slice(0, 4)}-12-31` }],
  ];
}

/** A span in words: its name where it has one. */
export function spanShown(span: Span, calendar: Calendar, date: (day: string) => string): string {
  const { from, to } = span;
  const named = namedSpans(calendar).find(([, one]) => one.from === from && one.to === to);
  if (named) return named[0];
  if (from === '' && to === '') return 'any day';
  if (to === '') return `from ${date(from)}`;
  if (from === '') return `until ${date(to)}`;
  return from === to ? date(from) : `${date(from)} to ${date(to)}`;
}
