import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { EmailTable, PhoneTable, SupporterTable } from '../supporters/index.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

interface Page {
  items: { id: number; name: string; kind: string }[];
  total: number;
  next: string | null;
}
const find = async (q: string, more = ''): Promise<Page> =>
  (await test.call('GET', `/supporters?q=${encodeURIComponent(q)}${more}`)).body as unknown as Page;

describe('finding supporters', () => {
  it('leaves nobody out, however many match, and gives each once', async () => {
    const ids: number[] = [];
    for (let index = 0; index < 45; index++)
      ids.push(await addPerson(test, { first: `Ximena${index}`, last: 'Manyfold' }));
    const seen: number[] = [];
    let page = await find('manyf', '&limit=10');
    expect(page.total).toBe(45);
    for (;;) {
      seen.push(...page.items.map((row) => row.id));
      if (page.next === null) break;
      page = await find('manyf', `&limit=10&cursor=${page.next}`);
    }
    expect(seen.sort((a, b) => a - b)).toEqual(ids);
  });

  it('narrows by kind before it counts', async () => {
    await test.call('POST', '/supporters', { kind: 'organization', organization: 'Manyfold Bakery' });
    const firms = await find('manyfold', '&kind=organization');
    expect([firms.total, firms.items[0]?.name]).toEqual([1, 'Manyfold Bakery']);
    expect((await find('manyfold')).total).toBe(46);
  });

  it('follows what is written: a new e-mail, a removed telephone, the trash, an undo', async () => {
    const id = await addPerson(test, { first: 'Una', last: 'Follow', phones: [{ number: '555-0177' }] });
    const total = async (q: string): Promise<number> => (await find(q)).total;
    expect(await total('0177')).toBe(1);
    const phone = await test.sql.rows<{ id: number }>('SELECT id FROM phone WHERE supporter_id = ?', [id]);
    await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Contact' }, async (tx) => {
      await tx.removeAll(
        PhoneTable,
        phone.map((row) => row.id),
      );
      await tx.insert(EmailTable, { supporter_id: id, address: 'una.second@example.net', label: 'work', preferred: 0 });
    });
    expect([await total('0177'), await total('una.second@')]).toEqual([0, 1]);
    const { revision } = await test.services.changes.write(TESTER, { kind: 'edit', summary: 'Trash' }, (tx) =>
      tx.update(SupporterTable, id, { state: 'trash' }),
    );
    expect(await total('una follow')).toBe(0);
    await test.services.changes.undo(TESTER, revision ?? 0);
    expect(await total('una follow')).toBe(1);
  });

  it.each(['%', '_', '\\', "'", '"', '--', '(', '*', '\u0000', ' ', '🌟', 'x'.repeat(200)])(
    'takes %j for what it is',
    async (text) => {
      const { status } = await test.call('GET', `/supporters?q=${encodeURIComponent(text)}`);
      expect(status).toBe(200);
    },
  );

  it('refuses a query longer than any name', async () =>
    expect((await test.call('GET', `/supporters?q=${'x'.repeat(201)}`)).status).toBe(400));
});
