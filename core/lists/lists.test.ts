import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { grouped, Order } from './index.ts';

describe('Order', () => {
  it('is what sorting anew would give, whatever changes', () => {
    const step = fc.tuple(fc.nat(20), fc.integer({ min: -5, max: 5 }));
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -5, max: 5 }), { maxLength: 15 }),
        fc.array(fc.array(step, { maxLength: 4 })),
        (first, changes) => {
          const keys = [...first];
          const order = new Order(
            (row) => keys[row] ?? 0,
            (a, b) => a - b,
          );
          order.build(keys.length);
          for (const change of changes) {
            const rows = change.map(([row, key]) => {
              const at = Math.min(row, keys.length);
              keys[at] = key;
              return at;
            });
            order.move(rows);
            const anew = keys.map((_, row) => row).sort((a, b) => (keys[a] ?? 0) - (keys[b] ?? 0) || a - b);
            expect([...order.rows]).toEqual(anew);
          }
        },
      ),
    );
  });
  it('runs down by key and still up by tie', () => {
    const order = new Order(
      (row) => [1, 2, 1][row] ?? 0,
      (a, b) => a - b,
      true,
    );
    order.build(3);
    order.move([1]);
    expect([...order.rows]).toEqual([1, 0, 2]);
  });
  it('sorts text, and equal keys by the tie', () => {
    const names = ['cruz', 'adair', 'cruz'];
    const order = new Order(
      (row) => names[row] ?? '',
      (a, b) => b - a,
    );
    order.build(3);
    expect([...order.rows]).toEqual([1, 2, 0]);
  });
});

describe('grouped', () => {
  it('puts rows together, keeps their order, adds up, and leaves what has no key for last', () => {
    const keys = ['NV', '', 'CA', 'NV', 'CA'];
    const { rows, groups } = grouped(
      [4, 3, 2, 1, 0],
      (row) => keys[row] ?? '',
      (row) => row * 100,
    );
    expect(rows).toEqual([4, 2, 3, 0, 1]);
    expect(groups).toEqual([
      { key: 'CA', count: 2, cents: 600 },
      { key: 'NV', count: 2, cents: 300 },
      { key: '', count: 1, cents: 100 },
    ]);
  });
  it('orders numbers by size', () =>
    expect(
      grouped(
        [0, 1, 2],
        (row) => [10, 9, 100][row] ?? 0,
        () => 0,
      ).groups.map((one) => one.key),
    ).toEqual([9, 10, 100]));
});
