import { describe, expect, it } from 'vitest';
import { fieldsWith, LISTED, LISTED_NAMES, listedAs } from '../catalogue/index.ts';
import type { Type } from '../catalogue/index.ts';
import {
  all,
  anyOf,
  between,
  describeCondition,
  describeGroup,
  describeNeeds,
  during,
  gave,
  measuresOf,
  not,
  rows,
  SOME,
  TESTS,
  total,
} from './index.ts';
import type { Condition, Explanation, Group, Test, Wording } from './index.ts';

const NAMES: Record<string, Record<number, string>> = {
  fund: { 1: 'Dark Ground', 2: 'Telescope Van' },
  tag: { 1: 'Volunteer' },
  role: { 10: 'employer' },
  mailing: { 4: 'The van on the road' },
};
const wording: Wording = {
  calendar: { today: '2026-11-23', fiscalYearStart: 7 },
  formats: { currency: 'USD', locale: 'en-US' },
  fields: fieldsWith([
    { id: 3, about: 'supporter', name: 'Would host the van', kind: 'yesno', choices: [] },
    { id: 4, about: 'gift', name: 'Star', kind: 'one', choices: ['Vega'] },
  ]),
  nameOf: (to, id) => NAMES[to]?.[id] ?? 'something removed',
  listName: (id) => `List ${id}`,
  segmentName: (id) => `Segment ${id}`,
};
const field = (name: string, test: Test): Condition => ({ kind: 'field', field: name, test });
const lastYear = during({ kind: 'fiscal-year', ago: 1 });

describe('describeCondition', () => {
  it.each<[Condition, string]>([
    [field('state', { is: 'any-of', values: ['NV', 'CA'] }), 'state is NV or CA'],
    [not(field('last', { is: 'begins', values: ['Mc'] })), 'last name does not begin with “Mc”'],
    [field('postal', { is: 'contains', values: ['8'] }), 'ZIP contains “8”'],
    [field('first', { is: 'sounds', values: ['Ann'] }), 'first name sounds like “Ann”'],
    [field('nickname', { is: 'empty' }), 'nickname is empty'],
    [not(field('nickname', { is: 'empty' })), 'nickname is filled in'],
    [field('kind', { is: 'any-of', values: ['person', 'household'] }), 'kind of supporter is person or household'],
    [field('mailable', { is: 'any-of', values: ['1'] }), 'has a deliverable address'],
    [field('mailable', { is: 'any-of', values: ['0'] }), 'has no deliverable address'],
    [field('birthday', { is: 'in', window: { kind: 'month', ago: -1 } }), 'birthday is next month (December 2026)'],
    [field('age', between(18, 18)), 'age is exactly 18 years'],
    [field('own:3', { is: 'any-of', values: ['1'] }), 'Would host the van: yes'],
    [field('gift-own:4', { is: 'any-of', values: ['Vega'] }), 'star of a gift is Vega'],
    [gave(), 'gave'],
    [
      not(gave(anyOf('fund', 1, 2), lastYear)),
      'did not give to Dark Ground or Telescope Van last fiscal year (FY2026)',
    ],
    [gave(anyOf('fund', 77)), 'gave to something removed'],
    [gave(anyOf('method', 'card'), { ...anyOf('fund', 1), not: true }), 'gave by card not to Dark Ground'],
    [gave({ part: 'cents', test: between(500) }), 'gave whose amount of each is at least $5.00'],
    [gave(anyOf('thanked', '0')), 'gave that were not thanked for'],
    [rows('gifts', [], 'number', between(3)), 'has at least 3 gifts'],
    [rows('gifts', [], 'number', between(null, 0)), 'did not give'],
    [
      total([anyOf('fund', 1), lastYear], 500_00),
      'total given to Dark Ground last fiscal year (FY2026) is at least $500.00',
    ],
    [
      { ...total([], null, 500), credit: 'both', together: true },
      'the household together total given, gifts and recognition is at most $5.00',
    ],
    [
      rows('gifts', [], 'first', { is: 'in', window: { kind: 'last-days', days: 90 } }),
      'first gift was in the last 90 days',
    ],
    [
      {
        ...rows('gifts', [during({ kind: 'fiscal-year', ago: 0 })], 'change', between(1)),
        against: { kind: 'fiscal-year', ago: 1 },
      },
      'change of the total given this fiscal year (FY2027) against last fiscal year (FY2026) is at least $0.01',
    ],
    [not(rows('tags', [anyOf('tag', 1)])), 'is not tagged Volunteer'],
    [rows('wishes', [anyOf('kind', 'deceased')]), 'is noted as deceased'],
    [rows('phones', [anyOf('usable', '1')], 'number', between(null, 0)), 'has no telephone that is usable'],
    [
      rows('installments', [{ part: 'overdue', test: between(31) }]),
      'has an installment whose days overdue is at least 31 days',
    ],
    [
      not({ ...gave(), after: { of: 'sendings', where: [anyOf('subject', 4)], days: 60 } }),
      'did not give within 60 days of the last sending of The van on the road',
    ],
    [{ kind: 'people', list: 3, not: true }, 'is not on the list List 3'],
    [{ kind: 'segment', segment: 3, off: true }, '(switched off) is in the segment Segment 3'],
    [
      { kind: 'related', by: 'tie', where: [anyOf('role', 10), anyOf('open', '1')], match: all(gave()) },
      'is tied to their employer that goes on somebody who matches (gave)',
    ],
    [
      { kind: 'related', by: 'household', where: [], match: all(gave(), gave()), not: true },
      'nobody in the household, themselves included, matches (gave and gave)',
    ],
    [
      total([], 500, 100),
      'total given is at least $5.00 and at most $1.00; nobody can: the least is more than the most',
    ],
    [
      gave(during({ kind: 'between', from: '2026-05-01', to: '2026-04-01' })),
      'gave from May 1, 2026 to Apr 1, 2026; nothing can be in it: it ends before it begins',
    ],
    [field('own:99', { is: 'filled' }), 'asks about something that is no longer there, which nobody meets'],
    [gave(anyOf('colour', 'red')), 'asks about something that is no longer there, which nobody meets'],
  ])('%#: %j', (given, words) => expect(describeCondition(given, wording)).toBe(words));

  it('has words for every test of every field and every part', () => {
    const tests = (type: Type): Test[] =>
      TESTS[type.is].map((is): Test => {
        if (is === 'between') return between(1, 2);
        if (is === 'in') return { is, window: { kind: 'ever' } };
        if (is === 'filled' || is === 'empty') return { is };
        return { is, values: [type.is === 'one' ? (Object.keys(type.options)[0] ?? '') : '1'] };
      });
    const said = (condition: Condition): void => {
      for (const one of [condition, not(condition)]) {
        const words = describeCondition(one, wording);
        expect(words).not.toMatch(/undefined|NaN|no longer there|\[object| {2}/);
        expect(words.length).toBeGreaterThan(3);
      }
    };
    for (const [name, { type }] of wording.fields) for (const test of tests(type)) said(field(name, test));
    for (const of of LISTED_NAMES) {
      for (const [part, { type }] of Object.entries(listedAs(of).parts))
        for (const test of tests(type)) said(rows(of, [{ part, test }], 'number', SOME));
      for (const measure of measuresOf(LISTED[of]))
        said(rows(of, [], measure, /^(first|last)$/.test(measure) ? { is: 'filled' } : between(2)));
    }
  });
});

describe('describeGroup', () => {
  it.each<[Group, string]>([
    [all(), 'everyone'],
    [all(gave(), not(gave(lastYear))), 'gave and did not give last fiscal year (FY2026)'],
    [
      { kind: 'group', join: 'any', parts: [gave(), all(gave(), { kind: 'people', list: 1 })] },
      'gave or (gave and is on the list List 1)',
    ],
    [{ kind: 'group', join: 'none', parts: [gave(), { ...gave(lastYear), off: true }] }, 'none of: gave'],
  ])('%#', (given, words) => expect(describeGroup(given, wording)).toBe(words));
});

describe('what would have to be so', () => {
  const line = (condition: Condition, matches: boolean, saw = ''): Explanation => ({
    ...{ kind: 'condition', condition, matches, saw },
  });
  const group = (join: 'all' | 'any' | 'none', matches: boolean, ...parts: Explanation[]): Explanation => ({
    ...{ kind: 'group', join, off: false, matches, parts },
  });
  const much = total([], 500_00);
  const nevada = field('state', { is: 'any-of', values: ['NV'] });
  const needs = (part: Explanation, wanted = true) => describeNeeds(part, wording, wanted);

  it('is nothing where it is so', () => expect(needs(group('all', true, line(nevada, true)))).toBeNull());
  it('is each part that fails where all must hold, with what is so now', () =>
    expect(needs(group('all', false, line(much, false, '$320.00'), line(nevada, true), line(gave(), false)))).toBe(
      'total given is at least $500.00 (now $320.00) and gave',
    ));
  it('is any part where any will do', () =>
    expect(needs(group('any', false, line(much, false), line(nevada, false)))).toBe(
      'total given is at least $500.00 or state is NV',
    ));
  it('is the opposite of what holds where none may', () =>
    expect(needs(group('none', false, line(nevada, true), line(gave(), false)))).toBe('state is not NV'));
  it('is said of groups within groups, and leaves out what is switched off', () => {
    const inner = group('any', false, line(much, false), line(gave(), false));
    const off = line({ ...nevada, off: true }, false);
    expect(needs(group('all', false, inner, line(not(nevada), false), off))).toBe(
      '(total given is at least $500.00 or gave) and state is not NV',
    );
  });
  it('is the other way round to be out', () => {
    expect(needs(group('all', true, line(nevada, true), line(gave(), true)), false)).toBe(
      'state is not NV or did not give',
    );
    expect(needs(group('any', true, line(nevada, true), line(gave(), false)), false)).toBe('state is not NV');
  });
});
