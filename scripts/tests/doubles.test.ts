import { describe, expect, it } from 'vitest';
import { AlikeIndex, groupsOf } from '@tallystick/core/duplicates';
import { makeDoubles } from '../lib/doubles.ts';

/* How well doubles are found among made records of which it is known who is who; the bench does it with many more. */

describe.each([1, 2])('of 6,000 records with 8 %% doubled, seed %i', (seed) => {
  const { records, truth } = makeDoubles(6_000, 0.08, seed);
  const of = (id: number): number => truth[id - 1]?.of ?? id;
  const index = new AlikeIndex();
  for (const record of records) index.put(record);
  while (!index.advance(1_000));
  const groups = groupsOf(
    [...index.pairs()],
    () => false,
    (one, other) => index.chance(one, other),
  );

  it('nearly all that are proposed are one, and nearly all that are one are proposed', () => {
    const pairs = groups.flatMap(({ ids }) =>
      ids.flatMap((one, at) => ids.slice(at + 1).map((other) => [one, other] as const)),
    );
    const right = pairs.filter(([one, other]) => of(one) === of(other)).length;
    const groupOf = new Map(groups.flatMap(({ ids }, at) => ids.map((id) => [id, at] as const)));
    const doubles = truth.flatMap((one, at) => (one ? [{ id: at + 1, of: one.of }] : []));
    const found = doubles.filter((one) => groupOf.has(one.id) && groupOf.get(one.id) === groupOf.get(one.of)).length;
    expect(pairs.length).toBeGreaterThan(400);
    expect(right / pairs.length).toBeGreaterThan(0.98);
    expect(found / doubles.length).toBeGreaterThan(0.95);
  });

  it('compares few of all pairs', () => {
    expect(index.compared).toBeGreaterThan(0);
    expect(index.compared / ((6_000 * 5_999) / 2)).toBeLessThan(0.0005);
  });
});
