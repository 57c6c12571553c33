import { grown } from '../facts/index.ts';

export { Figures } from './figures.ts';
export { Under } from './under.ts';

/** What rows are sorted by; text sorts by code units, so it is folded before. An empty text is no value at all. */
export type SortKey = number | string;

/** The order of two keys that differ; what has no value comes last, whichever way the order runs. */
function compareKeys(a: SortKey, b: SortKey, down: boolean): number {
  if (a === '' || b === '') return a === '' ? 1 : -1;
  return a < b !== down ? -1 : 1;
}

const BANDS = [1, 2.5, 5];

/**
 * The lower bound of the band that an amount lies in: 0, 1, 10, 25, 50, 100, 250, 500, 1,000 and so on, from 10 on in
 * the `unit` that people count in (100 for cents). What is below zero is one band, -1.
 */
export function bandOf(amount: number, unit = 1): number {
  if (amount < 1) return amount < 0 ? -1 : 0;
  let bound = 1;
  for (let ten = 10 * unit; ten <= amount; ten *= 10)
    for (const step of BANDS) if (step * ten <= amount) bound = step * ten;
  return bound;
}

/** The lower bound of the band after one; null after the last that is told apart. */
export function bandAfter(bound: number, unit = 1): number | null {
  if (bound <= 0) return bound < 0 ? 0 : 1;
  for (let ten = 10 * unit; ten < 1e13; ten *= 10) for (const step of BANDS) if (step * ten > bound) return step * ten;
  return null;
}

/** One thing that rows are sorted by: the key of a row, and whether large ones come first. */
export interface SortBy {
  keyOf: (row: number) => SortKey;
  down: boolean;
}

/** A sort as it is asked for, `state,-lifetime`: what by, the first counting most, and which ways are turned round. */
export const readSorts = (text: string): { by: string; down: boolean }[] =>
  text.split(',').map((part) => ({ by: part.replace(/^-/, ''), down: part.startsWith('-') }));

/** The order of whole rows by several keys; what is equal in all of them by `tie`. */
export const byKeys =
  <Row>(by: readonly { keyOf: (row: Row) => SortKey; down: boolean }[], tie: (a: Row, b: Row) => number) =>
  (a: Row, b: Row): number => {
    for (const { keyOf, down } of by) {
      const [x, y] = [keyOf(a), keyOf(b)];
      if (x !== y) return compareKeys(x, y, down);
    }
    return tie(a, b);
  };

/** Rows in order, kept so while single rows change: moving one costs a search and a shift, not a sort. */
export class Order {
  private sorted = new Uint32Array(0);
  private length = 0;
  /** For each of what is sorted by, the key of each row. */
  private readonly keys: SortKey[][];

  /** Rows whose keys are all equal are put in order by `tie`, whichever way the keys run. */
  constructor(
    private readonly by: readonly SortBy[],
    private readonly tie: (a: number, b: number) => number,
  ) {
    this.keys = by.map(() => []);
  }

  /** Sorts rows 0 to `size` anew. */
  build(size: number): void {
    for (let row = 0; row < size; row++) this.readKeys(row);
    this.sorted = Uint32Array.from({ length: size }, (_, row) => row).sort((a, b) => this.compare(a, b));
    this.length = size;
  }

  /** Puts rows that changed, or are new, in their right places. */
  move(rows: Iterable<number>): void {
    const changed = new Set(rows);
    if (changed.size === 0) return;
    const kept = this.sorted.subarray(0, this.length).filter((row) => !changed.has(row));
    const total = kept.length + changed.size;
    this.sorted = grown(kept, total);
    this.length = kept.length;
    for (const row of changed) this.insert(row);
  }

  /** The rows in order. */
  get rows(): Uint32Array {
    return this.sorted.subarray(0, this.length);
  }

  private readKeys(row: number): void {
    this.by.forEach(({ keyOf }, place) => {
      const keys = this.keys[place];
      if (keys) keys[row] = keyOf(row);
    });
  }

  private insert(row: number): void {
    this.readKeys(row);
    let low = 0;
    let high = this.length;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.compare(this.sorted[middle] ?? 0, row) < 0) low = middle + 1;
      else high = middle;
    }
    this.sorted.copyWithin(low + 1, low, this.length);
    this.sorted[low] = row;
    this.length++;
  }

  private compare(a: number, b: number): number {
    for (let place = 0; place < this.by.length; place++) {
      const keys = this.keys[place] as SortKey[];
      const [x, y] = [keys[a] as SortKey, keys[b] as SortKey];
      if (x !== y) return compareKeys(x, y, this.by[place]?.down === true);
    }
    return this.tie(a, b);
  }
}

/** A stretch of a grouped list: what its rows share, how many they are, and what they come to. */
export interface ListGroup<Sum> {
  key: SortKey;
  count: number;
  sum: Sum;
}

/**
 * Rows put together by a key, groups in the order of their keys (numbers before text, nothing last), rows within
 * a group in the order they came.
 */
export function grouped<Sum>(
  rows: Iterable<number>,
  keyOf: (row: number) => SortKey,
  sumOf: (rows: readonly number[]) => Sum,
): { rows: number[]; groups: ListGroup<Sum>[] } {
  const byKey = new Map<SortKey, number[]>();
  for (const row of rows) {
    const key = keyOf(row);
    const group = byKey.get(key);
    if (group) group.push(row);
    else byKey.set(key, [row]);
  }
  const keys = [...byKey.keys()].sort(inOrder);
  return {
    rows: keys.flatMap((key) => byKey.get(key) ?? []),
    groups: keys.map((key) => {
      const inside = byKey.get(key) ?? [];
      return { key, count: inside.length, sum: sumOf(inside) };
    }),
  };
}

function inOrder(a: SortKey, b: SortKey): number {
  if (a === '' || b === '') return a === b ? 0 : a === '' ? 1 : -1;
  if (typeof a !== typeof b) return typeof a === 'number' ? -1 : 1;
  return a < b ? -1 : a > b ? 1 : 0;
}

/** Where a row stood in a list: its group where there are any, what it was sorted by, its name and its number. */
export interface Mark {
  group: SortKey | null;
  keys: readonly SortKey[];
  name: string;
  id: number;
}

function compareMarks(a: Mark, b: Mark, downs: readonly boolean[]): number {
  const groups = a.group === null || b.group === null ? 0 : inOrder(a.group, b.group);
  if (groups !== 0) return groups;
  for (const [place, down] of downs.entries()) {
    const [x, y] = [a.keys[place] as SortKey, b.keys[place] as SortKey];
    if (x !== y) return compareKeys(x, y, down);
  }
  return a.name < b.name ? -1 : a.name > b.name ? 1 : a.id - b.id;
}

/**
 * The place of the first row that comes after a mark, in a list that is in the order of its marks; `downs` says of each
 * key whether large ones come first. The row that the mark was made of may have moved since, or be gone.
 */
export function placeAfter(
  rows: ArrayLike<number>,
  mark: Mark,
  markOf: (row: number) => Mark,
  downs: readonly boolean[],
): number {
  let low = 0;
  let high = rows.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (compareMarks(markOf(rows[middle] as number), mark, downs) <= 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** A mark as text that JSON can hold, whatever its numbers, and back; null for text that is none. */
export const writeMark = ({ group, keys, name, id }: Mark): string =>
  JSON.stringify([...[group, ...keys].map(tagged), name, id]);

export function readMark(text: string): Mark | null {
  try {
    const parts: unknown[] = JSON.parse(text);
    const [name, id] = parts.slice(-2);
    const [group, ...keys] = parts.slice(0, -2).map(untagged);
    const sound = (key: SortKey | null | undefined): key is SortKey => key !== undefined && key !== null;
    if (group === undefined || keys.length === 0 || !keys.every(sound)) return null;
    return typeof name === 'string' && typeof id === 'number' ? { group, keys, name, id } : null;
  } catch {
    return null;
  }
}

const tagged = (key: SortKey | null): string | null =>
  key === null ? null : typeof key === 'number' ? `n${key}` : `t${key}`;
function untagged(value: unknown): SortKey | null | undefined {
  if (value === null) return null;
  if (typeof value !== 'string') return undefined;
  return value.startsWith('n') ? Number(value.slice(1)) : value.slice(1);
}
