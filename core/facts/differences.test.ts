import { describe, expect, it } from 'vitest';
import { kept } from '../fields/index.ts';
import { differences, Facts, rowWith } from './index.ts';
import type { SupporterFacts } from './index.ts';

const gift = (gift: number, day: number, cents = 100) => rowWith('gifts', { gift, day, cents });
const ANA: SupporterFacts = {
  ...{ id: 7, sortName: 'finch ana', first: 'Ana', last: 'Finch', household: 30, flags: 1 },
  lists: {
    gifts: [gift(1, 10), gift(2, 20)],
    tags: [rowWith('tags', { tag: 4, source: 'hand' }), rowWith('tags', { tag: 5 })],
  },
  fields: [[2, kept('green')]],
  giftFields: [
    [3, kept('a')],
    [3, kept('b')],
  ],
};
const factsOf = (...all: SupporterFacts[]): Facts => {
  const facts = new Facts();
  for (const one of all) facts.replace(one);
  return facts;
};
/** What differs from Ana where some of her is otherwise; another stood before her, so that her words have other codes. */
const differing = (over: Partial<SupporterFacts>): string[] => {
  const other = factsOf({ id: 3, first: 'Bo', last: 'Wren', lists: { gifts: [gift(9, 5)] } }, { ...ANA, ...over });
  const found = differences(factsOf(ANA), other, 7);
  expect(differences(other, factsOf(ANA), 7)).toEqual(found);
  return found;
};

describe('what two sets of facts say differently', () => {
  it('is nothing where they say the same, whatever order rows stand in and however words are kept', () => {
    expect(differing({})).toEqual([]);
    const { tags = [] } = ANA.lists ?? {};
    expect(
      differing({
        lists: { ...ANA.lists, tags: [...tags].reverse() },
        giftFields: [...(ANA.giftFields ?? [])].reverse(),
      }),
    ).toEqual([]);
  });

  it('is a row more, less or otherwise, by its list', () => {
    expect(differing({ lists: { ...ANA.lists, gifts: [gift(1, 10)] } })).toEqual(['gifts']);
    expect(differing({ lists: { ...ANA.lists, gifts: [gift(1, 10), gift(2, 20, 101)] } })).toEqual(['gifts']);
    expect(differing({ lists: { ...ANA.lists, emails: [rowWith('emails', { address: 'a@example.org' })] } })).toEqual([
      'emails',
    ]);
    expect(differing({ lists: { gifts: ANA.lists?.gifts ?? [] } })).toEqual(['tags']);
  });

  it('is what is known once, by its name, and the values of custom fields', () => {
    expect(differing({ first: 'Anna', flags: 5, sortName: 'finch anna' })).toEqual(['flags', 'first', 'sortName']);
    expect(differing({ household: 0 })).toEqual(['household']);
    expect(differing({ fields: [[2, kept('blue')]] })).toEqual(['fields']);
    expect(differing({ fields: [] })).toEqual(['fields']);
    expect(differing({ giftFields: [[3, kept('a')]] })).toEqual(['giftFields']);
  });

  it('is a row that has fallen beyond the end of its columns', () => {
    const facts = factsOf(ANA);
    const { columns } = facts.gifts;
    for (const column of Object.values(columns)) column.values = column.values.slice(0, 1);
    expect(differences(facts, factsOf(ANA), 7)).toEqual(['gifts']);
  });

  it('is gifts that do not stand in the order of their days', () => {
    const facts = factsOf({ ...ANA, lists: { tags: ANA.lists?.tags ?? [] } });
    facts.gifts.replace(facts.slotOf(7), [gift(2, 20), gift(1, 10)]);
    expect(differences(facts, factsOf(ANA), 7)).toEqual(['gifts']);
  });

  it('is all that is left of somebody who is no more', () => {
    const gone = factsOf(ANA);
    gone.remove(7);
    expect(differences(gone, new Facts(), 7)).toEqual([]);
    expect(differences(new Facts(), gone, 7)).toEqual([]);
    expect(differences(new Facts(), new Facts(), 7)).toEqual([]);
    expect(differences(new Facts(), factsOf(ANA), 7)).toEqual(['flags', 'gifts', 'tags', 'fields', 'giftFields']);
  });
});
