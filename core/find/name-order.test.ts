import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NameOrder } from './name-order.ts';

/** What happens to names: a slot gets one, new or instead of another. */
const acts = fc.array(
  fc.record({ slot: fc.nat(40), name: fc.constantFrom('ada', 'bo', 'bo finch', 'cy', 'dot', '') }),
  { maxLength: 80 },
);

describe('the order of names', () => {
  it('is that of the names and ids, whatever changed and however many of them have places', () => {
    fc.assert(
      fc.property(acts, fc.integer({ min: 0, max: 90 }), (all, most) => {
        const names: string[] = [];
        const idOf = (slot: number): number => (slot * 7) % 41;
        const order = new NameOrder((slot) => names[slot] ?? '', idOf, most);
        for (const { slot, name } of all) {
          names[slot] = name;
          order.changed(slot);
          const known = [...names.keys()].filter((one) => names[one] !== undefined);
          const by = (a: number, b: number): number => (order.before(a, b) ? -1 : 1);
          const naive = (a: number, b: number): number => {
            const [x, y] = [names[a] ?? '', names[b] ?? ''];
            return x === y ? idOf(a) - idOf(b) : x < y ? -1 : 1;
          };
          expect([...known].sort(by)).toEqual([...known].sort(naive));
        }
      }),
      { numRuns: 60 },
    );
  });
});
