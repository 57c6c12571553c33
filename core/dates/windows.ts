import { addDays, addMonths, dateOfDay, dayNumber, fiscalYearOf, fiscalYearSpan, formatDate } from './calendar.ts';
import type { DayNumber, IsoDate } from './calendar.ts';

/** What relative windows are counted in. */
export type Unit = 'day' | 'week' | 'month' | 'year';

/**
 * A named span of dates, fixed or relative to today; both ends are included. `ago` counts whole spans back from the one
 * that today lies in, below zero those to come.
 */
export type Window =
  | { kind: 'ever' }
  | { kind: 'between'; from: IsoDate; to: IsoDate }
  | { kind: 'since'; from: IsoDate }
  | { kind: 'until'; to: IsoDate }
  | { kind: 'last-days'; days: number }
  /** The last so many weeks, months or years up to today. */
  | { kind: 'last'; many: number; unit: Unit }
  /** The next so many days, weeks, months or years, from tomorrow. */
  | { kind: 'next'; many: number; unit: Unit }
  | { kind: 'month'; ago: number }
  | { kind: 'quarter'; ago: number }
  | { kind: 'year'; ago: number }
  | { kind: 'fiscal-quarter'; ago: number }
  | { kind: 'fiscal-year'; ago: number }
  /** From the beginning of a year to the day in it that today is in this one. */
  | { kind: 'to-date'; of: 'year' | 'fiscal-year'; ago: number }
  /** One that the organization keeps by a name. */
  | { kind: 'kept'; id: number };

/** A window that is kept by a name; it is none that is kept by another. */
export interface KeptWindow {
  id: number;
  name: string;
  window: Exclude<Window, { kind: 'kept' }>;
}

/** What windows are measured against: the organisation's today, the month its fiscal year begins in, and those it keeps by name. */
export interface Calendar {
  today: IsoDate;
  fiscalYearStart: number;
  windows?: readonly KeptWindow[];
}

export interface DaySpan {
  from: DayNumber;
  to: DayNumber;
}

/** The first and the last day number that any date of ours has. */
const [FIRST_DAY, LAST_DAY] = [-1_000_000, 4_000_000];

const NO_DAYS: DaySpan = { from: 0, to: -1 };
/** Whether a window is one that is not kept any more. */
export const isGone = (window: Window, calendar: Calendar): boolean =>
  window.kind === 'kept' && keptAs(window.id, calendar) === undefined;
const keptAs = (id: number, { windows = [] }: Calendar): KeptWindow | undefined =>
  windows.find((window) => window.id === id);

/**
 * The days of a window. `fiscal-year` with `ago: 1` is the last complete one; `ever` spans every date; one that is not
 * kept any more has none.
 */
export function spanOf(window: Window, calendar: Calendar): DaySpan {
  const { today, fiscalYearStart } = calendar;
  const days = (from: IsoDate, to: IsoDate): DaySpan => ({ from: dayNumber(from), to: dayNumber(to) });
  /** Whole months, the first of them beginning `first` months from the one that today lies in. */
  const months = (first: number, many: number): DaySpan => {
    const from = addMonths(`${today.slice(0, 7)}-01`, first);
    return days(from, addDays(addMonths(from, many), -1));
  };
  const month = Number(today.slice(5, 7));
  switch (window.kind) {
    case 'ever':
      return { from: FIRST_DAY, to: LAST_DAY };
    case 'between':
      return days(window.from, window.to);
    case 'since':
      return { from: dayNumber(window.from), to: LAST_DAY };
    case 'until':
      return { from: FIRST_DAY, to: dayNumber(window.to) };
    case 'last-days': {
      const to = dayNumber(today);
      return { from: to - window.days + 1, to };
    }
    case 'last':
      return days(addDays(moved(today, window.unit, -window.many), 1), today);
    case 'next':
      return days(addDays(today, 1), moved(today, window.unit, window.many));
    case 'month':
      return months(-window.ago, 1);
    case 'quarter':
      return months(-((month - 1) % 3) - 3 * window.ago, 3);
    case 'year':
      return months(-(month - 1) - 12 * window.ago, 12);
    case 'fiscal-quarter':
      return months(-((month - fiscalYearStart + 12) % 3) - 3 * window.ago, 3);
    case 'fiscal-year': {
      const span = fiscalYearSpan(fiscalYearOf(today, fiscalYearStart) - window.ago, fiscalYearStart);
      return days(span.from, span.to);
    }
    case 'kept': {
      const kept = keptAs(window.id, calendar);
      return kept ? spanOf(kept.window, calendar) : NO_DAYS;
    }
    case 'to-date': {
      const { from } = spanOf({ kind: window.of, ago: window.ago }, calendar);
      return { from, to: dayNumber(addMonths(today, -12 * window.ago)) };
    }
  }
}

/** Weeks are seven days, months and years those of the calendar: a month after January 31 is the last of February. */
function moved(date: IsoDate, unit: Unit, many: number): IsoDate {
  if (unit === 'day' || unit === 'week') return addDays(date, many * (unit === 'week' ? 7 : 1));
  return addMonths(date, many * (unit === 'year' ? 12 : 1));
}

/** A window in words that stand after what is asked: `last fiscal year (FY2026)`, `in the last 30 days`, `ever`. */
export function describeWindow(window: Window, calendar: Calendar, formats: { locale: string }): string {
  const { today, fiscalYearStart } = calendar;
  const many = (count: number, unit: Unit): string => (count === 1 ? unit : `${count} ${unit}s`);
  /** `this month`, `last month`, `next month`, and further off what it is called. */
  const relative = (ago: number, word: string, name: string): string => {
    const which = ago === 0 ? 'this' : ago === 1 ? 'last' : ago === -1 ? 'next' : null;
    return which === null ? `in ${name}` : `${which} ${word} (${name})`;
  };
  /** The year and month that a window begins in. */
  const begins = (): [year: number, month: number] => {
    const date = dateOfDay(spanOf(window, calendar).from);
    return [Number(date.slice(0, 4)), Number(date.slice(5, 7))];
  };
  switch (window.kind) {
    case 'ever':
      return 'ever';
    case 'between':
      return `from ${formatDate(window.from, formats)} to ${formatDate(window.to, formats)}`;
    case 'since':
      return `since ${formatDate(window.from, formats)}`;
    case 'until':
      return `up to ${formatDate(window.to, formats)}`;
    case 'last-days':
      return window.days === 1 ? 'today' : `in the last ${window.days} days`;
    case 'last':
      return `in the last ${many(window.many, window.unit)}`;
    case 'next':
      return `in the next ${many(window.many, window.unit)}`;
    case 'month': {
      const [year, month] = begins();
      return relative(window.ago, 'month', `${MONTHS[month - 1] ?? ''} ${year}`);
    }
    case 'quarter': {
      const [year, month] = begins();
      return relative(window.ago, 'quarter', `Q${(month + 2) / 3} ${year}`);
    }
    case 'year':
      return relative(window.ago, 'year', `${begins()[0]}`);
    case 'fiscal-quarter': {
      const [year, month] = begins();
      const fiscal = fiscalYearOf(`${year}-${String(month).padStart(2, '0')}-01`, fiscalYearStart);
      return relative(window.ago, 'fiscal quarter', `Q${((month - fiscalYearStart + 12) % 12) / 3 + 1} of FY${fiscal}`);
    }
    case 'fiscal-year': {
      const year = `FY${fiscalYearOf(today, fiscalYearStart) - window.ago}`;
      return relative(window.ago, 'fiscal year', year);
    }
    case 'kept': {
      const kept = keptAs(window.id, calendar);
      return kept ? `in ${kept.name}` : 'in a window that is no longer there';
    }
    case 'to-date': {
      const of = window.of === 'year' ? 'year' : 'fiscal year';
      if (window.ago === 0) return `this ${of} to date`;
      return `${window.ago === 1 ? `last ${of}` : `the ${of} ${window.ago} before this`} to the same day`;
    }
  }
}

const MONTHS = Array.from({ length: 12 }, (_, month) =>
  new Date(Date.UTC(2000, month, 1)).toLocaleDateString('en-US', { month: 'long', timeZone: 'UTC' }),
);

/** The windows that are offered by name, each with its words. */
export const NAMED_WINDOWS: readonly (readonly [words: string, window: Window])[] = [
  ['ever', { kind: 'ever' }],
  ['this fiscal year', { kind: 'fiscal-year', ago: 0 }],
  ['last fiscal year', { kind: 'fiscal-year', ago: 1 }],
  ['the fiscal year before last', { kind: 'fiscal-year', ago: 2 }],
  ['this fiscal year to date', { kind: 'to-date', of: 'fiscal-year', ago: 0 }],
  ['last fiscal year to the same day', { kind: 'to-date', of: 'fiscal-year', ago: 1 }],
  ['this fiscal quarter', { kind: 'fiscal-quarter', ago: 0 }],
  ['last fiscal quarter', { kind: 'fiscal-quarter', ago: 1 }],
  ['this calendar year', { kind: 'year', ago: 0 }],
  ['last calendar year', { kind: 'year', ago: 1 }],
  ['this calendar year to date', { kind: 'to-date', of: 'year', ago: 0 }],
  ['last calendar year to the same day', { kind: 'to-date', of: 'year', ago: 1 }],
  ['this calendar quarter', { kind: 'quarter', ago: 0 }],
  ['last calendar quarter', { kind: 'quarter', ago: 1 }],
  ['this month', { kind: 'month', ago: 0 }],
  ['last month', { kind: 'month', ago: 1 }],
  ['the month before last', { kind: 'month', ago: 2 }],
  ['next month', { kind: 'month', ago: -1 }],
  ['today', { kind: 'last-days', days: 1 }],
  ['the last 7 days', { kind: 'last-days', days: 7 }],
  ['the last 30 days', { kind: 'last-days', days: 30 }],
  ['the last 90 days', { kind: 'last-days', days: 90 }],
  ['the last 12 months', { kind: 'last', many: 12, unit: 'month' }],
  ['the last 18 months', { kind: 'last', many: 18, unit: 'month' }],
  ['the last 24 months', { kind: 'last', many: 24, unit: 'month' }],
  ['the last 3 years', { kind: 'last', many: 3, unit: 'year' }],
  ['the last 5 years', { kind: 'last', many: 5, unit: 'year' }],
];

/** The place of a window among those that are offered by name; -1 where it is none of them. */
export const namedPlace = (window: Window): number =>
  NAMED_WINDOWS.findIndex(([, named]) => JSON.stringify(named) === JSON.stringify(window));
