import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber } from '../dates/index.ts';
import type { Calendar, Window } from '../dates/index.ts';
import { FLAG, Facts } from '../facts/index.ts';
import type { SupporterFacts } from '../facts/index.ts';
import { WISH_NAMES, WISHES } from '../wishes/index.ts';
import { all, Bits, countParts, describeCondition, evaluate, explain, MEASURE_NAMES, MEASURES } from './index.ts';
import type { Condition, Explanation, FieldTest, GiftsCondition, Group } from './index.ts';
import type { FieldKind, Kept } from '../fields/index.ts';
import { kept } from '../fields/index.ts';

/*
 * The same questions answered twice: on facts, and by plain code over rows that knows nothing of facts. The plain
 * code is written from the meaning of the conditions and shares no helper with what it checks.
 */

interface Row {
  id: number;
  kind: number;
  wishes: number;
  groups: number[];
  fields: [number, Kept][];
  giftFields: [number, Kept][];
  region: string;
  trashed: boolean;
  tags: number[];
  gifts: { date: string; cents: number; fund: number }[];
}

const calendar: Calendar = { today: '2026-11-23', fiscalYearStart: 7 };
const US = { currency: 'USD', locale: 'en-US' };
const setting = {
  calendar,
  formats: US,
  fields: [
    { id: 3, name: 'Stars', kind: 'many' as const, choices: ['Pulsar', 'Nova'] },
    { id: 5, name: 'Budget', kind: 'money' as const, choices: [] },
  ],
};
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
    case 'since':
      return date >= window.from;
    case 'until':
      return date <= window.to;
    case 'month':
      return Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) === 2026 * 12 + 11 - window.ago;
    case 'year':
      return Number(date.slice(0, 4)) === 2026 - window.ago;
    default:
      throw new Error(`No plain answer for ${window.kind}`);
  }
}

/** What a measure comes to; null where there is no such gift. */
function plainMeasure(gifts: Row['gifts'], condition: GiftsCondition, window: Window): number | string | null {
  const { fund, cents } = condition;
  const fitting = gifts.filter(
    (gift) =>
      inWindow(gift.date, window) &&
      (fund === null || gift.fund === fund) &&
      gift.cents >= (cents?.atLeast ?? 0) &&
      gift.cents <= (cents?.atMost ?? Infinity),
  );
  const sum = fitting.reduce((total, gift) => total + gift.cents, 0);
  const amounts = fitting.map((gift) => gift.cents);
  const dates = fitting.map((gift) => gift.date).filter((date) => date <= calendar.today);
  const on = (date: string | undefined): { date: string; cents: number } | undefined =>
    date === undefined
      ? undefined
      : { date, cents: Math.max(...fitting.filter((gift) => gift.date === date).map((gift) => gift.cents)) };
  const [first, last] = [on(dates.toSorted().at(0)), on(dates.toSorted().at(-1))];
  const years = [
    ...new Set(fitting.map(({ date }) => Number(date.slice(0, 4)) + (date.slice(5) >= '07-01' ? 1 : 0))),
  ].sort();
  switch (condition.measure) {
    case 'sum':
      return sum;
    case 'number':
      return fitting.length;
    case 'average':
      return fitting.length === 0 ? null : Math.round(sum / fitting.length);
    case 'largest':
      return amounts.length === 0 ? null : Math.max(...amounts);
    case 'smallest':
      return amounts.length === 0 ? null : Math.min(...amounts);
    case 'first':
      return first?.date ?? null;
    case 'last':
      return last?.date ?? null;
    case 'first-amount':
      return first?.cents ?? null;
    case 'last-amount':
      return last?.cents ?? null;
    case 'days-since':
      return last === undefined ? null : (Date.parse(calendar.today) - Date.parse(last.date)) / 86_400_000;
    case 'years':
      return years.length;
    case 'run': {
      let longest = 0;
      for (const year of years) {
        let length = 1;
        while (years.includes(year + length)) length++;
        longest = Math.max(longest, length);
      }
      return longest;
    }
    case 'change':
      return sum;
  }
}

function plainGifts(row: Row, condition: GiftsCondition): boolean {
  const value = plainMeasure(row.gifts, condition, condition.window);
  if (value === null) return false;
  if (typeof value === 'string') return inWindow(value, condition.within ?? { kind: 'ever' });
  const before =
    condition.measure === 'change'
      ? Number(plainMeasure(row.gifts, condition, condition.against ?? condition.window))
      : 0;
  return value - before >= (condition.atLeast ?? -Infinity) && value - before <= (condition.atMost ?? Infinity);
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
    case 'gifts':
      return plainGifts(row, condition);
    case 'kind':
      return condition.kinds.includes((['person', 'household', 'organization'] as const)[row.kind] ?? 'person');
    case 'wish':
      return (
        (row.wishes &
          {
            no_email: 1,
            deceased: 2,
            no_mail: 16,
            no_calls: 32,
            no_solicitation: 64,
            receipts_only: 128,
            once_a_year: 256,
            anonymous: 512,
          }[condition.wish]) >
        0
      );
    case 'in-group':
      return row.groups.includes(condition.group);
    case 'gift-field':
      return row.giftFields.some(([field, value]) => field === condition.field && plainTest(condition.test, value));
    case 'field':
      return row.fields.some(([field, value]) => field === condition.field && plainTest(condition.test, value));
  }
}

function plainTest(test: FieldTest, value: string): boolean {
  if (test.is === 'filled') return value !== '';
  if (value === '') return false;
  if (test.is === 'any-of')
    return test.values.some((one) => value === one || value === `["${one}"]` || value.includes(`"${one}"`));
  if (test.is === 'contains') return value.toLowerCase().includes(test.text.toLowerCase());
  if (test.is === 'between') {
    if (Number.isNaN(Number(value))) return false;
    return (
      !(test.atLeast !== null && Number(value) < test.atLeast) && !(test.atMost !== null && Number(value) > test.atMost)
    );
  }
  return !(test.from !== null && value < test.from) && !(test.to !== null && value > test.to);
}

function plain(row: Row, part: Condition | Group): boolean {
  if (part.kind !== 'group') return plainCondition(row, part) !== (part.not === true);
  if (part.parts.length === 0) return true;
  return part.join === 'all'
    ? part.parts.every((inner) => plain(row, inner))
    : part.parts.some((inner) => plain(row, inner));
}

const asFacts = (row: Row): SupporterFacts => ({
  ...row,
  city: '',
  sortName: '',
  household: 0,
  flags: row.wishes | (row.trashed ? FLAG.trashed : 0),
  gifts: row.gifts.map((gift) => ({ ...gift, day: dayNumber(gift.date), campaign: 0, appeal: 0, method: 0 })),
});

function factsOf(rows: readonly Row[]): Facts {
  const facts = new Facts();
  for (const row of rows) facts.replace(asFacts(row));
  return facts;
}

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
const fund = fc.option(fc.integer({ min: 1, max: 4 }));
const bound = fc.option(fc.integer({ min: 0, max: 60_000 }));
const not = fc.boolean();
const fieldValue = fc
  .constantFrom('', '1', '0', '-250', '1999', 'Pulsar', 'red giant', '["Pulsar","Nova"]', '2026-03-14', '2025-01-01')
  .map(kept);
const fieldTest: fc.Arbitrary<FieldTest> = fc.oneof(
  fc.constant<FieldTest>({ is: 'filled' }),
  fc.uniqueArray(fc.constantFrom('Pulsar', 'Nova', '1', '0')).map((values): FieldTest => ({ is: 'any-of', values })),
  fc.constantFrom('PULS', 'giant', '2').map((text): FieldTest => ({ is: 'contains', text })),
  fc.record({
    is: fc.constant('between' as const),
    atLeast: fc.option(fc.integer({ min: -300, max: 2000 })),
    atMost: fc.option(fc.integer({ min: -300, max: 2000 })),
  }),
  fc.record({ is: fc.constant('dates' as const), from: fc.option(date), to: fc.option(date) }),
);
const gifts: fc.Arbitrary<GiftsCondition> = fc
  .record({
    kind: fc.constant('gifts' as const),
    measure: fc.constantFrom(...MEASURE_NAMES),
    ...{ fund, window, not, against: window, within: fc.option(window) },
    cents: fc.option(fc.record({ atLeast: fc.option(fc.nat(9_000)), atMost: fc.option(fc.nat(20_000)) }), {
      nil: undefined,
    }),
    least: fc.option(fc.nat(1_000)),
    most: fc.option(fc.nat(1_000)),
  })
  .map(({ least, most, cents, ...one }): GiftsCondition => {
    // Bounds of the size of what is measured, so that they part the supporters.
    const unit =
      { money: 20, number: 0.004, date: 1 }[MEASURES[one.measure].type] * (one.measure === 'days-since' ? 250 : 1);
    const scaled = (value: number | null): number | null => (value === null ? null : Math.round(value * unit));
    return { ...one, ...(cents ? { cents } : {}), atLeast: scaled(least), atMost: scaled(most) };
  });
const condition: fc.Arbitrary<Condition> = fc.oneof(
  { arbitrary: gifts, weight: 4 },
  fc.record({ kind: fc.constant('region' as const), regions: fc.uniqueArray(fc.constantFrom(...REGIONS, 'ZZ')), not }),
  fc.record({ kind: fc.constant('tag' as const), tag: fc.integer({ min: 1, max: 5 }), not }),
  fc.record({ kind: fc.constant('gave' as const), fund, window, not }),
  fc.record({ kind: fc.constant('total' as const), fund, window, atLeast: bound, atMost: bound, not }),
  fc.record({ kind: fc.constant('last-gift' as const), from: fc.option(date), to: fc.option(date), not }),
  fc.record({
    kind: fc.constant('kind' as const),
    kinds: fc.uniqueArray(fc.constantFrom('person' as const, 'household' as const, 'organization' as const)),
    not,
  }),
  fc.record({ kind: fc.constant('wish' as const), wish: fc.constantFrom(...WISH_NAMES), not }),
  fc.record({ kind: fc.constant('in-group' as const), group: fc.integer({ min: 1, max: 4 }), not }),
  fc.record({ kind: fc.constant('gift-field' as const), field: fc.integer({ min: 1, max: 3 }), test: fieldTest, not }),
  fc.record({ kind: fc.constant('field' as const), field: fc.integer({ min: 1, max: 3 }), test: fieldTest, not }),
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
      kind: fc.nat(2),
      wishes: fc.subarray(WISH_NAMES).map((names) => names.reduce((bits, name) => bits | WISHES[name].bit, 0)),
      groups: fc.uniqueArray(fc.integer({ min: 1, max: 4 }), { maxLength: 2 }),
      fields: fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 3 }), fieldValue), { selector: ([field]) => field }),
      giftFields: fc.array(fc.tuple(fc.integer({ min: 1, max: 3 }), fieldValue), { maxLength: 4 }),
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

  it('counts each part as if it stood alone', () => {
    fc.assert(
      fc.property(supporters, group, (rows, conditions) => {
        const facts = factsOf(rows);
        const alone = (part: Group['parts'][number]) => evaluate(all(part), facts, calendar).count();
        const count = evaluate(conditions, facts, calendar).count();
        const without = (at: number) =>
          evaluate(
            { ...conditions, parts: conditions.parts.filter((_, other) => other !== at) },
            facts,
            calendar,
          ).count();
        // Nobody is let in by a part that is taken away, and a group without parts lets everyone in.
        const rest = (at: number): number =>
          conditions.join === 'any' && conditions.parts.length === 1 ? 0 : without(at);
        expect(countParts(conditions, facts, calendar)).toEqual({
          ...{ count, parts: conditions.parts.map(alone) },
          alone: conditions.parts.map((_, at) => Math.abs(rest(at) - count)),
        });
      }),
    );
  });

  it('does not depend on the order in which gifts stand', () => {
    fc.assert(
      fc.property(supporters, group, (rows, conditions) => {
        const turned = rows.map((row) => ({ ...row, gifts: row.gifts.toReversed() }));
        const found = (list: readonly Row[]) => [...evaluate(conditions, factsOf(list), calendar)];
        expect(found(turned)).toEqual(found(rows));
      }),
    );
  });

  it('is the same after supporters were replaced one by one', () => {
    fc.assert(
      fc.property(supporters, supporters, group, (before, after, conditions) => {
        const facts = factsOf(before);
        for (const row of before.slice(after.length)) facts.remove(row.id);
        for (const row of after) facts.replace(asFacts(row));
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
          expect(explain(conditions, facts, facts.slotOf(row.id), setting).matches).toBe(
            bits.has(facts.slotOf(row.id)),
          );
      }),
    );
  });

  it('shows the value that each condition saw', () => {
    const facts = factsOf([
      {
        id: 1,
        kind: 1,
        wishes: WISHES.no_mail.bit,
        groups: [4],
        giftFields: [
          [6, kept('12')],
          [6, kept('14')],
        ],
        fields: [
          [3, kept('["Pulsar","Nova"]')],
          [5, kept('125000')],
        ],
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
        { kind: 'gifts', measure: 'largest', fund: null, window: { kind: 'ever' }, atLeast: 500 },
        { kind: 'gifts', measure: 'run', fund: null, window: { kind: 'ever' }, atLeast: 3 },
        { kind: 'gifts', measure: 'first', fund: 9, window: { kind: 'ever' }, within: null },
        { kind: 'gifts', measure: 'first', fund: 2, window: { kind: 'ever' }, within: { kind: 'year', ago: 1 } },
        { kind: 'tag', tag: 9 },
        { kind: 'kind', kinds: ['person'] },
        { kind: 'wish', wish: 'no_mail' },
        { kind: 'in-group', group: 4 },
        { kind: 'field', field: 3, test: { is: 'any-of', values: ['Nova'] } },
        { kind: 'field', field: 5, test: { is: 'between', atLeast: 100_00, atMost: null } },
        { kind: 'field', field: 8, test: { is: 'filled' } },
        { kind: 'gift-field', field: 6, test: { is: 'between', atLeast: 13, atMost: null } },
        { kind: 'group', join: 'any', parts: [{ kind: 'tag', tag: 2 }] },
      ],
    };
    const seen = flatten(explain(conditions, facts, 0, setting)).map((one) =>
      one.kind === 'condition' ? [one.matches, one.saw] : [one.matches],
    );
    expect(seen).toEqual([
      [false],
      [false, 'NV'],
      [true, '$123.45'],
      [true, '1 gift'],
      [false, 'Aug 1, 2026'],
      [true, '$123.45'],
      [false, '2 fiscal years'],
      [false, 'no such gift'],
      [true, 'Aug 1, 2025'],
      [false, 'does not have the tag'],
      [false, 'household'],
      [true, 'no mail'],
      [true, 'is in the group'],
      [true, 'Pulsar, Nova'],
      [true, '$1,250.00'],
      [false, 'nothing filled in'],
      [true, '1 such gift'],
      [true],
      [true, 'has the tag'],
    ]);
  });
});

describe('describeCondition', () => {
  const KINDS: Record<number, FieldKind> = { 2: 'number', 4: 'yesno', 5: 'money', 6: 'date' };
  const wording = {
    calendar,
    tagName: () => 'Volunteer',
    groupName: (id: number) => `group ${id}`,
    formats: US,
    field: (id: number) => ({ name: `field ${id}`, kind: KINDS[id] ?? 'text' }),
    campaignName: () => 'Annual Fund',
    appealName: () => 'Fall letter',
    fundName: () => 'Telescope Van',
  };
  it.each<[Condition, string]>([
    [{ kind: 'region', regions: ['NV', 'CA'] }, 'state is NV or CA'],
    [{ kind: 'tag', tag: 1, not: true }, 'does not have the tag Volunteer'],
    [{ kind: 'kind', kinds: ['person', 'household'] }, 'is a person or a household'],
    [
      { kind: 'last-gift', from: '2026-05-01', to: '2026-04-01' },
      'last gift on or after May 1, 2026 on or before Apr 1, 2026; nobody can: it ends before it begins',
    ],
    [
      { kind: 'total', fund: null, window: { kind: 'ever' }, atLeast: 50_000, atMost: 10_000 },
      'gave at least $500.00 and at most $100.00 ever; nobody can: the least is more than the most',
    ],
    [
      {
        kind: 'total',
        fund: null,
        window: { kind: 'between', from: '2026-05-01', to: '2026-04-01' },
        atLeast: null,
        atMost: 5,
      },
      'gave at most $0.05 from May 1, 2026 to Apr 1, 2026; no gift can be in it: it ends before it begins',
    ],
    [{ kind: 'wish', wish: 'receipts_only', not: true }, 'not: receipts only'],
    [{ kind: 'in-group', group: 4, not: true }, 'is not in the group group 4'],
    [{ kind: 'field', field: 4, test: { is: 'any-of', values: ['1'] } }, 'field 4 is yes'],
    [{ kind: 'field', field: 1, test: { is: 'any-of', values: ['1'] } }, 'field 1 is 1'],
    [
      { kind: 'field', field: 5, test: { is: 'between', atLeast: 50_000, atMost: null } },
      'field 5 is at least $500.00',
    ],
    [
      { kind: 'field', field: 6, test: { is: 'dates', from: '2026-01-02', to: null } },
      'field 6 is on or after Jan 2, 2026',
    ],
    [
      { kind: 'field', field: 2, test: { is: 'between', atLeast: 3, atMost: 4 } },
      'field 2 is at least 3 and at most 4',
    ],
    [{ kind: 'field', field: 2, test: { is: 'contains', text: 'dark' } }, 'field 2 contains “dark”'],
    [{ kind: 'field', field: 2, test: { is: 'filled' } }, 'field 2 is filled in'],
    [{ kind: 'gift-field', field: 2, test: { is: 'filled' }, not: true }, 'has no gift whose field 2 is filled in'],
    [
      { kind: 'gave', fund: 2, window: { kind: 'fiscal-year', ago: 1 } },
      'gave to Telescope Van last fiscal year (FY2026)',
    ],
    [{ kind: 'gave', fund: null, window: { kind: 'ever' }, not: true }, 'did not give ever'],
    [
      { kind: 'total', fund: null, window: { kind: 'ever' }, atLeast: 50_000, atMost: 100_000 },
      'gave at least $500.00 and at most $1,000.00 ever',
    ],
    [
      {
        ...{ kind: 'gifts', measure: 'largest', fund: 1, window: { kind: 'ever' } },
        ...{ cents: { atLeast: 500, atMost: null }, atLeast: 100_000, atMost: null },
      },
      'largest gift of at least $5.00 each to Telescope Van ever is at least $1,000.00',
    ],
    [
      {
        ...{ kind: 'gifts', measure: 'first', fund: null, window: { kind: 'ever' } },
        ...{ within: { kind: 'last-days', days: 90 }, not: true },
      },
      'not: first gift ever was in the last 90 days',
    ],
    [
      {
        ...{ kind: 'gifts', measure: 'change', fund: null, window: { kind: 'fiscal-year', ago: 0 } },
        ...{ against: { kind: 'fiscal-year', ago: 1 }, atLeast: 1 },
      },
      'change of the total given this fiscal year (FY2027) against last fiscal year (FY2026) is at least $0.01',
    ],
    [
      { kind: 'gifts', measure: 'years', fund: null, window: { kind: 'ever' }, atLeast: 5, atMost: 3 },
      'number of fiscal years with a gift ever is at least 5 and at most 3; nobody can: the least is more than the most',
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

describe('measures', () => {
  const person: Row = {
    ...{ id: 1, kind: 0, wishes: 0, groups: [], fields: [], giftFields: [], region: '', trashed: false, tags: [] },
    gifts: [],
  };
  const day = dayNumber('2026-08-01');
  const place = { day, campaign: 0, appeal: 0, method: 0 };
  const facts = new Facts();
  facts.replace({
    ...asFacts(person),
    // One gift of $100 over two funds, the second in two parts, and a whole one of $30.
    gifts: [
      { ...place, cents: 10_000, fund: 0 },
      { ...place, day: day + 1, cents: 3_000, fund: 2 },
    ],
    splits: [
      { ...place, cents: 6_000, fund: 1, gift: 7 },
      { ...place, cents: 2_500, fund: 2, gift: 7 },
      { ...place, cents: 1_500, fund: 2, campaign: 5, gift: 7 },
    ],
  });
  const sees = (
    measure: GiftsCondition['measure'],
    fund: number | null,
    more: Partial<GiftsCondition> = {},
  ): string => {
    const condition: GiftsCondition = { kind: 'gifts', measure, fund, window: { kind: 'ever' }, ...more };
    const { saw } = explain(condition, facts, 0, setting) as Extract<Explanation, { kind: 'condition' }>;
    return saw;
  };

  it.each<[GiftsCondition['measure'], number | null, string]>([
    ['number', null, '2 gifts'],
    ['largest', null, '$100.00'],
    ['number', 2, '2 gifts'],
    ['sum', 2, '$70.00'],
    ['largest', 2, '$40.00'],
    ['average', 2, '$35.00'],
    ['smallest', 2, '$30.00'],
    ['number', 1, '1 gift'],
    ['last-amount', 1, '$60.00'],
  ])('of a split gift: %s to fund %s is %s', (measure, fund, saw) => expect(sees(measure, fund)).toBe(saw));

  it('count only gifts of a size, as large as what went there', () => {
    const cents = { atLeast: 4_000, atMost: null };
    expect(sees('number', 2, { cents })).toBe('1 gift');
    expect(sees('number', null, { cents })).toBe('1 gift');
    expect(sees('number', 2, { cents: { atLeast: null, atMost: 3_999 } })).toBe('1 gift');
    expect(sees('first', 2, { cents: { atLeast: 9_000, atMost: null } })).toBe('no such gift');
  });

  it('of several conditions are each their own, and have room for any number of gifts', () => {
    const many = new Facts();
    many.replace({
      ...asFacts(person),
      gifts: Array.from({ length: 500 }, (_, at) => ({ ...place, day: day - at, cents: 100 + at, fund: 1 + (at % 2) })),
    });
    const found = (...parts: Group['parts']) => evaluate(all(...parts), many, calendar).count();
    const one = (measure: GiftsCondition['measure'], fund: number | null, figure: number): GiftsCondition => ({
      ...{ kind: 'gifts', measure, fund, window: { kind: 'ever' }, atLeast: figure, atMost: figure },
    });
    expect(
      found(one('number', null, 500), one('number', 1, 250), one('largest', 2, 599), one('smallest', 1, 100)),
    ).toBe(1);
    expect(found(one('number', null, 500), one('number', 1, 251))).toBe(0);
    expect(found(one('years', null, 3), one('run', null, 3))).toBe(1);
  });
});
