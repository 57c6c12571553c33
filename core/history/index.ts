import type { Row, RowChange, Value } from '../changes/index.ts';
import { formatDate } from '../dates/index.ts';
import { formatMoney } from '../money/index.ts';
import type { Formats } from '../money/index.ts';

/** What the history of a record can be narrowed to. */
export const TOPICS = ['record', 'contact', 'gifts', 'ties', 'notes', 'sent'] as const;
export type Topic = (typeof TOPICS)[number];

/** Names for the ids that a row holds, by table; null where the row they name is gone. */
export interface Names {
  of(table: string, id: number): string | null;
}

/** What words need besides the row: names for its ids, and how amounts and days are written. */
export interface Telling extends Names {
  formats: Formats;
}

/** Under this name the kinds of custom fields are known beside their names. */
export const FIELD_KIND = 'custom_field.kind';

/** How a column's value reads. */
export interface Show {
  (value: Value, telling: Telling): string;
  /** The table whose rows the value names. */
  names?: string;
}

export const plain: Show = (value) => (value === null || value === '' ? 'nothing' : String(value));
export const day: Show = (value, { formats }) => (typeof value === 'string' ? formatDate(value, formats) : 'nothing');
export const yesNo: Show = (value) => (value === 1 ? 'yes' : 'no');
export const money: Show = (value, { formats }) =>
  typeof value === 'number' ? formatMoney(value, formats) : 'nothing';
/** The name of the row of another table. */
export const named = (table: string): Show =>
  Object.assign(
    (value: Value, names: Telling) =>
      typeof value === 'number' ? (names.of(table, value) ?? `${table.replace(/_/g, ' ')} ${value}`) : 'nothing',
    { names: table },
  );
/** The word for a code; the code itself where there is none. */
export const word =
  (words: Readonly<Record<string, string>>): Show =>
  (value, telling) =>
    words[String(value)] ?? plain(value, telling);

/** The words of a note or letter, at most 80 letters of them. */
export const richText: Show = (value) => {
  if (typeof value !== 'string') return 'nothing';
  const words = [...value.matchAll(/"text":("(?:[^"\\]|\\.)*")/g)]
    .map(([, json]) => String(JSON.parse(json ?? '""')))
    .join(' ');
  return words.length > 80 ? `${words.slice(0, 79)}…` : words || 'nothing';
};

/** The words of a table: of its columns that history speaks of, and for a row as a whole. */
export interface Words {
  columns: ReadonlyMap<string, { word: string; show: Show }>;
  /** What a row that came or went is called. */
  called(row: Row, telling: Telling): string;
  /** What is put before the sentence about a column. */
  before?(id: number): string;
  /** What a column is called for a row and how it reads, where that is not the same for all; null for its own words. */
  callsColumn?(row: Row, telling: Telling): { word: string; show: Show } | null;
}

/** What one row's change says in words; an update says one sentence for each column that reads differently. */
export function describeChange(change: RowChange, words: Words, telling: Telling): string[] {
  const { before, after } = change;
  const whole = (row: Row): string => words.called({ ...row, id: change.id }, telling);
  if (before === null) return after === null ? [] : [`${whole(after)} added`];
  if (after === null) return [`${whole(before)} removed`];
  return [...words.columns].flatMap(([column, { word: name, show }]) => {
    if (!(column in after)) return [];
    const own = words.callsColumn?.({ ...before, ...after }, telling) ?? { word: name, show };
    const from = own.show(before[column] ?? null, telling);
    const to = own.show(after[column] ?? null, telling);
    return from === to ? [] : [`${words.before?.(change.id) ?? ''}${own.word} changed from ${from} to ${to}`];
  });
}
