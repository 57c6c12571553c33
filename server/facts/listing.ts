import { listedIn } from '@tallystick/core/catalogue';
import type { ListedName } from '@tallystick/core/catalogue';
import type { Facts } from '@tallystick/core/facts';
import { FLAG } from '@tallystick/core/facts';
import { bandOf, byKeys, Figures, grouped, Order, placeAfter } from '@tallystick/core/lists';
import type { ListGroup, Mark, SortKey } from '@tallystick/core/lists';
import type { Formats } from '@tallystick/core/money';
import {
  askingOf,
  cellsOf,
  evaluate,
  listRows,
  Masks,
  rowIds,
  settingKey,
  STANDING,
  thingIds,
} from '@tallystick/core/segments';
import type {
  Cell,
  Cells,
  CellType,
  Group,
  RowKind,
  Rows,
  Setting,
  Shown,
  Telling,
  Where,
} from '@tallystick/core/segments';
import type { SupporterKind } from '@tallystick/core/supporters';
import { SUPPORTER_KINDS } from '@tallystick/core/supporters';

/** One of what a list is sorted by, and whether large values come first. */
export interface ListSorting {
  by: Shown;
  down: boolean;
}

/** Names of what values refer to, by kind and id; as of a revision, so that an order made of them is known to be old. */
export interface Names {
  revision: number;
  of: ReadonlyMap<string, ReadonlyMap<number, string>>;
}

/**
 * A list of supporters, or of rows that they have (gifts, notes, ties): whom it is about (of a kind, matching conditions, out of the trash or in it), one
 * row for each of what, in what order, put together by what.
 */
export interface ListQuestion {
  ask: 'list';
  rows: RowKind;
  /** Where there is one row for each of a list: which of them. */
  where: readonly Where[];
  kind: SupporterKind | null;
  /** These alone, in this order, whatever else is asked; null for all whom it is about. */
  only: readonly number[] | null;
  group: Group | null;
  setting: Setting;
  trashed: boolean;
  /** What the page shows of each row; figures among them are summed up. */
  columns: readonly Shown[];
  /** The first counts most; names and numbers settle what is equal. */
  sorts: readonly ListSorting[];
  groupBy: Shown | null;
  /** What the page before ended with; null to begin. */
  after: Mark | null;
  /** Rows wanted; null for the ids of the whole list without cells. */
  limit: number | null;
  names: Names;
  formats: Formats;
  /** Whether it is told beside whom the rows of the page are about. */
  figures: boolean;
}

/** A list of every supporter by name, as questions begin. */
export const PLAIN_LIST: Omit<ListQuestion, 'setting' | 'formats'> = {
  ...{ ask: 'list', rows: 'supporter', where: [], kind: null, only: null, group: null, trashed: false, columns: [] },
  ...{ sorts: [{ by: STANDING.name, down: false }], groupBy: null, after: null, limit: null },
  ...{ names: { revision: 0, of: new Map() }, figures: false },
};

/** What each column comes to; null where its figures are not added up. */
export type ListSums = (number | null)[];

export interface ListAnswer {
  /** Whose row each is, and of a list which of its rows. */
  ids: Uint32Array;
  own: Uint32Array | null;
  /** What each row of a list is, by its id; null where its rows have none. */
  things: Uint32Array | null;
  cells: Cell[][];
  /** What each column holds; null for one that shows something that there is not. */
  types: (CellType | null)[];
  /** The place of the first row in the list. */
  at: number;
  /** What the page ends with; null for an empty one. */
  end: Mark | null;
  total: number;
  sums: ListSums;
  groups: ListGroup<ListSums>[];
  /** How many match and have no row, being of another kind than there is one row for each of. */
  without: number;
}

/** A whole list in its order; rows are slots, or numbers that `is` finds the rows of a list by. */
interface WholeList {
  rows: Uint32Array | number[];
  is: Rows;
  groups: ListGroup<ListSums>[];
  sums: ListSums;
  without: number;
}

/** So many orders, whole lists and columns of figures are kept. */
const [MOST_ORDERS, MOST_LISTS, MOST_FIGURES] = [12, 12, 12];
/** One part in so many of the supporters is few: their figures are read, and not kept for all. */
const FEW = 4;
const MOST_GROUPS = 2000;
const NOT_THERE: Cells = { type: 'text', sums: false, figure: null, cell: () => null, key: () => '' };

/** What is worked out of every supporter, kept under a name and put right for those that changed. */
class Kept<T extends Order | Figures> {
  private readonly known = new Map<string, { it: T; pending: Set<number>; cells: Cells[] }>();

  constructor(private readonly most: number) {}

  changed(slots: readonly number[]): void {
    for (const { pending } of this.known.values()) for (const slot of slots) pending.add(slot);
  }

  /** What is kept, or is made now of so many slots; `cells` are read anew each time, since facts move as they grow. */
  get(name: string, cells: readonly Cells[], size: number, make: (cells: readonly Cells[]) => T): T {
    let kept = this.known.get(name);
    if (kept) {
      this.known.delete(name);
      kept.cells.splice(0, cells.length, ...cells);
      if (kept.pending.size > size / 20) kept.it.build(size);
      else kept.it.move(kept.pending);
      kept.pending.clear();
    } else {
      const own = [...cells];
      kept = { it: make(own), pending: new Set(), cells: own };
      kept.it.build(size);
    }
    this.known.set(name, kept);
    const oldest = this.known.keys().next().value;
    if (this.known.size > this.most && oldest !== undefined) this.known.delete(oldest);
    return kept.it;
  }
}

/** Answers lists from facts. Orders and figures are kept, and put right for the supporters that changed. */
export class Listing {
  private readonly orders = new Kept<Order>(MOST_ORDERS);
  private readonly figures = new Kept<Figures>(MOST_FIGURES);
  /** Whole lists as last asked for, until something changes. */
  private readonly lists = new Map<string, WholeList>();

  constructor(
    private readonly facts: Facts,
    private readonly masks = new Masks(0),
  ) {}

  /** A slot whose facts changed. */
  changed(slot: number): void {
    this.lists.clear();
    if (slot < 0) return;
    // Whoever shares a home has other household totals now, and whoever is tied to them may show their name.
    const { start, count, columns } = this.facts.lists.ties;
    const others = columns.other.values.subarray(start[slot] ?? 0, (start[slot] ?? 0) + (count[slot] ?? 0));
    const touched = [slot, ...this.facts.homeOf(slot), ...[...others].map((id) => this.facts.slotOf(id))];
    const there = touched.filter((one) => one >= 0);
    this.orders.changed(there);
    this.figures.changed(there);
  }

  answer(question: ListQuestion): ListAnswer {
    const { rows, is, groups, sums, without } = this.whole(question);
    const { after, sorts, limit } = question;
    const cellsIn = this.reading(question, is);
    const markOf = this.marks(question, is, cellsIn);
    const downs = sorts.map(({ down }) => down);
    const at = after === null ? 0 : placeAfter(rows, after, markOf, downs);
    const end = limit === null ? rows.length : Math.min(rows.length, at + limit);
    const page = Array.from({ length: end - at }, (_, place) => rows[at + place] as number);
    const { facts } = this;
    const ownId = this.ownId(is);
    const columns = question.columns.map(cellsIn);
    return {
      ids: Uint32Array.from(page, (row) => facts.ids[is.slotOf(row)] ?? 0),
      own: is.list && Uint32Array.from(page, ownId),
      things: this.things(is, page),
      cells: limit === null ? [] : page.map((row) => columns.map((one) => one?.cell(row) ?? null)),
      types: columns.map((one) => one?.type ?? null),
      end: page.length > 0 ? markOf(page[page.length - 1] ?? 0) : null,
      ...{ at, total: rows.length, sums, groups, without },
    };
  }

  /** Makes what is shown ready to be read of rows. */
  private reading({ setting, names, formats }: ListQuestion, is: Rows): (shown: Shown) => Cells | null {
    const asking = askingOf(this.facts, setting);
    const telling: Telling = {
      ...{ calendar: setting.calendar, formats },
      nameOf: (to, id) => names.of.get(to)?.get(id) ?? '',
    };
    return (shown) => cellsOf(shown, is, asking, telling);
  }

  private marks(
    { sorts, groupBy }: ListQuestion,
    is: Rows,
    cellsIn: (shown: Shown) => Cells | null,
  ): (row: number) => Mark {
    const keys = sorts.map(({ by }) => (cellsIn(by) ?? NOT_THERE).key);
    const group = groupBy === null ? () => null : groupKey(cellsIn(groupBy) ?? NOT_THERE);
    const { sortNames } = this.facts;
    const id = this.ownId(is);
    return (row) => ({
      group: group(row),
      keys: keys.map((keyOf) => keyOf(row)),
      name: sortNames[is.slotOf(row)] ?? '',
      id: id(row),
    });
  }

  /** What tells a row from all others: the id of a row of a list, or of the supporter. */
  private ownId({ list, slotOf }: Rows): (row: number) => number {
    const { ids } = this.facts;
    if (list === null) return (row) => ids[slotOf(row)] ?? 0;
    const idOf = rowIds(this.facts, list.of);
    return (row) => idOf(list.placeOf(row));
  }

  private things({ list }: Rows, page: readonly number[]): Uint32Array | null {
    const idOf = list && thingIds(this.facts, list.of);
    return idOf && Uint32Array.from(page, (row) => idOf(list.placeOf(row)));
  }

  private whole(question: ListQuestion): WholeList {
    const { after: _after, limit: _limit, setting, names, ...about } = question;
    if (question.only !== null) return this.made(question);
    const key = JSON.stringify([about, settingKey(setting), names.revision]);
    const known = this.lists.get(key);
    if (known) return known;
    const list = this.made(question);
    const oldest = this.lists.keys().next().value;
    if (this.lists.size >= MOST_LISTS && oldest !== undefined) this.lists.delete(oldest);
    this.lists.set(key, list);
    return list;
  }

  private made(question: ListQuestion): WholeList {
    const { rows: of, only } = question;
    if (only !== null) {
      const rows = only.map((id) => this.facts.slotOf(id)).filter((slot) => slot >= 0);
      return { rows, is: slotRows(of), groups: [], sums: [], without: 0 };
    }
    const { among, without } = this.among(question);
    const { rows, is } = isListed(of) ? this.listRows(question, of, among) : this.slots(question, among);
    const cellsIn = this.reading(question, is);
    const columns = question.columns.map(cellsIn);
    const many = is.list === null && rows.length > this.facts.size / FEW;
    const summed = many ? this.kept(question, is, columns) : columns;
    // What is read from facts is read as it stands there: near each other in memory.
    const sumsOf = (inside: readonly number[] | Uint32Array): ListSums =>
      sumsIn(summed, many ? inside : Uint32Array.from(inside).sort());
    if (question.groupBy === null) return { rows, is, groups: [], sums: sumsOf(rows), without };
    const inGroups = grouped(rows, groupKey(cellsIn(question.groupBy) ?? NOT_THERE), sumsOf);
    const sums = inGroups.groups.reduce<ListSums>(
      (all, { sum }) => all.map((one, at) => (one === null ? null : one + (sum[at] ?? 0))),
      columns.map((one) => (one?.sums ? 0 : null)),
    );
    return { rows: inGroups.rows, is, groups: inGroups.groups.slice(0, MOST_GROUPS), sums, without };
  }

  /** Whom the list is about: 1 for each slot that has rows; and how many match but are of another kind. */
  private among({ rows, kind, group, setting, trashed }: ListQuestion): { among: Uint8Array; without: number } {
    const { facts } = this;
    const { flags, kind: kinds } = facts.people;
    const code = kind === null ? -1 : SUPPORTER_KINDS[kind].code;
    const only = rows === 'person' || rows === 'organization' ? SUPPORTER_KINDS[rows].code : -1;
    const matching = group === null ? null : evaluate(group, facts, setting, this.masks);
    const among = new Uint8Array(facts.size);
    let without = 0;
    for (let slot = 0; slot < facts.size; slot++) {
      const place = (flags.values[slot] as number) & (FLAG.trashed | FLAG.erased);
      if (place !== (trashed ? FLAG.trashed : 0) || (code >= 0 && kinds.values[slot] !== code)) continue;
      if (matching !== null && !matching.has(slot)) continue;
      if (only >= 0 && kinds.values[slot] !== only) without++;
      else among[rows === 'household' ? this.homeOf(slot) : slot] = 1;
    }
    return { among, without };
  }

  /** The slot that stands for the home of a supporter: the household's record, or the first who shares it. */
  private homeOf(slot: number): number {
    const record = this.facts.slotOf(this.facts.people.household.values[slot] ?? 0);
    const sharers = this.facts.sharersOf(slot);
    return sharers.includes(record) ? record : (sharers[0] ?? slot);
  }

  private slots(question: ListQuestion, among: Uint8Array): Pick<WholeList, 'rows' | 'is'> {
    const is = slotRows(question.rows);
    return { rows: this.ordered(question, is).filter((slot) => among[slot] === 1), is };
  }

  private listRows(question: ListQuestion, of: ListedName, among: Uint8Array): Pick<WholeList, 'rows' | 'is'> {
    const slots = [...among.keys()].filter((slot) => among[slot] === 1);
    const asking = { facts: this.facts, setting: question.setting };
    const { places, owners } = listRows(of, slots, question.where, asking);
    const is: Rows = {
      slotOf: (row) => owners[row] as number,
      list: { of, placeOf: (row) => places[row] as number },
      together: false,
    };
    const cellsIn = this.reading(question, is);
    const by = question.sorts.map(({ by, down }) => {
      const { key } = cellsIn(by) ?? NOT_THERE;
      const keys = Array.from(places, (_, row) => key(row));
      return { keyOf: (row: number): SortKey => keys[row] as SortKey, down };
    });
    const idOf = this.ownId(is);
    const tie = (a: number, b: number): number =>
      this.compareNames(owners[a] as number, owners[b] as number) || idOf(a) - idOf(b);
    return { rows: Uint32Array.from(places.keys()).sort(byKeys(by, tie)), is };
  }

  /** All slots in order. */
  private ordered(question: ListQuestion, is: Rows): Uint32Array {
    const { sorts, names } = question;
    const cellsIn = this.reading(question, is);
    const cells = sorts.map(({ by }) => cellsIn(by) ?? NOT_THERE);
    const tie = (a: number, b: number): number =>
      this.compareNames(a, b) || (this.facts.ids[a] ?? 0) - (this.facts.ids[b] ?? 0);
    return this.orders.get(keptAs([sorts, names.revision], question, is), cells, this.facts.size, (by) => {
      const keys = sorts.map(({ down }, at) => ({ keyOf: (slot: number) => (by[at] as Cells).key(slot), down }));
      return new Order(keys, tie);
    }).rows;
  }

  /** Columns whose figures are kept of every supporter, while conditions change. */
  private kept(question: ListQuestion, is: Rows, columns: readonly (Cells | null)[]): (Cells | null)[] {
    return columns.map((one, at) => {
      if (!one?.sums || one.figure === null) return one;
      const name = keptAs(question.columns[at], question, is);
      const of = this.figures.get(
        name,
        [one],
        this.facts.size,
        (by) => new Figures((slot) => by[0]?.figure?.(slot) ?? NaN),
      );
      return { ...one, figure: (slot: number) => of.at(slot) };
    });
  }

  private compareNames(a: number, b: number): number {
    const [x, y] = [this.facts.sortNames[a] ?? '', this.facts.sortNames[b] ?? ''];
    return x < y ? -1 : x > y ? 1 : 0;
  }
}

/** What names something that is kept of all supporters. */
const keptAs = (what: unknown, { setting: { calendar, credit } }: ListQuestion, { together }: Rows): string =>
  JSON.stringify([what, together, calendar, credit]);

/** What columns come to over rows. */
function sumsIn(columns: readonly (Cells | null)[], rows: readonly number[] | Uint32Array): ListSums {
  return columns.map((one) => {
    if (!one?.sums || one.figure === null) return null;
    const { figure } = one;
    let sum = 0;
    for (let row = 0; row < rows.length; row++) {
      const value = figure(rows[row] as number);
      if (!Number.isNaN(value)) sum += value;
    }
    return sum;
  });
}

/** Rows that are supporters, each its slot. */
const slotRows = (of: RowKind): Rows => ({ slotOf: (row) => row, list: null, together: of === 'household' });

const isListed = (rows: RowKind): rows is ListedName => listedIn(rows) !== null;

/** What rows are put together by: amounts and numbers by the band that they lie in, dates by their month. */
function groupKey({ type, key, cell }: Cells): (row: number) => SortKey {
  if (type === 'date') return (row) => String(cell(row) ?? '').slice(0, 7);
  if (type === 'text') return (row) => cell(row) ?? '';
  const unit = type === 'money' ? 100 : 1;
  return (row) => {
    const value = key(row);
    return typeof value === 'number' ? bandOf(value, unit) : value;
  };
}
