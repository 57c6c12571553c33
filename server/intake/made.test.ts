import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { IntakeRecipe } from '@tallystick/contract/intake';
import { openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Columns that a file does not have: made of its own, kept in a recipe, and left out of what goes back. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const FILE = [
  'Guest,Place,Paid',
  '"Vance, Una","12 Lyra St, Elko, NV 89801",25.00',
  '"Orr, Bo","9 Mill Rd, Reno, NV 89501",a lot',
  '"Short, Al"',
].join('\n');
const made = [
  { name: 'Last', from: [0], sign: ',', part: 1 },
  { name: 'First', from: [0], sign: ',', part: -1 },
  { name: 'Street', from: [1], sign: ',', part: 1 },
  { name: 'City', from: [1], sign: ',', part: 2 },
  { name: 'State and ZIP', from: [1], sign: ',', part: 3 },
  { name: 'State', from: [7], sign: ' ', part: 1 },
  { name: 'ZIP', from: [7], sign: ' ', part: 2 },
];
const columns = [null, null, 'amount', 'last', 'first', 'street', 'city', null, 'region', 'postal'];
const upload = async (name: string, text: string) =>
  (await test.call('POST', `/intakes?name=${name}`, undefined, { raw: Buffer.from(text) })).body as {
    id: number;
    version: number;
    headings: string[];
    setting: Record<string, unknown>;
    recipe: { used: boolean; fresh: string[]; missing: string[] } | null;
  };
const rowsOf = async (id: number) =>
  (await test.call('GET', `/intakes/${id}/rows?limit=10`)).body as unknown as {
    items: { verdict: string; cells: string[]; says: string }[];
    questions: unknown[];
  };

describe('columns made of those of a file', () => {
  it('are read like its own, ask nothing of what they are made of, and are known to the next file by its recipe', async () => {
    const file = await upload('guests.csv', FILE);
    const set = { version: file.version, setting: { ...file.setting, columns, made } };
    expect((await test.call('PUT', `/intakes/${file.id}`, set)).status).toBe(200);
    const { items, questions } = await rowsOf(file.id);
    expect(questions).toEqual([]);
    expect(items.map(({ verdict }) => verdict)).toEqual(['new', 'bad', 'bad']);
    expect(items[0]?.cells.slice(3)).toEqual(['Vance', 'Una', '12 Lyra St', 'Elko', 'NV 89801', 'NV', '89801']);
    expect(items[2]?.says).toContain('has 1 cell where the heading has 3: its amount is cut off');
    const { headings } = (await test.call('GET', `/intakes/${file.id}`)).body;
    expect(headings).toEqual(['Guest', 'Place', 'Paid', ...made.map(({ name }) => name)]);

    // What goes back to be mended has the columns of the file alone.
    const csv = await test.call('GET', `/intakes/${file.id}/left-out.csv`);
    expect(csv.text.replace(/^\uFEFF/, '').split(/\r?\n/)[0]).toBe('Guest,Place,Paid,Why it was left out');
    expect(csv.text).toContain('"Orr, Bo","9 Mill Rd, Reno, NV 89501",a lot,');

    const posted = await test.call('POST', `/intakes/${file.id}/post`, {});
    expect(await test.jobEnd(Number(posted.body['jobId']))).toMatchObject({ state: 'done' });
    const found = await test.sql.rows(
      `SELECT s.first, s.last, a.street, a.city, a.region, a.postal FROM supporter s
       JOIN address a ON a.supporter_id = s.id WHERE s.last = 'Vance'`,
    );
    expect(found).toEqual([
      { first: 'Una', last: 'Vance', street: '12 Lyra St', city: 'Elko', region: 'NV', postal: '89801' },
    ]);

    const from = (heading: string) => ['Guest', 'Place', 'Paid', ...made.map(({ name }) => name)].indexOf(heading);
    const recipe = IntakeRecipe.parse({
      ...file.setting,
      columns: ['Guest', 'Place', 'Paid'].map((heading, at) => ({ heading, to: columns[at] })),
      made: made.map(({ name, sign, part, from: [at = 0] }) => ({
        ...{ heading: name, to: columns[from(name)], sign, part },
        from: [['Guest', 'Place', 'Paid', ...made.map((one) => one.name)][at]],
      })),
    });
    expect((await test.call('POST', '/intake-recipes', { name: 'Guests', recipe })).status).toBe(200);
    const next = await upload('again.csv', 'Paid,Guest,Place\n5,"Moor, Eve","1 Elm St, Elko, NV 89801"\n');
    expect(next.recipe).toMatchObject({ used: true, fresh: [], missing: [] });
    expect((await rowsOf(next.id)).items[0]?.cells).toEqual(
      ['5', 'Moor, Eve', '1 Elm St, Elko, NV 89801'].concat(
        ...[['Moor', 'Eve', '1 Elm St', 'Elko', 'NV 89801', 'NV', '89801']],
      ),
    );
  });

  it.each([
    [{ name: 'Ahead', from: [3], sign: ',', part: 1 }, 'does not stand before it'],
    [{ name: 'Two', from: [0, 1], sign: ',', part: 1 }, 'is a part of one column'],
    [{ name: 'None', from: [0], sign: ',', part: 0 }, 'counted from 1'],
  ])('are refused where they cannot be made: %o', async (one, why) => {
    const file = await upload('odd.csv', FILE);
    const set = { version: file.version, setting: { ...file.setting, made: [one] } };
    const refused = await test.call('PUT', `/intakes/${file.id}`, set);
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([400, expect.stringContaining(why)]);
  });
});
