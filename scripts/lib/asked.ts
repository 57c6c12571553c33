import { spanOf } from '@tallystick/core/dates';
import type { Calendar, Window } from '@tallystick/core/dates';
import { dayNumber } from '@tallystick/core/dates';
import type { Facts, Ragged } from '@tallystick/core/facts';
import { NO_DAY } from '@tallystick/core/facts';
import { METHOD_CODES } from '@tallystick/core/gifts';
import {
  all,
  any,
  anyOf,
  between,
  during,
  fieldIs,
  gave,
  inGroup,
  none,
  not,
  rows,
  tagged,
  total,
} from '@tallystick/core/segments';
import type { Condition, Group, Setting } from '@tallystick/core/segments';
import { SUPPORTER_KINDS } from '@tallystick/core/supporters';
import { MADE, madeList } from './made-facts.ts';
import { countSupporters } from './questions.ts';

/*
 * What development officers ask of supporters, each question answered by segments, by hand over the same columns, and by
 * SQL over the same rows as tables (`made-tables.ts`).
 */

export interface Asked {
  name: string;
  group: Group;
  loop: (facts: Facts) => number;
  sql: string;
}

const fiscal = (ago: number) => during({ kind: 'fiscal-year', ago });
const YES = (part: string) => anyOf(part, '1');
const related = (where: Extract<Condition, { kind: 'related' }>['where'], match: Group): Condition => ({
  ...{ kind: 'related', by: 'tie', where, match },
});

/** What questions are asked with, beside the day: the custom fields and the list of people that they name. */
export const settingOf = (facts: Facts, calendar: Calendar): Setting => ({
  calendar,
  own: [
    { id: MADE.telescope, about: 'supporter', name: 'Telescope', kind: 'text', choices: [] },
    { id: MADE.matches, about: 'supporter', name: 'Matches gifts', kind: 'yesno', choices: [] },
  ],
  lists: new Map([[MADE.list, madeList(facts)]]),
});

/** Whether any row of a supporter in a list passes. */
function anyRow(
  { start, count }: Pick<Ragged, 'start' | 'count'>,
  slot: number,
  passes: (row: number) => boolean,
): boolean {
  const from = start[slot] as number;
  const end = from + (count[slot] as number);
  for (let row = from; row < end; row++) if (passes(row)) return true;
  return false;
}

const count = (where: string): string => `SELECT COUNT(*) AS many FROM made_people p WHERE ${where}`;
const some = (list: string, where: string): string =>
  `EXISTS (SELECT 1 FROM made_${list} r WHERE r.who = p.id AND ${where})`;
const within = ({ from, to }: { from: number; to: number }): string => `r.day BETWEEN ${from} AND ${to}`;

export function askedOn(calendar: Calendar): Asked[] {
  const today = dayNumber(calendar.today);
  const years = [1, 2, 3, 4, 5, 6].map((ago) => spanOf({ kind: 'fiscal-year', ago }, calendar));
  const [current, last] = [
    spanOf({ kind: 'fiscal-year', ago: 0 }, calendar),
    spanOf({ kind: 'fiscal-year', ago: 1 }, calendar),
  ];
  const birthdays: Window = { kind: 'month', ago: -1 };
  const birthMonth = new Date(spanOf(birthdays, calendar).from * 86_400_000).getUTCMonth() + 1;
  const lastMonth = spanOf({ kind: 'month', ago: 1 }, calendar);
  const mailed = [anyOf('subject', MADE.mailing), anyOf('outcome', 'sent')];
  const card = METHOD_CODES.indexOf('card');
  const OPEN = `COALESCE(r.from, 0) <= ${today} AND (r.to IS NULL OR r.to > ${today})`;
  return [
    {
      name: 'a: one custom value, with a pasted list',
      group: any(fieldIs(`own:${MADE.telescope}`, 'Refractor'), { kind: 'people', list: MADE.list }),
      loop(facts) {
        const values = facts.fields.get(MADE.telescope);
        const among = new Uint8Array(facts.size);
        for (const id of madeList(facts)) among[facts.slotOf(id)] = 1;
        return countSupporters(facts, (slot) => among[slot] === 1 || values?.get(slot) === 'Refractor');
      },
      sql: count(`p.telescope = 'Refractor' OR p.id IN (SELECT id FROM made_list)`),
    },
    {
      name: 'b: to one fund in each of six years',
      group: all(...[1, 2, 3, 4, 5, 6].map((ago) => gave(anyOf('fund', MADE.dark), fiscal(ago)))),
      loop(facts) {
        const { day, fund } = facts.gifts.columns;
        const [days, funds] = [day.values, fund.values];
        return countSupporters(facts, (_slot, from, end) => {
          let seen = 0;
          for (let row = from; row < end; row++) {
            if (funds[row] !== MADE.dark) continue;
            const on = days[row] as number;
            for (let year = 0; year < 6; year++)
              if (on >= (years[year] as typeof last).from && on <= (years[year] as typeof last).to) seen |= 1 << year;
          }
          return seen === 63;
        });
      },
      sql: count(years.map((year) => some('gifts', `r.fund = ${MADE.dark} AND ${within(year)}`)).join(' AND ')),
    },
    {
      name: 'c: gave more this year than last',
      group: all({ ...rows('gifts', [fiscal(0)], 'change', between(1)), against: { kind: 'fiscal-year', ago: 1 } }),
      loop(facts) {
        const { day, cents } = facts.gifts.columns;
        const [days, amounts] = [day.values, cents.values];
        return countSupporters(facts, (_slot, from, end) => {
          let more = 0;
          for (let row = from; row < end; row++) {
            const on = days[row] as number;
            if (on >= current.from && on <= current.to) more += amounts[row] as number;
            else if (on >= last.from && on <= last.to) more -= amounts[row] as number;
          }
          return more >= 1;
        });
      },
      sql: `SELECT COUNT(*) AS many FROM (SELECT r.who FROM made_gifts r WHERE r.day BETWEEN ${last.from} AND ${current.to}
        GROUP BY r.who HAVING SUM(IF(${within(current)}, r.cents, -r.cents)) >= 1) x`,
    },
    {
      name: 'd: birthday next month, by post',
      group: all(
        { kind: 'field', field: 'birthday', test: { is: 'in', window: birthdays } },
        not(rows('wishes', [anyOf('kind', 'deceased')])),
        fieldIs('mailable', '1'),
      ),
      loop(facts) {
        const { birthday, mailable } = facts.people;
        const { wishes } = facts.lists;
        const [days, reached, kinds] = [birthday.values, mailable.values, wishes.columns.kind];
        const [dead, kindOf] = [kinds.words.find('deceased'), kinds.values];
        return countSupporters(
          facts,
          (slot) =>
            (days[slot] as number) >> 5 === birthMonth &&
            reached[slot] === 1 &&
            !anyRow(wishes, slot, (row) => kindOf[row] === dead),
        );
      },
      sql: count(
        `p.birthday DIV 32 = ${birthMonth} AND p.mailable = 1 AND NOT ${some('wishes', `r.kind = 'deceased'`)}`,
      ),
    },
    {
      name: 'e: helpers nearby who opened and never gave',
      group: all(
        any(tagged(MADE.volunteer), inGroup(MADE.hosts)),
        { kind: 'field', field: 'postal', test: { is: 'begins', values: ['898', '899'] } },
        rows('sendings', [{ part: 'back', test: between(null, 3) }, anyOf('seen', '1')]),
        not(gave()),
      ),
      loop(facts) {
        const { tags, groups, sendings } = facts.lists;
        const { values, words } = facts.people.postal;
        const near = Uint8Array.from(words.words, (word) => (/^89[89]/.test(word) ? 1 : 0));
        const [tag, group] = [tags.columns.tag.values, groups.columns.group.values];
        const [back, opened] = [sendings.columns.back.values, sendings.columns.opened.values];
        return countSupporters(
          facts,
          (slot, from, end) =>
            from === end &&
            near[values[slot] as number] === 1 &&
            (anyRow(tags, slot, (row) => tag[row] === MADE.volunteer) ||
              anyRow(groups, slot, (row) => group[row] === MADE.hosts)) &&
            anyRow(
              sendings,
              slot,
              (row) => opened[row] !== NO_DAY && (back[row] as number) > 0 && (back[row] as number) <= 3,
            ),
        );
      },
      sql: count(`(${some('tags', `r.tag = ${MADE.volunteer}`)} OR ${some('groups', `r.group = ${MADE.hosts}`)})
        AND (p.postal LIKE '898%' OR p.postal LIKE '899%')
        AND ${some('sendings', 'r.opened IS NOT NULL AND r.back BETWEEN 1 AND 3')} AND NOT ${some('gifts', 'TRUE')}`),
    },
    {
      name: 'f: homes over $500 with nobody over $300',
      group: all(
        fieldIs('kind', 'person'),
        fieldIs('shares', '1'),
        { ...total([], 500_01), together: true },
        { kind: 'related', by: 'household', where: [], match: all(total([], 300_01)), not: true },
      ),
      loop(facts) {
        const { household, kind } = facts.people;
        const amounts = facts.gifts.columns.cents.values;
        const [sums, most] = [new Float64Array(facts.size + 1), new Float64Array(facts.size + 1)];
        countSupporters(facts, (slot, from, end) => {
          let sum = 0;
          for (let row = from; row < end; row++) sum += amounts[row] as number;
          const home = household.values[slot] as number;
          sums[home] = (sums[home] as number) + sum;
          most[home] = Math.max(most[home] as number, sum);
          return false;
        });
        return countSupporters(facts, (slot) => {
          const home = household.values[slot] as number;
          if (home === 0 || kind.values[slot] !== SUPPORTER_KINDS.person.code) return false;
          return (sums[home] as number) >= 500_01 && (most[home] as number) < 300_01;
        });
      },
      sql: `SELECT COUNT(*) AS many FROM made_people p JOIN (SELECT household FROM (SELECT q.id, q.household, COALESCE(SUM(r.cents), 0) AS sum
          FROM made_people q LEFT JOIN made_gifts r ON r.who = q.id WHERE q.household > 0 GROUP BY q.id, q.household) each_one
        GROUP BY household HAVING SUM(sum) >= 50001 AND MAX(sum) < 30001) h ON h.household = p.household WHERE p.kind = ${SUPPORTER_KINDS.person.code}`,
    },
    {
      name: 'g: employees of companies that match',
      group: all(related([anyOf('role', MADE.employer), YES('open')], all(fieldIs(`own:${MADE.matches}`, '1')))),
      loop(facts) {
        const { ties } = facts.lists;
        const { role, other, from: since, to } = ties.columns;
        const [roles, others, begun, ended] = [role.values, other.values, since.values, to.values];
        const matches = facts.fields.get(MADE.matches);
        return countSupporters(facts, (slot) =>
          anyRow(ties, slot, (row) => {
            if (roles[row] !== MADE.employer || (begun[row] as number) > today) return false;
            if (ended[row] !== NO_DAY && (ended[row] as number) <= today) return false;
            const employer = facts.slotOf(others[row] as number);
            return employer >= 0 && !facts.isGone(employer) && matches?.get(employer) === '1';
          }),
        );
      },
      sql: count(
        some(
          'ties',
          `r.role = ${MADE.employer} AND ${OPEN} AND r.other IN (SELECT id FROM made_people WHERE matches = '1')`,
        ),
      ),
    },
    {
      name: 'g: gave through a fund sponsor',
      group: all(rows('credits', [anyOf('kind', 'adviser')])),
      loop(facts) {
        const { credits } = facts;
        const { words, values } = credits.columns.kind;
        const adviser = words.find('adviser');
        return countSupporters(facts, (slot) => anyRow(credits, slot, (row) => values[row] === adviser));
      },
      sql: count(some('credits', `r.kind = 'adviser'`)),
    },
    {
      name: 'g: related to a board member',
      group: all(related([YES('open')], all(inGroup(MADE.board)))),
      loop(facts) {
        const { ties, groups } = facts.lists;
        const { other, from: since, to } = ties.columns;
        const [others, begun, ended, group] = [other.values, since.values, to.values, groups.columns.group.values];
        return countSupporters(facts, (slot) =>
          anyRow(ties, slot, (row) => {
            if ((begun[row] as number) > today || (ended[row] !== NO_DAY && (ended[row] as number) <= today))
              return false;
            const one = facts.slotOf(others[row] as number);
            return one >= 0 && !facts.isGone(one) && anyRow(groups, one, (place) => group[place] === MADE.board);
          }),
        );
      },
      sql: count(some('ties', `${OPEN} AND r.other IN (SELECT who FROM made_groups WHERE \`group\` = ${MADE.board})`)),
    },
    {
      name: 'h: had the e-mail, nothing within 60 days',
      group: all(
        rows('sendings', mailed),
        not({ ...gave(), after: { of: 'sendings' as const, where: mailed, days: 60 } }),
      ),
      loop(facts) {
        const { sendings } = facts.lists;
        const { kind, subject, outcome, day } = sendings.columns;
        const [mailing, sent] = [kind.words.find('mailing'), outcome.words.find('sent')];
        const [kinds, subjects, outcomes, sentOn] = [kind.values, subject.values, outcome.values, day.values];
        const days = facts.gifts.columns.day.values;
        return countSupporters(facts, (slot, from, end) => {
          let on = -Infinity;
          const first = sendings.start[slot] as number;
          for (let row = first; row < first + (sendings.count[slot] as number); row++)
            if (kinds[row] === mailing && subjects[row] === MADE.mailing && outcomes[row] === sent)
              on = Math.max(on, sentOn[row] as number);
          if (on === -Infinity) return false;
          for (let row = from; row < end; row++)
            if ((days[row] as number) >= on && (days[row] as number) <= on + 60) return false;
          return true;
        });
      },
      sql: `SELECT COUNT(*) AS many FROM (SELECT r.who, MAX(r.day) AS day FROM made_sendings r
        WHERE r.kind = 'mailing' AND r.subject = ${MADE.mailing} AND r.outcome = 'sent' GROUP BY r.who) m
        WHERE NOT EXISTS (SELECT 1 FROM made_gifts g WHERE g.who = m.who AND g.day BETWEEN m.day AND m.day + 60)`,
    },
    {
      name: 'i: an installment more than 30 days overdue',
      group: all(rows('installments', [{ part: 'overdue', test: between(31) }])),
      loop(facts) {
        const { installments } = facts.lists;
        const [due, open] = [installments.columns.day.values, installments.columns.open.values];
        return countSupporters(facts, (slot) =>
          anyRow(installments, slot, (row) => (open[row] as number) > 0 && today - (due[row] as number) >= 31),
        );
      },
      sql: count(some('installments', `r.open > 0 AND ${today} - r.day >= 31`)),
    },
    {
      name: 'i: a recurring gift that fails',
      group: all(rows('recurring', [YES('failing')])),
      loop(facts) {
        const { recurring } = facts.lists;
        const failing = recurring.columns.failing.values;
        return countSupporters(facts, (slot) => anyRow(recurring, slot, (row) => failing[row] === 1));
      },
      sql: count(some('recurring', 'r.failing = 1')),
    },
    {
      name: 'i: gave by card only',
      group: all(gave(anyOf('method', 'card')), not(gave({ ...anyOf('method', 'card'), not: true }))),
      loop(facts) {
        const methods = facts.gifts.columns.method.values;
        return countSupporters(facts, (_slot, from, end) => {
          for (let row = from; row < end; row++) if (methods[row] !== card) return false;
          return end > from;
        });
      },
      sql: count(`${some('gifts', `r.method = ${card}`)} AND NOT ${some('gifts', `r.method <> ${card}`)}`),
    },
    {
      name: 'j: touched by last month’s intake, no telephone',
      group: all(
        rows('changes', [anyOf('kind', 'intake'), during({ kind: 'month', ago: 1 })]),
        none(rows('phones', [YES('usable')])),
      ),
      loop(facts) {
        const { changes, phones } = facts.lists;
        const { kind, day } = changes.columns;
        const [intake, kinds, on] = [kind.words.find('intake'), kind.values, day.values];
        const { from: since, to, bad } = phones.columns;
        const [begun, ended, wrong] = [since.values, to.values, bad.values];
        return countSupporters(
          facts,
          (slot) =>
            anyRow(
              changes,
              slot,
              (row) =>
                kinds[row] === intake && (on[row] as number) >= lastMonth.from && (on[row] as number) <= lastMonth.to,
            ) &&
            !anyRow(
              phones,
              slot,
              (row) =>
                wrong[row] === NO_DAY &&
                (begun[row] as number) <= today &&
                (ended[row] === NO_DAY || (ended[row] as number) >= today),
            ),
        );
      },
      sql: count(
        `${some('changes', `r.kind = 'intake' AND ${within(lastMonth)}`)} AND NOT ${some('phones', `r.bad IS NULL AND COALESCE(r.from, 0) <= ${today} AND COALESCE(r.to, ${today}) >= ${today}`)}`,
      ),
    },
  ];
}
