import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bandAfter,
  bandOf,
  byKeys,
  Figures,
  grouped,
  Order,
  placeAfter,
  readMark,
  readSorts,
  writeMark,
} from './index.ts';
import type { Mark, SortBy, SortKey } from './index.ts';

const up = (keyOf: SortBy['keyOf']): SortBy => ({ keyOf, down: false });
const byRow = (a: number, b: number): number => a - b;

describe('Order', () => {
  it('is what sorting anew would give, whatever changes', () => {
    const step = fc.tuple(fc.nat(20), fc.integer({ min: -5, max: 5 }));
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -5, max: 5 }), { maxLength: 15 }),
        fc.array(fc.array(step, { maxLength: 4 })),
        (first, changes) => {
          const keys = [...first];
          const order = new Order([up((row) => keys[row] ?? 0)], byRow);
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
    const order = new Order([{ keyOf: (row) => [1, 2, 1][row] ?? 0, down: true }], byRow);
    order.build(3);
    order.move([1]);
    expect([...order.rows]).toEqual([1, 0, 2]);
  });
  it('sorts text, and equal keys by the tie', () => {
    const names = ['cruz', 'adair', 'cruz'];
    const order = new Order([up((row) => names[row] ?? '')], (a, b) => b - a);
    order.build(3);
    expect([...order.rows]).toEqual([1, 2, 0]);
  });
  it('sorts by several keys, each its own way, and keeps to it as rows change', () => {
    const rows: [string, number][] = [
      ['NV', 100],
      ['CA', 50],
      ['NV', 300],
      ['', 900],
      ['CA', 75],
    ];
    const order = new Order(
      [up((row) => rows[row]?.[0] ?? ''), { keyOf: (row) => rows[row]?.[1] ?? 0, down: true }],
      byRow,
    );
    order.build(rows.length);
    expect([...order.rows]).toEqual([4, 1, 2, 0, 3]);
    rows[1] = ['CA', 80];
    rows[2] = ['', 950];
    order.move([1, 2]);
    expect([...order.rows]).toEqual([1, 4, 0, 2, 3]);
  });
});

describe('figures', () => {
  it('are those of the rows, whatever changes and however many come', () => {
    const changes = fc.array(fc.tuple(fc.nat({ max: 30 }), fc.integer({ min: -9, max: 9 })), { maxLength: 40 });
    fc.assert(
      fc.property(fc.array(fc.integer(), { maxLength: 12 }), changes, (first, later) => {
        const rows = [...first];
        const figures = new Figures((row) => rows[row] ?? NaN);
        figures.build(rows.length);
        for (const [row, figure] of later) {
          rows[row] = figure;
          figures.move([row]);
        }
        for (const [row, figure] of rows.entries()) if (figure !== undefined) expect(figures.at(row)).toBe(figure);
      }),
    );
  });
});

describe('an order by several keys', () => {
  const key = fc.oneof(fc.integer({ min: 0, max: 3 }), fc.constant('' as const));
  it('is that of comparing key after key, with what has no value last each way, as rows come and change', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(key, key, key), { minLength: 1, maxLength: 12 }),
        fc.tuple(fc.boolean(), fc.boolean(), fc.boolean()),
        fc.array(fc.tuple(fc.nat(14), fc.tuple(key, key, key)), { maxLength: 6 }),
        (first, downs, changes) => {
          const rows = [...first];
          const order = new Order(
            downs.map((down, place) => ({ keyOf: (row) => rows[row]?.[place] ?? '', down })),
            byRow,
          );
          order.build(rows.length);
          for (const [at, keys] of changes) {
            const row = Math.min(at, rows.length);
            rows[row] = keys;
            order.move([row]);
          }
          const plainly = rows
            .map((_, row) => row)
            .sort((a, b) => {
              for (const [place, down] of downs.entries()) {
                const [x, y] = [rows[a]?.[place] ?? '', rows[b]?.[place] ?? ''];
                if (x === y) continue;
                if (x === '' || y === '') return x === '' ? 1 : -1;
                return down ? Number(y) - Number(x) : Number(x) - Number(y);
              }
              return a - b;
            });
          expect([...order.rows]).toEqual(plainly);
        },
      ),
    );
  });
});

describe('grouped', () => {
  it('puts rows together, keeps their order, adds up, and leaves what has no key for last', () => {
    const keys = ['NV', '', 'CA', 'NV', 'CA'];
    const { rows, groups } = grouped(
      [4, 3, 2, 1, 0],
      (row) => keys[row] ?? '',
      (inside) => inside.reduce((sum, row) => sum + row * 100, 0),
    );
    expect(rows).toEqual([4, 2, 3, 0, 1]);
    expect(groups).toEqual([
      { key: 'CA', count: 2, sum: 600 },
      { key: 'NV', count: 2, sum: 300 },
      { key: '', count: 1, sum: 100 },
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

describe('a mark', () => {
  const marks = fc.array(
    fc.record({
      group: fc.constant(null),
      keys: fc.tuple(
        fc.oneof(fc.integer({ min: -2, max: 2 }), fc.constantFrom(-Infinity, Infinity)),
        fc.constantFrom('', 'x', 'y'),
      ),
      name: fc.constantFrom('', 'a', 'b'),
    }),
    { maxLength: 20 },
  );

  it('is read as it was written, infinite keys too', () => {
    for (const mark of [
      { group: null, keys: [-Infinity], name: 'a', id: 1 },
      { group: 'n1', keys: ['n1', 3], name: '', id: 2 },
      { group: 0, keys: ['', '', 'x'], name: 'ß', id: 3 },
    ])
      expect(readMark(writeMark(mark))).toEqual(mark);
    for (const text of ['', '[]', '{}', '[null,null,"a",1]', '[null,"n1",2,1]', '[null,"n1","a","1"]', '["x"'])
      expect(readMark(text)).toBeNull();
  });

  it('goes on after what came before it, whichever way, wherever its own row is by now', () => {
    fc.assert(
      fc.property(
        marks,
        fc.tuple(fc.boolean(), fc.boolean()),
        fc.nat(19),
        fc.integer({ min: -2, max: 2 }),
        (list, downs, at, key) => {
          const rows: Mark[] = list.map((mark, id) => ({ ...mark, id }));
          const sorted = (): number[] => {
            const order = new Order(
              downs.map((down, place) => ({ keyOf: (row) => rows[row]?.keys[place] ?? 0, down })),
              (a, b) =>
                (rows[a]?.name ?? '') < (rows[b]?.name ?? '') ? -1 : rows[a]?.name === rows[b]?.name ? a - b : 1,
            );
            order.build(rows.length);
            return [...order.rows];
          };
          const before = sorted();
          const ended = rows[before[at] ?? -1];
          if (!ended) return;
          const mark = { ...ended };
          const seen = new Set(before.slice(0, at + 1));
          ended.keys = [key, 'x'];
          const now = sorted();
          const rest = now.slice(placeAfter(now, mark, (row) => rows[row] as Mark, downs));
          // All but the moved row: each that was not seen comes, none that was seen comes again.
          expect(new Set(rest.filter((row) => row !== mark.id))).toEqual(
            new Set(before.filter((row) => !seen.has(row) && row !== mark.id)),
          );
        },
      ),
    );
  });
});

describe('what has no value', () => {
  it.each([false, true])('comes last, the order running down or not: %s', (down) => {
    const keys = [3, '', 1, '', 2];
    const order = new Order([{ keyOf: (row) => keys[row] ?? '', down }], byRow);
    order.build(keys.length);
    expect([...order.rows]).toEqual(down ? [0, 4, 2, 1, 3] : [2, 4, 0, 1, 3]);
  });
});

describe('bands', () => {
  it.each([
    [0, 0],
    [0.5, 0],
    [-5, -1],
    [1, 1],
    [999, 1],
    [1_000, 1_000],
    [2_499, 1_000],
    [2_500, 2_500],
    [9_999, 5_000],
    [10_000, 10_000],
    [1_234_567, 1_000_000],
  ])('%d cents lie in the band from %d', (cents, from) => expect(bandOf(cents, 100)).toBe(from));
  it('follow each other without a gap', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000_000 }), (amount) => {
        const from = bandOf(amount, 100);
        const next = bandAfter(from, 100);
        expect(amount).toBeGreaterThanOrEqual(from);
        if (next !== null) expect(amount).toBeLessThan(next);
      }),
    );
  });
});

describe('a sort that is asked for', () => {
  it('names what it is by, the first counting most', () =>
    expect(readSorts('state,-lifetime')).toEqual([
      { by: 'state', down: false },
      { by: 'lifetime', down: true },
    ]));

  it('orders whole rows, without a value last whichever way, equal ones by the tie', () => {
    const rows = [
      { id: 1, town: 'b', cents: 5 },
      { id: 2, town: '', cents: 9 },
      { id: 3, town: 'a', cents: 5 },
      { id: 4, town: 'b', cents: 7 },
      { id: 5, town: 'b', cents: 5 },
    ];
    const ids = (...by: [(row: (typeof rows)[number]) => SortKey, boolean][]): number[] =>
      rows
        .toSorted(
          byKeys(
            by.map(([keyOf, down]) => ({ keyOf, down })),
            (a, b) => a.id - b.id,
          ),
        )
        .map(({ id }) => id);
    expect(ids([(row) => row.town, false], [(row) => row.cents, true])).toEqual([3, 4, 1, 5, 2]);
    expect(ids([(row) => row.town, true])).toEqual([1, 4, 5, 3, 2]);
    expect(ids()).toEqual([1, 2, 3, 4, 5]);
  });
});
