import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber } from '../dates/index.ts';
import type { Calendar, Window } from '../dates/index.ts';
import { FLAG, Facts, MARKS, rowWith } from '../facts/index.ts';
import type { SupporterFacts } from '../facts/index.ts';
import { kept } from '../fields/index.ts';
import { METHOD_CODES } from '../gifts/index.ts';
import { KIND_NAMES, SUPPORTER_KINDS } from '../supporters/index.ts';
import { totalOf } from '../totals/index.ts';
import {
  all,
  anyOf,
  between,
  countParts,
  during,
  evaluate,
  explain,
  gave,
  Masks,
  MEASURE_NAMES,
  measureAs,
  rows,
  stateIs,
} from './index.ts';
import type { Condition, Explanation, Group, RowsCondition, Setting, Telling, Test, Where } from './index.ts';
import { plain, TODAY } from './plain.test-support.ts';
import type { PlainSupporter, PlainWorld } from './plain.test-support.ts';

/* The same questions answered twice: on facts, and by plain code over rows. */

const calendar: Calendar = { today: TODAY, fiscalYearStart: 7 };
const own = [
  { id: 3, about: 'supporter' as const, name: 'Stars', kind: 'many' as const, choices: ['Pulsar', 'Nova'] },
  { id: 5, about: 'supporter' as const, name: 'Budget', kind: 'money' as const, choices: [] },
];
const setting: Setting = { calendar, own };
const telling: Telling = { calendar, formats: { currency: 'USD', locale: 'en-US' }, nameOf: (to, id) => `${to} ${id}` };
const REGIONS = ['NV', 'CA', 'OR', ''];
const NAMES = ['McDonald', 'Mensah', 'Ortiz', ''];

const asFacts = (who: PlainSupporter): SupporterFacts => ({
  ...{ id: who.id, sortName: who.last, kind: SUPPORTER_KINDS[who.kind].code, flags: who.trashed ? FLAG.trashed : 0 },
  ...{ region: who.region, last: who.last, household: who.home },
  birthday: who.birthday === '' ? 0 : Number(who.birthday.slice(0, 2)) * 32 + Number(who.birthday.slice(3)),
  lists: {
    gifts: who.gifts.map(({ date, method, recurring, ...gift }) =>
      rowWith('gifts', {
        ...gift,
        ...{ day: dayNumber(date), method: METHOD_CODES.indexOf(method), marks: recurring ? MARKS.recurring : 0 },
      }),
    ),
    tags: who.tags.map((tag) => rowWith('tags', tag)),
    notes: who.notes.map(({ date, kind }) => rowWith('notes', { day: dayNumber(date), kind })),
    ties: who.ties.map((tie) => rowWith('ties', tie)),
  },
  fields: [
    ...(who.stars.length === 0 ? [] : [[3, kept(JSON.stringify(who.stars))] as const]),
    ...(who.budget === null ? [] : [[5, kept(String(who.budget))] as const]),
  ],
});

function factsOf({ people }: PlainWorld): Facts {
  const facts = new Facts();
  for (const who of people) facts.replace(asFacts(who));
  return facts;
}
/** What conditions name, as facts are asked with it. */
const settingOf = ({ lists, segments }: PlainWorld): Setting => ({
  ...{ calendar, own, lists },
  segments: new Map([...segments].map(([id, match]) => [id, { match, credit: 'legal' }])),
});

const date = fc.integer({ min: dayNumber('2023-06-01'), max: dayNumber('2027-02-01') }).map(dateOfDay);
const window: fc.Arbitrary<Window> = fc.oneof(
  fc.constant<Window>({ kind: 'ever' }),
  fc.tuple(date, date).map(([a, b]): Window => ({ kind: 'between', from: a < b ? a : b, to: a < b ? b : a })),
  fc.nat(4).map((ago): Window => ({ kind: 'fiscal-year', ago })),
  fc.integer({ min: 1, max: 900 }).map((days): Window => ({ kind: 'last-days', days })),
  date.map((from): Window => ({ kind: 'since', from })),
  date.map((to): Window => ({ kind: 'until', to })),
  fc.integer({ min: -2, max: 30 }).map((ago): Window => ({ kind: 'month', ago })),
  fc.integer({ min: 0, max: 3 }).map((ago): Window => ({ kind: 'year', ago })),
);
const emptiness = fc.constantFrom<Test>({ is: 'filled' }, { is: 'empty' });
const ids = (part: string, most: number) =>
  fc.uniqueArray(fc.integer({ min: 1, max: most }), { maxLength: 3 }).map((some): Where => anyOf(part, ...some));
const inside = window.map((one): Test => ({ is: 'in', window: one }));
const bounds = (most: number): fc.Arbitrary<Test> =>
  fc.tuple(fc.option(fc.nat(most)), fc.option(fc.nat(most))).map(([low, high]) => between(low, high));
const not = fc.option(fc.boolean(), { nil: undefined }).map((on) => (on === undefined ? {} : { not: on }));
const turned = <T extends object>(arbitrary: fc.Arbitrary<T>) =>
  fc.tuple(arbitrary, not).map(([one, more]): T => ({ ...one, ...more }));

const giftWhere: fc.Arbitrary<Where> = fc.oneof(
  turned(ids('fund', 4)),
  turned(fc.subarray(['cheque', 'card']).map((some): Where => anyOf('method', ...some))),
  fc.constantFrom('1', '0').map((is): Where => anyOf('recurring', is)),
  turned(inside.map((test): Where => ({ part: 'day', test }))),
  bounds(20_000).map((test): Where => ({ part: 'cents', test })),
);
const noteWhere: fc.Arbitrary<Where> = fc.oneof(
  turned(fc.subarray(['call', 'note']).map((some): Where => anyOf('kind', ...some))),
  turned(inside.map((test): Where => ({ part: 'day', test }))),
);
const wheres = (where: fc.Arbitrary<Where>) => fc.array(where, { maxLength: 3 });

const giftRows: fc.Arbitrary<RowsCondition> = fc
  .record({
    ...{ where: wheres(giftWhere), measure: fc.constantFrom(...MEASURE_NAMES), date: fc.oneof(inside, emptiness) },
    ...{ figures: bounds(1000), against: fc.option(window), together: fc.boolean() },
    after: fc.option(fc.record({ where: wheres(noteWhere), days: fc.nat(200) })),
  })
  .map(({ date: on, figures, against, together, after, where, measure }): RowsCondition => {
    // Bounds of the size of what is measured, so that they part the supporters.
    const { type } = measureAs(measure);
    const unit = { money: 20, number: 0.004, date: 1 }[type] * (measure === 'days-since' ? 250 : 1);
    const scaled = (value: number | null): number | null => (value === null ? null : Math.round(value * unit));
    const test =
      type === 'date' || figures.is !== 'between'
        ? on.is === 'empty'
          ? ({ is: 'filled' } as const)
          : on
        : between(scaled(figures.atLeast), scaled(figures.atMost));
    return {
      ...rows('gifts', where, measure, test),
      ...(measure === 'change' && against ? { against } : {}),
      ...(together ? { together } : {}),
      ...(after ? { after: { of: 'notes', ...after } } : {}),
    };
  });
const condition: fc.Arbitrary<Condition> = turned(
  fc.oneof(
    { arbitrary: giftRows, weight: 4 },
    fc.tuple(wheres(noteWhere), bounds(3)).map(([where, test]) => rows('notes', where, 'number', test)),
    fc
      .tuple(turned(ids('tag', 5)), fc.subarray(['hand', 'intake']))
      .map(([tag, sources]) => rows('tags', [tag, ...(sources.length === 1 ? [anyOf('source', ...sources)] : [])])),
    fc
      .tuple(
        fc.constantFrom('state', 'last'),
        fc.oneof(
          emptiness,
          fc
            .tuple(
              fc.constantFrom('any-of' as const, 'contains' as const, 'begins' as const),
              fc.subarray(['nv', 'CA', 'mc', 'e', 'Ortiz', 'zz']),
            )
            .map(([is, values]): Test => ({ is, values })),
        ),
      )
      .map(([field, test]): Condition => ({ kind: 'field', field, test })),
    fc
      .subarray([...KIND_NAMES])
      .map((values): Condition => ({ kind: 'field', field: 'kind', test: { is: 'any-of', values } })),
    fc.oneof(inside, emptiness).map((test): Condition => ({ kind: 'field', field: 'birthday', test })),
    fc.oneof(bounds(2000), emptiness).map((test): Condition => ({ kind: 'field', field: 'own:5', test })),
    fc
      .oneof(
        emptiness,
        fc.subarray(['Pulsar', 'Nova']).map((values): Test => ({ is: 'any-of', values })),
      )
      .map((test): Condition => ({ kind: 'field', field: 'own:3', test })),
    fc
      .constantFrom('1', '0')
      .map((is): Condition => ({ kind: 'field', field: 'shares', test: { is: 'any-of', values: [is] } })),
    fc.nat(1).map((list): Condition => ({ kind: 'people', list })),
    fc.nat(1).map((segment): Condition => ({ kind: 'segment', segment })),
  ),
);
const joins = fc.constantFrom('all' as const, 'any' as const, 'none' as const);
const off = fc.nat(9).map((roll) => (roll === 0 ? { off: true } : {}));
const { group } = fc.letrec<{ group: Group; part: Condition | Group }>((tie) => ({
  part: fc
    .tuple(
      fc.oneof(
        { depthSize: 'small', withCrossShrink: true },
        condition,
        tie('group'),
        fc
          .record({
            by: fc.constantFrom('tie' as const, 'household' as const),
            roles: fc.subarray([2, 3, 4]),
            match: tie('group'),
          })
          .map(({ by, roles, match }): Condition => ({
            ...{ kind: 'related', by, match },
            where: by === 'tie' && roles.length > 0 ? [anyOf('role', ...roles)] : [],
          })),
      ),
      off,
    )
    .map(([part, more]) => ({ ...part, ...more })),
  group: fc.record({
    kind: fc.constant('group' as const),
    join: joins,
    parts: fc.array(tie('part'), { maxLength: 4 }),
  }),
}));
const simple = fc.record({
  kind: fc.constant('group' as const),
  join: joins,
  parts: fc.array(giftRows, { maxLength: 2 }),
});
const people: fc.Arbitrary<PlainSupporter[]> = fc
  .array(
    fc.record({
      ...{ kind: fc.constantFrom(...KIND_NAMES), region: fc.constantFrom(...REGIONS), last: fc.constantFrom(...NAMES) },
      birthday: fc.constantFrom('', '02-28', '02-29', '11-01', '12-31', '01-01', '12-05'),
      home: fc.constantFrom(0, 0, 901, 902),
      trashed: fc.nat(5).map((roll) => roll === 0),
      tags: fc.array(
        fc.record({ tag: fc.integer({ min: 1, max: 5 }), source: fc.constantFrom('hand' as const, 'intake' as const) }),
        { maxLength: 3 },
      ),
      gifts: fc.array(
        fc.record({
          ...{ date, cents: fc.integer({ min: 1, max: 20_000 }), fund: fc.integer({ min: 1, max: 4 }) },
          ...{ method: fc.constantFrom('cheque' as const, 'card' as const), recurring: fc.boolean() },
        }),
        { maxLength: 6 },
      ),
      notes: fc.array(fc.record({ date, kind: fc.constantFrom('call' as const, 'note' as const) }), { maxLength: 3 }),
      budget: fc.option(fc.nat(2000)),
      stars: fc.subarray(['Pulsar', 'Nova']),
      ties: fc.array(fc.record({ other: fc.nat(60), role: fc.constantFrom(2, 3, 4) }), { maxLength: 2 }),
    }),
    { maxLength: 60 },
  )
  .map((list) =>
    list.map((who, at) => ({
      ...{ ...who, id: at + 1 },
      ties: who.ties.map((tie) => ({ ...tie, other: (tie.other % list.length) + 1 })),
    })),
  );
const worlds: fc.Arbitrary<PlainWorld> = fc.record({
  people,
  lists: fc.tuple(fc.array(fc.nat(70)), fc.array(fc.nat(70))).map(([a, b]) => new Map([...[a, b].entries()])),
  segments: fc.tuple(simple, simple).map(([a, b]) => new Map<number, Group>([...[a, b].entries()])),
});

/** The same among so many of whom nothing is known that only those who have something are looked at. */
function crowded({ people: some, ...others }: PlainWorld): PlainWorld {
  const nothing = { kind: 'person', region: '', last: '', birthday: '', home: 0, trashed: false } as const;
  const none = { tags: [], gifts: [], notes: [], budget: null, stars: [], ties: [] };
  const crowd = Array.from({ length: 200 }, (_, at) => ({ ...nothing, ...none, id: some.length + at + 1 }));
  return { ...others, people: [...some, ...crowd] };
}

const flatten = (explanation: Explanation): Explanation[] => [
  explanation,
  ...(explanation.kind === 'group' ? explanation.parts.flatMap(flatten) : []),
];
const found = (conditions: Group, facts: Facts, known: Setting): number[] =>
  [...evaluate(conditions, facts, known)].map((slot) => facts.ids[slot] ?? 0);

describe('evaluate', () => {
  it.each([
    { among: 'as few others', as: (world: PlainWorld) => world, runs: 500 },
    { among: 'many of whom nothing is known', as: crowded, runs: 150 },
  ])('agrees with plain code over rows, for generated conditions and supporters among $among', ({ as, runs }) => {
    fc.assert(
      fc.property(worlds.map(as), group, (world, conditions) => {
        const expected = world.people.filter((who) => !who.trashed && plain(who, conditions, world));
        expect(found(conditions, factsOf(world), settingOf(world))).toEqual(expected.map(({ id }) => id));
      }),
      { numRuns: runs },
    );
  });

  it('agrees with plain code over rows for every measure', () => {
    fc.assert(
      fc.property(worlds, giftRows, (world, asked) => {
        const expected = world.people.filter((who) => !who.trashed && plain(who, asked, world));
        expect(found(all(asked), factsOf(world), settingOf(world))).toEqual(expected.map(({ id }) => id));
      }),
      { numRuns: 500 },
    );
  });

  it('counts each part as if it stood alone, and what it alone does', () => {
    fc.assert(
      fc.property(worlds, group, (world, conditions) => {
        const [facts, known] = [factsOf(world), settingOf(world)];
        const size = (one: Group): number => evaluate(one, facts, known).count();
        const count = size(conditions);
        const isOff = (at: number): boolean => conditions.parts[at]?.off === true;
        const without = { ...conditions, parts: conditions.parts.filter((one) => !one.off) };
        const rest = (at: number): number => {
          const others = conditions.parts.filter((one, other) => other !== at && !one.off);
          // Nobody is let in by a part that is taken away, and a group without parts lets everyone in.
          return conditions.join === 'any' && others.length === 0 ? 0 : size({ ...conditions, parts: others });
        };
        // A segment within has nobody of the trash, wherever it is asked.
        const trashed = world.people.filter((who) => who.trashed && plain(who, conditions, world));
        expect(countParts(conditions, facts, known)).toEqual({
          ...{ count: size(without), trashed: trashed.length },
          parts: conditions.parts.map((part) => size(all({ ...part, off: false }))),
          alone: conditions.parts.map((_, at) => (isOff(at) ? 0 : Math.abs(rest(at) - count))),
        });
      }),
    );
  });

  it('says the same of what was asked before, however questions share their parts', () => {
    fc.assert(
      fc.property(worlds, fc.array(group, { minLength: 1, maxLength: 4 }), fc.nat({ max: 6 }), (world, asked, most) => {
        const [facts, known, masks] = [factsOf(world), settingOf(world), new Masks(most)];
        const once = (one: Group) => [countParts(one, facts, known), [...evaluate(one, facts, known)]];
        const expected = asked.map(once);
        const together = all(...asked, ...asked.flatMap(({ parts }) => parts.slice(0, 2)));
        for (let time = 0; time < 2; time++)
          for (const [at, one] of asked.entries()) {
            countParts(together, facts, known, masks);
            const again = [countParts(one, facts, known, masks), [...evaluate(one, facts, known, masks)]];
            expect(again).toEqual(expected[at]);
          }
        // On another day, or with another credit, it is another question.
        const later: Setting = {
          ...known,
          calendar: { ...known.calendar, today: '2027-03-01' },
          credit: 'recognition',
        };
        for (const one of asked)
          expect([...evaluate(one, facts, later, masks)]).toEqual([...evaluate(one, facts, later)]);
      }),
      { numRuns: 200 },
    );
  });

  it('looks for nobody again of whom it is known', () => {
    const facts = new Facts();
    for (let id = 1; id <= 3; id++) facts.addSupporter(id, { region: id === 2 ? 'CA' : 'NV' });
    const masks = new Masks(2);
    const nevada = (): number => countParts(all(stateIs('NV')), facts, { calendar }, masks).count;
    expect(nevada()).toBe(2);
    facts.update(0, { region: 'CA' });
    expect(nevada()).toBe(2);
    for (const state of ['UT', 'OR']) countParts(all(stateIs(state)), facts, { calendar }, masks);
    expect(nevada()).toBe(1);
    facts.update(2, { region: 'CA' });
    masks.clear();
    expect(nevada()).toBe(0);
  });

  it('does not depend on the order in which rows stand', () => {
    fc.assert(
      fc.property(worlds, group, (world, conditions) => {
        const turnedRound = world.people.map((who) => ({
          ...{ ...who, gifts: who.gifts.toReversed(), notes: who.notes.toReversed() },
          ...{ tags: who.tags.toReversed(), ties: who.ties.toReversed() },
        }));
        const known = settingOf(world);
        expect(found(conditions, factsOf({ ...world, people: turnedRound }), known)).toEqual(
          found(conditions, factsOf(world), known),
        );
      }),
    );
  });

  it('is the same after supporters were replaced one by one', () => {
    fc.assert(
      fc.property(worlds, worlds, group, (before, after, conditions) => {
        const facts = factsOf(before);
        for (const who of before.people.slice(after.people.length)) facts.remove(who.id);
        for (const who of after.people) facts.replace(asFacts(who));
        const sorted = (source: Facts) => found(conditions, source, settingOf(after)).sort((a, b) => a - b);
        expect(sorted(facts)).toEqual(sorted(factsOf(after)));
      }),
    );
  });
});

describe('explain', () => {
  it('says of every supporter what evaluate says', () => {
    fc.assert(
      fc.property(worlds, group, (world, conditions) => {
        const [facts, known] = [factsOf(world), settingOf(world)];
        const bits = evaluate(conditions, facts, known);
        for (const who of world.people.filter((one) => !one.trashed)) {
          const slot = facts.slotOf(who.id);
          expect(explain(conditions, facts, slot, { ...known, telling }).matches).toBe(bits.has(slot));
        }
      }),
    );
  });

  it('shows the value that each condition saw', () => {
    const who: PlainSupporter = {
      ...{ id: 1, kind: 'household', region: 'NV', last: 'Ortiz', birthday: '03-14', home: 9, trashed: false },
      ...{
        tags: [{ tag: 2, source: 'hand' }],
        budget: 125_000,
        stars: ['Pulsar', 'Nova'],
        ties: [{ other: 2, role: 4 }],
      },
      gifts: [
        { date: '2026-08-01', cents: 12_345, fund: 1, method: 'card', recurring: false },
        { date: '2025-08-01', cents: 500, fund: 2, method: 'cheque', recurring: true },
      ],
      notes: [],
    };
    const other = { ...who, id: 2, last: 'Mensah', home: 0, gifts: [], ties: [], tags: [] };
    const world = { people: [who, other], lists: new Map([[1, [1]]]), segments: new Map([[1, all(gave())]]) };
    const field = (name: string, test: Test): Condition => ({ kind: 'field', field: name, test });
    const conditions = all(
      field('state', { is: 'any-of', values: ['CA'] }),
      field('birthday', { is: 'in', window: { kind: 'month', ago: 0 } }),
      field('own:3', { is: 'any-of', values: ['Nova'] }),
      field('own:5', between(100_00)),
      field('shares', { is: 'any-of', values: ['1'] }),
      field('nickname', { is: 'filled' }),
      field('own:8', { is: 'filled' }),
      rows('gifts', [during({ kind: 'fiscal-year', ago: 0 })], 'sum', between(100_00)),
      gave(anyOf('fund', 2)),
      rows('gifts', [], 'last', { is: 'in', window: { kind: 'until', to: '2025-12-31' } }),
      rows('gifts', [], 'run', between(3)),
      rows('gifts', [anyOf('fund', 9)], 'first', { is: 'filled' }),
      rows('tags', [anyOf('tag', 9)]),
      rows('gifts', [{ part: 'no such part', test: { is: 'filled' } }]),
      { kind: 'people', list: 1 },
      { kind: 'people', list: 7 },
      { kind: 'segment', segment: 1 },
      { kind: 'related', by: 'tie', where: [anyOf('role', 4)], match: all() },
      { kind: 'group', join: 'none', parts: [rows('notes', [])] },
    );
    const facts = factsOf(world);
    const seen = flatten(explain(conditions, facts, 0, { ...settingOf(world), telling })).map((one) =>
      one.kind === 'condition' ? [one.matches, one.saw] : [one.matches],
    );
    expect(seen).toEqual([
      [false],
      [false, 'NV'],
      [false, 'Mar 14'],
      [true, 'Pulsar, Nova'],
      [true, '$1,250.00'],
      [true, 'shares a home'],
      [false, 'nothing filled in'],
      [false, 'no longer there'],
      [true, '$123.45'],
      [true, '1 gift'],
      [false, 'Aug 1, 2026'],
      [false, '2 fiscal years'],
      [false, 'no such gift'],
      [false, '0 tags'],
      [false, 'no longer there'],
      [true, 'is on it'],
      [false, 'no longer there'],
      [true, 'is in it'],
      [true, 'Mensah'],
      [true],
      [false, '0 notes'],
    ]);
  });
});

/** A window that is not kept any more. */
const GONE: Window = { kind: 'kept', id: 9 };

describe('what is no longer there', () => {
  const who = { id: 1, lists: { gifts: [rowWith('gifts', { day: 1, cents: 5, fund: 1 })] } };
  const facts = new Facts();
  facts.replace(who);
  const gone: Condition[] = [
    gave(during(GONE)),
    gave({ ...during(GONE), not: true }),
    rows('gifts', [], 'last', { is: 'in', window: GONE }),
    { ...rows('gifts', [], 'change', between(1)), against: GONE },
    { ...gave(), after: { of: 'notes', where: [during(GONE)], days: 30 } },
    { kind: 'field', field: 'birthday', test: { is: 'in', window: GONE } },
    { kind: 'related', by: 'tie', where: [{ part: 'from', test: { is: 'in', window: GONE } }], match: all() },
    { kind: 'field', field: 'own:99', test: { is: 'filled' } },
    rows('gifts', [anyOf('colour', 'red')]),
    rows('gifts', [anyOf('constructor', 'red')]),
    rows('tags', [], 'largest', { is: 'filled' }),
    rows('notes', [], 'sum', between(1)),
    { kind: 'field', field: 'constructor', test: { is: 'filled' } },
    { ...rows('gifts', []), of: 'constructor' as 'gifts' },
    { kind: 'related', by: 'tie', where: [anyOf('constructor', '1')], match: all() },
    { kind: 'people', list: 4 },
    { kind: 'segment', segment: 4 },
    { kind: 'related', by: 'tie', where: [anyOf('colour', 'red')], match: all() },
    { ...rows('gifts', []), of: 'comets' as 'gifts' },
    { kind: 'later' } as unknown as Condition,
  ];
  it.each(gone)('is met by nobody, turned round or not: %j', (one) => {
    expect(found(all(one), facts, setting)).toEqual([]);
    expect(found(all({ ...one, not: true }), facts, setting)).toEqual([]);
    expect(found(all({ ...one, off: true }), facts, setting)).toEqual([1]);
  });

  it('is a segment that asks itself, by itself or in a circle', () => {
    const ask = (segment: number): Group => all({ kind: 'segment', segment });
    const segments = new Map([
      [1, { match: ask(2), credit: 'legal' as const }],
      [2, { match: ask(1), credit: 'legal' as const }],
      [3, { match: all(gave()), credit: 'legal' as const }],
    ]);
    expect(found(ask(1), facts, { calendar, segments })).toEqual([]);
    expect(found(ask(3), facts, { calendar, segments })).toEqual([1]);
  });

  it('is asked once, however many ways lead to a segment', () => {
    const many = (segment: number): Group => ({
      ...{ kind: 'group', join: 'all' },
      parts: Array.from({ length: 50 }, () => ({ kind: 'segment', segment }) as const),
    });
    const segments = new Map(
      [many(2), many(3), many(4), many(5), all(gave())].map((match, at) => [
        at + 1,
        { match, credit: 'legal' as const },
      ]),
    );
    // Fifty to the power of four, were each way gone.
    expect(found(many(1), facts, { calendar, segments })).toEqual([1]);
  });
});

describe('text', () => {
  const facts = new Facts();
  ['Núñez', 'Nunez-Lopez', 'Stephens', 'Stevens', 'a.b*c', ''].forEach((last, at) =>
    facts.replace({ id: at + 1, last }),
  );
  it.each<[Test, number[]]>([
    [{ is: 'any-of', values: ['nunez'] }, [1]],
    [{ is: 'begins', values: ['NUN'] }, [1, 2]],
    [{ is: 'contains', values: ['lop', 'b*'] }, [2, 5]],
    [{ is: 'contains', values: ['.*', ''] }, []],
    [{ is: 'sounds', values: ['Stevens'] }, [3, 4]],
    [{ is: 'empty' }, [6]],
    [{ is: 'any-of', values: [''] }, []],
    [between(1), []],
  ])('%j', (test, expected) =>
    expect(found(all({ kind: 'field', field: 'last', test }), facts, setting)).toEqual(expected),
  );
});

describe('birthdays', () => {
  const facts = new Facts();
  const days: [number, number][] = [
    [2, 28],
    [2, 29],
    [3, 1],
    [12, 31],
    [1, 1],
  ];
  days.forEach(([month, day], at) =>
    facts.replace({ id: at + 1, birthday: month * 32 + day, birthYear: at === 0 ? 1960 : 0 }),
  );
  const kept = (from: string, to: string): number[] =>
    found(
      all({ kind: 'field', field: 'birthday', test: { is: 'in', window: { kind: 'between', from, to } } }),
      facts,
      setting,
    );
  it('are kept whatever the year, 29 February on the 28th in other years', () => {
    expect(kept('2026-02-28', '2026-02-28')).toEqual([1, 2]);
    expect(kept('2028-02-28', '2028-02-28')).toEqual([1]);
    expect(kept('2028-02-29', '2028-03-01')).toEqual([2, 3]);
    expect(kept('2026-12-31', '2027-01-01')).toEqual([4, 5]);
    expect(kept('2026-01-01', '2026-12-31')).toEqual([1, 2, 3, 4, 5]);
    expect(kept('2026-06-02', '2026-06-01')).toEqual([]);
  });
  it('give an age where the year is known', () => {
    const aged = (years: number) =>
      found(all({ kind: 'field', field: 'age', test: between(years, years) }), facts, setting);
    expect([aged(66), aged(65)]).toEqual([[1], []]);
  });
});

describe('measures', () => {
  const day = dayNumber('2026-08-01');
  const gift = (more: { cents: number; fund: number; day?: number; gift?: number; campaign?: number }) =>
    rowWith('gifts', { day, ...more });
  const facts = new Facts();
  facts.replace({
    id: 1,
    lists: {
      // One gift of $100 over two funds, the second in two parts, and a whole one of $30.
      gifts: [gift({ cents: 10_000, fund: 0, gift: 7 }), gift({ day: day + 1, cents: 3_000, fund: 2, gift: 8 })],
      splits: [
        gift({ cents: 6_000, fund: 1, gift: 7 }),
        gift({ cents: 2_500, fund: 2, gift: 7 }),
        gift({ cents: 1_500, fund: 2, campaign: 5, gift: 7 }),
      ],
    },
  });
  const sees = (measure: RowsCondition['measure'], ...where: Where[]): string => {
    const one = explain(rows('gifts', where, measure, { is: 'filled' }), facts, 0, { ...setting, telling });
    return (one as Extract<Explanation, { kind: 'condition' }>).saw;
  };

  it.each<[RowsCondition['measure'], number | null, string]>([
    ['number', null, '2 gifts'],
    ['largest', null, '$100.00'],
    ['number', 2, '2 gifts'],
    ['sum', 2, '$70.00'],
    ['largest', 2, '$40.00'],
    ['average', 2, '$35.00'],
    ['smallest', 2, '$30.00'],
    ['number', 1, '1 gift'],
    ['last-amount', 1, '$60.00'],
  ])('of a split gift: %s to fund %s is %s', (measure, fund, saw) =>
    expect(sees(measure, ...(fund === null ? [] : [anyOf('fund', fund)]))).toBe(saw),
  );

  it('of any of several funds count a split gift once, as large as what went there', () => {
    expect(sees('number', anyOf('fund', 1, 2))).toBe('2 gifts');
    expect(sees('largest', anyOf('fund', 1, 2))).toBe('$100.00');
    expect(sees('sum', { ...anyOf('fund', 1), not: true })).toBe('$70.00');
  });

  it('count only gifts of a size, as large as what went there', () => {
    const size = (atLeast: number | null, atMost: number | null = null): Where => ({
      part: 'cents',
      test: between(atLeast, atMost),
    });
    expect(sees('number', anyOf('fund', 2), size(4_000))).toBe('1 gift');
    expect(sees('number', size(4_000))).toBe('1 gift');
    expect(sees('number', anyOf('fund', 2), size(null, 3_999))).toBe('1 gift');
    expect(sees('first', anyOf('fund', 2), size(9_000))).toBe('no such gift');
  });

  it('of several conditions are each their own, and have room for any number of gifts', () => {
    const many = new Facts();
    const given = Array.from({ length: 500 }, (_, at) => gift({ day: day - at, cents: 100 + at, fund: 1 + (at % 2) }));
    many.replace({ id: 1, lists: { gifts: given } });
    const size = (...parts: Group['parts']) => evaluate(all(...parts), many, setting).count();
    const one = (measure: RowsCondition['measure'], fund: number | null, figure: number): RowsCondition =>
      rows('gifts', fund === null ? [] : [anyOf('fund', fund)], measure, between(figure, figure));
    expect(size(one('number', null, 500), one('number', 1, 250), one('largest', 2, 599), one('smallest', 1, 100))).toBe(
      1,
    );
    expect(size(one('number', null, 500), one('number', 1, 251))).toBe(0);
    expect(size(one('years', null, 3), one('run', null, 3))).toBe(1);
  });
});

describe('credit', () => {
  /** 1 gave $100 in two parts, of which 2 is recognised for one whole part twice over, and 3 shares the home of 1. */
  const facts = new Facts();
  const day = dayNumber('2026-08-01');
  const share = (part: number, cents: number, of: number) =>
    rowWith('credits', { ...{ day, cents, of, part, gift: 7, donor: 1 }, fund: part + 1 });
  const whole = rowWith('gifts', { day, cents: 10_000, fund: 0, gift: 7, marks: MARKS.thanked, source: 4 });
  const parts = [6_000, 4_000].map((cents, part) => rowWith('splits', { day, cents, fund: part + 1, gift: 7 }));
  facts.replace({ id: 1, household: 5, lists: { gifts: [whole], splits: parts } });
  facts.replace({
    id: 2,
    lists: { credits: [share(0, 6_000, 6_000), share(0, 3_000, 6_000), share(1, 1_000, 4_000)] },
  });
  facts.replace({ id: 3, household: 5, lists: { credits: [share(1, 4_000, 4_000)] } });
  const sums = (credit: 'legal' | 'recognition' | 'both', together: boolean, ...where: Where[]): string[] =>
    [0, 1, 2].map((slot) => {
      const asked = {
        ...rows('gifts', where, 'sum', { is: 'filled' }),
        credit,
        ...(together ? { together } : {}),
      } as const;
      return (explain(asked, facts, slot, { ...setting, telling }) as Extract<Explanation, { kind: 'condition' }>).saw;
    });

  it('counts of recognition each part once, and never beside the gift', () => {
    expect(sums('legal', false)).toEqual(['$100.00', '$0.00', '$0.00']);
    expect(sums('recognition', false)).toEqual(['$0.00', '$70.00', '$40.00']);
    expect(sums('both', false)).toEqual(['$100.00', '$70.00', '$40.00']);
    expect(sums('both', true)).toEqual(['$100.00', '$70.00', '$100.00']);
    expect(sums('recognition', true)).toEqual(['$40.00', '$70.00', '$40.00']);
    expect(sums('recognition', false, anyOf('fund', 2))).toEqual(['$0.00', '$10.00', '$40.00']);
  });

  it('looks up in the gift what only the gift has', () => {
    expect(sums('recognition', false, anyOf('thanked', '1'), anyOf('source', 4))).toEqual([
      '$0.00',
      '$70.00',
      '$40.00',
    ]);
    expect(sums('recognition', false, anyOf('thanked', '0'))).toEqual(['$0.00', '$0.00', '$0.00']);
  });

  it('comes to what totals say', () => {
    for (const credit of ['legal', 'recognition', 'both'] as const)
      for (const slot of [0, 1, 2]) {
        const filter = { span: { from: 0, to: day }, fund: null, campaign: null, appeal: null, method: null };
        const { cents } = totalOf(facts, [slot], filter, credit);
        const exact = rows('gifts', [], 'sum', between(cents, cents));
        expect(evaluate(all(exact), facts, { ...setting, credit }).has(slot)).toBe(true);
      }
  });
});

describe('within days of something', () => {
  const facts = new Facts();
  const sent = dayNumber(addDays(TODAY, -100));
  const give = (id: number, after: number | null) =>
    facts.replace({
      id,
      lists: {
        sendings: id === 4 ? [] : [rowWith('sendings', { day: sent, subject: 3, kind: 'mailing', outcome: 'sent' })],
        gifts: after === null ? [] : [rowWith('gifts', { day: sent + after, cents: 100 })],
      },
    });
  [60, 61, -1, 0].forEach((after, at) => give(at + 1, after));
  give(5, null);
  it('counts the first day and the last, and of those who had it alone', () => {
    const mailed = [anyOf('subject', 3)];
    const answered = { ...gave(), after: { of: 'sendings' as const, where: mailed, days: 60 } };
    expect(found(all(answered), facts, setting)).toEqual([1]);
    expect(found(all(rows('sendings', mailed), { ...answered, not: true }), facts, setting)).toEqual([2, 3, 5]);
    give(1, 0);
    expect(found(all(answered), facts, setting)).toEqual([1]);
  });
});

describe('a home', () => {
  const households = SUPPORTER_KINDS.household.code;
  /** A household (1) with two people (2, 3), who gave 100 and 300 cents; and one alone (4), who gave 500. */
  const homes = (gone: readonly number[]): Facts => {
    const facts = new Facts();
    for (const id of [1, 2, 3, 4]) {
      const slot = facts.addSupporter(id, {
        ...{ kind: id === 1 ? households : 0, household: id < 4 ? 1 : 0 },
        flags: gone.includes(id) ? FLAG.trashed : 0,
      });
      if (id > 1)
        facts.gifts.push(slot, rowWith('gifts', { gift: id, day: 20_000, cents: [100, 300, 500][id - 2] ?? 0 }));
    }
    return facts;
  };
  const together = { ...rows('gifts', [], 'sum', between(400)), together: true };
  const ofOne = (cents: number): Condition => ({
    ...{ kind: 'related', by: 'household', where: [], match: all(rows('gifts', [], 'sum', between(cents, cents))) },
  });
  it.each([
    [[], [1, 2, 3, 4], [1, 2, 3], [1, 2, 3]],
    // One in the trash counts for nobody else, and nobody for them.
    [[2], [4], [], [1, 3]],
    // Where the household is in the trash, each is alone.
    [[1], [4], [2], [3]],
  ])(
    'with %j in the trash gives together, and has somebody, as those who share it do',
    (gone, all400, all100, all300) => {
      const facts = homes(gone);
      const ids = (one: Condition): number[] => found(all(one), facts, { calendar });
      expect([ids(together), ids(ofOne(100)), ids(ofOne(300))]).toEqual([all400, all100, all300]);
    },
  );
});

it('of a part that holds codes, bounds are asked of the numbers themselves', () => {
  const facts = new Facts();
  const slot = facts.addSupporter(1, {});
  facts.gifts.push(slot, rowWith('gifts', { gift: 1, day: 20_000, cents: 100, fund: 4 }));
  const asks = (least: number, most: number): number[] =>
    found(all(gave({ part: 'fund', test: between(least, most) })), facts, { calendar });
  expect([asks(3, 5), asks(5, 9)]).toEqual([[1], []]);
});
