import { describe, expect, it } from 'vitest';
import { dayNumber } from '../dates/index.ts';
import { Facts, NO_DAY, rowWith } from '../facts/index.ts';
import type { SupporterFacts } from '../facts/index.ts';
import { kept } from '../fields/index.ts';
import { METHOD_CODES } from '../gifts/index.ts';
import { SUPPORTER_KINDS } from '../supporters/index.ts';
import { WISHES } from '../wishes/index.ts';
import { all, anyOf, between, during, evaluate, fieldIs, gave, inGroup, not, rows, tagged, total } from './index.ts';
import type { Condition, Group, Setting } from './index.ts';

/*
 * Questions that development officers ask, on a few supporters made by hand, with those expected written out. The
 * fiscal year begins in July; today is in FY2027.
 */

const TODAY = '2026-11-23';
const on = dayNumber;
const gift = (
  date: string,
  dollars: number,
  more: { fund?: number; campaign?: number; method?: 'card' | 'cheque' } = {},
) => {
  const { method = 'cheque', fund = 1, campaign = 0 } = more;
  return rowWith('gifts', {
    day: on(date),
    cents: dollars * 100,
    fund,
    campaign,
    method: METHOD_CODES.indexOf(method),
  });
};
const sent = (date: string, back = 1, opened: string | null = null) =>
  rowWith('sendings', {
    ...{ day: on(date), kind: 'mailing', subject: 8, outcome: 'sent', channel: 'email', back },
    opened: opened === null ? NO_DAY : on(opened),
  });
const MATCH = rowWith('pledges', { day: on('2026-01-01'), kind: 'match', stage: 'promised' });
/** What the other of a tie is: an employer, somebody who works for it, a spouse, a fund sponsor. */
const [EMPLOYER, EMPLOYEE, SPOUSE, SPONSOR] = [10, 11, 4, 12];
const tie = (other: number, role: number, to = NO_DAY) => rowWith('ties', { other, role, to });
const usable = { from: NO_DAY, to: NO_DAY, bad: NO_DAY };
const phone = rowWith('phones', { number: '702-555-0100', ...usable });

const PEOPLE: Record<string, Omit<SupporterFacts, 'id'>> = {
  ana: {
    ...{ household: 20, birthday: 12 * 32 + 5, mailable: 1, postal: '89001' },
    fields: [[1, kept('Refractor')]],
    lists: {
      gifts: [
        ...[2021, 2022, 2023, 2024, 2025].map((year) => gift(`${year}-12-01`, 40, { campaign: 5 })),
        gift('2026-08-01', 250, { campaign: 5, method: 'card' }),
      ],
      ties: [tie(2, SPOUSE)],
      sendings: [sent('2026-08-01'), sent('2026-02-01', 4, '2026-02-03')],
      groups: [rowWith('groups', { group: 3 })],
    },
  },
  ben: {
    ...{ household: 20, birthday: 12 * 32 + 31, mailable: 1 },
    lists: {
      gifts: [gift('2025-09-01', 200), gift('2025-11-01', 60)],
      ties: [tie(1, SPOUSE)],
      sendings: [sent('2026-06-01')],
      recurring: [rowWith('recurring', { day: on('2025-01-01'), cents: 500, failing: 1, until: NO_DAY })],
    },
  },
  cleo: {
    ...{ birthday: 12 * 32 + 5, mailable: 1, flags: WISHES.deceased.bit },
    lists: {
      gifts: [gift('2026-10-01', 1500)],
      wishes: [rowWith('wishes', { kind: 'deceased' })],
      ties: [tie(1, EMPLOYEE)],
    },
  },
  dev: {
    ...{ birthday: 1 * 32 + 5, mailable: 1, postal: '89101-2201' },
    lists: {
      tags: [rowWith('tags', { tag: 4 })],
      sendings: [sent('2026-11-01'), sent('2026-09-01', 2), sent('2026-07-01', 3, '2026-07-02'), sent('2026-05-01', 4)],
      ties: [tie(7, EMPLOYER), tie(8, SPONSOR, on('2020-01-01'))],
      changes: [rowWith('changes', { day: on('2026-10-15'), kind: 'intake', intake: 2 })],
    },
  },
  eve: {
    ...{ birthday: 12 * 32 + 24, mailable: 0 },
    fields: [[1, kept('Binoculars')]],
    lists: {
      gifts: [gift('2024-03-01', 2000, { method: 'card' }), gift('2025-02-01', 10, { method: 'card' })],
      sendings: [sent('2026-02-01')],
      installments: [rowWith('installments', { day: on('2026-10-01'), cents: 5000, open: 2000 })],
      ties: [tie(8, SPONSOR)],
      changes: [rowWith('changes', { day: on('2026-10-15'), kind: 'intake', intake: 2 })],
      phones: [phone],
    },
  },
  fay: {
    lists: {
      gifts: [gift('2025-08-01', 100), gift('2026-07-01', 90)],
      installments: [
        rowWith('installments', { day: on('2026-11-01'), cents: 5000, open: 5000 }),
        rowWith('installments', { day: on('2026-01-01'), cents: 5000, open: 0 }),
      ],
      changes: [rowWith('changes', { day: on('2026-11-02'), kind: 'intake', intake: 3 })],
      tags: [rowWith('tags', { tag: 4 })],
    },
  },
  works: { kind: SUPPORTER_KINDS.organization.code, lists: { pledges: [MATCH], ties: [tie(4, EMPLOYEE)] } },
  sponsor: { kind: SUPPORTER_KINDS.organization.code, lists: { gifts: [gift('2020-01-01', 5)] } },
  empty: { kind: SUPPORTER_KINDS.organization.code },
};
const NAMES = Object.keys(PEOPLE);
const facts = new Facts();
NAMES.forEach((name, at) => facts.replace({ ...PEOPLE[name], id: at + 1 }));

const setting: Setting = {
  calendar: { today: TODAY, fiscalYearStart: 7 },
  own: [{ id: 1, about: 'supporter', name: 'Telescope', kind: 'one', choices: ['Refractor', 'Binoculars'] }],
  // What the director brought.
  lists: new Map([[6, [2, 6, 99]]]),
};
const who = (...parts: Group['parts']): string[] =>
  [...evaluate(all(...parts), facts, setting)].map((slot) => NAMES[slot] ?? '');
const any = (...parts: Group['parts']): Group => ({ kind: 'group', join: 'any', parts });
const fiscal = (ago: number) => during({ kind: 'fiscal-year', ago });
const month = (ago: number) => ({ is: 'in', window: { kind: 'month', ago } }) as const;
const related = (role: number | null, match: Group): Condition => ({
  ...{ kind: 'related', by: 'tie', match },
  where: [...(role === null ? [] : [anyOf('role', role)]), anyOf('open', '1')],
});

describe('a question of a development officer', () => {
  it('a: a value of an own field, or brought by the director', () => {
    expect(who(any(fieldIs('own:1', 'Refractor'), { kind: 'people', list: 6 }))).toEqual(['ana', 'ben', 'fay']);
  });

  it('b: gave in every one of six seasons to one campaign', () => {
    const seasons = (many: number) => Array.from({ length: many }, (_, ago) => gave(anyOf('campaign', 5), fiscal(ago)));
    expect(who(...seasons(6))).toEqual(['ana']);
    expect(who(...seasons(7))).toEqual([]);
  });

  it('c: gave last fiscal year and not yet this one, and the like', () => {
    expect(who(gave(fiscal(1)), not(gave(fiscal(0))))).toEqual(['ben']);
    expect(who(gave(), not(gave(fiscal(0))))).toEqual(['ben', 'eve', 'sponsor']);
    expect(who(rows('gifts', [], 'first', { is: 'in', window: { kind: 'last-days', days: 90 } }))).toEqual(['cleo']);
    const change = {
      ...rows('gifts', [fiscal(0)], 'change', between(1)),
      against: { kind: 'fiscal-year', ago: 1 } as const,
    };
    expect(who(change)).toEqual(['ana', 'cleo']);
    const lately = during({ kind: 'last', many: 18, unit: 'month' });
    expect(who(rows('gifts', [], 'largest', between(1000_01)), not(gave(lately)))).toEqual(['eve']);
  });

  it('d: birthday next month, any year, not deceased, with a deliverable address', () => {
    const birthday: Condition = { kind: 'field', field: 'birthday', test: month(-1) };
    const deceased = rows('wishes', [anyOf('kind', 'deceased')]);
    expect(who(birthday)).toEqual(['ana', 'ben', 'cleo', 'eve']);
    expect(who(birthday, not(deceased), fieldIs('mailable', '1'))).toEqual(['ana', 'ben']);
  });

  it('e: tagged or in a group, within ZIP prefixes, opened one of the last three e-mails, never gave', () => {
    const near: Condition = { kind: 'field', field: 'postal', test: { is: 'begins', values: ['890', '891'] } };
    const helps = any(tagged(4), inGroup(3));
    expect(who(helps, near)).toEqual(['ana', 'dev']);
    const opened = (latest: number) =>
      rows('sendings', [{ part: 'back', test: between(null, latest) }, anyOf('seen', '1')]);
    expect(who(opened(3))).toEqual(['dev']);
    expect(who(opened(2))).toEqual([]);
    expect(who(opened(4))).toEqual(['ana', 'dev']);
    expect(who(helps, near, opened(3), not(gave()))).toEqual(['dev']);
    // What is no such e-mail has no place among them.
    expect(who(rows('sendings', [{ part: 'back', test: between(null, 3) }, anyOf('channel', 'print')]))).toEqual([]);
  });

  it('f: homes that give over $500 together, of whom nobody gave over $300 alone', () => {
    const together = (dollars: number) => ({ ...total([], dollars * 100 + 1), together: true });
    const alone = (dollars: number): Condition => ({
      ...{ kind: 'related', by: 'household', where: [], not: true, match: all(total([], dollars * 100 + 1)) },
    });
    expect(who(fieldIs('shares', '1'), together(500))).toEqual(['ana', 'ben']);
    expect(who(fieldIs('shares', '1'), together(500), alone(300))).toEqual([]);
    expect(who(fieldIs('shares', '1'), together(500), alone(450))).toEqual(['ana', 'ben']);
  });

  it('g: employees of companies that match, donors through a sponsor, relatives of a board member', () => {
    expect(who(related(EMPLOYER, all(rows('pledges', [anyOf('kind', 'match')]))))).toEqual(['dev']);
    expect(who(related(SPONSOR, all(gave())))).toEqual(['eve']);
    expect(who(related(null, all(inGroup(3))))).toEqual(['ben', 'cleo']);
  });

  it('h: was sent the e-mail and gave nothing within 60 days of it', () => {
    const mailed = [anyOf('subject', 8), anyOf('outcome', 'sent')];
    const answered = { ...gave(), after: { of: 'sendings' as const, where: mailed, days: 60 } };
    expect(who(rows('sendings', mailed))).toEqual(['ana', 'ben', 'dev', 'eve']);
    expect(who(rows('sendings', mailed), not(answered))).toEqual(['ben', 'dev', 'eve']);
  });

  it('i: an installment more than 30 days overdue, a recurring gift that fails, gave by card only', () => {
    expect(who(rows('installments', [{ part: 'overdue', test: between(31) }]))).toEqual(['eve']);
    expect(who(rows('installments', [{ part: 'overdue', test: between(1) }]))).toEqual(['eve', 'fay']);
    expect(who(rows('recurring', [anyOf('failing', '1')]))).toEqual(['ben']);
    expect(who(gave(anyOf('method', 'card')), not(gave({ ...anyOf('method', 'card'), not: true })))).toEqual(['eve']);
  });

  it('j: touched by last month’s intake, and has no telephone', () => {
    const touched = rows('changes', [anyOf('kind', 'intake'), { part: 'day', test: month(1) }]);
    expect(who(touched)).toEqual(['dev', 'eve']);
    expect(who(touched, not(rows('phones', [anyOf('usable', '1')])))).toEqual(['dev']);
  });
});
