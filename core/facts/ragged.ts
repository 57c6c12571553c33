import { bytesOf, grown, put } from './columns.ts';
import type { Columns, Entries, RowFor } from './columns.ts';

/** Stands for nobody in `whose`. */
export const NO_OWNER = 0xffffffff;

/**
 * A list of rows for each of many owners, held in typed columns: owner i has the rows
 * `start[i]` to `start[i] + count[i]`. Replacing an owner's rows appends the new ones at the end and leaves the
 * old behind; once a quarter of the rows is such waste, `replace` packs the columns again.
 */
export class Ragged<C extends Columns = Columns> {
  start = new Uint32Array(16);
  count = new Uint32Array(16);
  /** Rows in use including waste. */
  length = 0;
  private waste = 0;
  /** Who has rows, and whose each row is, where that is known. */
  private some: Uint32Array | null = null;
  private rowOwners: Uint32Array | null = null;
  private readonly entries: Entries;
  /** How many rows there is room for. */
  private room: number;

  constructor(readonly columns: C) {
    this.entries = Object.entries(columns);
    this.room = Math.min(...this.entries.map(([, column]) => column.values.length));
  }

  /** Appends one row to the owner that was begun last. */
  push(owner: number, row: RowFor<C>): void {
    if (owner >= this.start.length) this.growOwners(owner + 1);
    this.rowOwners = null;
    if (this.count[owner] === 0) {
      this.start[owner] = this.length;
      this.some = null;
    }
    if (this.length >= this.room) {
      this.room *= 2;
      for (const [, column] of this.entries) column.grow(this.room);
    }
    put(this.entries, this.length, row);
    this.length++;
    this.count[owner] = (this.count[owner] ?? 0) + 1;
  }

  /** Puts `rows` in the place of the owner's rows; an owner not seen before is added. */
  replace(owner: number, rows: readonly RowFor<C>[]): void {
    if (owner >= this.start.length) this.growOwners(owner + 1);
    this.waste += this.count[owner] ?? 0;
    if (this.count[owner] !== 0) this.some = this.rowOwners = null;
    this.count[owner] = 0;
    this.start[owner] = this.length;
    for (const row of rows) this.push(owner, row);
    if (this.waste > 1000 && this.waste * 4 > this.length) this.pack();
  }

  /** The owners who have rows, in their order; kept until that changes. */
  owners(): Uint32Array {
    if (this.some) return this.some;
    const { count } = this;
    const some = new Uint32Array(count.length);
    let many = 0;
    for (let owner = 0; owner < count.length; owner++) if (count[owner] !== 0) some[many++] = owner;
    return (this.some = some.slice(0, many));
  }

  /** Whose each row is, `NO_OWNER` of those that were left behind; kept until a row changes. */
  whose(): Uint32Array {
    if (this.rowOwners) return this.rowOwners;
    const whose = new Uint32Array(this.length).fill(NO_OWNER);
    for (const owner of this.owners()) {
      const from = this.start[owner] as number;
      whose.fill(owner, from, from + (this.count[owner] as number));
    }
    return (this.rowOwners = whose);
  }

  /** Gives back the room that loading took more than it needed. */
  trim(): void {
    // Never more than there is: a row beyond the end of a column would be lost without a word.
    this.room = Math.min(this.room, Math.max(16, this.length + (this.length >>> 4)));
    for (const [, column] of this.entries) column.trim(this.room);
  }

  get bytes(): number {
    return (
      this.start.byteLength +
      this.count.byteLength +
      (this.some?.byteLength ?? 0) +
      (this.rowOwners?.byteLength ?? 0) +
      bytesOf(this.columns)
    );
  }

  private growOwners(needed: number): void {
    const size = Math.max(needed, this.start.length * 2);
    this.start = grown(this.start, size);
    this.count = grown(this.count, size);
  }

  private pack(): void {
    const old = Object.fromEntries(Object.entries(this.columns).map(([name, column]) => [name, column.values.slice()]));
    let to = 0;
    for (let owner = 0; owner < this.start.length; owner++) {
      const from = this.start[owner] ?? 0;
      const many = this.count[owner] ?? 0;
      for (const name in this.columns) {
        const source = old[name];
        if (source) this.columns[name]?.values.set(source.subarray(from, from + many), to);
      }
      this.start[owner] = to;
      to += many;
    }
    this.length = to;
    this.rowOwners = null;
    this.waste = 0;
  }
}
