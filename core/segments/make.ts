import type { ListedName } from '../catalogue/index.ts';
import type { Window } from '../dates/index.ts';
import type { FieldCondition, Group, RowsCondition, Where } from './condition.ts';
import type { Measure } from './measures.ts';
import type { Test } from './test.ts';

/* Conditions put together in code: of demo data, filters of lists, benches and tests. */

/** Lies between two bounds, both included; null for an open end. */
export const between = (atLeast: number | null, atMost: number | null = null): Extract<Test, { is: 'between' }> => ({
  is: 'between',
  atLeast,
  atMost,
});
export const SOME = between(1);

/** A part is one of these: keys, or ids of records. */
export const anyOf = (part: string, ...values: readonly (string | number)[]): Where => ({
  part,
  test: { is: 'any-of', values: values.map(String) },
});
/** Within a window. */
export const during = (window: Window): Where => ({ part: 'day', test: { is: 'in', window } });

/** A measure over rows passes a test; that there are some where none is named. */
export const rows = (
  of: ListedName,
  where: readonly Where[],
  measure: Measure = 'number',
  test: Test = SOME,
): RowsCondition => ({ kind: 'rows', of, where, measure, test });

/** Any of them will do. */
export const any = (...parts: Group['parts']): Group => ({ kind: 'group', join: 'any', parts });
/** None of them may hold. */
export const none = (...parts: Group['parts']): Group => ({ kind: 'group', join: 'none', parts });
/** Gave anything of what is asked about. */
export const gave = (...where: readonly Where[]): RowsCondition => rows('gifts', where);
/** What was given comes to at least, and at most, so many cents. */
export const total = (where: readonly Where[], atLeast: number | null, atMost: number | null = null): RowsCondition =>
  rows('gifts', where, 'sum', between(atLeast, atMost));
export const tagged = (tag: number): RowsCondition => rows('tags', [anyOf('tag', tag)]);
export const inGroup = (group: number): RowsCondition => rows('groups', [anyOf('group', group)]);
/** A field is one of these. */
export const fieldIs = (field: string, ...values: readonly string[]): FieldCondition => ({
  kind: 'field',
  field,
  test: { is: 'any-of', values },
});
export const stateIs = (...codes: readonly string[]): FieldCondition => fieldIs('state', ...codes);
/** The same turned round. */
export const not = <C extends { not?: boolean }>(condition: C): C => ({ ...condition, not: true });
