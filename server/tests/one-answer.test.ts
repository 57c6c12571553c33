import fc from 'fast-check';
import Papa from 'papaparse';
import readSheets from 'read-excel-file/node';
import { parse as parseCards } from 'vcard4';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp, recordOf, TODAY } from './support.ts';
import type { TestApp } from './support.ts';

/* How a supporter is reached has one answer on a day: every screen, list, file, mailing and letter gives it. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const day = fc.constantFrom(null, '2025-03-01', '2026-11-20', TODAY, '2026-12-24');
const way = {
  preferred: fc.boolean(),
  validFrom: day,
  validTo: day,
  badOn: fc.constantFrom(null, null, null, '2026-01-02'),
};
let mailbox = 0;
const email = fc.record({ ...way, label: fc.constantFrom('home', 'work') });
const phone = fc.record({ ...way, label: fc.constantFrom('mobile', 'home') });
const season = fc.constantFrom(
  { seasonFrom: null, seasonTo: null },
  { seasonFrom: '11-01', seasonTo: '03-31' },
  { seasonFrom: '06-01', seasonTo: '08-31' },
);
const address = fc
  .tuple(fc.record({ ...way, label: fc.constantFrom('home', 'summer') }), season)
  .map(([one, when]) => ({ ...one, ...when }));
const inOrder = <T extends { validFrom: string | null; validTo: string | null }>(one: T): boolean =>
  one.validFrom === null || one.validTo === null || one.validFrom <= one.validTo;
const ways = fc.record({
  emails: fc.array(email.filter(inOrder), { maxLength: 3 }),
  phones: fc.array(phone.filter(inOrder), { maxLength: 2 }),
  addresses: fc.array(address.filter(inOrder), { maxLength: 3 }),
});

interface Row {
  id: number;
  email: string | null;
  phone: string | null;
  street: string;
}
type Ways = [email: string, phone: string, street: string];

describe('every way to ask by what a supporter is reached today', () => {
  const ids: number[] = [];
  /** The answer of the record, which all others are held against. */
  const answers = new Map<number, Ways>();
  beforeAll(async () => {
    for (const one of fc.sample(ways, { numRuns: 40, seed: 7 })) {
      const number = ids.length;
      const id = await addPerson(test, {
        ...{ first: `Reach${number}`, last: 'Oneanswer', prefix: '' },
        emails: one.emails.map((each) => ({ ...each, address: `reach${++mailbox}@example.org` })),
        phones: one.phones.map((each) => ({ ...each, number: `(775) 555-${String(1000 + ++mailbox)}` })),
        addresses: one.addresses.map((each) => ({ ...each, street: `${++mailbox} Lyra Rd`, city: 'Ely' })),
      });
      ids.push(id);
      await addGift(test, id);
      const { reach } = await recordOf(test, id);
      answers.set(id, [reach.email ?? '', reach.phone ?? '', reach.lines[0] ?? '']);
    }
  }, 120_000);

  const selection = () => ({ kind: 'ids', ids });
  const agree = (found: ReadonlyMap<number, Ways>): void =>
    expect(Object.fromEntries(found)).toEqual(Object.fromEntries(answers));

  it('is asked of people who differ: some by no way, some by another than the first', () => {
    const all = [...answers.values()];
    for (const at of [0, 1, 2] as const) {
      expect(all.filter((one) => one[at] === '').length).toBeGreaterThan(4);
      expect(all.filter((one) => one[at] !== '').length).toBeGreaterThan(4);
    }
  });

  it('lists', async () => {
    const { items } = (await test.call('GET', '/supporters?q=oneanswer&limit=100')).body as unknown as { items: Row[] };
    agree(new Map(items.map((row) => [row.id, [row.email ?? '', row.phone ?? '', row.street]])));
  });

  it('find', async () => {
    for (const [id, [address]] of answers) {
      const { supporters } = (await test.call('GET', `/find?q=S-${id}`)).body as unknown as {
        supporters: { about: string }[];
      };
      expect(supporters[0]?.about.split(' · ').find((part) => part.includes('@')) ?? '').toBe(address);
    }
  });

  const byHeading = (headings: readonly string[], row: readonly unknown[]): [number, Ways] => {
    const cell = (heading: string): string => String(row[headings.indexOf(heading)] ?? '');
    return [Number(cell('Number').slice(2)), [cell('E-mail'), cell('Telephone'), cell('Street')]];
  };

  it('CSV, as another program reads it', async () => {
    const { text } = await test.call('POST', '/supporters/export', { selection: selection(), as: 'csv' });
    const [headings = [], ...rows] = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true }).data;
    agree(new Map(rows.map((row) => byHeading(headings, row))));
  });

  it('a workbook, as another program reads it', async () => {
    const { bytes } = await test.call('POST', '/supporters/export', { selection: selection(), as: 'xlsx' });
    const [sheet] = await readSheets(bytes);
    const [headings = [], ...rows] = sheet?.data ?? [];
    agree(new Map(rows.map((row) => byHeading(headings.map(String), row))));
  });

  it('cards, as another program reads them: what is used stands first and is the only one preferred', async () => {
    const { text } = await test.call('POST', '/supporters/export', { selection: selection(), as: 'vcf' });
    const cards = [parseCards(text)].flat();
    expect(cards).toHaveLength(ids.length);
    const found = new Map<number, Ways>();
    for (const [at, card] of cards.entries()) {
      const first = (name: 'EMAIL' | 'TEL' | 'ADR'): unknown => {
        const all = card.getProperty(name) ?? [];
        const preferred = all.map(({ parameters }) => 'PREF' in parameters);
        expect(preferred.slice(1)).not.toContain(true);
        return all[0]?.value ?? '';
      };
      const lines = first('ADR') as { streetAddress?: string };
      const street = lines.streetAddress;
      found.set(ids[at] ?? 0, [String(first('EMAIL')), String(first('TEL')), street ?? '']);
    }
    agree(found);
  });

  it('a mailing and a receipt', async () => {
    const { body } = await test.call('POST', '/supporters/export/check', { selection: selection(), for: 'email' });
    const held = new Set((body['some'] as { supporterId: number }[]).map((one) => one.supporterId));
    expect([...answers].filter(([, [address]]) => address === '').map(([id]) => id)).toEqual(
      ids.filter((id) => held.has(id)),
    );
    const { items } = (await test.call('GET', '/thanks?limit=500')).body as unknown as {
      items: { supporterId: number; channel: string; address: string; because: string; look: boolean }[];
    };
    for (const gift of items.filter((one) => answers.has(one.supporterId))) {
      const [email = '', , street = ''] = answers.get(gift.supporterId) ?? [];
      expect(gift.channel).toBe(email === '' ? 'print' : 'email');
      if (email !== '') expect(gift.address).toBe(email);
      else expect([gift.address.startsWith(street), gift.look]).toEqual([true, street === '']);
    }
  });

  it('rows of a sheet', async () => {
    const { people } = (await test.call('GET', `/sheet-people?ids=${ids.join(',')}`)).body as unknown as {
      people: { id: number; cells: Record<string, string> }[];
    };
    agree(
      new Map(people.map(({ id, cells }) => [id, [cells['email'] ?? '', cells['phone'] ?? '', cells['street'] ?? '']])),
    );
  });
});
