import { beforeEach, describe, expect, it } from 'vitest';
import { agreeInMore, ALIKE, AlikeIndex, asKnown, groupsOf, REASONS, reasonsOf, surnameOf } from './index.ts';
import type { Known, Pair, ReasonField } from './index.ts';

/* Which records look alike, why, and which do not: a couple, a parent and a child, neighbours, namesakes. */

let made = 0;
const person = (name: string, over: Partial<Known> = {}): Known => {
  const [first = '', ...last] = name.split(' ');
  return {
    ...{
      id: ++made,
      kind: 'person',
      first,
      last: last.join(' '),
      middle: '',
      suffix: '',
      nickname: '',
      formerLast: '',
    },
    ...{ organization: '', emails: [], phones: [], addresses: [], birthday: '', outside: [] },
    ...over,
  };
};
const firm = (organization: string, over: Partial<Known> = {}): Known =>
  person('', { ...over, kind: 'organization', organization });
const at = (street: string, postal = '89801', city = 'Elko') => ({ addresses: [{ street, postal, city }] });
const mail = (address: string) => ({ emails: [address] });
const call = (number: string) => ({ phones: [number] });

/** Many others, all different, so that names are as common as they are among donors. */
let drawn = 7;
const draw = (below: number): number => {
  drawn = (Math.imul(drawn, 1_103_515_245) + 12_345) >>> 0;
  return Math.floor((drawn / 4_294_967_296) * below);
};
const pick = (signs: string): string => signs[draw(signs.length)] ?? '';
const word = (syllables: number): string =>
  Array.from({ length: syllables }, () => pick('bdfgklmnprstvz') + pick('aeiou') + pick('lmnrst')).join('');
const FIRSTS = Array.from({ length: 80 }, () => word(2));
const CROWD = Array.from({ length: 600 }, (_, place): Known => {
  const name = `${FIRSTS[draw(FIRSTS.length)] ?? ''} ${word(3)}`;
  const street = `${100 + draw(9_000)} ${word(3)} Ln`;
  return { ...person(name, at(street, String(89_000 + draw(400)))), id: 10_000 + place };
});

let index: AlikeIndex;
beforeEach(() => {
  index = new AlikeIndex();
  for (const one of CROWD) index.put(one);
});
const search = (): void => {
  while (!index.advance(1_000));
};
/** How likely two are one, once all was looked through. */
function chanceOf(one: Known, other: Known): number {
  index.put(one);
  index.put(other);
  search();
  const found = [...index.pairs(0)].find((pair) => pair.one === one.id && pair.other === other.id);
  return found?.chance ?? 0;
}

describe('one, written twice', () => {
  it.each<[string, Known, Known]>([
    [
      'a nickname at the same address',
      person('Robert Quane', at('4 Lyra Road')),
      person('Bob Quane', at('4 Lyra Rd.')),
    ],
    [
      'a slip in the last name',
      person('Imogen Thackeray', at('9 Mira Ct')),
      person('Imogen Thackrey', at('9 Mira Ct')),
    ],
    ['swapped names', person('Odalys Verne', mail('ov@x.org')), person('Verne Odalys', mail('ov@x.org'))],
    [
      'an initial',
      person('Petra Lomas', { ...mail('p@x.org'), ...call('775-555-0110') }),
      person('P. Lomas', { ...mail('P@X.org'), ...call('(775) 555-0110') }),
    ],
    [
      'a former last name',
      person('Sana Ilves', mail('s@x.org')),
      person('Sana Brandt', { ...mail('s@x.org'), formerLast: 'Ilves' }),
    ],
    ['a last name with another', person('Cora Ruiz', mail('c@x.org')), person('Cora Ruiz-Webb', mail('c@x.org'))],
    ['an accent and capitals', person('Renée Ibáñez', at('2 Vega St')), person('RENEE IBANEZ', at('2 VEGA STREET'))],
    [
      'moved, same e-mail',
      person('Tomas Grady', { ...mail('tg@x.org'), ...at('1 A St') }),
      person('Tomas Grady', { ...mail('tg@x.org'), ...at('8 B Ave', '97201', 'Portland') }),
    ],
    ['a tag in the mailbox', person('Yara Pohl', mail('yara+gifts@x.org')), person('Yara Pohl', mail('Yara@x.org'))],
    ['dots in the mailbox', person('Yara Pohl', mail('ya.ra@gmail.com')), person('Yara Pohl', mail('yara@gmail.com'))],
    [
      'a telephone without area code',
      person('Hugo Bell', { ...call('555-0142'), ...at('3 C St') }),
      person('Hugo Bell', call('(775) 555-0142')),
    ],
    [
      'the same number elsewhere',
      person('Lia Moss', { outside: ['portal|77'] }),
      person('Lia Moss', { outside: ['portal|77'] }),
    ],
    [
      'an organization without its legal form',
      firm('The Larkspur Bakery LLC', at('5 Main St')),
      firm('Larkspur Bakery', at('5 Main Street')),
    ],
  ])('%s', (_what, one, other) => expect(chanceOf(one, other)).toBeGreaterThan(ALIKE));
});

describe('two', () => {
  it.each<[string, Known, Known]>([
    [
      'a couple, with all they share',
      person('Ruth Farr', { ...at('4 Lyra Rd'), ...call('775-555-0110'), ...mail('farrs@x.org') }),
      person('Owen Farr', { ...at('4 Lyra Rd'), ...call('775-555-0110'), ...mail('farrs@x.org') }),
    ],
    [
      'a parent and a child of one name',
      person('Owen Farr', { ...at('4 Lyra Rd'), suffix: 'Sr.', birthday: '1950-01-01' }),
      person('Owen Farr', { ...at('4 Lyra Rd'), suffix: 'Jr.', birthday: '1980-06-01' }),
    ],
    [
      'neighbours in one house',
      person('Ada Voss', at('10 Rigel Ave Apt 1')),
      person('Ben Croft', at('10 Rigel Ave Apt 2')),
    ],
    [
      'quite another birthday',
      person('Ada Voss', { ...at('1 A St'), birthday: '1950-01-01' }),
      person('Ada Voss', { ...at('9 Z St', '97201', 'Portland'), birthday: '1988-07-09' }),
    ],
    [
      'a person and a firm of one name',
      person('Larkspur Bakery', at('5 Main St')),
      firm('Larkspur Bakery', at('5 Main St')),
    ],
    ['two firms in one house', firm('Larkspur Bakery', at('5 Main St')), firm('Elko Printing', at('5 Main St'))],
  ])('%s', (_what, one, other) => expect(chanceOf(one, other)).toBeLessThan(0.5));

  it('of a common name, who have nothing else in common; of a rare name they may be one', () => {
    for (let place = 0; place < 40; place++)
      index.put(person('Mary Smith', at(`${place + 1} Deneb Dr`, String(80_000 + place), `Town ${place}`)));
    const [one, other] = [
      person('Mary Smith', at('7 X St', '11111', 'Far')),
      person('Mary Smith', at('8 Y St', '22222', 'Near')),
    ];
    expect(chanceOf(one, other)).toBeLessThan(0.5);
    const [rare, again] = [
      person('Zephyrine Quill', at('7 X St', '11111', 'Far')),
      person('Zephyrine Quill', mail('z@x.org')),
    ];
    expect(chanceOf(rare, again)).toBeGreaterThan(0.5);
  });
});

describe('a search', () => {
  it('says how far it is, compares each pair once, and knows at once of what comes, changes and goes', () => {
    expect(index.progress).toBeNull();
    const [one, other] = [person('Robert Quane', at('4 Lyra Rd')), person('Bob Quane', at('4 Lyra Rd'))];
    index.put(one);
    search();
    expect(index.progress).toEqual({ done: 601, of: 601 });
    expect([...index.pairs()]).toEqual([]);
    index.put(other);
    expect(index.progress).toEqual({ done: 601, of: 602 });
    search();
    expect([...index.pairs()].map(({ one: a, other: b }) => [a, b])).toEqual([[one.id, other.id]]);
    index.put({ ...other, first: 'Sana', last: 'Ilves', addresses: [] });
    search();
    expect([...index.pairs()]).toEqual([]);
    index.put(other);
    search();
    index.remove(one.id);
    expect([...index.pairs()]).toEqual([]);
    expect(index.size).toBe(601);
  });

  it('finds who a draft is like, the likeliest first, before anything was searched', () => {
    index.put(person('Robert Quane', { ...at('4 Lyra Rd'), ...call('775-555-0142') }));
    const [found] = index.like({ ...person('Bob Quane', call('7755550142')), id: 0 }, 5);
    expect(found?.id).toBe(made - 1);
    expect(index.like({ ...person('Nobody Known'), id: 0 }, 5)).toEqual([]);
  });
});

describe('groups', () => {
  const pair = (one: number, other: number, chance: number): Pair => ({ one, other, chance });
  it('join what is linked, the likeliest first, unless two of them are apart', () => {
    const links = [pair(1, 2, 0.9), pair(2, 3, 0.95), pair(4, 5, 0.99)];
    const never = () => false;
    const surely = () => 1;
    expect(groupsOf(links, never, surely)).toEqual([
      { ids: [4, 5], chance: 0.99 },
      { ids: [1, 2, 3], chance: 0.9 },
    ]);
    const apart = (one: number, other: number) => [one, other].sort().join() === '1,3';
    expect(groupsOf(links, apart, surely).map(({ ids }) => ids)).toEqual([
      [4, 5],
      [2, 3],
    ]);
    // Nor a chain of likenesses whose ends are not alike.
    const unlike = (one: number, other: number) => ([one, other].sort().join() === '1,3' ? 0 : 1);
    expect(groupsOf(links, never, unlike).map(({ ids }) => ids)).toEqual([
      [4, 5],
      [2, 3],
    ]);
    expect(groupsOf([], never, surely)).toEqual([]);
  });

  it('by rule: exactly, nearly and by first letters; who lacks a field is in none', () => {
    const [a, b, c] = [
      person('Robert Quane', { ...at('4 Lyra Rd Apt 1'), birthday: '1960-02-01' }),
      person('Bob Quane', { ...at('4 Lyra Rd Apt 2'), birthday: '1975-02-01' }),
      person('Rob Quandt'),
    ];
    for (const one of [a, b, c]) index.put(one);
    const by = (
      ...parts: { field: 'first' | 'last' | 'street' | 'birthday'; how?: 'nearly' | 'letters'; letters?: number }[]
    ) =>
      index
        .byRule(
          parts.map(({ field, how = 'exactly' as const, letters = 3 }) => ({ field, how, letters })),
          () => false,
        )
        .groups.map(({ ids }) => ids)
        .filter((ids) => ids.includes(a.id) || ids.includes(b.id) || ids.includes(c.id));
    expect(by({ field: 'last' })).toEqual([[a.id, b.id]]);
    expect(by({ field: 'last', how: 'letters' })).toEqual([[a.id, b.id, c.id]]);
    expect(by({ field: 'last' }, { field: 'first' })).toEqual([]);
    expect(by({ field: 'last' }, { field: 'first', how: 'nearly' })).toEqual([[a.id, b.id]]);
    expect(by({ field: 'street' })).toEqual([]);
    expect(by({ field: 'street', how: 'nearly' })).toEqual([[a.id, b.id]]);
    expect(by({ field: 'birthday' })).toEqual([]);
    expect(by({ field: 'birthday', how: 'nearly' })).toEqual([[a.id, b.id]]);
    expect(by()).toEqual([]);
    // Half of all have a ZIP that begins so; that they are left out is told.
    const loose = index.byRule([{ field: 'postal', how: 'letters', letters: 2 }], () => false);
    expect(loose.tooLarge).toBeGreaterThan(0);
  });
});

it.each<[Known, Known, string[]]>([
  [
    person('Robert Quane', { ...at('4 Lyra Rd'), ...mail('r@x.org') }),
    person('Bob Quane', { ...at('4 Lyra Rd'), ...mail('b@x.org') }),
    ['same last name and address', 'first names Robert and Bob', 'e-mail differs'],
  ],
  [person('Ada Voss', call('775-555-0110')), person('Ada Voss', call('7755550110')), ['same name and telephone']],
  [person('Odalys Verne'), person('Verne Odalys'), ['first and last name swapped']],
  [
    person('Ada Voss', at('1 A St Apt 2')),
    person('Ada Foss', at('1 A St')),
    ['same first name', 'last names Voss and Foss', 'same house, another unit'],
  ],
  [
    person('Ada Voss', { birthday: '1950-01-02', suffix: 'Sr.' }),
    person('Ada Voss', { birthday: '--01-02', suffix: 'Jr.' }),
    ['same name', 'same day of birth, without the year', 'one suffix is not the other'],
  ],
  [firm('Larkspur Bakery LLC'), firm('Larkspur Bakery'), ['same name']],
])('reasons: %#', (one, other, reasons) => expect(reasonsOf(one, other)).toEqual(reasons));

describe('in what two agree', () => {
  const voss = (over: Partial<Known>): Known => person('Ada Voss', over);
  it.each<[Known, Known, ReasonField[]]>([
    [voss(call('775-555-0110')), voss(call('7755550110')), ['name', 'phone']],
    [voss(call('555-0110')), voss(call('775-555-0110')), ['name']],
    [voss(at('4 Lyra Rd')), person('Ida Voss', at('4 Lyra Road')), ['street']],
    [voss(at('4 Lyra Rd')), voss(at('4 Lyra Rd Apt 2')), ['name']],
    [voss(mail('a.d.a@gmail.com')), voss({ birthday: '1950-01-02' }), ['name']],
    [voss({ birthday: '1950-01-02' }), person('Eva Moss', { birthday: '1950-01-02' }), ['birthday']],
    [voss({ outside: ['Fair|7'] }), person('Eva Moss', { outside: ['Fair|7'] }), ['outside']],
    [firm('Larkspur Bakery LLC'), firm('Larkspur Bakery'), ['name']],
    [person('Ada Voss'), firm('Ada Voss'), []],
  ])('%#', (one, other, wanted) => {
    const index = new AlikeIndex();
    index.put(one);
    index.put(other);
    const ids = [one.id, other.id];
    const found = (Object.keys(REASONS) as ReasonField[]).filter((reason) => index.someAgree(ids, reason));
    expect(found).toEqual(wanted);
    expect((Object.keys(REASONS) as ReasonField[]).some((reason) => index.someAgree([one.id], reason))).toBe(false);
  });

  it.each<[Known, Known, boolean]>([
    [voss({}), voss({}), false],
    [voss(call('555-0110')), voss(call('775-555-0110')), true],
    [voss(at('4 Lyra Rd')), voss(at('4 Lyra Rd Apt 2')), true],
    [voss(at('4 Lyra Rd')), voss(at('90 Orion St')), false],
    [voss(mail('ada@x.org')), person('Eva Moss', mail('ADA@x.org')), true],
    [voss({ birthday: '1950-01-02' }), voss({ birthday: '1950-01-02' }), false],
  ])('in more than a name: %#', (one, other, more) => expect(agreeInMore(one, other)).toBe(more));

  it('somebody who is no record yet is compared as one that says no more', () => {
    const {
      id: _id,
      middle: _middle,
      suffix: _suffix,
      birthday: _birthday,
      outside: _outside,
      ...typed
    } = voss(call('775-555-0110'));
    expect(reasonsOf(asKnown(typed), voss(call('775-555-0110')))).toEqual(['same name and telephone']);
  });
});

it('tells who has a surname: the last name, the whole one of those who have none, and that of a firm', () => {
  const [ada, bo] = [person('Ada Oʼ Lind'), person('Bo Lind-Marr')];
  const cher = person('Cher');
  const lind = firm('Lind & Sons');
  const eva = person('Eva LIND-MARR');
  for (const one of [ada, bo, cher, lind, eva]) index.put(one);
  const named = (name: string) => [...index.named(surnameOf({ ...person(''), ...{ last: name } }))];
  expect(named('Lind-Marr')).toEqual([bo.id, eva.id]);
  expect(named('Cher')).toEqual([cher.id]);
  expect(index.named(surnameOf(lind))).toEqual([lind.id]);
  expect(named('Lind')).toEqual([]);
  index.remove(bo.id);
  index.put({ ...eva, last: 'Lind' });
  expect([named('Lind-Marr'), named('Lind')]).toEqual([[], [eva.id]]);
});
