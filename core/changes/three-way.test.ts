import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { threeWay } from './index.ts';

const base = { first: 'Ana', last: 'Cruz', tags: ['a'] };
describe('threeWay', () => {
  it('takes what only one changed', () => {
    const { merged, conflicts } = threeWay(base, { ...base, first: 'Anna' }, { ...base, tags: ['a', 'b'] });
    expect([merged, conflicts]).toEqual([{ first: 'Anna', last: 'Cruz', tags: ['a', 'b'] }, []]);
  });
  it('names what both changed differently, with mine standing', () => {
    const { merged, conflicts } = threeWay(base, { ...base, last: 'Quill' }, { ...base, last: 'Farr', first: 'Ada' });
    expect(merged).toEqual({ first: 'Ada', last: 'Quill', tags: ['a'] });
    expect(conflicts).toEqual([{ field: 'last', base: 'Cruz', mine: 'Quill', theirs: 'Farr' }]);
  });
  it('loses neither edit, and is quiet when one of them changed nothing', () => {
    const row = fc.record({ a: fc.nat(3), b: fc.nat(3), c: fc.array(fc.nat(1), { maxLength: 2 }) });
    fc.assert(
      fc.property(row, row, row, (was, mine, theirs) => {
        const { merged, conflicts } = threeWay(was, mine, theirs);
        for (const field of ['a', 'b', 'c'] as const) {
          const conflict = conflicts.some((one) => one.field === field);
          const kept = JSON.stringify(merged[field]);
          const [w, m, t] = [was, mine, theirs].map((one) => JSON.stringify(one[field]));
          if (!conflict && m !== w) expect(kept).toBe(m);
          if (!conflict && t !== w) expect(kept).toBe(t);
          if (conflict) expect([kept, m === t]).toEqual([m, false]);
        }
        expect(threeWay(was, was, theirs)).toEqual({ merged: theirs, conflicts: [] });
      }),
    );
  });
});
