import { describe, expect, it } from 'vitest';
import { readDetails as detailsOf, readRow } from './index.ts';
import type { IntakeColumn, RowSetting } from './index.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

const readDetails = (columns: IntakeColumn[], cells: string[], own: RowSetting, labels = {}) =>
  detailsOf(readRow(columns, cells, own).draft, columns, cells, own, labels);
const read = (cells: Partial<Record<IntakeColumn, string>>, over: Partial<RowSetting> = {}) =>
  readDetails(
    Object.keys(cells) as IntakeColumn[],
    Object.values(cells) as string[],
    { ...PLAIN_SETTING, ...over },
    { email: 'work' },
  );
const reasons = (cells: Partial<Record<IntakeColumn, string>>) => read(cells).problems.map(({ reason }) => reason);

describe('ways', () => {
  it('are all read, each with its label', () => {
    const { details } = read({
      ...{ email: 'Ana@Example.org', 'email:2': 'ana@home.example', phone: '775-555-0111', 'phone:3': '775-555-0113' },
      ...{ street: '12 Perseid Pl', unit: 'Apt 4', city: 'Elko', region: 'Nevada', postal: '89801' },
      ...{ 'street:2': '7 Lyra St', 'city:2': 'Reno' },
    });
    expect(details.emails).toEqual([
      { address: 'ana@example.org', label: 'work' },
      { address: 'ana@home.example', label: 'home' },
    ]);
    expect(details.phones.map(({ number }) => number)).toEqual(['775-555-0111', '775-555-0113']);
    expect(details.addresses).toEqual([
      { street: '12 Perseid Pl\nApt 4', city: 'Elko', region: 'NV', postal: '89801', country: '', label: 'home' },
      { street: '7 Lyra St', city: 'Reno', region: '', postal: '', country: '', label: 'home' },
    ]);
  });
  it('a second one that is none is refused at its own column', () =>
    expect(read({ 'email:2': 'nobody', 'phone:2': '12' }).problems).toMatchObject([
      { field: 'email:2', value: 'nobody' },
      { field: 'phone:2', value: '12' },
    ]));
});

describe('days of a life', () => {
  it.each([
    ['3/14/1961', '1961-03-14'],
    ['1961-03-14', '1961-03-14'],
    ['3/14/61', '1961-03-14'],
    ['3/14', '--03-14'],
    ['March 14', '--03-14'],
    ['March 14, 1961', '1961-03-14'],
  ])('%s is %s', (text, birthday) => expect(read({ birthday: text }).details.birthday).toBe(birthday));
  it.each([
    [{ birthday: '2/30/1961' }, /not a day/],
    [{ birthday: '3/14/2031' }, /in the future/],
    [{ birthday: 'spring' }, /not a date/],
    [{ deceasedOn: '12/24/2026' }, /in the future/],
    [{ deceasedOn: '1/2/2020', deceased: 'no' }, /both/],
    [{ birthday: '1/2/1980', deceasedOn: '1/1/1980' }, /before they were born/],
  ])('%j is refused', (cells, reason) => expect(reasons(cells).join()).toMatch(reason));
  it('one that may be a century before wants a look', () =>
    expect(read({ birthday: '3/14/19' }).warnings).toMatchObject([{ field: 'birthday' }]));
  it.each([
    [{ birthday: '3/14/1880' }, ['It makes them 146 years old.']],
    [{ birthday: '3/14/1880', deceasedOn: '1/2/1960' }, []],
    [{ birthday: 'March 14', deceasedOn: '1/2/1960' }, []],
    [{ birthday: '3/14/1930' }, []],
  ])('a life that is too long wants a look: %j', (cells, says) =>
    expect(read(cells).warnings.map(({ reason }) => reason)).toEqual(says),
  );
  it('is asked about while the order is open', () =>
    expect(read({ birthday: '3/4/61' }, { dateOrder: null }).problems).toHaveLength(1));
});

describe('wishes', () => {
  it.each([
    ['yes', true],
    ['X', true],
    ['✓', true],
    ['TRUE', true],
    ['No', false],
    ['0', false],
    ['F', false],
  ])('%s is %s', (cell, on) =>
    expect(read({ noMail: cell }).details.wishes).toEqual([{ kind: 'no_mail', on, happenedOn: null }]),
  );
  it('an empty cell says nothing, another word is refused', () => {
    expect(read({ noMail: '' }).details.wishes).toEqual([]);
    expect(reasons({ noEmail: 'perhaps' })).toEqual(['“perhaps” is neither yes nor no.']);
  });
  it('the day of a death notes it', () =>
    expect(read({ deceasedOn: '2/3/2026' }).details.wishes).toEqual([
      { kind: 'deceased', on: true, happenedOn: '2026-02-03' },
    ]));
});

describe('several in a cell', () => {
  it.each([
    ['volunteer; docent;', ['volunteer', 'docent']],
    ['volunteer, docent', ['volunteer', 'docent']],
    ['Elko, NV; Reno, NV', ['Elko, NV', 'Reno, NV']],
    ['a|a|b', ['a', 'b']],
  ])('%s', (cell, tags) => expect(read({ tag: cell }).details.tags).toEqual(tags));
});

describe('ties', () => {
  it('a spouse is one person', () => {
    expect(read({ spouse: 'Dr. Bo Cruz' }).details.spouse?.name).toMatchObject({
      prefix: 'Dr.',
      first: 'Bo',
      last: 'Cruz',
    });
    expect(reasons({ spouse: 'Bo and Di Cruz' }).join()).toMatch(/one person/);
  });
  it.each(['Ana Cruz', 'Dr. ana cruz'])('nobody is their own spouse: %s', (spouse) =>
    expect(reasons({ first: 'Ana', last: 'Cruz', spouse }).join()).toMatch(/nobody's own spouse/),
  );
  describe('a second person', () => {
    const kind = { id: 4, name: 'parent', back: 'child', from: ['person'], to: ['person'], lineal: true } as const;
    const firms = { ...kind, id: 5, name: 'employer', back: 'employee', from: ['organization'] } as const;
    const second = (second: string, secondIs: string) => {
      const { details, problems } = read({ first: 'Ana', last: 'Cruz', second, secondIs }, { ties: [kind, firms] });
      return { second: details.second, reasons: problems.map(({ reason }) => reason).join() };
    };
    it('is what the row says they are of its supporter', () => {
      // Bo is the parent of Ana, who so stands second in the tie.
      expect(second('Bo Cruz', 'Parent').second).toMatchObject({ kind: 4, first: false, role: 'Parent' });
      expect(second('Bo Cruz', 'child').second).toMatchObject({ kind: 4, first: true });
      expect(second('Bo Cruz', 'child').second?.member.name).toMatchObject({ first: 'Bo', last: 'Cruz' });
    });
    it('of the same name deserves a look: it may be the row itself, or a father and his son', () => {
      const cells = { first: 'Bo', last: 'Cruz', second: 'Bo Cruz', secondIs: 'child' };
      expect(read(cells, { ties: [kind] })).toMatchObject({ problems: [], warnings: [{ field: 'second' }] });
      expect(read({ ...cells, suffix: 'Sr.' }, { ties: [kind] }).warnings).toEqual([]);
    });
    it('is not guessed at where that is missing, or is nothing that a person can be', () => {
      expect(second('', 'child')).toEqual({ second: null, reasons: '' });
      expect(second('Bo Cruz', '').reasons).toMatch(/What the second person is/);
      expect(second('Bo Cruz', 'godfather').reasons).toMatch(/There are: parent, child, employer, employee/);
      expect(second('Bo Cruz', 'employer').reasons).toMatch(/A person cannot be the employer/);
      expect(second('Bo and Di Cruz', 'child').reasons).toMatch(/one person/);
    });
  });
  it('an organization beside a person is where they work, and that is told', () => {
    const { details, warnings } = read({ first: 'Ana', last: 'Cruz', organization: 'Cobalt Ridge Bakery' });
    expect(details.employer).toEqual({ name: 'Cobalt Ridge Bakery', title: '' });
    expect(warnings).toMatchObject([{ field: 'organization' }]);
  });
  it('a whole name beside an organization is not dropped without a word', () =>
    expect(read({ wholeName: 'Ana Cruz', organization: 'Cobalt Ridge Bakery' }).warnings).toMatchObject([
      { field: 'wholeName' },
    ]));
  it('a position without an employer is told', () =>
    expect(read({ jobTitle: 'Baker' }).warnings).toMatchObject([{ field: 'jobTitle' }]));
});

describe('several gifts in a row', () => {
  const COLUMNS: IntakeColumn[] = ['last', 'amount', 'date', 'amount:2', 'date:2', 'amount:3', 'fund', 'method'];
  const gifts = (...cells: string[]) => {
    const first = readRow(COLUMNS, cells, PLAIN_SETTING);
    const more = readDetails(COLUMNS, cells, PLAIN_SETTING);
    return {
      gifts: [...(first.draft.gift ? [first.draft.gift] : []), ...more.details.gifts],
      problems: [...first.problems, ...more.problems],
    };
  };
  it('share what has no column of their own', () =>
    expect(gifts('Cruz', '25', '1/2/2026', '40', '2/3/2026', '50', 'GEN', 'check').gifts).toMatchObject([
      { cents: 2500, date: '2026-01-02', fundId: 1, method: 'cheque' },
      { cents: 4000, date: '2026-02-03', fundId: 1, method: 'cheque' },
      { cents: 5000, date: '2026-01-02', fundId: 1, method: 'cheque' },
    ]));
  it.each(['', '0', '$0.00', '-', 'n/a'])('“%s” is no gift where a row may have several', (none) => {
    const { gifts: found, problems } = gifts('Cruz', none, '', '40', '2/3/2026', none, '', '');
    expect(problems).toEqual([]);
    expect(found).toMatchObject([{ cents: 4000, date: '2026-02-03' }]);
  });
  it('a later one that cannot be read is refused at its own column', () =>
    expect(gifts('Cruz', '25', '1/2/2026', 'forty', '2/30/2026', '', '', '').problems).toMatchObject([
      { field: 'amount:2', value: 'forty' },
      { field: 'date:2', value: '2/30/2026' },
    ]));
  it('what a spreadsheet shows where a formula failed is no name', () =>
    expect(readRow(['last'], ['#N/A'], PLAIN_SETTING).problems).toMatchObject([{ field: 'last', value: '#N/A' }]));
});

describe('a wish to be left alone', () => {
  const said = (column: IntakeColumn, text: string) => read({ [column]: text }).details.wishes.map(({ on }) => on);
  it.each(['Opted out', 'opt-out', 'Unsubscribed', 'STOP', 'do not e-mail', 'No email'])('%s is one', (text) =>
    expect(said('noEmail', text)).toEqual([true]),
  );
  it.each(['Opted in', 'subscribed', 'opt in'])('%s is none', (text) => expect(said('noEmail', text)).toEqual([false]));
  it('is not read into what is no such wish', () => {
    expect(reasons({ anonymous: 'out' })).toEqual(['“out” is neither yes nor no.']);
    expect(reasons({ noMail: 'perhaps' })).toEqual(['“perhaps” is neither yes nor no.']);
  });
});

describe('a gift without a day', () => {
  it('is told of where the file has days, of each of several gifts', () => {
    const warnings = read({ amount: '5', date: '3/1/2026', 'amount:2': '6', 'date:2': '' }).warnings;
    expect(read({ amount: '5', date: '' }).warnings).toMatchObject([{ field: 'date' }]);
    expect(read({ amount: '5' }).warnings).toEqual([]);
    expect(read({ amount: '', date: '' }).warnings).toEqual([]);
    expect(warnings).toEqual([
      { field: 'date:2', value: '', reason: 'The gift has no date; it is taken for one of today, 2026-11-30.' },
    ]);
  });
});
