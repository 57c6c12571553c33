import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply, blockedColumns, difference, invert } from './index.ts';
import type { Row, RowChange } from './index.ts';

type Store = Map<string, Row>;
const keyOf = (change: RowChange): string => `${change.table}:${change.id}`;

/** Does a generated action to the store and answers the change that records it; null where nothing differs. */
function act(store: Store, table: string, id: number, values: Row | null): RowChange | null {
  const key = `${table}:${id}`;
  const before = store.get(key) ?? null;
  if (values === null) {
    if (before === null) return null;
    store.delete(key);
    return { table, id, before, after: null };
  }
  if (before === null) {
    store.set(key, values);
    return { table, id, before: null, after: values };
  }
  const differs = difference(before, values);
  if (!differs) return null;
  store.set(key, { ...before, ...differs.after });
  return { table, id, ...differs };
}

function put(store: Store, change: RowChange): void {
  const next = apply(store.get(keyOf(change)) ?? null, change);
  if (next === null) store.delete(keyOf(change));
  else store.set(keyOf(change), next);
}

const values = fc.record(
  { a: fc.oneof(fc.nat(3), fc.constant(null)), b: fc.constantFrom('', 'x', 'y'), c: fc.nat(2) },
  { noNullPrototype: true },
);
const actions = fc.array(
  fc.tuple(fc.constantFrom('gift', 'email'), fc.integer({ min: 1, max: 4 }), fc.option(values)),
  { maxLength: 25 },
);
const run = (store: Store, list: [string, number, Row | null][]): RowChange[] =>
  list.flatMap(([table, id, row]) => act(store, table, id, row) ?? []);

describe('a change set and its inverse', () => {
  it('restore exactly what was', () => {
    fc.assert(
      fc.property(actions, actions, (first, second) => {
        const store: Store = new Map();
        run(store, first);
        const before = structuredClone(Object.fromEntries(store));
        const changes = run(store, second);
        for (const change of invert(changes)) put(store, change);
        expect(Object.fromEntries(store)).toEqual(before);
      }),
    );
  });

  it('turned round twice are the change set again', () => {
    fc.assert(
      fc.property(actions, (list) => {
        const changes = run(new Map(), list);
        expect(invert(invert(changes))).toEqual(changes);
      }),
    );
  });
});

describe('blockedColumns', () => {
  const change: RowChange = { table: 'gift', id: 1, before: { cents: 100 }, after: { cents: 200 } };
  const [inverse] = invert([change]);
  it.each<[string, Row | null, string[]]>([
    ['nothing, when only other columns changed later', { cents: 200, note: 'new', version: 9 }, []],
    ['the column that changed again', { cents: 300 }, ['cents']],
    ['everything, when the row is gone', null, ['*']],
  ])('names %s', (_title, current, expected) => expect(inverse && blockedColumns(current, inverse)).toEqual(expected));

  it('lets an inserted row go only as it was inserted', () => {
    const [undoInsert] = invert([{ table: 'gift', id: 1, before: null, after: { cents: 5 } }]);
    expect(undoInsert && blockedColumns({ cents: 5, extra: 1 }, undoInsert)).toEqual([]);
    expect(undoInsert && blockedColumns({ cents: 6 }, undoInsert)).toEqual(['cents']);
  });

  it('lets a removed row come back only where none is', () => {
    const [undoDelete] = invert([{ table: 'gift', id: 1, before: { cents: 5 }, after: null }]);
    expect(undoDelete && blockedColumns(null, undoDelete)).toEqual([]);
    expect(undoDelete && blockedColumns({ cents: 5 }, undoDelete)).toEqual(['*']);
  });
});

describe('difference', () => {
  it('holds the columns that differ and leaves the version out', () => {
    expect(difference({ a: 1, b: 2, version: 1 }, { a: 1, b: 3, version: 2 })).toEqual({
      before: { b: 2 },
      after: { b: 3 },
    });
    expect(difference({ a: 1, version: 1 }, { a: 1, version: 2 })).toBeNull();
    expect(difference({}, { a: null })).toEqual({ before: { a: null }, after: { a: null } });
  });
});
