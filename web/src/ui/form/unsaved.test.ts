import { describe, expect, it, vi } from 'vitest';
import { Unsaved } from './unsaved.ts';

describe('what is not saved', () => {
  it('is asked about while any form holds something, and on a reload where it is not kept', () => {
    const unsaved = new Unsaved();
    const drop = vi.fn();
    expect([unsaved.any, unsaved.reloading]).toEqual([false, false]);
    unsaved.put('gift', { drop, kept: true });
    expect([unsaved.any, unsaved.reloading]).toEqual([true, false]);
    unsaved.put('fund', { drop, kept: false });
    expect([unsaved.any, unsaved.reloading]).toEqual([true, true]);
    unsaved.put('fund', null);
    expect([unsaved.any, unsaved.reloading]).toEqual([true, false]);
  });

  it('is thrown away once, all of it', () => {
    const unsaved = new Unsaved();
    const drops = [vi.fn(), vi.fn()];
    drops.forEach((drop, place) => unsaved.put(String(place), { drop, kept: false }));
    unsaved.drop();
    unsaved.drop();
    expect(drops.map((drop) => drop.mock.calls.length)).toEqual([1, 1]);
    expect(unsaved.any).toBe(false);
  });
});
