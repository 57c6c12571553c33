/** A change set as stepping through them sees it: what it takes back, and what took it back. */
export interface Step {
  revision: number;
  undoes: number | null;
  undoneBy: number | null;
}

/**
 * What one more step back would take back, of somebody's own changes with the newest first: the newest that still
 * stands. Null where none is left. Whether it can be undone is another question: nothing is passed over silently.
 */
export const stepBack = <S extends Step>(sets: readonly S[]): S | null =>
  sets.find((set) => set.undoes === null && set.undoneBy === null) ?? null;

/**
 * The undoing that one step forward would take back: the newest that still stands and that nothing new came after.
 * Null where nothing was undone, or something else was done since.
 */
export function stepForward<S extends Step>(sets: readonly S[]): S | null {
  const byRevision = new Map(sets.map((set) => [set.revision, set]));
  for (const set of sets) {
    if (set.undoes === null) return null;
    const again = (byRevision.get(set.undoes)?.undoes ?? null) !== null;
    if (!again && set.undoneBy === null) return set;
  }
  return null;
}
