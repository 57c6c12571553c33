import { describe, expect, it } from 'vitest';
import { dayNumber } from '../dates/index.ts';
import { Facts, NO_DAY, rowWith } from '../facts/index.ts';
import { kept } from '../fields/index.ts';
import { METHOD_CODES } from '../gifts/index.ts';
import { SUPPORTER_KINDS } from '../supporters/index.ts';
import {
  anyOf,
  askingOf,
  cellsOf,
  cellWords,
  describeShown,
  during,
  FIRST_VIEW,
  listRows,
  rowIds,
  thingIds,
  STANDING,
  standingAs,
  standingName,
  withRows,
} from './index.ts';
import type { Cells, Rows, Shown, Telling, View, Where, Wording } from './index.ts';
import { FIELDS, fieldsWith, LISTED_NAMES } from '../catalogue/index.ts';

/*
 * What columns show of a few supporters made by hand. The fiscal year begins in July; today is in FY2027. Ana and Ben
 * share a home; Cleo is on record as an organization.
 */
const calendar = { today: '2026-11-23', fiscalYearStart: 7 };
const on = dayNumber;
const [GROUND, VAN, SPOUSE] = [3, 4, 6];
const gift = (id: number, date: string, dollars: number, fund: number, marks = 0) =>
  rowWith('gifts', {
    ...{ gift: id, day: on(date), cents: dollars * 100, fund, marks },
    method: METHOD_CODES.indexOf('card'),
  });
const part = (id: number, date: string, dollars: number, fund: number) =>
  rowWith('splits', { gift: id, day: on(date), cents: dollars * 100, fund });
const pledge = (dollars: number, fund: number) =>
  rowWith('pledges', { day: on('2026-01-01'), cents: dollars * 100, fund, kind: 'pledge', stage: 'promised' });
const PAYMENT = 8;
const email = (address: string, preferred: number, to = NO_DAY) =>
  rowWith('emails', { address, preferred, from: NO_DAY, to, bad: NO_DAY });

const facts = new Facts();
facts.replace({
  ...{ id: 1, sortName: 'ruiz ana', first: 'Ana', last: 'Ruiz', household: 9, city: 'Élan', birthday: 12 * 32 + 5 },
  fields: [
    [1, kept('Refractor')],
    [2, kept('12500')],
  ],
  lists: {
    gifts: [
      gift(11, '2026-08-01', 100, GROUND),
      gift(12, '2026-09-01', 50, GROUND, PAYMENT),
      gift(13, '2025-08-01', 90, 0),
    ],
    splits: [part(13, '2025-08-01', 30, GROUND), part(13, '2025-08-01', 60, VAN)],
    pledges: [pledge(500, GROUND), pledge(70, VAN)],
    ties: [rowWith('ties', { other: 2, role: SPOUSE, from: NO_DAY, to: NO_DAY })],
    emails: [email('old@example.org', 0, on('2020-01-01')), email('ana@example.org', 0), email('a@example.org', 1)],
    tags: [rowWith('tags', { tag: 7 }), rowWith('tags', { tag: 8 }), rowWith('tags', { tag: 7 })],
  },
});
facts.replace({
  ...{ id: 2, sortName: 'ruiz ben', prefix: 'Dr.', first: 'Ben', last: 'Ruiz', household: 9 },
  lists: { gifts: [gift(21, '2026-07-02', 40, VAN)] },
});
facts.replace({ id: 3, sortName: 'cleo co', organization: 'Cleo Co', kind: SUPPORTER_KINDS.organization.code });

const NAMES: Record<string, Record<number, string>> = {
  ...{ tag: { 7: 'Volunteer', 8: 'Astronomer' }, fund: { 3: 'Dark Ground', 4: 'Telescope Van' } },
  role: { 6: 'spouse' },
};
const telling: Telling = {
  ...{ calendar, formats: { locale: 'en-US', currency: 'USD' } },
  nameOf: (to, id) => NAMES[to]?.[id] ?? '',
};
const own = [
  { id: 1, about: 'supporter', name: 'Telescope', kind: 'one', choices: ['Refractor'] },
  { id: 2, about: 'supporter', name: 'Capacity', kind: 'money', choices: [] },
] as const;
const asking = askingOf(facts, { calendar, own: own.map((one) => ({ ...one, choices: [...one.choices] })) });
const EACH: Rows = { slotOf: (row) => row, list: null, together: false };
const read = (shown: Shown, rows: Rows = EACH): Cells => {
  const cells = cellsOf(shown, rows, asking, telling);
  if (!cells) throw new Error('There is no such column.');
  return cells;
};
const cellsIn = (shown: Shown, rows = EACH) => [0, 1, 2].map(read(shown, rows).cell);
const sum = (where: readonly Where[]): Extract<Shown, { kind: 'measure' }> => ({
  ...{ kind: 'measure', of: 'gifts', measure: 'sum', where },
});
const ground = anyOf('fund', GROUND);

describe('a column', () => {
  it('shows names as they are read and sorts them by the last name', () => {
    const { cell, key } = read({ kind: 'field', field: 'name' });
    expect([0, 1, 2].map(cell)).toEqual(['Ana Ruiz', 'Dr. Ben Ruiz', 'Cleo Co']);
    expect([0, 1, 2].map(key)).toEqual(['ruiz ana', 'ruiz ben', 'cleo co']);
  });
  it('shows numbers as people read them and sorts them as numbers', () => {
    const { cell, key } = read({ kind: 'field', field: 'number' });
    expect([cell(0), key(2)]).toEqual(['S-1', 3]);
  });
  it('shows what one kind of value is in its own type, and nothing where there is none', () => {
    expect(cellsIn({ kind: 'field', field: 'own:2' })).toEqual([12500, null, null]);
    expect(read({ kind: 'field', field: 'own:2' })).toMatchObject({ type: 'money', sums: true });
    expect(cellsIn({ kind: 'field', field: 'own:1' })).toEqual(['Refractor', null, null]);
    expect(cellsIn({ kind: 'field', field: 'kind' })).toEqual(['person', 'person', 'organization']);
    expect(read({ kind: 'field', field: 'town' }).key(0)).toBe('elan');
  });
  it('counts pledges and gifts to a fund, and not what was paid on pledges', () => {
    const { of, measure } = sum([]);
    const given: Shown = {
      ...sum([ground, { ...anyOf('payment', 1), not: true }]),
      plus: [{ of: 'pledges', measure, where: [ground] }],
    };
    // $100 and the $30 of the split gift, and the $500 that is pledged.
    expect(cellsIn(given)).toEqual([63000, 0, 0]);
    expect([of, read(given).sums]).toEqual(['gifts', true]);
  });
  it('shows who is tied to somebody, by name', () => {
    const spouse: Shown = { kind: 'values', of: 'ties', where: [anyOf('role', SPOUSE)], part: 'who', pick: 'all' };
    expect(cellsIn(spouse)).toEqual(['Dr. Ben Ruiz', null, null]);
  });
  it('shows several values in one cell, each once, or one by a rule', () => {
    expect(cellsIn({ kind: 'values', of: 'tags', where: [], part: 'tag', pick: 'all' })[0]).toBe(
      'Volunteer, Astronomer',
    );
    const emails: Shown = { kind: 'values', of: 'emails', where: [], part: 'address', pick: 'preferred' };
    expect(cellsIn(emails)[0]).toBe('a@example.org');
    const usable: Shown = {
      ...emails,
      where: [{ ...anyOf('preferred', 1), not: true }, anyOf('usable', 1)],
      pick: 'all',
    };
    expect(cellsIn(usable)[0]).toBe('ana@example.org');
    expect(cellsIn({ kind: 'values', of: 'pledges', where: [], part: 'cents', pick: 'largest' })).toEqual([
      50000,
      null,
      null,
    ]);
  });
  it('shows a date as a date, and what has no value as nothing', () => {
    expect(cellsIn({ ...sum([]), measure: 'last' })).toEqual(['2026-09-01', '2026-07-02', null]);
    expect(cellsIn({ ...sum([]), measure: 'largest' })).toEqual([10000, 4000, null]);
    expect(read({ ...sum([]), measure: 'largest' }).sums).toBe(false);
  });
  it('takes what everybody at home has where there is one row for each home', () => {
    const home: Rows = { ...EACH, together: true };
    expect(read(sum([during({ kind: 'fiscal-year', ago: 0 })]), home).cell(0)).toBe(19000);
    expect(read({ kind: 'values', of: 'gifts', where: [], part: 'fund', pick: 'all' }, home).cell(1)).toBe(
      'Dark Ground, Telescope Van',
    );
  });
  it('is none where it shows something that there is not', () => {
    for (const shown of [
      { kind: 'field', field: 'own:99' },
      { ...sum([anyOf('nothing', 1)]) },
      { kind: 'values', of: 'tags', where: [], part: 'nothing', pick: 'all' },
      { kind: 'part', part: 'fund' },
      { ...sum([]), plus: [{ of: 'gifts', where: [], measure: 'last' }] },
    ] as Shown[])
      expect(cellsOf(shown, EACH, asking, telling)).toBeNull();
  });
});

describe('one row for each gift', () => {
  const rowsOf = (...where: Where[]) => {
    const { places, owners } = listRows('gifts', [0, 1, 2], where, asking);
    const rows: Rows = {
      ...{ slotOf: (row) => owners[row] as number, together: false },
      list: { of: 'gifts', placeOf: (row) => places[row] as number },
    };
    const cells = (shown: Shown) => [...places.keys()].map(read(shown, rows).cell);
    return { many: places.length, cells };
  };
  it('has each gift once, whatever it is split into, with where its parts went in one cell', () => {
    const { many, cells } = rowsOf();
    expect(many).toBe(4);
    expect(cells({ kind: 'part', part: 'fund' })).toEqual([
      ...['Dark Ground, Telescope Van', 'Dark Ground', 'Dark Ground', 'Telescope Van'],
    ]);
    expect(cells({ kind: 'part', part: 'cents' })).toEqual([9000, 10000, 5000, 4000]);
    expect(cells({ kind: 'part', part: 'day' })[3]).toBe('2026-07-02');
    expect(cells({ kind: 'field', field: 'name' })[3]).toBe('Dr. Ben Ruiz');
  });
  it('has those that are asked for; a split gift where any part passes', () => {
    expect(rowsOf(ground).cells({ kind: 'part', part: 'cents' })).toEqual([9000, 10000, 5000]);
    expect(rowsOf(anyOf('fund', VAN)).many).toBe(2);
    expect(rowsOf(ground, { part: 'cents', test: { is: 'between', atLeast: 6000, atMost: null } }).many).toBe(2);
    expect(rowsOf(anyOf('nothing', 1)).many).toBe(0);
  });
});

describe('a view', () => {
  it('changes its columns with its rows, and has those of supporters back', () => {
    const gifts = withRows(FIRST_VIEW, 'gifts');
    expect(gifts.columns.some(({ shows }) => shows.kind === 'part')).toBe(true);
    expect(gifts.sorts).toEqual([{ column: 'day', down: true }]);
    expect(withRows(gifts, 'supporter')).toEqual(FIRST_VIEW);
    expect(withRows(FIRST_VIEW, 'household')).toEqual({ ...FIRST_VIEW, rows: 'household' });
    expect(withRows(FIRST_VIEW, 'supporter')).toBe(FIRST_VIEW);
  });
  it('keeps columns of one’s own when its rows change back', () => {
    const more: View = {
      ...FIRST_VIEW,
      ...{ rows: 'gifts', columns: [{ id: 'x', title: '', width: 90, shows: sum([]) }], groupBy: 'x' },
    };
    expect(withRows(more, 'person')).toMatchObject({ rows: 'person', columns: more.columns, groupBy: null });
  });
});

describe('the words of a column', () => {
  const wording: Wording = { ...{ ...telling, fields: fieldsWith([]), listName: () => '', segmentName: () => '' } };
  const words = (shown: Shown): string => describeShown(shown, 'gifts', wording);
  it('say exactly what it shows', () => {
    expect(words({ kind: 'field', field: 'town' })).toBe('Town');
    expect(words({ kind: 'part', part: 'method' })).toBe('Paid by');
    expect(words(sum([ground]))).toBe('Total given to Dark Ground');
    expect(words({ ...sum([ground]), plus: [{ of: 'pledges', measure: 'sum', where: [ground] }] })).toBe(
      'Total given to Dark Ground and total pledged to Dark Ground',
    );
    expect(words({ ...sum([]), measure: 'last', together: true })).toBe('The household together last gift');
    expect(words({ kind: 'values', of: 'ties', where: [anyOf('role', SPOUSE)], part: 'who', pick: 'all' })).toBe(
      'Tie to their spouse: the other’s name',
    );
    expect(words({ kind: 'values', of: 'emails', where: [], part: 'address', pick: 'preferred' })).toBe(
      'E-mail, the preferred one',
    );
  });
  it('say that what it showed is no longer there', () => {
    expect(words({ kind: 'field', field: 'own:9' })).toBe('No longer there');
    expect(words({ kind: 'values', of: 'tags', where: [], part: 'gone', pick: 'all' })).toBe('No longer there');
  });
});

describe('one row for each of another list', () => {
  const tasks = new Facts();
  tasks.replace({
    ...{ id: 1, sortName: 'a', first: 'A', last: 'A' },
    lists: {
      tasks: [
        rowWith('tasks', { id: 71, day: on('2026-12-01'), title: 'Call back', owner: 7 }),
        rowWith('tasks', { id: 72, day: on('2026-11-01'), title: 'Write', done: on('2026-11-02') }),
      ],
      tags: [rowWith('tags', { tag: 7 })],
    },
  });
  const about = askingOf(tasks, { calendar });
  const rowsIn = (of: 'tasks' | 'tags', where: Where[]) => {
    const { places, owners } = listRows(of, [0], where, about);
    const rows: Rows = {
      ...{ slotOf: (row) => owners[row] as number, together: false },
      list: { of, placeOf: (row) => places[row] as number },
    };
    const idOf = rowIds(tasks, of);
    return {
      ids: [...places].map(idOf),
      cells: (part: string) =>
        [...places.keys()].map((row) => cellsOf({ kind: 'part', part }, rows, about, telling)?.cell(row)),
    };
  };
  it('shows their parts, each row under its own number', () => {
    const { ids, cells } = rowsIn('tasks', []);
    expect(ids).toEqual([71, 72]);
    expect(cells('title')).toEqual(['Call back', 'Write']);
    expect(cells('day')).toEqual(['2026-12-01', '2026-11-01']);
    expect(cells('done')).toEqual([null, '2026-11-02']);
    expect(cells('nothing')).toEqual([undefined, undefined]);
  });
  it('of a list whose rows may stand with several are told apart by their places, and know what they are', () => {
    expect(thingIds(tasks, 'tasks')?.(0)).toBe(71);
    expect(thingIds(tasks, 'tags')).toBeNull();
    expect([rowIds(tasks, 'tasks')(0), rowIds(tasks, 'notes')(4), rowIds(tasks, 'ties')(4)]).toEqual([71, 5, 5]);
  });
  it('has those that are asked for', () => {
    expect(rowsIn('tasks', [anyOf('open', 1)]).ids).toEqual([71]);
    expect(rowsIn('tags', []).cells('tag')).toEqual(['Volunteer']);
  });
  it('begins with columns of its own in a form that can be shown', () => {
    for (const of of LISTED_NAMES) {
      const view = withRows(FIRST_VIEW, of);
      const rows: Rows = { ...{ slotOf: () => 0, together: false }, list: { of, placeOf: () => 0 } };
      for (const { id, shows } of view.columns)
        expect([of, id, cellsOf(shows, rows, about, telling) === null]).toEqual([of, id, false]);
      expect(view.sorts.every(({ column }) => view.columns.some(({ id }) => id === column))).toBe(true);
    }
  });
});

describe('the names that addresses have for columns', () => {
  it('are standing ones, and fields by what the catalogue calls them', () => {
    expect(standingAs('lifetime')).toBe(STANDING.lifetime);
    expect(standingAs('field:birthday')).toEqual({ kind: 'field', field: 'birthday' });
    expect(standingAs('field:12')).toEqual({ kind: 'field', field: 'own:12' });
    expect(standingAs('field:gift-own:3')).toEqual({ kind: 'field', field: 'gift-own:3' });
    for (const none of ['shoes', 'field:', 'toString', 'constructor']) expect(standingAs(none)).toBeNull();
  });
  it('are read as they are written, for every field', () => {
    for (const name of [...Object.keys(FIELDS), 'own:7', 'gift-own:7'])
      expect(standingAs(standingName(name))).toEqual({ kind: 'field', field: name });
  });
});

it('says a cell in words as the organization writes it', () => {
  const formats = { locale: 'de-DE', currency: 'EUR' };
  const words = (type: Parameters<typeof cellWords>[0], cell: string | number | null) =>
    cellWords(type, cell, formats).replace(/\s/g, ' ');
  expect([words('money', 123_456), words('number', 1234.5), words('date', '2026-03-01')]).toEqual([
    ...['1.234,56 €', '1.234,5', expect.stringContaining('2026')],
  ]);
  expect([words('text', 'Ely'), words('text', null), words('money', null)]).toEqual(['Ely', '', '']);
});
