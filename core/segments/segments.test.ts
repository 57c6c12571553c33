import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber } from '../dates/index.ts';
import type { Calendar, Window } from '../dates/index.ts';
import { FLAG, Facts } from '../facts/index.ts';
import { Bits, describeCondition, evaluate, explain } from './index.ts';
import type { Condition, Explanation, Group } from './index.ts';

/*
 * The same questions answered twice: on facts, and by plain code over rows that knows nothing of facts. The plain
 * code is written from the meaning of the conditions and shares no helper with what it checks.
 */

interface Row {
  id: number;
  region: string;
  trashed: boolean;
  tags: number[];
  gifts: { date: string; cents: number; fund: number }[];
}

const calendar: Calendar = { today: '2026-11-23', fiscalYearStart: 7 };
const REGIONS = ['NV', 'CA', 'OR', ''];

function inWindow(date: string, window: Window): boolean {
  switch (window.kind) {
    case 'ever':
      return true;
    case 'between':
      return window.from <= date && date <= window.to;
    case 'last-days':
      return date <= calendar.today && date > addDays(calendar.today, -window.days);
    case 'fiscal-year': {
      const end = 2027 - window.ago;
      return `${end - 1}-07-01` <= date && date <= `${end}-06-30`;
    }
  }
}

function plainCondition(row: Row, condition: Condition): boolean {
  switch (condition.kind) {
    case 'region':
      return condition.regions.includes(row.region);
    case 'tag':
      return row.tags.includes(condition.tag);
    case 'gave':
      return row.gifts.some(
        (gift) => inWindow(gift.date, condition.window) && (condition.fund === null || gift.fund === condition.fund),
      );
    case 'total': {
      const given = row.gifts.filter(
        (gift) => inWindow(gift.date, condition.window) && (condition.fund === null || gift.fund === condition.fund),
      );
      const sum = given.reduce((total, gift) => total + gift.cents, 0);
      return (
        (condition.atLeast === null || sum >= condition.atLeast) &&
        (condition.atMost === null || sum <= condition.atMost)
      );
    }
    case 'last-gift': {
      const dates = row.gifts
        .map((gift) => gift.date)
        .filter((date) => date <= calendar.today)
        .sort();
      const last = dates.at(-1);
      return (
        last !== undefined &&
        (condition.from === null || last >= condition.from) &&
        (condition.to === null || last <= condition.to)
      );
    }
  }
}

function plain(row: Row, part: Condition | Group): boolean {
  if (part.kind !== 'group') return plainCondition(row, part) !== (part.not === true);
  if (part.parts.length === 0) return true;
  return part.join === 'all'
    ? part.parts.every((inner) => plain(row, inner))
    : part.parts.some((inner) => plain(row, inner));
}

function factsOf(rows: readonly Row[]): Facts {
  const facts = new Facts();
  for (const row of rows)
    facts.replace({
      id: row.id,
      kind: 0,
      region: row.region,
      flags: row.trashed ? FLAG.trashed : 0,
      tags: row.tags,
      gifts: row.gifts.map((gift) => ({
        day: dayNumber(gift.date),
        cents: gift.cents,
        fund: gift.fund,
        campaign: 0,
        appeal: 0,
      })),
    });
  return facts;
}

const date = fc.integer({ min: dayNumber('2023-06-01'), max: dayNumber('2027-02-01') }).map(dateOfDay);
const window: fc.Arbitrary<Window> = fc.oneof(
  fc.constant<Window>({ kind: 'ever' }),
  fc.tuple(date, date).map(([a, b]): Window => ({ kind: 'between', from: a < b ? a : b, to: a < b ? b : a })),
  fc.nat(4).map((ago): Window => ({ kind: 'fiscal-year', ago })),
  fc.integer({ min: 1, max: 900 }).map((days): Window => ({ kind: 'last-days', days })),
);
const fund = fc.option(fc.integer({ min: 1, max: 4 }));
const bound = fc.option(fc.integer({ min: 0, max: 60_000 }));
const not = fc.boolean();
const condition: fc.Arbitrary<Condition> = fc.oneof(
  fc.record({ kind: fc.constant('region' as const), regions: fc.uniqueArray(fc.constantFrom(...REGIONS, 'ZZ')), not }),
  fc.record({ kind: fc.constant('tag' as const), tag: fc.integer({ min: 1, max: 5 }), not }),
  fc.record({ kind: fc.constant('gave' as const), fund, window, not }),
  fc.record({ kind: fc.constant('total' as const), fund, window, atLeast: bound, atMost: bound, not }),
  fc.record({ kind: fc.constant('last-gift' as const), from: fc.option(date), to: fc.option(date), not }),
);
const { group } = fc.letrec<{ group: Group; part: Condition | Group }>((tie) => ({
  part: fc.oneof({ depthSize: 'small', withCrossShrink: true }, condition, tie('group')),
  group: fc.record({
    kind: fc.constant('group' as const),
    join: fc.constantFrom('all' as const, 'any' as const),
    parts: fc.array(tie('part'), { maxLength: 4 }),
  }),
}));
const supporters: fc.Arbitrary<Row[]> = fc
  .array(
    fc.record({
      region: fc.constantFrom(...REGIONS),
      trashed: fc.nat(5).map((roll) => roll === 0),
      tags: fc.uniqueArray(fc.integer({ min: 1, max: 5 }), { maxLength: 3 }),
      gifts: fc.array(
        fc.record({ date, cents: fc.integer({ min: 1, max: 20_000 }), fund: fc.integer({ min: 1, max: 4 }) }),
        { maxLength: 6 },
      ),
    }),
    { maxLength: 70 },
  )
  .map((rows) => rows.map((row, index) => ({ ...row, id: index + 1 })));

const flatten = (explanation: Explanation): Explanation[] => [
  explanation,
  ...(explanation.kind === 'group' ? explanation.parts.flatMap(flatten) : []),
];

describe('evaluate', () => {
  it('agrees with plain code over rows, for generated conditions and supporters', () => {
    fc.assert(
      fc.property(supporters, group, (rows, conditions) => {
        const facts = factsOf(rows);
        const found = [...evaluate(conditions, facts, calendar)].map((slot) => facts.ids[slot]);
        expect(found).toEqual(rows.filter((row) => !row.trashed && plain(row, conditions)).map((row) => row.id));
      }),
      { numRuns: 400 },
    );
  });

  it('counts what it lists', () => {
    fc.assert(
      fc.property(supporters, group, (rows, conditions) => {
        const bits = evaluate(conditions, factsOf(rows), calendar);
        return bits.count() === [...bits].length;
      }),
    );
  });

  it('is the same after supporters were replaced one by one', () => {
    fc.assert(
      fc.property(supporters, supporters, group, (before, after, conditions) => {
        const facts = factsOf(before);
        for (const row of before.slice(after.length)) facts.remove(row.id);
        for (const row of after)
          facts.replace({
            id: row.id,
            kind: 0,
            region: row.region,
            flags: row.trashed ? FLAG.trashed : 0,
            tags: row.tags,
            gifts: row.gifts.map((gift) => ({ ...gift, day: dayNumber(gift.date), campaign: 0, appeal: 0 })),
          });
        const ids = (source: Facts) =>
          [...evaluate(conditions, source, calendar)].map((slot) => source.ids[slot] ?? 0).sort((a, b) => a - b);
        expect(ids(facts)).toEqual(ids(factsOf(after)));
      }),
    );
  });
});

describe('explain', () => {
  it('says of every supporter what evaluate says', () => {
    fc.assert(
      fc.property(supporters, group, (rows, conditions) => {
        const facts = factsOf(rows);
        const bits = evaluate(conditions, facts, calendar);
        for (const row of rows.filter((one) => !one.trashed))
          expect(explain(conditions, facts, facts.slotOf(row.id), calendar).matches).toBe(
            bits.has(facts.slotOf(row.id)),
          );
      }),
    );
  });

  it('shows the value that each condition saw', () => {
    const facts = factsOf([
      {
        id: 1,
        region: 'NV',
        trashed: false,
        tags: [2],
        gifts: [
          { date: '2026-08-01', cents: 12_345, fund: 1 },
          { date: '2025-08-01', cents: 500, fund: 2 },
        ],
      },
    ]);
    const conditions: Group = {
      kind: 'group',
      join: 'all',
      parts: [
        { kind: 'region', regions: ['CA'] },
        { kind: 'total', fund: null, window: { kind: 'fiscal-year', ago: 0 }, atLeast: 100_00, atMost: null },
        { kind: 'gave', fund: 2, window: { kind: 'ever' } },
        { kind: 'last-gift', from: null, to: '2025-12-31' },
        { kind: 'tag', tag: 9 },
        { kind: 'group', join: 'any', parts: [{ kind: 'tag', tag: 2 }] },
      ],
    };
    const seen = flatten(explain(conditions, facts, 0, calendar)).map((one) =>
      one.kind === 'condition' ? [one.matches, one.saw] : [one.matches],
    );
    expect(seen).toEqual([
      [false],
      [false, 'NV'],
      [true, '$123.45'],
      [true, '1 gift'],
      [false, 'Aug 1, 2026'],
      [false, 'does not have the tag'],
      [true],
      [true, 'has the tag'],
    ]);
  });
});

describe('describeCondition', () => {
  const wording = { calendar, tagName: () => 'Volunteer', fundName: () => 'Telescope Van' };
  it.each<[Condition, string]>([
    [{ kind: 'region', regions: ['NV', 'CA'] }, 'state is NV or CA'],
    [{ kind: 'tag', tag: 1, not: true }, 'does not have the tag Volunteer'],
    [
      { kind: 'gave', fund: 2, window: { kind: 'fiscal-year', ago: 1 } },
      'gave to Telescope Van last fiscal year (FY2026)',
    ],
    [{ kind: 'gave', fund: null, window: { kind: 'ever' }, not: true }, 'did not give ever'],
    [
      { kind: 'total', fund: null, window: { kind: 'ever' }, atLeast: 50_000, atMost: 100_000 },
      'gave at least $500.00 and at most $1,000.00 ever',
    ],
    [{ kind: 'last-gift', from: '2026-01-01', to: null }, 'last gift on or after Jan 1, 2026'],
    [{ kind: 'last-gift', from: null, to: null, not: true }, 'not: last gift on any date'],
  ])('%#', (given, words) => expect(describeCondition(given, wording)).toBe(words));
});

describe('Bits', () => {
  it('behaves as a set of numbers', () => {
    const set = fc.uniqueArray(fc.nat(99));
    fc.assert(
      fc.property(set, set, (a, b) => {
        const bits = (list: number[]): Bits => list.reduce((sum, one) => (sum.add(one), sum), new Bits(100));
        expect([...bits(a).and(bits(b))]).toEqual(a.filter((one) => b.includes(one)).sort((x, y) => x - y));
        expect(bits(a).or(bits(b)).count()).toBe(new Set([...a, ...b]).size);
        expect(bits(a).not().count()).toBe(100 - a.length);
        expect([...bits(a).not().not()]).toEqual([...bits(a)]);
      }),
    );
  });
});
