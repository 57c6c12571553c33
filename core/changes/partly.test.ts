import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { invert, staying } from './index.ts';
import type { Reference, RowChange } from './index.ts';

const added = (table: string, id: number, row: Record<string, number | null> = {}): RowChange => ({
  ...{ table, id, before: null, after: { id, ...row } },
});
const REFERENCES: Reference[] = [
  { child: 'email', column: 'supporter_id', parent: 'supporter' },
  { child: 'gift', column: 'supporter_id', parent: 'supporter' },
  { child: 'gift', column: 'batch_id', parent: 'batch' },
  { child: 'part', column: 'gift_id', parent: 'gift' },
];
/** All that refers goes with what it refers to, but a gift does not with whoever gave it, nor with a batch that stays for another. */
const goesWith = ({ child, parent }: Reference, first: boolean): boolean =>
  !(child === 'gift' && parent === 'supporter') && (parent !== 'batch' || first);
const SET = [
  ...[added('batch', 1), added('supporter', 10), added('supporter', 11)],
  ...[added('email', 20, { supporter_id: 10 }), added('email', 21, { supporter_id: 11 })],
  ...[added('gift', 30, { supporter_id: 10, batch_id: 1 }), added('gift', 31, { supporter_id: 5, batch_id: 1 })],
  ...[added('part', 40, { gift_id: 30 }), added('part', 41, { gift_id: 31 })],
];
const stay = (...first: string[]) => [...staying(invert(SET), new Set(first), REFERENCES, goesWith)].sort();

describe('what stays of a change set that is taken back but for some rows', () => {
  it('is what they refer to, and what goes with them', () => {
    expect(stay()).toEqual([]);
    // Who was new stays with their e-mail, and without the gift.
    expect(stay('supporter 10')).toEqual(['email 20', 'supporter 10']);
    // A gift stays with its parts and its giver; one of somebody who was here before only with its parts.
    expect(stay('part 40')).toEqual(['batch 1', 'email 20', 'gift 30', 'part 40', 'supporter 10']);
    expect(stay('gift 31')).toEqual(['batch 1', 'gift 31', 'part 41']);
    // All gifts of a batch stay where that was gone on with.
    expect(stay('batch 1')).toEqual(expect.arrayContaining(['gift 30', 'gift 31', 'part 41', 'supporter 10']));
    expect(stay('supporter 99', 'nothing 1')).toEqual([]);
  });

  it('never refers to a row that goes, whatever refers to what', () => {
    const rows = fc.array(
      fc.record({ table: fc.nat(3), parent: fc.option(fc.nat(19)), other: fc.option(fc.nat(19)) }),
      { ...{ minLength: 1, maxLength: 20 } },
    );
    const tables = [0, 1, 2, 3];
    const references = tables.flatMap((child) =>
      tables.map((parent): Reference => ({ child: `t${child}`, column: `c${parent}`, parent: `t${parent}` })),
    );
    fc.assert(
      fc.property(rows, fc.array(fc.nat(19), { maxLength: 4 }), fc.boolean(), (made, picked, follows) => {
        const set = made.map(({ table, parent, other }, id) => {
          const to = (at: number | null) =>
            at === null ? {} : { [`c${made[at % made.length]?.table ?? 0}`]: at % made.length };
          return added(`t${table}`, id, { ...to(parent), ...to(other) });
        });
        const keyOf = (at: number) => `t${made[at]?.table ?? 0} ${at}`;
        const first = picked.filter((at) => at < made.length).map(keyOf);
        const stays = staying(invert(set), new Set(first), references, () => follows);
        for (const key of first) expect(stays.has(key)).toBe(true);
        for (const { table, id, after } of set)
          for (const { child, column, parent } of references) {
            const to = child === table ? after?.[column] : null;
            if (typeof to !== 'number') continue;
            if (stays.has(`${table} ${id}`)) expect(stays.has(`${parent} ${to}`)).toBe(true);
            if (follows && stays.has(`${parent} ${to}`)) expect(stays.has(`${table} ${id}`)).toBe(true);
          }
      }),
    );
  });
});
