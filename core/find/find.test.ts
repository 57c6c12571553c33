import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wordsOf } from '../names/index.ts';
import { FindIndex, foundBy } from './index.ts';
import type { Findable } from './index.ts';

const index = (entries: readonly Findable[]): FindIndex => {
  const made = new FindIndex();
  for (const entry of entries) made.put(entry);
  return made;
};
type Kind = Findable['kind'];
const person = (entry: Omit<Findable, 'kind'>): Findable => ({ ...entry, kind: 'person' });
const find = (made: FindIndex, text: string, limit: number): number[] => made.find({ text, from: 0, limit }).ids;
const PEOPLE: Findable[] = [
  {
    id: 10_001,
    kind: 'person',
    name: 'Dr. Ana-María de la Cruz',
    emails: ['ana@example.org'],
    phones: ['(775) 555-0142'],
  },
  {
    id: 10_002,
    kind: 'person',
    name: 'Anatole Cruz',
    emails: ['anatole.cruz@example.com', 'second@example.net'],
    phones: [],
  },
  { id: 10_003, kind: 'organization', name: 'Cruz Bakery', emails: [], phones: ['+1 775 555 0199'] },
  { id: 10_004, kind: 'person', name: "Fiona O'Halloran", emails: ['fiona@example.org'], phones: ['555-0142'] },
];

describe('FindIndex', () => {
  const people = index(PEOPLE);
  it.each([
    ['cruz', [10_002, 10_003, 10_001]],
    ['cruz ana', [10_001, 10_002]],
    ['ANA MARIA', [10_001]],
    ['ohall', [10_004]],
    ["o'halloran", [10_004]],
    ['S-10003', [10_003]],
    ['s10003', [10_003]],
    ['s 10003', [10_003]],
    ['bakery s-10003', [10_003]],
    ['cruz s-10004', []],
    // A letter alone is no number: whoever types it is after a name or an address.
    ['s', [10_002]],
    ['10003', [10_003]],
    ['ana@example.org', [10_001]],
    ['anatole.cruz@', [10_002]],
    ['second', [10_002]],
    ['0142', [10_004, 10_001]],
    ['775 555 0199', [10_003]],
    ['5550142', [10_004, 10_001]],
    ['cruz 0142', [10_001]],
    ['0199 bakery', [10_003]],
    ['0004', [10_004]],
    ['0003', [10_003]],
    ['003', []],
    ['nobody', []],
    ['cruz nobody', []],
    ['', []],
    ['  - ', []],
  ])('finds %j', (query, expected) => {
    const found = find(people, query, 10);
    expect([...found].sort()).toEqual([...expected].sort());
  });

  it('puts whole words before beginnings', () => {
    expect(find(people, 'ana', 10)[0]).toBe(10_001);
    const rooks = index([1, 2].map((id) => person({ id, name: id === 1 ? 'Rooker' : 'Rook', emails: [], phones: [] })));
    expect(find(rooks, 'rook', 5)).toEqual([2, 1]);
  });

  it('counts everyone who matches and gives them page by page, by kind too', () => {
    const many = index(
      Array.from({ length: 900 }, (_, id) => ({
        id: id + 1,
        kind: id % 3 === 0 ? ('organization' as const) : ('person' as const),
        name: `Ana ${String((id * 7919) % 900).padStart(3, '0')}`,
        emails: [],
        phones: [],
      })),
    );
    const whole = many.find({ text: 'an', from: 0, limit: 1000 });
    expect([whole.total, whole.ids.length]).toEqual([900, 900]);
    const pages = [0, 40, 80].flatMap((from) => many.find({ text: 'an', from, limit: 40 }).ids);
    expect(pages).toEqual(whole.ids.slice(0, 120));
    const firms = many.find({ text: 'an', kind: 'organization', from: 0, limit: 10 });
    expect([firms.total, firms.ids.every((id) => (id - 1) % 3 === 0)]).toEqual([300, true]);
  });

  it.each(['李小龍', '李 小龍', '小龍 李', '小龍', '李'])('finds a name without spaces by %s', (query) => {
    const made = index([person({ id: 7, name: 'Dr. 李小龍', emails: [], phones: [] })]);
    expect(find(made, query, 5)).toEqual([7]);
    expect(foundBy(person({ id: 7, name: 'Dr. 李小龍', emails: [], phones: [] }), query)).toBeNull();
  });

  it('finds nicknames, former names, streets, and puts names before them', () => {
    const made = index([
      person({
        id: 1,
        name: 'Ana Quill',
        otherNames: [
          { by: 'nickname', text: 'Anita' },
          { by: 'former name', text: 'Rookwood' },
        ],
        emails: [],
        phones: [],
        details: [{ by: 'street', text: '434 Lyra St' }],
      }),
      person({ id: 2, name: 'Lyra Farr', emails: [], phones: [] }),
    ]);
    expect(find(made, 'anita rookw', 5)).toEqual([1]);
    expect(find(made, '434 lyra', 5)).toEqual([1]);
    expect(find(made, 'lyra', 5)).toEqual([2, 1]);
  });

  it('finds by the number and the name of a record that was merged into it, and says so', () => {
    const entry = person({
      ...{ id: 1, name: 'Robert Quane', emails: [], phones: [] },
      details: [{ by: 'merged record', text: 'S-10777 Bob Quayle' }],
    });
    const made = index([entry, person({ id: 2, name: 'Bob Farr', emails: [], phones: [] })]);
    for (const text of ['S-10777', '10777', 'quayle bob', 'robert quayle']) expect(find(made, text, 5)).toEqual([1]);
    expect(foundBy(entry, 'S-10777')).toBe('merged record S-10777 Bob Quayle');
    expect(find(made, 'S-1077', 5)).toEqual([1]);
    expect(find(made, 'S-10778', 5)).toEqual([]);
  });

  it.each([
    ['rokwood', [1]],
    ['rookwodo', [1]],
    ['smyth', [2]],
    ['bill smith', [2]],
    ['kathrine', [3]],
    ['jo', []],
    ['yuki rookwood', []],
    ['ann rookwood', [1]],
    ['xyzzy rookwood', []],
  ])('few found: %j is taken for what is like it', (query, ids) => {
    const made = index(
      ['Anna Rookwood', 'William Smith', 'Catherine Yarrow'].map((name, at) =>
        person({ id: at + 1, name, emails: [], phones: [] }),
      ),
    );
    expect(find(made, query, 5)).toEqual(ids);
  });

  it('puts what is only like it last, and says how many there are', () => {
    const made = index(
      ['Jon Smyth', 'Jon Smith'].map((name, at) => person({ id: at + 1, name, emails: [], phones: [] })),
    );
    expect(made.find({ text: 'smith', from: 0, limit: 5 })).toEqual({ ids: [2, 1], total: 2, alike: 1 });
    const many = index(
      Array.from({ length: 9 }, (_, at) =>
        person({ id: at + 1, name: at < 5 ? 'Smith' : 'Smyth', emails: [], phones: [] }),
      ),
    );
    expect(many.find({ text: 'smith', from: 0, limit: 20 })).toMatchObject({ total: 5, alike: 0 });
  });

  it('gives no more than asked', () => expect(find(people, 'cruz', 1)).toHaveLength(1));

  it('forgets what a record was called before', () => {
    const made = index(PEOPLE);
    made.put(person({ id: 10_003, name: 'Yarrow Bakery', emails: [], phones: [] }));
    expect(find(made, 'cruz bakery', 10)).toEqual([]);
    expect(find(made, 'yarrow', 10)).toEqual([10_003]);
    expect(find(made, '0199', 10)).toEqual([]);
    made.remove(10_003);
    expect(find(made, 'yarrow', 10)).toEqual([]);
    expect(made.size).toBe(3);
  });

  it('agrees with looking through everybody, in order, whatever is expected, put, renamed and removed', () => {
    const word = fc.constantFrom('ana', 'anna', 'bo', 'bob', 'cruz', 'cruzado', 'dunmore');
    const step = fc.record({
      id: fc.integer({ min: 1, max: 30 }),
      kind: fc.constantFrom('person', 'organization'),
      name: fc.option(fc.array(word, { minLength: 1, maxLength: 3 })),
      email: fc.option(fc.constantFrom('ana@bo.org', 'cruz.bo@ana.org')),
    });
    const queries = fc.array(fc.constantFrom('a', 'an', 'ana', 'bo', 'cruz', 'd', 'org'), {
      minLength: 1,
      maxLength: 3,
    });
    const entryOf = ({
      id,
      kind,
      name,
      email,
    }: {
      id: number;
      kind: Kind;
      name: string[] | null;
      email: string | null;
    }) => ({ ...{ id, kind, name: (name ?? []).join(' '), emails: email === null ? [] : [email], phones: [] } });
    const page = fc.record({
      kind: fc.option(fc.constantFrom('person', 'organization')),
      limit: fc.nat(6),
      from: fc.nat(3),
    });
    fc.assert(
      fc.property(
        fc.array(step, { maxLength: 60 }),
        fc.nat(60),
        queries,
        page,
        fc.boolean(),
        (steps, first, query, { kind, ...place }, rests) => {
          const made = new FindIndex();
          const model = new Map<number, Findable>();
          // Those who are there when it is filled have their places by their names.
          for (const one of steps.slice(0, first).filter(({ name }) => name !== null)) model.set(one.id, entryOf(one));
          made.expect([...model.values()]);
          for (const entry of model.values()) made.put(entry);
          if (rests) made.settle();
          for (const one of steps.slice(first)) {
            if (one.name === null) {
              made.remove(one.id);
              model.delete(one.id);
            } else {
              made.put(entryOf(one));
              model.set(one.id, entryOf(one));
            }
          }
          const worth = ({ name, emails }: Findable, part: string): number => {
            const others = emails.flatMap((email) => [email, ...wordsOf(email)]);
            if (wordsOf(name).includes(part)) return 48;
            if (wordsOf(name).some((one) => one.startsWith(part))) return 46;
            return others.includes(part) ? 45 : others.some((one) => one.startsWith(part)) ? 44 : 0;
          };
          const matches = [...model.values()]
            .filter((one) => (kind === null || one.kind === kind) && query.every((part) => worth(one, part) > 0))
            .map((one) => ({ ...one, score: query.reduce((sum, part) => sum + worth(one, part), 0) }))
            .sort((a, b) => b.score - a.score || (a.name < b.name ? -1 : a.name > b.name ? 1 : a.id - b.id));
          const found = made.find({ text: query.join(' '), kind: kind ?? undefined, ...place });
          expect(found.total - found.alike).toBe(matches.length);
          // Who is merely alike comes after.
          const exact = found.ids.slice(0, Math.max(0, matches.length - place.from));
          expect(exact).toEqual(matches.slice(place.from, place.from + place.limit).map(({ id }) => id));
          expect(made.size).toBe(model.size);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('gives everybody who matches where everybody is asked for', () => {
    const made = new FindIndex();
    const many = 150_000;
    for (let id = 1; id <= many; id++) made.put(person({ id, name: 'Sol', emails: [], phones: [] }));
    made.settle();
    const { ids, total } = made.find({ text: 's', from: 0, limit: 1_000_000 });
    expect([ids.length, total, ids[0], ids.at(-1)]).toEqual([many, many, 1, many]);
  });

  it('takes any text without failing', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (text) => Array.isArray(find(people, text, 5))),
    );
  });
});

describe('streets', () => {
  const made = index(
    ['4 Lyra Rd', '5 Cobalt Lane', '6 Tansy Court', '7 Juniper Pl', '8 North Farr St'].map((text, at) =>
      person({ id: at + 1, name: `Someone ${at}`, emails: [], phones: [], details: [{ by: 'street', text }] }),
    ),
  );
  it.each([
    ['4 lyra road', 1],
    ['lyra rd.', 1],
    ['cobalt ln', 2],
    ['6 tansy ct', 3],
    ['juniper place', 4],
    ['8 n farr street', 5],
    ['north farr', 5],
  ])('%s', (text, id) => expect(find(made, text, 5)).toEqual([id]));
});

describe('foundBy', () => {
  const entry: Findable = {
    ...{
      id: 10_482,
      kind: 'organization',
      name: 'Cobalt Bakery',
      emails: ['bread@example.org'],
      phones: ['(775) 555-0142'],
    },
    otherNames: [{ by: 'nickname', text: 'The Oven' }],
    details: [
      { by: 'street', text: '4 Lyra Rd' },
      { by: 'contact', text: 'Ruth Farr' },
    ],
  };
  it.each([
    ['cobalt', null],
    ['bakery cob', null],
    ['oven', 'nickname The Oven'],
    ['lyra road', 'street 4 Lyra Rd'],
    ['farr', 'contact Ruth Farr'],
    ['cobalt farr', 'contact Ruth Farr'],
    ['bread@', 'bread@example.org'],
    ['555 0142', 'telephone (775) 555-0142'],
    ['S-10482', 'number'],
    ['kobalt', 'a likeness'],
    ['lyra farr', 'street 4 Lyra Rd, contact Ruth Farr'],
  ])('%s', (text, by) => expect(foundBy(entry, text)).toBe(by));
});
