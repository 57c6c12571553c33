import { addDays, addMonths, dayNumber, fiscalYearOf, fiscalYearSpan, formatDate } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import type { Cents } from '../money/index.ts';

/** What a notch stands for: a gift, recognition for someone else's gift, or a promise. */
export type TallyKind = 'gift' | 'credit' | 'pledge';

export interface TallyGift {
  id: number;
  /** A gift where it is left out. */
  kind?: TallyKind;
  date: IsoDate;
  cents: Cents;
  /** When it was acknowledged, or null while nobody has. */
  acknowledgedOn: IsoDate | null;
  /** Of a pledge: what of it came in, and what was written off. */
  paid?: Cents;
  writtenOff?: Cents;
}

/** One cut in the stick, in pixels from its left end. `answered` says whether the lower half has its match. */
export interface Notch extends TallyGift {
  x: number;
  width: number;
  /** True where nothing is left to answer: only a gift asks for thanks. */
  answered: boolean;
  /** Shares of a pledge from 0 to 1; 0 for what is no pledge. */
  filled: number;
  struck: number;
}

export interface Tally {
  notches: Notch[];
  /** Where each fiscal year begins, named `FY2026`; or each month, by its first day. */
  rules: { x: number; label: string }[];
  from: IsoDate;
  to: IsoDate;
}

/** Widths of notches by size of gift, as the old sticks did: the upper bound in cents, the width in pixels. */
export const NOTCH_STEPS = [
  { below: 25_00, width: 2, name: 'hair' },
  { below: 100_00, width: 4, name: 'grain' },
  { below: 1_000_00, width: 7, name: 'finger' },
  { below: 10_000_00, width: 12, name: 'thumb' },
  { below: Infinity, width: 18, name: 'palm' },
] as const;

export function notchWidth(cents: Cents): number {
  return NOTCH_STEPS.find((step) => cents < step.below)?.width ?? 18;
}

/**
 * Lays the notches of a supporter's gifts along a stick `width` pixels long. The stick runs over whole fiscal
 * years, five at least, to that of `today`; with `fit` it runs from the first gift's day to today instead, ruled
 * by months as that locale writes them. Each notch stands at its date; where two would touch, the later moves right by as little as needed,
 * and the last are moved back inside the stick. Where there are too many for the stick, all are narrowed alike.
 */
export function layTally(
  gifts: readonly TallyGift[],
  today: IsoDate,
  fiscalYearStart: number,
  width: number,
  fit: { locale: string } | null = null,
): Tally {
  const sorted = [...gifts].sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : a.id - b.id));
  const { from, to, rules } = fit ? monthsOf(sorted, today, fit) : yearsOf(sorted, today, fiscalYearStart);
  const start = dayNumber(from);
  const scale = width / (dayNumber(addDays(to, 1)) - start);

  const gap = 1;
  const wanted = sorted.reduce((sum, gift) => sum + notchWidth(gift.cents) + gap, 0);
  const narrow = Math.min(1, width / Math.max(wanted, 1));
  const notches: Notch[] = [];
  let free = 0;
  for (const gift of sorted) {
    const notch = notchWidth(gift.cents) * narrow;
    const x = Math.max(free, (dayNumber(gift.date) - start) * scale - notch / 2);
    const share = (part = 0): number => (gift.kind === 'pledge' && gift.cents > 0 ? Math.min(1, part / gift.cents) : 0);
    const answered = (gift.kind ?? 'gift') !== 'gift' || gift.acknowledgedOn !== null;
    notches.push({ ...gift, x, width: notch, answered, filled: share(gift.paid), struck: share(gift.writtenOff) });
    free = x + notch + gap * narrow;
  }
  let limit = width;
  for (const notch of notches.toReversed()) {
    notch.x = Math.max(0, Math.min(notch.x, limit - notch.width));
    limit = notch.x - gap * narrow;
  }
  return {
    notches,
    rules: rules.map(({ date, label }) => ({ x: (dayNumber(date) - start) * scale, label })),
    from,
    to,
  };
}

interface Extent {
  from: IsoDate;
  to: IsoDate;
  rules: { date: IsoDate; label: string }[];
}

const LEAST_YEARS = 5;

function yearsOf(sorted: readonly TallyGift[], today: IsoDate, fiscalYearStart: number): Extent {
  const newest = sorted.at(-1)?.date ?? today;
  const last = fiscalYearOf(newest > today ? newest : today, fiscalYearStart);
  const first = Math.min(fiscalYearOf(sorted[0]?.date ?? today, fiscalYearStart), last - LEAST_YEARS + 1);
  const rules = Array.from({ length: last - first + 1 }, (_, index) => ({
    date: fiscalYearSpan(first + index, fiscalYearStart).from,
    label: `FY${first + index}`,
  }));
  return { from: fiscalYearSpan(first, fiscalYearStart).from, to: fiscalYearSpan(last, fiscalYearStart).to, rules };
}

function monthsOf(sorted: readonly TallyGift[], today: IsoDate, formats: { locale: string }): Extent {
  const from = sorted[0]?.date ?? today;
  const newest = sorted.at(-1)?.date ?? today;
  const to = newest > today ? newest : today;
  const rules = [];
  for (let date = `${from.slice(0, 8)}01`; date <= to; date = addMonths(date, 1))
    if (date >= from) rules.push({ date, label: formatDate(date, formats) });
  return { from, to, rules };
}
