import type { Calendar } from '../dates/index.ts';
import type { Facts, WordColumn } from '../facts/index.ts';
import type { Kept } from '../fields/index.ts';
import type { SupporterKind } from '../supporters/index.ts';

/** What a value may refer to by its id; names come from the organization's own lists. */
export type Ref =
  'tag' | 'group' | 'fund' | 'campaign' | 'appeal' | 'source' | 'batch' | 'user' | 'role' | 'mailing' | 'intake';

/** What kind of value it is, which decides how it is asked about and written. */
export type Type =
  /** `among` are those that are offered to choose from, and codes that other spellings are read as. */
  | { is: 'text'; among?: 'regions' }
  /** One of a fixed list: keys with their words. */
  | { is: 'one'; options: Readonly<Record<string, string>> }
  /** Many of a fixed list, in one value. */
  | { is: 'many'; options: Readonly<Record<string, string>> }
  | { is: 'ref'; to: Ref }
  | { is: 'number'; unit?: string }
  | { is: 'money' }
  | { is: 'date' }
  /** A day of the year, whatever the year. */
  | { is: 'birthday' }
  /** How it is said where it is so, and where it is not. */
  | { is: 'yesno'; yes: string; no: string };

/**
 * How a value is read in a place (a slot, or a row of a list): a column of words, other text, a number (of a reference
 * its id, of a day its day number, of a birthday month * 32 + day, of yes and no 1 and 0; `codes` are the keys that
 * numbers stand for, and `column` holds the numbers where they are read as they stand), or what custom fields keep, `of`
 * whom there is anything.
 */
export type Reading =
  | { words: WordColumn }
  | { text: (place: number) => string }
  | { number: (place: number) => number; codes?: readonly string[]; column?: ArrayLike<number> }
  | { kept: (place: number) => readonly Kept[]; of?: ReadonlyMap<number, unknown> | undefined };

/** What a reading is made from; `columns` are those of the list that rows are of. */
export interface Read {
  facts: Facts;
  calendar: Calendar;
  columns: Readonly<Record<string, { values: ArrayLike<number> }>>;
}

/** Something that can be known: what it is called, what else people look for it by, and how it is read. */
export interface Known {
  label: string;
  also?: string;
  type: Type;
  /** Said before a value in place of its label: `to` Dark Ground, `by` card. */
  says?: string;
  read: (read: Read) => Reading;
  /** How it is shown, where that is not how it is asked about. */
  shown?: (read: Read) => (place: number) => string;
}

/**
 * How a field is given to many at once: the column of their record, or of the address that each is reached at. `kinds`
 * are those that have it; who is of another kind, or has no address, is passed over.
 */
export interface Settable {
  of: 'record' | 'address';
  column: 'prefix' | 'suffix' | 'org_kind' | 'city' | 'region' | 'postal';
  longest: number;
  kinds?: readonly SupporterKind[];
  choices?: readonly string[];
}

/** A field of a supporter. */
export interface Field extends Known {
  /** The group that it is shown under. */
  group: Area;
  /** How it is given to many at once; left out where each has a value of their own. */
  set?: Settable;
}

/** The groups that what can be known is shown under, in their order. */
export const AREAS = [
  'Giving',
  'Pledges and recurring gifts',
  'Who they are',
  'How they are reached',
  'Wishes',
  'Tags and groups',
  'Ties',
  'What happened',
  'Own fields',
] as const;
export type Area = (typeof AREAS)[number];
