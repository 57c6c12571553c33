import { addDays, dateOfDay } from '../dates/index.ts';
import type { Window } from '../dates/index.ts';
import type { Condition, Group, Measure, RowsCondition, Test, Where } from './index.ts';

/*
 * Conditions answered by plain code over rows that knows nothing of facts. It is written from the meaning of the
 * conditions and shares no helper with what it checks; only tests use it.
 */

export const TODAY = '2026-11-23';

export interface PlainGift {
  date: string;
  cents: number;
  fund: number;
  method: 'cheque' | 'card';
  recurring: boolean;
}
export interface PlainSupporter {
  id: number;
  kind: 'person' | 'household' | 'organization';
  region: string;
  last: string;
  /** `03-14`, or empty. */
  birthday: string;
  home: number;
  trashed: boolean;
  tags: { tag: number; source: 'hand' | 'intake' }[];
  gifts: PlainGift[];
  notes: { date: string; kind: 'call' | 'note' }[];
  budget: number | null;
  stars: string[];
  ties: { other: number; role: number }[];
}
export interface PlainWorld {
  people: PlainSupporter[];
  lists: Map<number, number[]>;
  segments: Map<number, Group>;
}

export function inWindow(date: string, window: Window): boolean {
  switch (window.kind) {
    case 'ever':
      return true;
    case 'between':
      return window.from <= date && date <= window.to;
    case 'last-days':
      return date <= TODAY && date > addDays(TODAY, -window.days);
    case 'fiscal-year': {
      const end = 2027 - window.ago;
      return `${end - 1}-07-01` <= date && date <= `${end}-06-30`;
    }
    case 'since':
      return date >= window.from;
    case 'until':
      return date <= window.to;
    case 'month':
      return Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) === 2026 * 12 + 11 - window.ago;
    case 'year':
      return Number(date.slice(0, 4)) === 2026 - window.ago;
    default:
      throw new Error(`No plain answer for ${window.kind}`);
  }
}

/** A value of a part or field: a text, a number, a date, several, or nothing. */
type Value = string | number | boolean | null | readonly string[];

/** Whether a value passes a test; dates are texts. */
function meets(value: Value, test: Test): boolean {
  const isNothing = value === null || value === '' || (Array.isArray(value) && value.length === 0);
  if (test.is === 'empty') return isNothing;
  if (isNothing) return false;
  if (test.is === 'filled') return true;
  if (test.is === 'between')
    return (
      (test.atLeast === null || Number(value) >= test.atLeast) && (test.atMost === null || Number(value) <= test.atMost)
    );
  if (test.is === 'in') return inWindow(String(value), test.window);
  const values = Array.isArray(value)
    ? (value as string[])
    : [value === true ? '1' : value === false ? '0' : String(value)];
  const small = (text: string): string => text.toLowerCase();
  return test.values.some((wanted) =>
    values.some((one) =>
      test.is === 'contains'
        ? small(one).includes(small(wanted))
        : test.is === 'begins'
          ? small(one).startsWith(small(wanted))
          : small(one) === small(wanted),
    ),
  );
}

const fits = (row: Readonly<Record<string, Value>>, where: readonly Where[]): boolean =>
  where.every(
    ({ part, test, not }) =>
      ('values' in test && test.values.length === 0) || meets(row[part] ?? null, test) !== (not === true),
  );

type PlainRow = Readonly<Record<string, Value>> & { day: string | null; cents: number };

/** The rows of a list, each part by its name in the catalogue. */
function rowsOf({ gifts, tags, notes }: PlainSupporter, of: RowsCondition['of']): PlainRow[] {
  switch (of) {
    case 'gifts':
      return gifts.map(({ date, ...gift }) => ({ ...gift, day: date }));
    case 'tags':
      return tags.map((tag) => ({ ...tag, day: null, cents: 0 }));
    case 'notes':
      return notes.map(({ date, kind }) => ({ kind, day: date, cents: 0 }));
    default:
      throw new Error(`No plain answer for ${of}`);
  }
}

function measured(rows: readonly PlainRow[], measure: Measure): number | string | null {
  const sum = rows.reduce((total, { cents }) => total + cents, 0);
  const amounts = rows.map(({ cents }) => cents);
  const dates = rows.map(({ day }) => day ?? '').filter((day) => day <= TODAY);
  const on = (date: string | undefined) =>
    date === undefined
      ? null
      : { date, cents: Math.max(...rows.filter(({ day }) => day === date).map(({ cents }) => cents)) };
  const [first, last] = [on(dates.toSorted().at(0)), on(dates.toSorted().at(-1))];
  const fiscal = (date: string): number => Number(date.slice(0, 4)) + (date.slice(5) >= '07-01' ? 1 : 0);
  const years = [...new Set(rows.map(({ day }) => fiscal(day ?? '')))].sort();
  switch (measure) {
    case 'sum':
    case 'change':
      return sum;
    case 'number':
      return rows.length;
    case 'average':
      return rows.length === 0 ? null : Math.round(sum / rows.length);
    case 'largest':
      return amounts.length === 0 ? null : Math.max(...amounts);
    case 'smallest':
      return amounts.length === 0 ? null : Math.min(...amounts);
    case 'first':
      return first?.date ?? null;
    case 'last':
      return last?.date ?? null;
    case 'first-amount':
      return first?.cents ?? null;
    case 'last-amount':
      return last?.cents ?? null;
    case 'days-since':
      return last === null ? null : (Date.parse(TODAY) - Date.parse(last.date)) / 86_400_000;
    case 'years':
      return years.length;
    case 'run': {
      let longest = 0;
      for (const year of years) {
        let length = 1;
        while (years.includes(year + length)) length++;
        longest = Math.max(longest, length);
      }
      return longest;
    }
  }
}

/** Those who share a home, themselves included; who is in the trash shares none. */
const homeOf = (who: PlainSupporter, { people }: PlainWorld): PlainSupporter[] =>
  people.filter((one) => one.id === who.id || (!who.trashed && who.home > 0 && one.home === who.home && !one.trashed));

function rowsMeet(who: PlainSupporter, condition: RowsCondition, world: PlainWorld): boolean {
  const home = homeOf(who, world);
  const people = condition.together ? home : [who];
  const all = people.flatMap((one) => rowsOf(one, condition.of));
  const { after, against, where, measure, test } = condition;
  const begun = after
    ? measured(
        rowsOf(who, after.of).filter((row) => fits(row, after.where)),
        'last',
      )
    : null;
  const near = (row: PlainRow): boolean =>
    !after || (typeof begun === 'string' && (row.day ?? '') >= begun && (row.day ?? '') <= addDays(begun, after.days));
  const asked = (parts: readonly Where[]) => all.filter((row) => near(row) && fits(row, parts));
  const value = measured(asked(where), measure);
  if (value === null) return false;
  if (typeof value === 'string') return meets(value, test);
  const others = where.filter(({ part }) => part !== 'day');
  const then: Where[] = against ? [...others, { part: 'day', test: { is: 'in', window: against } }] : [...where];
  const before = measure === 'change' ? Number(measured(asked(then), 'sum')) : 0;
  return meets(value - before, test);
}

/** The next day that a birthday is kept on, in a year. */
function keptIn(birthday: string, year: number): string {
  const leap = dateOfDay(0).length > 0 && new Date(Date.UTC(year, 1, 29)).getUTCDate() === 29;
  return `${year}-${birthday === '02-29' && !leap ? '02-28' : birthday}`;
}

function fieldMeets(who: PlainSupporter, field: string, test: Test): boolean {
  if (field === 'birthday' && test.is === 'in') {
    const { window } = test;
    const years = Array.from({ length: 400 }, (_, at) => 1800 + at);
    return who.birthday !== '' && years.some((year) => inWindow(keptIn(who.birthday, year), window));
  }
  const values: Record<string, Value> = {
    ...{ kind: who.kind, state: who.region, last: who.last, birthday: who.birthday, shares: who.home > 0 },
    ...{ 'own:3': who.stars, 'own:5': who.budget },
  };
  return meets(values[field] ?? null, test);
}

function conditionMeets(who: PlainSupporter, condition: Condition, world: PlainWorld): boolean {
  switch (condition.kind) {
    case 'field':
      return fieldMeets(who, condition.field, condition.test);
    case 'rows':
      return rowsMeet(who, condition, world);
    case 'people':
      return world.lists.get(condition.list)?.includes(who.id) ?? false;
    case 'segment':
      return plain(who, world.segments.get(condition.segment) as Group, world);
    case 'related': {
      const others =
        condition.by === 'household'
          ? homeOf(who, world)
          : who.ties
              .filter(({ role }) => fits({ role }, condition.where))
              .map(({ other }) => world.people.find(({ id }) => id === other) as PlainSupporter);
      return others.some((other) => (!other.trashed || other.id === who.id) && plain(other, condition.match, world));
    }
  }
}

/** Whether a supporter matches a part. */
export function plain(who: PlainSupporter, part: Condition | Group, world: PlainWorld): boolean {
  if (part.kind !== 'group') return conditionMeets(who, part, world) !== (part.not === true);
  const parts = part.parts.filter(({ off }) => !off);
  if (parts.length === 0) return true;
  const holds = parts.map((one) => plain(who, one, world));
  return part.join === 'all' ? holds.every(Boolean) : part.join === 'any' ? holds.some(Boolean) : !holds.some(Boolean);
}
