import type { Cents } from '../money/index.ts';

/** What an outside source is told of a gift that did not come through it: our number, how much, and when. */
export interface Elsewhere {
  key: string;
  cents: Cents;
  day: string;
}

/**
 * What must be told so that the source knows what holds now: what is new or otherwise than it was told, and at nothing
 * what holds no more.
 */
export function toTell(told: readonly Elsewhere[], holds: readonly Elsewhere[]): Elsewhere[] {
  const now = new Map(holds.map((one) => [one.key, one]));
  const before = new Map(told.map((one) => [one.key, one]));
  const fresh = holds.filter(({ key, cents, day }) => {
    const was = before.get(key);
    return was?.cents !== cents || was.day !== day;
  });
  const gone = told.filter(({ key, cents }) => cents > 0 && !now.has(key)).map((one) => ({ ...one, cents: 0 }));
  return [...fresh, ...gone];
}
