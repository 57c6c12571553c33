type Values = Uint16Array | Uint32Array | Int32Array | Float64Array | Uint8Array;

/** A growable typed column. */
export class Column<V extends Values = Values> {
  /** The words that its codes stand for, where it holds words. */
  readonly words: Dictionary | null = null;

  constructor(public values: V) {}

  /** Makes room for so many values. */
  grow(room: number): void {
    if (room > this.values.length) this.values = grown(this.values, room);
  }

  /** Gives back the room beyond so many values. */
  trim(room: number): void {
    if (room < this.values.length) this.values = this.values.slice(0, room) as V;
  }
}

/** A column of words, each held as its code. */
export class WordColumn extends Column<Uint32Array> {
  override readonly words = new Dictionary();

  constructor() {
    super(new Uint32Array(16));
  }

  /** The word in a place; empty where there is none. */
  at(place: number): string {
    return this.words.words[this.values[place] as number] as string;
  }
}

/** Columns by their names. */
export type Columns = Record<string, Column>;
/** One row for columns, in their own units: words for columns of words, numbers for the others. */
export type RowFor<C extends Columns> = { [K in keyof C]: C[K] extends WordColumn ? string : number };

/** Columns as they are declared: how wide their values are. */
export const bytes = () => new Column(new Uint8Array(16));
export const small = () => new Column(new Uint16Array(16));
export const ids = () => new Column(new Uint32Array(16));
export const days = () => new Column(new Int32Array(16));
export const cents = () => new Column(new Float64Array(16));
export const words = () => new WordColumn();

/** Stands for no day in a column of days. */
export const NO_DAY = -2_000_000_000;

/** Columns with their names at hand, so that a row is put in without asking for them. */
export type Entries = readonly (readonly [name: string, column: Column])[];

/** Puts a row into columns that have room for it. */
export function put(entries: Entries, place: number, row: Readonly<Record<string, string | number>>): void {
  for (let at = 0; at < entries.length; at++) {
    const [name, column] = entries[at] as Entries[number];
    putOne(column, place, row[name] as string | number);
  }
}
/** Puts a word, or a number, into one column. */
export function putOne({ values, words }: Column, place: number, value: string | number): void {
  values[place] = words === null ? (value as number) : words.code(value as string);
}

/** A copy of `values` with room for `size`; new places hold zero. */
export function grown<V extends Values>(values: V, size: number): V {
  const bigger = new (values.constructor as new (length: number) => V)(size);
  bigger.set(values);
  return bigger;
}

/** About how many bytes columns take, their words included. */
export const bytesOf = (columns: Columns): number =>
  Object.values(columns).reduce((sum, { values, words }) => sum + values.byteLength + (words?.bytes ?? 0), 0);

/** Codes for strings, in the order they are first seen; code 0 is the empty string. */
export class Dictionary {
  private readonly codes = new Map<string, number>([['', 0]]);
  readonly words: string[] = [''];
  private letters = 0;

  code(word: string): number {
    let code = this.codes.get(word);
    if (code === undefined) {
      code = this.words.length;
      this.words.push(word);
      this.codes.set(word, code);
      this.letters += word.length;
    }
    return code;
  }

  /** The code of a word that may never have been seen: then -1, which no row holds. */
  find(word: string): number {
    return this.codes.get(word) ?? -1;
  }

  /** About what it takes: a string's head, its letters, and its places in the list and in the map. */
  get bytes(): number {
    return this.letters + this.words.length * 60;
  }
}
