import { LISTED_NAMES, listedAs, listedIn } from '../catalogue/index.ts';
import type { ListedName, Type } from '../catalogue/index.ts';
import type { IsoDate } from '../dates/index.ts';
import type { FileUse } from '../wishes/index.ts';
import type { RowsCondition, Where } from './condition.ts';
import { during } from './make.ts';

/* How what matches is shown: one row for each of what, with which columns, in what order. */

/**
 * What there may be one row for each of: supporters, those of one kind, or homes (everybody who shares one; who shares
 * none is a home alone); or the rows of a list that those who match have: their gifts, their notes, their ties.
 */
export const ROW_KINDS = {
  supporter: { one: 'supporter', many: 'supporters' },
  person: { one: 'person', many: 'people' },
  household: { one: 'home', many: 'homes' },
  organization: { one: 'organization', many: 'organizations' },
} as const;
export type RowKind = keyof typeof ROW_KINDS | ListedName;
export const ROW_KIND_NAMES = [...Object.keys(ROW_KINDS), ...LISTED_NAMES] as [RowKind, ...RowKind[]];

/** What one row is called, and several. */
export function rowWords(rows: RowKind): { one: string; many: string } {
  const listed = listedIn(rows);
  if (listed === null) return ROW_KINDS[rows as keyof typeof ROW_KINDS];
  const { one, many = `${one}s` } = listed;
  return { one, many };
}

/** Which of several values a column shows. */
export const PICKS = {
  all: 'all of them',
  preferred: 'the preferred one',
  latest: 'the latest',
  earliest: 'the earliest',
  largest: 'the largest',
} as const;
export type Picked = keyof typeof PICKS;
export const PICK_NAMES = Object.keys(PICKS) as [Picked, ...Picked[]];

/**
 * How each is addressed and reached on a day: by what their record's own names, home and ways come to, which is not kept
 * in facts, so that nothing is sorted or put together by it.
 */
export const REACHED = {
  addressee: 'Addressee',
  formal: 'Formal salutation',
  informal: 'Informal salutation',
  post: 'Postal address in one line',
  street: 'Street that is used',
  town: 'Town that is used',
  region: 'State that is used',
  postal: 'ZIP that is used',
  country: 'Country that is used',
  email: 'E-mail that is used',
  phone: 'Telephone that is used',
  held: 'Held back because',
} as const;
export type Reached = keyof typeof REACHED;
export const REACHED_NAMES = Object.keys(REACHED) as [Reached, ...Reached[]];

/** What a table is for: whom it may reach by which channel and for what, on which day (null: the day that it is made). */
export interface Goes {
  for: FileUse;
  purpose: 'appeal' | 'news';
  on: IsoDate | null;
  /** How a CSV writes days: as `2026-03-14`, or as the organization writes them. */
  days: 'plain' | 'written';
}
/** To be looked at, on the day it is made. */
export const FOR_OFFICE: Goes = { for: 'office', purpose: 'appeal', on: null, days: 'plain' };

/** What is measured of the rows of a list, as conditions have it. */
export type Measured = Omit<RowsCondition, 'kind' | 'test' | 'not' | 'off'>;

/**
 * What a column shows of a row: a field; a measure over rows of a list, to which others may be added (pledges to gifts);
 * the values that rows of a list have in one of their parts; where there is one row for each of a list, a part of the
 * row itself; how those whose row it is are addressed and reached.
 */
export type Shown =
  | { kind: 'field'; field: string }
  | ({ kind: 'measure'; plus?: readonly Measured[] } & Measured)
  | { kind: 'values'; of: ListedName; where: readonly Where[]; part: string; pick: Picked }
  | { kind: 'part'; part: string }
  | { kind: 'reached'; part: Reached };

export interface ViewColumn {
  /** Names the column within its view. */
  id: string;
  /** What it is called here; empty for its own words. */
  title: string;
  width: number;
  shows: Shown;
}

/** A table of what matches: which rows, their columns, what sorts them (the first counts most), what puts them together. */
export interface View {
  rows: RowKind;
  /** Where there is one row for each of a list: which of them. */
  where: Where[];
  columns: ViewColumn[];
  sorts: { column: string; down: boolean }[];
  /** The column whose value rows are put together by. */
  groupBy: string | null;
  /** What it is for; left out for the office. */
  goes?: Goes;
}

const field = (name: string): Shown => ({ kind: 'field', field: name });
const measure = (name: RowsCondition['measure'], where: readonly Where[] = [], together = false): Shown => ({
  ...{ kind: 'measure', of: 'gifts', where, measure: name },
  ...(together ? { together } : {}),
});
const values = (of: ListedName, part: string, where: readonly Where[] = [], pick: Picked = 'all'): Shown => ({
  ...{ kind: 'values', of, where, part, pick },
});
const fiscalYear = (ago: number): Where => during({ kind: 'fiscal-year', ago });
const USABLE: Where = { part: 'usable', test: { is: 'any-of', values: ['1'] } };

/** Columns that lists of supporters are sorted, put together and summed up by, by the names that addresses have for them. */
export const STANDING = {
  name: field('name'),
  number: field('number'),
  town: field('town'),
  state: field('state'),
  kind: field('kind'),
  lifetime: measure('sum'),
  thisYear: measure('sum', [fiscalYear(0)]),
  lastYear: measure('sum', [fiscalYear(1)]),
  count: measure('number'),
  largest: measure('largest'),
  average: measure('average'),
  first: measure('first'),
  last: measure('last'),
  household: measure('sum', [], true),
} as const satisfies Record<string, Shown>;
export type Standing = keyof typeof STANDING;

/**
 * What a list of supporters shows, or is sorted or put together by, from the name that addresses have for it: a standing
 * one, or a field of the catalogue (`field:birthday`; `field:12` for the organization's own, by its number).
 */
export function standingAs(name: string): Shown | null {
  const [, of] = /^field:(.+)$/.exec(name) ?? [];
  if (of !== undefined) return field(/^\d+$/.test(of) ? `own:${of}` : of);
  return Object.hasOwn(STANDING, name) ? STANDING[name as Standing] : null;
}

/** The name that addresses have for a field of the catalogue. */
export const standingName = (catalogued: string): string => `field:${catalogued.replace(/^own:(?=\d+$)/, '')}`;

const column = (id: string, width: number, shows: Shown, title = ''): ViewColumn => ({ id, title, width, shows });

/** The view that a segment begins with. */
export const FIRST_VIEW: View = {
  rows: 'supporter',
  where: [],
  columns: [
    column('name', 230, STANDING.name),
    column('number', 96, STANDING.number, 'Number'),
    column('town', 130, STANDING.town),
    column('state', 76, STANDING.state),
    column('email', 200, values('emails', 'address', [USABLE], 'preferred'), 'E-mail'),
    column('lifetime', 132, STANDING.lifetime, 'Lifetime'),
    column('thisYear', 116, STANDING.thisYear, 'This FY'),
    column('lastYear', 116, STANDING.lastYear, 'Last FY'),
    column('last', 112, STANDING.last, 'Last gift'),
    column('wishes', 150, values('wishes', 'kind'), 'Wishes'),
    column('tags', 180, values('tags', 'tag'), 'Tags'),
  ],
  sorts: [{ column: 'name', down: false }],
  groupBy: null,
};

/** The columns that rows of a list begin with: whose they are, when, how much, and what else there is to say. */
export function columnsOf(of: ListedName): ViewColumn[] {
  const parts = Object.entries(listedAs(of).parts);
  const rank = (part: string): number => (part === 'day' ? 0 : part === 'cents' ? 1 : 2);
  const shown = parts.sort(([a], [b]) => rank(a) - rank(b)).slice(0, 6);
  const isFigure = (type: Type['is']): boolean => ['date', 'money', 'number'].includes(type);
  return [
    column('name', 230, STANDING.name),
    column('number', 96, STANDING.number, 'Number'),
    ...shown.map(([part, { type }]) =>
      column(part, isFigure(type.is) ? 124 : type.is === 'text' ? 220 : 150, { kind: 'part', part }),
    ),
  ];
}

const ofRows = ({ shows }: ViewColumn): boolean => shows.kind === 'part';

/** A view with one row for each of something else: columns that only rows of a list have come, or go, with them. */
export function withRows(view: View, rows: RowKind): View {
  if (rows === view.rows) return view;
  const forWhat = view.goes ? { goes: view.goes } : {};
  const listed = listedIn(rows);
  if (listed !== null) {
    const columns = columnsOf(rows as ListedName);
    const sorts = listed.dated ? [{ column: 'day', down: true }] : FIRST_VIEW.sorts;
    return { rows, where: [], columns, sorts, groupBy: null, ...forWhat };
  }
  if (listedIn(view.rows) === null) return { ...view, rows };
  const left = view.columns.filter((one) => !ofRows(one));
  const plain = left.every(({ shows }) => shows.kind === 'field');
  return { ...FIRST_VIEW, columns: plain ? FIRST_VIEW.columns : left, rows, ...forWhat };
}
