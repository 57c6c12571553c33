/** A field that two people changed from the same beginning into different things. */
export interface Conflict<T> {
  field: keyof T & string;
  base: unknown;
  mine: unknown;
  theirs: unknown;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Brings two edits of one thing together, field by field: what only one of them changed is taken, what both changed
 * alike is taken once, and what they changed differently is a conflict for a person, in which mine stands meanwhile.
 */
export function threeWay<T extends object>(base: T, mine: T, theirs: T): { merged: T; conflicts: Conflict<T>[] } {
  const merged = { ...theirs };
  const conflicts: Conflict<T>[] = [];
  for (const field of Object.keys({ ...mine, ...theirs }) as (keyof T & string)[]) {
    const [was, my, their] = [base[field], mine[field], theirs[field]];
    if (same(my, was) || same(my, their)) continue;
    merged[field] = my;
    if (!same(their, was)) conflicts.push({ field, base: was, mine: my, theirs: their });
  }
  return { merged, conflicts };
}
