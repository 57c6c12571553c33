import { describe, expect, it, vi } from 'vitest';
import { asKnown } from '@tallystick/core/duplicates';
import { Alike } from './alike.ts';
import type { Measure } from './alike.ts';

/* Who comes in is held against all records by whatever keeps them; somebody who types never waits long for it. */

const person = (first: string) =>
  asKnown({
    ...{ kind: 'person', first, last: 'Rook', formerLast: '', nickname: '', organization: '' },
    ...{ emails: [], phones: [], addresses: [] },
  });
const like: Measure['likes'] = (asked) =>
  Promise.resolve(asked.map(({ first }) => [{ id: first.length, chance: 0.9 }]));
const measure = (likes = like): Measure => ({
  likes,
  named: (surnames) => Promise.resolve(surnames.map((surname) => (surname === 'rook' ? [3, 7] : []))),
});

describe('who is like somebody', () => {
  it('is nobody while nothing keeps the records', async () =>
    expect(await new Alike().all([person('Ann'), person('Bo')], 0.5)).toEqual([[], []]));

  it('is told of each, in their order, however many are asked about', async () => {
    const alike = new Alike();
    const likes = vi.fn(like);
    alike.by(measure(likes));
    const names = Array.from({ length: 1_201 }, (_, index) => 'x'.repeat(1 + (index % 7)));
    const found = await alike.all(names.map(person), 0.85);
    expect(found.map(([one]) => one?.id)).toEqual(names.map(({ length }) => length));
    // Not all at once, so that other questions come between.
    expect(likes.mock.calls.map(([asked, least]) => [asked.length, least])).toEqual([
      [500, 0.85],
      [500, 0.85],
      [201, 0.85],
    ]);
  });

  it('is told by surname, and nobody is named while nothing keeps the records', async () => {
    const alike = new Alike();
    expect(await alike.named(['rook', 'cruz'])).toEqual([[], []]);
    alike.by(measure());
    expect(await alike.named(['rook', 'cruz'])).toEqual([[3, 7], []]);
    expect(await alike.named([])).toEqual([]);
  });

  it('is not waited for by somebody who types, nor is a failure their business', async () => {
    vi.useFakeTimers();
    try {
      const alike = new Alike();
      alike.by(measure(() => new Promise(() => undefined)));
      const never = alike.soon([person('Ann')], 0.5);
      await vi.advanceTimersByTimeAsync(1_000);
      expect(await never).toBeNull();
      alike.by(measure(() => Promise.reject(new Error('The thread ended.'))));
      expect(await alike.soon([person('Ann')], 0.5)).toBeNull();
      await expect(alike.all([person('Ann')], 0.5)).rejects.toThrow('ended');
      alike.by(measure());
      expect(await alike.soon([person('Ann')], 0.5)).toEqual([[{ id: 3, chance: 0.9 }]]);
    } finally {
      vi.useRealTimers();
    }
  });
});
