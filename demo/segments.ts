import type { Window } from '@tallystick/core/dates';
import {
  all,
  any,
  anyOf,
  between,
  during,
  fieldIs,
  FIRST_VIEW,
  gave,
  inGroup,
  none,
  not,
  rows,
  stateIs,
  tagged,
  total,
  withRows,
} from '@tallystick/core/segments';
import type { Condition, Group, RowsCondition, View } from '@tallystick/core/segments';
import type { Transaction } from '@tallystick/server/platform/transaction';
import { VAN_MAIL } from './texts.ts';
import { WindowTable } from '@tallystick/server/settings/index';
import { keepPeople, SegmentTable } from '@tallystick/server/segments/index';

const fiscal = (ago: number) => during({ kind: 'fiscal-year', ago });
const last = (many: number, unit: 'month' | 'year'): Window => ({ kind: 'last', many, unit });
const YES = (part: string) => anyOf(part, '1');
const usable = (of: 'emails' | 'phones'): RowsCondition => rows(of, [YES('usable')]);
const DECEASED = rows('wishes', [anyOf('kind', 'deceased')]);

interface DemoSegment {
  name: string;
  folder?: string;
  note?: string;
  match: Group;
  view?: View;
}

const store = (tx: Transaction, segments: readonly DemoSegment[]): Promise<number[]> =>
  tx.insertAll(
    SegmentTable,
    segments.map(({ name, folder = '', note = '', match, view = FIRST_VIEW }) => ({
      ...{ name, folder, note, conditions: JSON.stringify(match), view: JSON.stringify(view) },
      ...{ credit: 'legal', owner_id: null, shared: 1, tag_id: null },
    })),
  );

/** The segments that mailings go to; answers their ids. */
export function putSegments(tx: Transaction, van: number, schools: number): Promise<number[]> {
  return store(tx, [
    { name: 'Nevada donors of last fiscal year', folder: 'Giving', match: all(stateIs('NV'), gave(fiscal(1))) },
    { name: 'Gave last year, not yet this year', folder: 'Giving', match: all(gave(fiscal(1)), not(gave(fiscal(0)))) },
    {
      name: 'Friends of the van',
      folder: 'Giving',
      match: any(gave(anyOf('fund', van), during({ kind: 'last-days', days: 1095 })), tagged(schools)),
    },
    { name: '$1,000 or more, ever', folder: 'Giving', match: all(total([], 1_000_00)) },
  ]);
}

/** The list that the director brought: some who gave to Dark Ground. */
async function putList(tx: Transaction, today: string): Promise<number> {
  const givers = await tx.sql.rows<{ id: number }>(
    `SELECT DISTINCT g.supporter_id AS id FROM gift g JOIN fund f ON f.id = g.fund_id WHERE f.code = 'LAND'
     ORDER BY g.supporter_id LIMIT 30`,
  );
  const ids = Uint32Array.from(givers, ({ id }) => id);
  return keepPeople(tx.sql, { name: 'The director’s list', today, maker: 'Marisol Brightwater', ids, unknown: '' });
}

/** Questions that a development officer asks, each a segment; asked once everything that they name is there. */
export async function putQuestions(tx: Transaction, today: string): Promise<void> {
  const id = async (table: string, name: string): Promise<number> => {
    const column = table === 'fund' ? 'code' : 'name';
    const [row] = await tx.sql.rows<{ id: number }>(`SELECT id FROM ${table} WHERE ${column} = ? ORDER BY id`, [name]);
    if (!row) throw new Error(`The demo has no ${table} ${name}.`);
    return row.id;
  };
  const [telescope, matches] = [await id('custom_field', 'Telescope'), await id('custom_field', 'Matches gifts')];
  const [board, hosts] = [await id('people_group', 'Board of trustees'), await id('people_group', 'Dome hosts')];
  const employer = await id('relation_kind', 'employer');
  const weeks: Window = { kind: 'last', many: 8, unit: 'week' };
  await tx.insert(WindowTable, { name: 'the dark-sky weeks', days: JSON.stringify(weeks) });
  const [volunteer, general] = [await id('tag', 'Volunteer'), await id('fund', 'GEN')];
  const van = await id('mailing', VAN_MAIL.name);
  const mailed = [anyOf('subject', van), anyOf('outcome', 'sent')];
  const seasons = Array.from({ length: 6 }, (_, ago): Condition => gave(anyOf('fund', general), fiscal(ago + 1)));
  const related = (role: number, match: Group): Condition => ({
    ...{ kind: 'related', by: 'tie', where: [anyOf('role', role), YES('open')], match },
  });
  const land = anyOf('fund', await id('fund', 'LAND'));
  const calls = [anyOf('kind', 'call'), during({ kind: 'month', ago: 1 })];
  const spouse = anyOf('role', (await id('relation_kind', 'spouse')) * 2);
  await store(tx, [
    {
      name: 'Refractor owners and the director’s list',
      folder: 'Members',
      note: 'With what each committed to Dark Ground: pledges, and gifts that pay none of them.',
      match: any(fieldIs(`own:${telescope}`, 'Refractor'), { kind: 'people', list: await putList(tx, today) }),
      view: {
        ...FIRST_VIEW,
        columns: [
          ...FIRST_VIEW.columns.filter((one) => ['name', 'number', 'town'].includes(one.id)),
          {
            ...{ id: 'committed', title: 'Committed to Dark Ground', width: 190 },
            shows: {
              ...{ kind: 'measure', of: 'gifts', where: [land, { ...YES('payment'), not: true }], measure: 'sum' },
              plus: [{ of: 'pledges', where: [land], measure: 'sum' }],
            },
          },
          {
            ...{ id: 'spouse', title: 'Spouse', width: 200 },
            shows: { kind: 'values', of: 'ties', where: [spouse, YES('open')], part: 'who', pick: 'all' },
          },
        ],
        sorts: [{ column: 'committed', down: true }],
      },
    },
    {
      ...{ name: 'Calls of last month', folder: 'Lists', match: all(rows('notes', calls)) },
      view: { ...withRows(FIRST_VIEW, 'notes'), where: calls },
    },
    {
      ...{ name: 'Open tasks, whosever they are', folder: 'Lists', match: all(rows('tasks', [YES('open')])) },
      view: { ...withRows(FIRST_VIEW, 'tasks'), where: [YES('open')], sorts: [{ column: 'day', down: false }] },
    },
    {
      ...{ name: 'Who sits on which board', folder: 'Lists', match: all(rows('groups', [anyOf('group', board)])) },
      view: withRows(FIRST_VIEW, 'groups'),
    },
    { name: 'Refractor owners', folder: 'Members', match: all(fieldIs(`own:${telescope}`, 'Refractor')) },
    { name: 'General Operating, six years running', folder: 'Giving', match: all(...seasons) },
    {
      name: 'First gift in the last 90 days',
      folder: 'Giving',
      match: all(rows('gifts', [], 'first', { is: 'in', window: { kind: 'last-days', days: 90 } })),
    },
    {
      name: 'Gave more this year than last',
      folder: 'Giving',
      match: all({ ...rows('gifts', [fiscal(0)], 'change', between(1)), against: { kind: 'fiscal-year', ago: 1 } }),
    },
    {
      name: 'Once gave $1,000 at a time, nothing for 18 months',
      folder: 'Giving',
      match: all(rows('gifts', [], 'largest', between(1_000_00)), not(gave(during(last(18, 'month'))))),
    },
    {
      name: 'Birthday next month, by post',
      folder: 'Letters',
      note: 'For the birthday labels, made at the end of each month.',
      match: all(
        { kind: 'field', field: 'birthday', test: { is: 'in', window: { kind: 'month', ago: -1 } } },
        not(DECEASED),
        fieldIs('mailable', '1'),
      ),
    },
    {
      name: 'Helpers nearby who never gave',
      folder: 'Volunteers',
      match: all(
        any(tagged(volunteer), inGroup(hosts)),
        { kind: 'field', field: 'postal', test: { is: 'begins', values: ['898', '899'] } },
        rows('sendings', [{ part: 'back', test: between(null, 3) }, anyOf('seen', '1')]),
        not(gave()),
      ),
    },
    {
      name: 'Homes that give $500 together, nobody $300 alone',
      folder: 'Giving',
      match: all(
        fieldIs('kind', 'person'),
        fieldIs('shares', '1'),
        { ...total([], 500_01), together: true },
        { kind: 'related', by: 'household', where: [], match: all(total([], 300_01)), not: true },
      ),
    },
    {
      name: 'Employees of companies that match',
      folder: 'Giving',
      match: all(related(employer * 2, all(fieldIs(`own:${matches}`, '1')))),
    },
    { name: 'Gave through a fund sponsor', folder: 'Giving', match: all(rows('credits', [anyOf('kind', 'adviser')])) },
    {
      name: 'Related to a board member',
      folder: 'Board',
      match: all({ kind: 'related', by: 'tie', where: [YES('open')], match: all(inGroup(board)) }),
    },
    {
      name: 'Had the van e-mail and gave nothing within 60 days',
      folder: 'Letters',
      match: all(
        rows('sendings', mailed),
        not({ ...gave(), after: { of: 'sendings' as const, where: mailed, days: 60 } }),
      ),
    },
    {
      name: 'Pledge more than 30 days overdue',
      folder: 'Pledges',
      match: all(rows('installments', [{ part: 'overdue', test: between(31) }])),
    },
    { name: 'Recurring gift that fails', folder: 'Pledges', match: all(rows('recurring', [YES('failing')])) },
    {
      name: 'Gave by card only',
      folder: 'Giving',
      match: all(gave(anyOf('method', 'card')), not(gave({ ...anyOf('method', 'card'), not: true }))),
    },
    {
      name: 'Touched by last month’s intake, no telephone',
      folder: 'Upkeep',
      match: all(rows('changes', [anyOf('kind', 'intake'), during({ kind: 'month', ago: 1 })]), none(usable('phones'))),
    },
  ]);
}
