import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { supporterParts } from '../names/index.ts';
import { faultsOf, FINDING_NAMES, FINDINGS, homeAddress, homeFaults, isBare, withArea } from './index.ts';
import type { Fault, Finding, Looked, LookedHome } from './index.ts';

const WHEN = { today: '2026-06-15', home: 'US' };
const way = { label: 'home', preferred: true, validFrom: null, validTo: null, badOn: null };
const email = (address: string, more: object = {}) => ({ ...way, id: 11, address, badReason: '', ...more });
const phone = (number: string, more: object = {}) => ({ ...way, id: 21, number, ...more });
const address = (text: string, more: object = {}) => {
  const [street = '', city = '', region = '', postal = '', country = ''] = text.split('|');
  return { ...way, id: 31, street, city, region, postal, country, seasonFrom: null, seasonTo: null, ...more };
};
function looked(more: Partial<Looked> = {}): Looked {
  return {
    ...supporterParts({ kind: 'person', first: 'Ann', last: 'Poole' }),
    ...{ id: 7, nickname: '', formerLast: '', birthday: '', deceased: false, householdId: null },
    ...{ emails: [], phones: [], addresses: [], ...more },
  };
}
const told = (record: Looked): [Finding, string, string | null][] =>
  faultsOf(record, WHEN).map(({ finding, was, becomes }) => [finding, was, becomes]);

describe('what is unclean about a record', () => {
  it.each<[string, Partial<Looked>, [Finding, string, string | null][]]>([
    ['nothing', {}, []],
    ['a name in capitals', { first: 'ANN', last: "O'NEILL" }, [['capitals', "ANN O'NEILL", "Ann O'Neill"]]],
    [
      'a name in small letters',
      { first: 'ann', last: 'de la cruz' },
      [['capitals', 'ann de la cruz', 'Ann de la Cruz']],
    ],
    ['a last name of two capitals', { last: 'NG' }, [['capitals', 'Ann NG', 'Ann Ng']]],
    ['initials for a first name', { first: 'JT' }, []],
    [
      'a former name in capitals',
      { formerLast: 'WEBB' },
      [['capitals', 'Ann Poole, formerly WEBB', 'Ann Poole, formerly Webb']],
    ],
    ['an acronym', { kind: 'organization', first: '', last: '', organization: 'KXNV' }, []],
    [
      'an organization in capitals',
      { kind: 'organization', first: '', last: '', organization: 'TURQUOISE HILL BAKERY' },
      [['capitals', 'TURQUOISE HILL BAKERY', 'Turquoise Hill Bakery']],
    ],
    ['a script without capitals', { first: '小龍', last: '李' }, []],
    ['a bare last name', { first: '' }, [['nameless', 'Dear Poole', null]]],
    ['a title and a last name', { first: '', prefix: 'Dr.' }, []],
    ['a birthday to come', { birthday: '2061-03-14' }, [['birthday', '2061-03-14', '1961-03-14']]],
    ['a birthday far off', { birthday: '2161-03-14' }, [['birthday', '2161-03-14', null]]],
    ['a birthday without its year', { birthday: '--12-31' }, []],
    ['a birthday today', { birthday: WHEN.today }, []],
    ['a mistyped domain', { emails: [email('ann@gmial.com')] }, [['email-slip', 'ann@gmial.com', 'ann@gmail.com']]],
    ['a former mistyped domain', { emails: [email('ann@gmial.com', { validTo: '2026-01-01' })] }, []],
    [
      'a bounced address',
      { emails: [email('ann@example.org', { badOn: '2026-05-01', badReason: 'bounced' })] },
      [['email-bad', 'ann@example.org (bad since 2026-05-01, bounced)', 'former']],
    ],
    [
      'mail that comes back',
      { addresses: [address('1 Elm St|Elko|NV|89801', { badOn: '2026-05-01' })] },
      [['address-bad', '1 Elm St, Elko, NV, 89801', null]],
    ],
    [
      'mail that comes back from one of two',
      { addresses: [address('1 Elm St|Elko|NV|89801', { badOn: '2026-05-01' }), address('2 Oak St|Elko|NV|89801')] },
      [],
    ],
    [
      'no state',
      { addresses: [address('1 Elm St|Elko||89801')] },
      [['address-incomplete', '1 Elm St, Elko, 89801 (no state)', '1 Elm St, Elko, NV, 89801']],
    ],
    [
      'no street',
      { addresses: [address('|Elko|NV|89801')] },
      [['address-incomplete', 'Elko, NV, 89801 (no street)', null]],
    ],
    [
      'a ZIP of another state',
      { addresses: [address('1 Elm St|Elko|UT|89801')] },
      [['zip-state', '1 Elm St, Elko, UT, 89801', '1 Elm St, Elko, NV, 89801']],
    ],
    ['a ZIP that is not in use', { addresses: [address('1 Elm St|Elko|UT|00000')] }, []],
    ['an address abroad', { addresses: [address('1 Hoofdstraat|Utrecht||3511|NL')] }, []],
    [
      'an address in capitals',
      { addresses: [address('1 ELM STREET|ELKO|NV|89801')] },
      [['address-form', '1 ELM STREET, ELKO, NV, 89801', '1 Elm St, Elko, NV, 89801']],
    ],
    ['a street word written out', { addresses: [address('1 Elm Street|Elko|NV|89801')] }, []],
    ['seven digits', { phones: [phone('555-0142')] }, [['phone-area', '555-0142', null]]],
    ['ten digits', { phones: [phone('775-555-0142')] }, []],
    ['a short number abroad', { phones: [phone('+354 555142')] }, []],
  ])('%s', (_what, record, wanted) => expect(told(looked(record))).toEqual(wanted));

  it('leaves ways of who died alone', () =>
    expect(told(looked({ deceased: true, emails: [email('ann@gmial.com')], addresses: [address('|Elko||')] }))).toEqual(
      [],
    ));

  it('asks for area codes only where numbers have them', () =>
    expect(faultsOf(looked({ phones: [phone('555-0142')] }), { ...WHEN, home: 'GB' })).toEqual([]));

  it('a former e-mail never ends before it began', () => {
    const [fault] = faultsOf(
      looked({ emails: [email('ann@example.org', { badOn: WHEN.today, validFrom: WHEN.today })] }),
      WHEN,
    );
    expect(fault?.to).toEqual({ valid_from: null, label: 'former', preferred: 0, valid_to: '2026-06-14' });
  });

  it('puts an area code before a number, where that makes one', () => {
    const [fault] = faultsOf(looked({ phones: [phone('738-0142')] }), WHEN);
    const mended = fault && withArea(fault, '775', 'US');
    expect(mended?.to).toEqual({ number: '(775) 738-0142' });
    expect(fault && withArea(fault, '000', 'US').to).toBeNull();
  });

  it.each<[string, Partial<Looked>, boolean]>([
    ['a name alone', {}, true],
    ['a former e-mail', { emails: [email('a@b.org', { validTo: '2020-01-01' })] }, false],
    ['a home', { householdId: 3 }, false],
    ['who died', { deceased: true }, false],
    ['a birthday', { birthday: '--12-31' }, false],
  ])('%s: bare or not', (_what, more, bare) => expect(isBare(looked(more))).toBe(bare));
});

describe('what is proposed', () => {
  const record = fc.record({
    first: fc.constantFrom('ANN', 'ann', 'Ann', 'JEAN-LUC', 'JT', 'de'),
    last: fc.constantFrom('POOLE', 'mcdonald', "O'NEILL", 'NG', 'van der berg', 'Poole'),
    birthday: fc.constantFrom('', '1961-03-14', '2061-03-14', '--02-29'),
    street: fc.constantFrom('1 ELM STREET', '1 Elm St', '2 north oak avenue', ''),
    city: fc.constantFrom('ELKO', 'Elko', 'elko'),
    region: fc.constantFrom('NV', 'UT', 'Nevada', ''),
    postal: fc.constantFrom('89801', '898011234', '84101', ''),
    email: fc.constantFrom('ann@gmial.com', 'ann@example.org', 'ann@yahoo.con'),
  });
  it('mends what it is proposed for, and is not found again', () =>
    fc.assert(
      fc.property(record, ({ first, last, birthday, street, city, region, postal, email: mail }) => {
        let kept = looked({
          ...{ first, last, birthday, emails: [email(mail)] },
          addresses: [address([street, city, region, postal].join('|'))],
        });
        // What is proposed for an address may be mended in turn: a state, then how it is written.
        for (let round = 0; round < 3; round++)
          for (const fault of faultsOf(kept, WHEN)) if (fault.to) kept = applied(kept, fault);
        expect(faultsOf(kept, WHEN).filter(({ to }) => to !== null)).toEqual([]);
      }),
    ));
  it('tells the columns as they are, so that what was changed meanwhile is known', () =>
    fc.assert(
      fc.property(record, ({ first, last }) => {
        for (const { from } of faultsOf(looked({ first, last }), WHEN))
          for (const [column, value] of Object.entries(from))
            expect({ first, last }).toMatchObject({ [column]: value });
      }),
    ));
});

function applied(record: Looked, { table, to }: Fault): Looked {
  if (table === 'email') return { ...record, emails: record.emails.map((one) => ({ ...one, ...to })) };
  if (table === 'address') return { ...record, addresses: record.addresses.map((one) => ({ ...one, ...to })) };
  return { ...record, ...to };
}

describe('homes', () => {
  const ann = looked({ id: 1, first: 'Ann', addresses: [address('1 Elm St|Elko|NV|89801')] });
  const ben = looked({ id: 2, first: 'Ben' });
  const home = looked({ id: 9, kind: 'household', organization: 'The Pooles', first: '', last: '' });
  const of = (more: Partial<LookedHome>): LookedHome => ({
    ...{ home, primaryId: 1, members: [ann, ben], tied: [] },
    ...more,
  });
  const found = (more: Partial<LookedHome>): [Finding, number][] =>
    homeFaults(of(more), WHEN).map(({ finding, supporterId }) => [finding, supporterId]);

  it.each<[string, Partial<LookedHome>, [Finding, number][]]>([
    ['two who are not tied', {}, [['couple', 9]]],
    ['two who are', { tied: [[1, 2]] }, []],
    ['one alone', { members: [ann] }, []],
    ['three', { members: [ann, ben, looked({ id: 3 })] }, []],
    ['two, of whom one died', { members: [ann, { ...ben, deceased: true }] }, []],
    [
      'a parent and a child',
      {
        members: [
          { ...ann, birthday: '1961-01-01' },
          { ...ben, birthday: '1985-01-01' },
        ],
      },
      [],
    ],
    ['a child', { members: [ann, { ...ben, birthday: '2015-01-01' }] }, []],
    [
      'two of one generation',
      {
        members: [
          { ...ann, birthday: '1961-01-01' },
          { ...ben, birthday: '1970-01-01' },
        ],
      },
      [['couple', 9]],
    ],
    ['senior and junior', { members: [ann, { ...ben, suffix: 'Jr.' }] }, []],
    [
      'two addresses',
      { members: [ann, { ...ben, addresses: [address('2 Oak St|Elko|NV|89801')] }], tied: [[1, 2]] },
      [['home-address', 2]],
    ],
    [
      'one address, written twice',
      { members: [ann, { ...ben, addresses: [address('1 Elm Street|ELKO|NV|89801-1234')] }], tied: [[1, 2]] },
      [],
    ],
    [
      'a home in winter',
      {
        members: [
          ann,
          { ...ben, addresses: [address('2 Oak St|Yuma|AZ|85364', { seasonFrom: '01-01', seasonTo: '12-31' })] },
        ],
        tied: [[1, 2]],
      },
      [],
    ],
  ])('%s', (_what, more, wanted) => expect(found(more)).toEqual(wanted));

  it('the address is that of the home itself, else of who stands first in it', () => {
    const own = address('9 Fir St|Elko|NV|89801');
    expect(homeAddress(of({ home: { ...home, addresses: [own] } }), WHEN)).toBe(own);
    expect(homeAddress(of({}), WHEN)).toBe(ann.addresses[0]);
    const bens = address('2 Oak St|Elko|NV|89801');
    expect(homeAddress(of({ primaryId: 2, members: [ann, { ...ben, addresses: [bens] }] }), WHEN)).toBe(bens);
    expect(homeAddress(of({ members: [ben] }), WHEN)).toBeNull();
  });
});

describe('findings', () => {
  it.each(FINDING_NAMES)('%s says what it is and what can be done', (name) => {
    const { label, says, remedy, does, task } = FINDINGS[name];
    expect([label, says, does].every((text) => text.length > 4)).toBe(true);
    expect(task !== undefined).toBe(remedy === 'task');
  });
});
