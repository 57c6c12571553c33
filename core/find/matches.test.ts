import { expect, it } from 'vitest';
import { Matches } from './matches.ts';

it('gives everybody once, by the most that a word is worth for them, and forgets them for the next query', () => {
  const matches = new Matches();
  matches.begin(300);
  matches.take([5, 299], 9);
  matches.take(Uint32Array.of(7, 5, 8), 9, (slot) => slot === 8);
  matches.take([7, 8, 8], 2);
  const parts = () => matches.byWorth().map(({ worth, slots }) => [worth, ...Array.from(slots)]);
  expect([[...matches.all()], parts()]).toEqual([
    [5, 299, 7, 8],
    [
      [9, 5, 299, 7],
      [2, 8],
    ],
  ]);
  expect([5, 6, 8].map((slot) => matches.worthOf(slot))).toEqual([9, 0, 2]);
  // More can be found by then than before.
  matches.begin(5_000);
  expect([matches.many, parts(), matches.worthOf(5)]).toEqual([0, [], 0]);
  matches.take([4_999], 1);
  expect([parts(), matches.worthOf(4_999)]).toEqual([[[1, 4_999]], 1]);
});
