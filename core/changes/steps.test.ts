import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stepBack, stepForward } from './index.ts';
import type { Step } from './index.ts';

/** Change sets as they are kept, with the newest first: what undoing and doing again writes down. */
class Kept {
  sets: Step[] = [];
  private find = (revision: number | null) => this.sets.find((set) => set.revision === revision);
  change(undoes: number | null = null): void {
    const revision = this.sets.length + 1;
    const undone = this.find(undoes);
    this.sets = [{ revision, undoes, undoneBy: null }, ...this.sets];
    if (!undone) return;
    undone.undoneBy = revision;
    const again = this.find(undone.undoes);
    if (again) again.undoneBy = null;
  }
}

describe('stepping through changes', () => {
  it('goes further and further back, and forward the same way', () => {
    const kept = new Kept();
    for (let many = 0; many < 3; many++) kept.change();
    const back = (): number | null => {
      const set = stepBack(kept.sets);
      if (set) kept.change(set.revision);
      return set?.revision ?? null;
    };
    const forward = (): number | null => {
      const set = stepForward(kept.sets);
      if (set) kept.change(set.revision);
      return set?.undoes ?? null;
    };
    expect([back(), back(), forward(), forward(), forward()]).toEqual([3, 2, 2, 3, null]);
    expect([back(), back(), back(), back(), forward()]).toEqual([3, 2, 1, null, 1]);
  });

  it('does nothing again once something new was done', () => {
    const kept = new Kept();
    kept.change();
    kept.change(1);
    expect(stepForward(kept.sets)?.revision).toBe(2);
    kept.change();
    expect([stepForward(kept.sets), stepBack(kept.sets)?.revision]).toEqual([null, 3]);
  });

  it('is an editor’s, whatever is pressed in whatever order', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('do', 'back', 'forward')), (keys) => {
        const kept = new Kept();
        let made: number[] = [];
        let undone: number[] = [];
        for (const key of keys) {
          if (key === 'do') {
            kept.change();
            [made, undone] = [[...made, kept.sets.length], []];
          } else if (key === 'back') {
            const set = stepBack(kept.sets);
            expect(set?.revision).toBe(made.at(-1));
            if (!set) continue;
            kept.change(set.revision);
            [made, undone] = [made.slice(0, -1), [...undone, set.revision]];
          } else {
            const set = stepForward(kept.sets);
            expect(set?.undoes ?? undefined).toBe(undone.at(-1));
            if (!set) continue;
            kept.change(set.revision);
            [made, undone] = [[...made, set.undoes ?? 0], undone.slice(0, -1)];
          }
        }
      }),
    );
  });
});
