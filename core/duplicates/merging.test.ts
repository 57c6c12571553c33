import { describe, expect, it } from 'vitest';
import { proposed, staying } from './index.ts';
import type { Side, Sort } from './index.ts';

/* Which value of a field is the best to keep, and which record should stay. */

const side = (id: number, value: string, over: Partial<Side> = {}): Side => ({
  ...{ id, value, since: null, byHand: false },
  ...over,
});

describe('of two values', () => {
  it.each<[string, Sort, Side, Side, number, string]>([
    ['what is there', 'other', side(1, ''), side(2, 'board'), 2, 'it is the only one'],
    ['the same, of who stays', 'name', side(1, 'Ruth'), side(2, 'Ruth'), 1, ''],
    ['not capitals', 'name', side(1, 'RUTH'), side(2, 'Ruth'), 2, 'it is not all in capitals'],
    ['not small letters', 'name', side(1, 'ruth'), side(2, 'Ruth'), 2, 'it is not all in capitals'],
    [
      'capitals within a name are well',
      'name',
      side(1, 'MacDonald'),
      side(2, 'MACDONALD'),
      1,
      'it is not all in capitals',
    ],
    ['the whole name, not an initial', 'name', side(1, 'R.'), side(2, 'Ruth'), 2, 'it is the whole name'],
    ['the whole name, not the short one', 'name', side(1, 'Bob'), side(2, 'Robert'), 2, 'it is the whole name'],
    ['two given names, not one', 'name', side(1, 'Ana'), side(2, 'Ana María'), 2, 'it is the whole name'],
    ['a birthday with its year', 'birthday', side(1, '--03-14'), side(2, '1961-03-14'), 2, 'it has the year'],
    [
      'what reaches them',
      'way',
      side(1, 'a@x.org', { sound: false }),
      side(2, 'b@x.org', { sound: true }),
      2,
      'it still reaches them',
    ],
    [
      'what a person typed',
      'other',
      side(1, 'a', { since: '2026-02-01' }),
      side(2, 'b', { byHand: true }),
      2,
      'a person typed it',
    ],
    [
      'the newest',
      'other',
      side(1, 'a', { since: '2026-01-01' }),
      side(2, 'b', { since: '2026-02-01' }),
      2,
      'it is the newest',
    ],
    ['else that of who stays', 'other', side(1, 'a'), side(2, 'b'), 1, ''],
  ])('%s', (_what, sort, one, other, from, why) => {
    const found = proposed(sort, [one, other], 1);
    expect([found.from, found.why]).toEqual([from, why]);
    // Whichever stands first, it is the same one, but where only who stays decides.
    expect(proposed(sort, [other, one], 1).from).toBe(from);
  });

  it('an empty one never differs, and nothing at all is nothing to choose', () => {
    expect(proposed('name', [side(1, ''), side(2, 'Ruth')], 1)).toEqual({
      from: 2,
      why: 'it is the only one',
      differs: false,
    });
    expect(proposed('name', [side(1, ''), side(2, '')], 2)).toEqual({ from: 2, why: '', differs: false });
    expect(() => proposed('name', [], 1)).toThrow();
  });

  it('stronger grounds go first: the whole name, though the short one is newer', () =>
    expect(proposed('name', [side(1, 'Bob', { since: '2026-09-01' }), side(2, 'Robert')], 1).from).toBe(2));
});

it.each([
  [
    [
      { id: 1, gifts: 0, filled: 9 },
      { id: 2, gifts: 3, filled: 1 },
    ],
    2,
    'it has the most gifts',
  ],
  [
    [
      { id: 1, gifts: 1, filled: 2 },
      { id: 2, gifts: 1, filled: 5 },
    ],
    2,
    'it says the most',
  ],
  [
    [
      { id: 7, gifts: 1, filled: 2 },
      { id: 3, gifts: 1, filled: 2 },
    ],
    3,
    'it is the oldest',
  ],
  [[{ id: 7, gifts: 0, filled: 0 }], 7, 'it has the most gifts'],
])('of %o stays %i, since %s', (records, id, why) => expect(staying(records)).toEqual({ id, why }));
