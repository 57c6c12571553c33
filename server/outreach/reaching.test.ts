import readSheets from 'read-excel-file/node';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, FOR_OFFICE, tagged } from '@tallystick/core/segments';
import type { Goes, Group, Reached, View } from '@tallystick/core/segments';
import { addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* How those in a table are addressed and reached, and whom its file leaves out. */
let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

/** Those with a tag of their own, as conditions. */
async function asked(tag: string): Promise<Group> {
  const [row] = await test.sql.rows<{ id: number }>('SELECT id FROM tag WHERE name = ?', [tag]);
  return all(tagged(row?.id ?? 0));
}
const viewOf = (parts: readonly Reached[], goes: Partial<Goes> = {}, rows: View['rows'] = 'supporter'): View => ({
  ...{ rows, where: [], sorts: [{ column: 'c0', down: true }], groupBy: 'c0', goes: { ...FOR_OFFICE, ...goes } },
  columns: [
    ...parts.map((part, at) => ({ id: `c${at}`, title: '', width: 100, shows: { kind: 'reached', part } as const })),
    { id: 'name', title: 'Name', width: 100, shows: { kind: 'field', field: 'name' } },
  ],
});
const MAIL = { for: 'mail' } as const;
const tableOf = async (tag: string, view: View): Promise<(string | null)[][]> => {
  const { status, body } = await test.call('POST', '/segments/table', {
    conditions: await asked(tag),
    view,
    limit: 50,
  });
  expect(status).toBe(200);
  return (body['items'] as { cells: (string | null)[] }[]).map(({ cells }) => cells);
};
const linesOf = async (tag: string, view: View): Promise<string[]> => {
  const file = await test.call('POST', '/segments/file', { conditions: await asked(tag), view, as: 'csv' });
  expect(file.status).toBe(200);
  return file.bytes.toString('utf8').replace('\uFEFF', '').trimEnd().split('\r\n');
};

describe('a table of those who are to be reached', () => {
  it('shows how each is addressed, and the address that is used on its day', async () => {
    const winter = { street: '9 Palm Way', city: 'Saltgrass', region: 'NV', postal: '89009', preferred: false };
    await addPerson(test, {
      ...{ prefix: 'Dr.', first: 'Wilma', last: 'Ash', tags: ['Seasonal'] },
      addresses: [
        { street: '1 Pine Row', city: 'Fircone', region: 'NV', postal: '89001', preferred: true },
        { ...winter, seasonFrom: '11-01', seasonTo: '03-31' },
      ],
    });
    const shown = async (on: string) =>
      (await tableOf('Seasonal', viewOf(['addressee', 'formal', 'post', 'town', 'postal'], { on })))[0];
    expect(await shown('2026-07-01')).toEqual([
      ...['Dr. Wilma Ash', 'Dr. Ash', '1 Pine Row, Fircone, NV 89001', 'Fircone', '89001', 'Dr. Wilma Ash'],
    ]);
    expect((await shown('2026-12-24'))?.slice(2, 5)).toEqual(['9 Palm Way, Saltgrass, NV 89009', 'Saltgrass', '89009']);
  });

  it('leaves out of its file whom it may not reach, and tells who and why', async () => {
    const tags = ['Mailed'];
    const addresses = [{ street: '1 Elm', city: 'Fircone' }];
    const kept = await addPerson(test, { first: 'Kay', last: 'Kept', tags, addresses });
    const silent = await addPerson(test, {
      first: 'Sid',
      last: 'Silent',
      tags,
      addresses,
      wishes: [{ kind: 'no_mail' }],
    });
    const unasked = await addPerson(test, {
      ...{ first: 'Una', last: 'Unasked', tags, addresses, wishes: [{ kind: 'no_solicitation' }] },
    });
    await addPerson(test, { first: 'Nat', last: 'Nowhere', tags });
    const view = viewOf(['held', 'street'], MAIL);
    const reasons = new Map((await tableOf('Mailed', view)).map(([held, , name]) => [name, held]));
    expect(reasons).toEqual(
      new Map([
        ['Kay Kept', null],
        ['Sid Silent', 'wants no mail'],
        ['Una Unasked', 'does not want to be asked'],
        ['Nat Nowhere', 'no address'],
      ]),
    );
    const conditions = await asked('Mailed');
    const { body } = await test.call('POST', '/segments/held', { conditions, view });
    expect(body).toMatchObject({ asked: 4, held: 3 });
    expect(body['some']).toContainEqual({
      ...{ supporterId: silent, number: `S-${silent}`, name: 'Sid Silent', reason: 'wants no mail' },
    });
    expect(await linesOf('Mailed', view)).toEqual([
      'Number,Held back because,Street that is used,Name',
      `S-${kept},,1 Elm,Kay Kept`,
    ]);
    // News asks for nothing; in the office everyone is looked at.
    expect(await linesOf('Mailed', viewOf(['street'], { ...MAIL, purpose: 'news' }))).toContain(
      `S-${unasked},1 Elm,Una Unasked`,
    );
    expect(await linesOf('Mailed', viewOf(['street']))).toHaveLength(5);

    const book = await test.call('POST', '/segments/file', { conditions, view, as: 'xlsx' });
    const [sent, left] = await readSheets(book.bytes);
    expect([sent?.data.length, left?.sheet]).toEqual([2, 'Held back']);
    expect(left?.data.map((row) => row[1]).toSorted()).toEqual(['Name', 'Nat Nowhere', 'Sid Silent', 'Una Unasked']);
  });

  it('goes to a home as one, but not where somebody who lives there does not want it', async () => {
    const home = async (name: string, other: object): Promise<number> => {
      const id = await addPerson(test, {
        kind: 'household',
        organization: `The ${name}s`,
        first: '',
        last: '',
        emails: [],
      });
      const addresses = [{ street: `1 ${name} Lane`, city: 'Fircone' }];
      await addPerson(test, { first: 'Ann', last: name, householdId: id, tags: ['Homes'], addresses });
      await addPerson(test, { first: 'Bob', last: name, householdId: id, ...other });
      return id;
    };
    await home('Open', {});
    await home('Shut', { wishes: [{ kind: 'no_mail' }] });
    await home('Widow', { wishes: [{ kind: 'deceased' }] });
    const rows = await tableOf('Homes', viewOf(['addressee', 'street', 'held'], MAIL, 'household'));
    expect(new Map(rows.map(([, street, held]) => [street, held]))).toEqual(
      new Map([
        ['1 Open Lane', null],
        ['1 Shut Lane', 'Bob Shut wants no mail'],
        ['1 Widow Lane', null],
      ]),
    );
    expect(rows.map(([addressee]) => addressee).toSorted()).toEqual([
      'Ann Widow',
      'Ann and Bob Open',
      'Ann and Bob Shut',
    ]);
  });

  it('writes days as every program reads them, or as the organization does', async () => {
    await addPerson(test, { first: 'Dee', last: 'Day', tags: ['Dated'] });
    const view = (days: Goes['days']): View => {
      const made = viewOf([], { days });
      const shows = { kind: 'values', of: 'changes', where: [], part: 'day', pick: 'latest' } as const;
      return { ...made, columns: [{ id: 'c0', title: 'Day', width: 90, shows }] };
    };
    const [, plain = ''] = await linesOf('Dated', view('plain'));
    const [, written = ''] = await linesOf('Dated', view('written'));
    expect(plain).toMatch(/^S-\d+,\d{4}-\d\d-\d\d$/);
    expect(written).toMatch(/^S-\d+,"?[A-Z0-9][\w/., ]+"?$/);
    expect(written).not.toBe(plain);
  });

  it('is for the office where it does not say, and takes no use that there is not', async () => {
    const conditions = await asked('Mailed');
    const { goes: _goes, ...plain } = viewOf(['street']);
    expect((await test.call('POST', '/segments/held', { conditions, view: plain })).body).toMatchObject({ held: 0 });
    const odd = viewOf(['street'], { for: 'pigeon' as never });
    expect((await test.call('POST', '/segments/held', { conditions, view: odd })).status).toBe(400);
    const nowhen = viewOf(['street'], { on: '2026-02-30' });
    expect((await test.call('POST', '/segments/held', { conditions, view: nowhen })).status).toBe(400);
  });
});
