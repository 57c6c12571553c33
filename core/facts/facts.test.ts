import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Column, Dictionary, Facts, FLAG, NO_OWNER, Ragged, rowWith } from './index.ts';
import type { SupporterFacts } from './index.ts';
import { kept } from '../fields/index.ts';

const ragged = () => new Ragged({ value: new Column(new Int32Array(2)) });
const rowsOf = (list: ReturnType<typeof ragged>, owner: number): number[] => {
  const from = list.start[owner] ?? 0;
  return [...list.columns.value.values.subarray(from, from + (list.count[owner] ?? 0))];
};

describe('Ragged', () => {
  it('agrees with a plain map through any replacing, packing included, and knows who has rows, and whose each is', () => {
    const values = fc.array(fc.integer({ min: -1000, max: 1000 }), { maxLength: 60 });
    const steps = fc.array(fc.tuple(fc.nat(40), values, fc.boolean()), { maxLength: 120 });
    fc.assert(
      fc.property(steps, (replacements) => {
        const list = ragged();
        const model = new Map<number, number[]>();
        for (const [owner, values, trims] of replacements) {
          list.replace(
            owner,
            values.map((value) => ({ value })),
          );
          model.set(owner, values);
          if (trims) list.trim();
          const some = [...model].flatMap(([one, its]) => (its.length > 0 ? one : [])).sort((a, b) => a - b);
          expect([...list.owners()]).toEqual(some);
          const whose = [...list.whose()].flatMap((one, row) =>
            one === NO_OWNER ? [] : `${one}: ${list.columns.value.values[row]}`,
          );
          const owned = [...model].flatMap(([one, its]) => its.map((value) => `${one}: ${value}`));
          expect(whose.sort()).toEqual(owned.sort());
        }
        for (const [owner, values] of model) expect(rowsOf(list, owner)).toEqual(values);
      }),
      { numRuns: 60 },
    );
  });

  it('does not grow without bound when one owner changes for ever', () => {
    const list = ragged();
    for (let time = 0; time < 20_000; time++) list.replace(time % 3, [{ value: time }, { value: -time }]);
    expect(list.length).toBeLessThan(3000);
    expect(rowsOf(list, 19_999 % 3)).toEqual([19_999, -19_999]);
  });

  it('loses no row that comes after it was trimmed, however many there were', () => {
    for (let many = 0; many < 300; many++) {
      const list = ragged();
      list.replace(
        0,
        Array.from({ length: many }, (_, value) => ({ value })),
      );
      list.trim();
      // One after another, past the room that there was.
      for (let more = 1; more <= 40; more++) list.replace(more, [{ value: -more }]);
      expect(rowsOf(list, 0)).toEqual(Array.from({ length: many }, (_, at) => at));
      expect(Array.from({ length: 40 }, (_, at) => rowsOf(list, at + 1)[0])).toEqual(
        Array.from({ length: 40 }, (_, at) => -at - 1),
      );
    }
  });
});

describe('Dictionary', () => {
  it('gives every word one code and knows what it has not seen', () => {
    const words = new Dictionary();
    expect([words.code('NV'), words.code('CA'), words.code('NV'), words.code('')]).toEqual([1, 2, 1, 0]);
    expect(words.find('CA')).toBe(2);
    expect(words.find('OR')).toBe(-1);
  });
});

describe('Facts', () => {
  const gift = (day: number, cents: number) => rowWith('gifts', { day, cents, fund: 1 });
  const tag = (id: number) => rowWith('tags', { tag: id });

  const someone = (over: Partial<SupporterFacts>): SupporterFacts => ({
    id: 7,
    lists: { gifts: [gift(1, 100)] },
    ...over,
  });

  it('knows who shares a home, through moving in, out and away', () => {
    const facts = new Facts();
    facts.replace(someone({ id: 1, household: 1 }));
    facts.replace(someone({ id: 2, household: 1 }));
    facts.replace(someone({ id: 3 }));
    const home = (id: number) => [...facts.homeOf(facts.slotOf(id))].map((slot) => facts.ids[slot]).sort();
    expect([home(1), home(2), home(3)]).toEqual([[1, 2], [1, 2], [3]]);
    facts.replace(someone({ id: 3, household: 1 }));
    facts.replace(someone({ id: 2 }));
    expect([home(1), home(2)]).toEqual([[1, 3], [2]]);
    facts.remove(3);
    expect(home(1)).toEqual([1]);
  });

  it('keeps the values of custom fields in step', () => {
    const facts = new Facts();
    facts.replace(
      someone({
        fields: [
          [4, kept('Pulsar')],
          [5, kept('12')],
        ],
      }),
    );
    const slot = facts.slotOf(7);
    facts.replace(someone({ fields: [[5, kept('13')]] }));
    expect([facts.fields.get(4)?.get(slot), facts.fields.get(5)?.get(slot)]).toEqual([undefined, '13']);
    facts.remove(7);
    expect(facts.fields.get(5)?.get(slot)).toBeUndefined();
  });

  it('keeps a supporter in its slot while everything about it changes', () => {
    const facts = new Facts();
    for (let id = 10_001; id < 10_101; id++)
      facts.replace(someone({ id, region: 'NV', lists: { tags: [tag(1)], gifts: [gift(id, id)] } }));
    const slot = facts.slotOf(10_050);
    facts.replace(
      someone({
        ...{ id: 10_050, kind: 2, region: 'CA', flags: 1 },
        lists: { tags: [tag(2), tag(3)], gifts: [gift(1, 5), gift(2, 6)] },
      }),
    );
    expect(facts.slotOf(10_050)).toBe(slot);
    expect(facts.size).toBe(100);
    expect(facts.people.region.at(slot)).toBe('CA');
    expect(facts.gifts.count[slot]).toBe(2);
    expect(facts.gifts.columns.cents.values[(facts.gifts.start[slot] ?? 0) + 1]).toBe(6);
    expect(facts.gifts.count[facts.slotOf(10_051)]).toBe(1);
  });

  it('takes a removed supporter out of every answer, and back in', () => {
    const facts = new Facts();
    facts.replace(someone({}));
    facts.remove(7);
    facts.remove(8);
    expect((facts.people.flags.values[facts.slotOf(7)] ?? 0) & FLAG.trashed).toBe(FLAG.trashed);
    expect(facts.gifts.count[facts.slotOf(7)]).toBe(0);
    facts.replace(someone({}));
    expect(facts.gifts.count[facts.slotOf(7)]).toBe(1);
    expect(facts.slotOf(8)).toBe(-1);
    expect(facts.slotOf(4_000_000)).toBe(-1);
  });

  it('gives back the room that loading took, and still grows afterwards', () => {
    const facts = new Facts();
    const many = Array.from({ length: 300 }, (_, at) => gift(at, at));
    facts.replace(someone({ lists: { gifts: many } }));
    const before = facts.bytes;
    facts.trim();
    expect(facts.bytes).toBeLessThan(before);
    facts.replace(someone({ id: 8, lists: { gifts: many } }));
    const { start, columns } = facts.gifts;
    expect(columns.cents.values[(start[facts.slotOf(8)] ?? 0) + 299]).toBe(299);
    expect(columns.cents.values[(start[facts.slotOf(7)] ?? 0) + 299]).toBe(299);
  });

  it('holds words, and knows none of what is nowhere', () => {
    const facts = new Facts();
    facts.replace(someone({ first: 'Ana', lists: { emails: [rowWith('emails', { address: 'ana@example.org' })] } }));
    const slot = facts.slotOf(7);
    const { emails } = facts.lists;
    expect([facts.people.first.at(slot), emails.columns.address.at(emails.start[slot] ?? 0)]).toEqual([
      'Ana',
      'ana@example.org',
    ]);
    expect(facts.people.last.at(slot)).toBe('');
    facts.update(slot, { city: 'Tansy Creek', mailable: 1 });
    expect([facts.people.city.at(slot), facts.people.first.at(slot)]).toEqual(['Tansy Creek', 'Ana']);
  });
});
