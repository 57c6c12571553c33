import { Problem } from './problem.ts';

/** Where a page of a list ended: what its last row has of each thing that the list is sorted by, the last of them unique. */
export type Ended = readonly (string | number)[];

export const encodeCursor = (ended: Ended): string => Buffer.from(JSON.stringify(ended)).toString('base64url');

/** What a cursor says of `many` things, null for the beginning. Throws a 400 for a cursor that this server did not give. */
export function decodeCursor(cursor: string | undefined, many: number): Ended | null {
  if (cursor === undefined) return null;
  try {
    const values: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    const sound = (value: unknown): value is string | number => typeof value === 'string' || typeof value === 'number';
    if (Array.isArray(values) && values.length === many && values.every(sound)) return values;
  } catch {
    // falls through to the refusal
  }
  throw badCursor();
}

/** The same where rows are sorted by their id alone. */
export function decodeId(cursor: string | undefined): number | null {
  const ended = decodeCursor(cursor, 1);
  if (ended === null) return null;
  if (typeof ended[0] !== 'number') throw badCursor();
  return ended[0];
}

export const badCursor = (): Problem => new Problem(400, 'bad-cursor', 'This cursor is not one that a list gave.');
