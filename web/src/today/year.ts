import { addMonths } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';

/** A month of a fiscal year, `2026-07`, in cents, beside the same month of the year before. */
export interface Month {
  key: string;
  cents: number;
  before: number;
}

/** The twelve months of the fiscal year that begins on `first`, from totals by month of it and of the year before. */
export function monthsOfYear(
  first: IsoDate,
  now: readonly { key: string; cents: number }[],
  before: readonly { key: string; cents: number }[],
): Month[] {
  const centsIn = (rows: typeof now, month: IsoDate): number =>
    rows.find(({ key }) => key === month.slice(0, 7))?.cents ?? 0;
  return Array.from({ length: 12 }, (_, place) => ({
    key: addMonths(first, place, 1).slice(0, 7),
    cents: centsIn(now, addMonths(first, place, 1)),
    before: centsIn(before, addMonths(first, place - 12, 1)),
  }));
}

/** How one amount stands to another, `+12%` or `-3%`; empty where there was nothing before. */
export function changeInWords(cents: number, before: number): string {
  if (before <= 0) return '';
  const percent = Math.round(((cents - before) / before) * 100);
  return `${percent > 0 ? '+' : ''}${percent}%`;
}
