import { Problem } from './problem.ts';

/** Where a page of a list ended: the value it is sorted by, and the id that breaks ties. */
interface Cursor {
  value: string;
  id: number;
}
export const encodeCursor = (cursor: Cursor): string =>
  Buffer.from(JSON.stringify([cursor.value, cursor.id])).toString('base64url');

/** Throws a 400 for a cursor that this server did not give. */
export function decodeCursor(cursor: string | undefined): Cursor | null {
  if (cursor === undefined) return null;
  try {
    const [value, id]: unknown[] = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    if (typeof value === 'string' && typeof id === 'number') return { value, id };
  } catch {
    // falls through to the refusal
  }
  throw badCursor();
}

export const badCursor = (): Problem => new Problem(400, 'bad-cursor', 'This cursor is not one that a list gave.');
