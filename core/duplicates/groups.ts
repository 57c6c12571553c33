import type { Pair } from './pair.ts';

/** Records that may all be one, the surest groups first. */
export interface AlikeGroup {
  ids: number[];
  /** The chance of its least likely link. */
  chance: number;
}

/** Two groups are joined by a link only where no two of them are less likely one than this. */
const LEAST_WITHIN = 0.05;

/**
 * Groups of pairs: a link joins two groups, the likeliest first, unless somebody of the one is known not to be, or is
 * very unlikely to be, somebody of the other. So a chain of likenesses does not end with two who are not alike.
 */
export function groupsOf(
  pairs: readonly Pair[],
  apart: (one: number, other: number) => boolean,
  chance: (one: number, other: number) => number,
): AlikeGroup[] {
  const groups = new Map<number, AlikeGroup>();
  const of = (id: number): AlikeGroup => {
    const known = groups.get(id);
    if (known) return known;
    const made = { ids: [id], chance: 1 };
    groups.set(id, made);
    return made;
  };
  const byChance = [...pairs].sort((a, b) => b.chance - a.chance || a.one - b.one || a.other - b.other);
  for (const pair of byChance) {
    const [one, other] = [of(pair.one), of(pair.other)];
    if (one === other) continue;
    const holds = one.ids.every((a) =>
      other.ids.every((b) => !apart(a, b) && ((a === pair.one && b === pair.other) || chance(a, b) >= LEAST_WITHIN)),
    );
    if (!holds) continue;
    const joined = { ids: [...one.ids, ...other.ids], chance: Math.min(one.chance, other.chance, pair.chance) };
    for (const id of joined.ids) groups.set(id, joined);
  }
  return [...new Set(groups.values())]
    .filter(({ ids }) => ids.length > 1)
    .map(({ ids, chance: least }) => ({ ids: ids.sort((a, b) => a - b), chance: least }))
    .sort((a, b) => b.chance - a.chance || (a.ids[0] ?? 0) - (b.ids[0] ?? 0));
}
