import { listedAs, listedIn, partIn } from '../catalogue/index.ts';
import type { Known, ListedName, Read, Reading, Type } from '../catalogue/index.ts';
import { dateOfDay, formatDate } from '../dates/index.ts';
import { NO_DAY } from '../facts/index.ts';
import type { AnyList, Facts } from '../facts/index.ts';
import type { Kept } from '../fields/index.ts';
import type { SortKey } from '../lists/index.ts';
import { formatMoney } from '../money/index.ts';
import type { Formats } from '../money/index.ts';
import { fold } from '../names/index.ts';
import type { Where } from './condition.ts';
import { rows as rowsOf } from './make.ts';
import { listOf, measureAs } from './measures.ts';
import { rowTest } from './where.ts';
import type { Asking } from './shapes.ts';
import { showAt } from './test.ts';
import type { Telling } from './test.ts';
import type { Measured, Picked, RowKind, Shown } from './view.ts';

/** What a cell holds: words, cents or a number, a date (`YYYY-MM-DD`), or nothing. */
export type Cell = string | number | null;
export type CellType = 'text' | 'money' | 'number' | 'date';

/** A column that is ready to be read of one row after another. */
export interface Cells {
  type: CellType;
  /** Whether its figures can be added up. */
  sums: boolean;
  /** Of figures and dates the bare number, `NaN` for none; null for words. */
  figure: ((row: number) => number) | null;
  cell: (row: number) => Cell;
  /** What rows are sorted and put together by; empty where there is nothing. */
  key: (row: number) => SortKey;
}

/** Whose a row is, and where it stands. */
export interface Rows {
  slotOf: (row: number) => number;
  /** The list whose rows they are, and where in it each stands; null where rows are supporters. */
  list: { of: ListedName; placeOf: (row: number) => number } | null;
  /** Whether everybody who shares the home of a row belongs to it. */
  together: boolean;
}

const CELL_TYPES: Partial<Record<Type['is'], CellType>> = { money: 'money', number: 'number', date: 'date' };
/** What cells of a kind of value hold. */
export const cellTypeOf = (type: Type): CellType => CELL_TYPES[type.is] ?? 'text';

/** A column made ready; null where it shows something that there is not. */
export function cellsOf(shown: Shown, rows: Rows, asking: Asking, telling: Telling): Cells | null {
  switch (shown.kind) {
    case 'field':
      return fieldCells(shown.field, rows, asking, telling);
    case 'measure':
      return measureCells(shown, rows, asking);
    case 'values':
      return valueCells(shown, rows, asking, telling);
    case 'part':
      return partCells(shown.part, rows, asking, telling);
    case 'reached':
      // Filled in by whoever knows how people are addressed.
      return wordCells(() => '');
  }
}

/** What a cell says in words, amounts and days as the organization writes them; empty for nothing. */
export function cellWords(type: CellType, cell: Cell, formats: Formats): string {
  if (cell === null) return '';
  if (type === 'money') return formatMoney(Number(cell), formats);
  if (type === 'date') return formatDate(String(cell), formats);
  return type === 'number' ? Number(cell).toLocaleString(formats.locale, { maximumFractionDigits: 10 }) : String(cell);
}

/** Cells of words: sorted without regard to capitals and accents, or as `keyed` says. */
const wordCells = (word: (row: number) => string, keyed?: (row: number) => SortKey): Cells => ({
  ...{ type: 'text', sums: false, figure: null },
  cell: (row) => word(row) || null,
  key: keyed ?? ((row) => fold(word(row))),
});
/** Cells of figures; what is `NaN`, and no day, is nothing. */
function figureCells(type: CellType, sums: boolean, figure: (row: number) => number): Cells {
  const nothing = (value: number): boolean => Number.isNaN(value) || (type === 'date' && value === NO_DAY);
  return {
    ...{ type, sums, figure },
    cell(row) {
      const value = figure(row);
      if (nothing(value)) return null;
      return type === 'date' ? dateOfDay(value) : value;
    },
    key(row) {
      const value = figure(row);
      return nothing(value) ? '' : value;
    },
  };
}

function fieldCells(
  name: string,
  { slotOf }: Rows,
  { facts, setting, fields }: Asking,
  telling: Telling,
): Cells | null {
  const known = fields.get(name);
  if (!known) return null;
  const read = { facts, calendar: setting.calendar, columns: facts.people };
  const reading = known.read(read);
  if (known.shown) {
    const word = known.shown(read);
    const plain = keyOf(reading);
    return wordCells((row) => word(slotOf(row)), plain ? (row) => plain(slotOf(row)) : undefined);
  }
  return placedCells(known.type, reading, slotOf, telling);
}

/** What a value is sorted by where it is not its words: numbers by what they are, texts as they are read. */
function keyOf(reading: Reading): ((place: number) => SortKey) | null {
  if ('text' in reading) return reading.text;
  return 'number' in reading && !reading.codes ? reading.number : null;
}

/** Cells of the one value that a row has in a place. */
function placedCells(type: Type, reading: Reading, placeOf: (row: number) => number, telling: Telling): Cells {
  const is = cellTypeOf(type);
  const word = (row: number): string => showAt(type, reading, placeOf(row), telling);
  if (is !== 'text' && 'number' in reading) {
    const { number } = reading;
    return figureCells(is, is === 'money', (row) => number(placeOf(row)));
  }
  if (is !== 'text' && 'kept' in reading) {
    const { kept } = reading;
    const value = (row: number): Kept | undefined => kept(placeOf(row))[0];
    if (is !== 'date') return figureCells(is, is === 'money', (row) => Number(value(row) || NaN));
    return {
      ...{ type: is, sums: false, figure: null },
      cell: (row) => value(row) || null,
      key: (row) => value(row) ?? '',
    };
  }
  if (type.is === 'yesno' && 'number' in reading) {
    const { number } = reading;
    return wordCells((row) => (number(placeOf(row)) === 1 ? 'yes' : 'no'));
  }
  if (type.is === 'yesno' && 'kept' in reading) {
    const { kept } = reading;
    return wordCells((row) => joined(kept(placeOf(row)).map((value) => (value === '1' ? 'yes' : 'no'))));
  }
  const birthday = type.is === 'birthday' && 'number' in reading ? reading.number : null;
  return wordCells(word, birthday ? (row) => birthday(placeOf(row)) || '' : undefined);
}

function measureCells(shown: Extract<Shown, { kind: 'measure' }>, rows: Rows, { pass }: Asking): Cells | null {
  const { plus = [], ...first } = shown;
  const all: Measured[] = [first, ...plus];
  if (all.some(({ of, measure, where }) => listOf(of, measure, where) === null)) return null;
  const { type } = measureAs(first.measure);
  if (all.some(({ measure }) => measureAs(measure).type !== type)) return null;
  const tallies = all.map(({ of, where, measure, against, after, credit, together }) =>
    pass.ask({
      ...rowsOf(of, where, measure),
      ...(against ? { against } : {}),
      ...(after ? { after } : {}),
      ...(credit ? { credit } : {}),
      ...(together || rows.together ? { together: true } : {}),
    }),
  );
  const sums = SUMS.includes(first.measure);
  const { slotOf } = rows;
  const [only, ...others] = tallies;
  if (only && others.length === 0)
    return figureCells(type, sums, (row) => {
      pass.goTo(slotOf(row));
      return only.value();
    });
  return figureCells(type, sums, (row) => {
    pass.goTo(slotOf(row));
    let sum = NaN;
    for (const tally of tallies) {
      const value = tally.value();
      if (!Number.isNaN(value)) sum = Number.isNaN(sum) ? value : sum + value;
    }
    return sum;
  });
}
const SUMS: readonly string[] = ['sum', 'change', 'number'];

/** Reads of a slot the places in a list that pass what is asked of them. */
function placesOf(of: AnyList, passes: (place: number) => boolean, slots: (row: number) => Iterable<number>) {
  return (row: number): number[] => {
    const places: number[] = [];
    for (const slot of slots(row)) {
      const from = of.start[slot] ?? 0;
      const end = from + (of.count[slot] ?? 0);
      for (let place = from; place < end; place++) if (passes(place)) places.push(place);
    }
    return places;
  };
}

function valueCells(
  { of, where, part, pick }: Extract<Shown, { kind: 'values' }>,
  rows: Rows,
  { facts, setting }: Asking,
  telling: Telling,
): Cells | null {
  const listed = listedIn(of);
  const known = listed && partIn(listed.parts, part);
  if (!listed || !known || where.some((one) => !partIn(listed.parts, one.part))) return null;
  const list = facts.listOf(of);
  const read: Read = { facts, calendar: setting.calendar, columns: list.columns };
  const slots = (row: number): Iterable<number> =>
    rows.together ? facts.sharersOf(rows.slotOf(row)) : [rows.slotOf(row)];
  const places = placesOf(list, rowTest(where, listed.parts, read), slots);
  const reading = known.read(read);
  if (pick === 'all')
    return wordCells((row) => joined(places(row).map((at) => showAt(known.type, reading, at, telling))));
  const weight = weightOf(pick, list.columns);
  const best = (row: number): number => {
    let found = -1;
    for (const place of places(row)) if (found < 0 || weight(place) > weight(found)) found = place;
    return found;
  };
  const is = cellTypeOf(known.type);
  if (is !== 'text' && 'number' in reading) {
    const { number } = reading;
    return figureCells(is, false, (row) => {
      const place = best(row);
      return place < 0 ? NaN : number(place);
    });
  }
  return wordCells((row) => {
    const place = best(row);
    return place < 0 ? '' : showAt(known.type, reading, place, telling);
  });
}

/** What of several rows is shown: that which weighs most, of equals the first. */
function weightOf(pick: Exclude<Picked, 'all'>, columns: Read['columns']): (place: number) => number {
  const of = (name: string, sign: number) => {
    const values = columns[name]?.values;
    return (place: number): number => (values ? sign * (values[place] as number) : 0);
  };
  switch (pick) {
    case 'preferred':
      return of('preferred', 1);
    case 'latest':
      return of('day', 1);
    case 'earliest':
      return of('day', -1);
    case 'largest':
      return of('cents', 1);
  }
}

/** Values in one cell, each once, in the order they came. */
const joined = (words: readonly string[]): string => [...new Set(words.filter(Boolean))].join(', ');

const PLACES = ['fund', 'campaign', 'appeal'];

/** A part of a row, where there is one row for each of a list; of a split gift where its parts went. */
function partCells(part: string, { list, slotOf }: Rows, { facts, setting }: Asking, telling: Telling): Cells | null {
  const known = list && partIn(listedAs(list.of).parts, part);
  if (!list || !known) return null;
  const { of, placeOf } = list;
  const readIn = (columns: Read['columns']): Reading => known.read({ facts, calendar: setting.calendar, columns });
  const reading = readIn(facts.listOf(of).columns);
  if (of !== 'gifts' || !PLACES.includes(part))
    return { ...placedCells(known.type, reading, placeOf, telling), sums: known.type.is === 'money' };
  const { gifts, splits } = facts;
  const parts = readIn(splits.columns);
  return wordCells((row) => {
    const [slot, place] = [slotOf(row), placeOf(row)];
    if (gifts.columns.fund.values[place] !== 0) return showAt(known.type, reading, place, telling);
    return joined(splitsOf(facts, slot, place).map((at) => showAt(known.type, parts, at, telling)));
  });
}

/** The places of the parts that a gift is split into. */
function splitsOf({ gifts, splits }: Facts, slot: number, place: number): number[] {
  const id = gifts.columns.gift.values[place];
  return placesOf(
    splits,
    (at) => splits.columns.gift.values[at] === id,
    () => [slot],
  )(0);
}

/** The rows of a list that pass what is asked of them, as their places and whose they are; split gifts by any part. */
export function listRows(
  of: ListedName,
  slots: Iterable<number>,
  where: readonly Where[],
  { facts, setting }: Pick<Asking, 'facts' | 'setting'>,
): { places: Uint32Array; owners: Uint32Array } {
  const list = facts.listOf(of);
  const { parts } = listedAs(of);
  const testOn = (columns: Read['columns'], asked: readonly Where[]) =>
    rowTest(asked, parts, { facts, calendar: setting.calendar, columns });
  const isWent = ({ part }: Where): boolean => of === 'gifts' && PLACES.includes(part);
  const went = where.filter(isWent);
  const own = testOn(
    list.columns,
    where.filter((one) => !isWent(one)),
  );
  const [whole, inParts] = [testOn(list.columns, went), testOn(facts.splits.columns, went)];
  const { fund } = facts.gifts.columns;
  const goes = (slot: number, place: number): boolean => {
    if (went.length === 0) return true;
    if (fund.values[place] !== 0) return whole(place);
    return splitsOf(facts, slot, place).some(inParts);
  };
  const places: number[] = [];
  const owners: number[] = [];
  for (const slot of slots) {
    const from = list.start[slot] ?? 0;
    const end = from + (list.count[slot] ?? 0);
    for (let place = from; place < end; place++) {
      if (!own(place) || !goes(slot, place)) continue;
      places.push(place);
      owners.push(slot);
    }
  }
  return { places: Uint32Array.from(places), owners: Uint32Array.from(owners) };
}

/** The lists a row of which may stand with several supporters: a note about them, a tie at both of its ends. */
const SHARED: readonly ListedName[] = ['notes', 'ties'];

/** The id of what a row of a list is (the gift, the tie, the note …); null for a list whose rows have none. */
export function thingIds(facts: Facts, of: ListedName): ((place: number) => number) | null {
  const { columns } = facts.listOf(of);
  const ids = of === 'gifts' ? columns['gift'] : columns['id'];
  return ids ? (place) => ids.values[place] as number : null;
}

/**
 * What tells a row of a list from all others: the id of what it is where that stands with one supporter only; else the
 * place that it stands in, and one more.
 */
export const rowIds = (facts: Facts, of: ListedName): ((place: number) => number) =>
  (SHARED.includes(of) ? null : thingIds(facts, of)) ?? ((place) => place + 1);

/** What kind of value a column shows one by one; null where it shows something that there is not, or measures. */
export function valueTypeOf(shown: Shown, rows: RowKind, fields: ReadonlyMap<string, Known>): Type | null {
  const inList = (of: string, part: string): Type | null => partIn(listedIn(of)?.parts ?? {}, part)?.type ?? null;
  switch (shown.kind) {
    case 'field':
      return fields.get(shown.field)?.type ?? null;
    case 'values':
      return inList(shown.of, shown.part);
    case 'part':
      return inList(rows, shown.part);
    case 'measure':
    case 'reached':
      return null;
  }
}
