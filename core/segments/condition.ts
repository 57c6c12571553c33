import type { ListedName } from '../catalogue/index.ts';
import type { Window } from '../dates/index.ts';
import type { CreditChoice } from '../totals/index.ts';
import type { Measure } from './measures.ts';
import type { Test } from './test.ts';

/*
 * What a segment asks, in a handful of shapes. What the shapes are about (fields, lists and their parts) are entries of
 * the catalogue, named by their ids; ids of records are database ids, as text where they are values of a test.
 */

interface Turnable {
  /** Turned round: those whom it does not hold of. */
  not?: boolean;
  /** Left out for now, to see what comes of it. */
  off?: boolean;
}

/** A field of the supporter passes a test. */
export interface FieldCondition extends Turnable {
  kind: 'field';
  field: string;
  test: Test;
}

/** What is asked of each row of a list: that one of its parts passes a test; of which nothing was chosen, any row does. */
export interface Where {
  part: string;
  test: Test;
  not?: boolean;
}

/** The last of these rows begins so many days, it and the last day included. */
export interface After {
  of: ListedName;
  where: readonly Where[];
  days: number;
}

/**
 * A measure over the rows of a list that are asked about (gifts, pledges, notes, telephones …) passes a test: figures
 * lie between two bounds, in cents or as numbers; dates within a window. What has no value (the largest of no gifts)
 * passes none.
 */
export interface RowsCondition extends Turnable {
  kind: 'rows';
  of: ListedName;
  where: readonly Where[];
  measure: Measure;
  test: Test;
  /** Of a change: the window that it is measured against. */
  against?: Window;
  /** Of gifts: whose giving counts; as the segment says where it is left out. */
  credit?: CreditChoice;
  /** Only what came within so many days of the last row of another list: gifts within 60 days of a mailing. */
  after?: After;
  /** Whether everyone's who shares the home counts together. */
  together?: boolean;
}

/** Somebody that the supporter is tied to, or shares a home with (themselves included), matches in turn. */
export interface RelatedCondition extends Turnable {
  kind: 'related';
  by: 'tie' | 'household';
  /** Which ties. */
  where: readonly Where[];
  match: Group;
}

/** The supporter is one of a list of people that was pasted or frozen. */
export interface PeopleCondition extends Turnable {
  kind: 'people';
  list: number;
}

/** The supporter is in another segment. */
export interface SegmentCondition extends Turnable {
  kind: 'segment';
  segment: number;
}

export type Condition = FieldCondition | RowsCondition | RelatedCondition | PeopleCondition | SegmentCondition;
export type Join = 'all' | 'any' | 'none';

/** Conditions of which all, any or none must hold; a group may hold groups. An empty group matches everyone. */
export interface Group {
  kind: 'group';
  join: Join;
  parts: (Condition | Group)[];
  off?: boolean;
}

/** What a segment asks, and whose giving counts where a condition does not say. */
export interface Question {
  match: Group;
  credit: CreditChoice;
}

/** A group of which every part must hold. */
export const all = (...parts: Group['parts']): Group => ({ kind: 'group', join: 'all', parts });

/** What nobody matches, in place of conditions that cannot be read: no supporter is of no kind. */
export const NOBODY: Group = all({ kind: 'field', field: 'kind', test: { is: 'any-of', values: [] } });
