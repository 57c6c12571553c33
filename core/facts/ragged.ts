/**
 * A list of rows for each of many owners, held in typed columns: owner i has the rows
 * `start[i]` to `start[i] + count[i]`. Replacing an owner's rows appends the new ones at the end and leaves the
 * old behind; once a quarter of the rows is such waste, `replace` packs the columns again.
 */
export class Ragged<C extends Record<string, Column>> {
  start = new Uint32Array(16);
  count = new Uint32Array(16);
  /** Rows in use including waste. */
  length = 0;
  private waste = 0;

  constructor(readonly columns: C) {}

  /** Appends one row to the owner that was begun last. `values` are in the columns' own units. */
  push(owner: number, values: { [K in keyof C]: number }): void {
    if (owner >= this.start.length) this.growOwners(owner + 1);
    if (this.count[owner] === 0) this.start[owner] = this.length;
    for (const name in this.columns) {
      const column = this.columns[name];
      if (column === undefined) continue;
      if (this.length >= column.values.length) column.grow(this.length + 1);
      column.values[this.length] = values[name];
    }
    this.length++;
    this.count[owner] = (this.count[owner] ?? 0) + 1;
  }

  /** Puts `rows` in the place of the owner's rows; an owner not seen before is added. */
  replace(owner: number, rows: readonly { [K in keyof C]: number }[]): void {
    if (owner >= this.start.length) this.growOwners(owner + 1);
    this.waste += this.count[owner] ?? 0;
    this.count[owner] = 0;
    this.start[owner] = this.length;
    for (const row of rows) this.push(owner, row);
    if (this.waste > 1000 && this.waste * 4 > this.length) this.pack();
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
    this.waste = 0;
  }
}

type Values = Uint16Array | Uint32Array | Int32Array | Float64Array | Uint8Array;

/** A growable typed column. */
export class Column<V extends Values = Values> {
  constructor(public values: V) {}

  /** Makes room for at least `needed` values, doubling so that appending stays cheap. */
  grow(needed: number): void {
    this.values = grown(this.values, Math.max(needed, this.values.length * 2));
  }
}

/** A copy of `values` with room for `size`; new places hold zero. */
export function grown<V extends Values>(values: V, size: number): V {
  const bigger = new (values.constructor as new (length: number) => V)(size);
  bigger.set(values);
  return bigger;
}

/** Codes for strings, in the order they are first seen; code 0 is the empty string. */
export class Dictionary {
  private readonly codes = new Map<string, number>([['', 0]]);
  readonly words: string[] = [''];

  code(word: string): number {
    let code = this.codes.get(word);
    if (code === undefined) {
      code = this.words.length;
      this.words.push(word);
      this.codes.set(word, code);
    }
    return code;
  }

  /** The code of a word that may never have been seen: then -1, which no row holds. */
  find(word: string): number {
    return this.codes.get(word) ?? -1;
  }
}
