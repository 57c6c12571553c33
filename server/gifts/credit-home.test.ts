import { afterAll, beforeAll, expect, it } from 'vitest';
import { Chance } from '../../demo/random.ts';
import { addGift, addPerson, openTestApp, recordOf, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { creditHome } from './write.ts';

/* Who is credited with what a home gave is credited with all of it, to the cent, once, and part by part. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const credit = (home: number, id: number) =>
  test.services.changes.write({ userId: null, name: 'Crediter' }, { kind: 'edit', summary: 'Credited' }, (tx) =>
    creditHome(tx, home, id),
  );

it('of gifts of any parts, but of those that were taken back; again it is nothing, and undone it is as before', async () => {
  const chance = new Chance(37);
  const [id, other] = [await addPerson(test), await addPerson(test)];
  const { body } = await test.call('POST', '/supporters', { kind: 'household', organization: 'The Givers' });
  const home = Number(body['id']);
  let [cents, parts] = [0, 0];
  for (let gift = 0; gift < 12; gift++) {
    const [one, two] = [chance.whole(1, 9_999), chance.whole(1, 9_999)];
    const split = chance.happens(0.5);
    cents += split ? one + two : one;
    parts += split ? 2 : 1;
    await addGift(test, home, {
      cents: split ? one + two : one,
      ...(split
        ? {
            parts: [
              { fundId: 1, cents: one },
              { fundId: 2, cents: two },
            ],
          }
        : {}),
      // Somebody else's credit is their own business.
      credits: chance.happens(0.3) ? [{ supporterId: other, kind: 'peer', cents: 1 }] : [],
    });
  }
  const voided = await addGift(test, home, { cents: 777 });
  const { version } = (await test.call('GET', `/gifts/${voided}`)).body;
  const taken = await test.call('POST', `/gifts/${voided}/corrections`, { version, kind: 'void', reason: 'Twice' });
  expect([taken.status, taken.text.slice(0, 200)]).toEqual([200, expect.any(String)]);
  const before = await snapshot(test.sql);
  const { revision, result } = await credit(home, id);
  expect(result).toBe(12);
  const rows = await test.sql.rows<{ cents: number; of_cents: number; donor_id: number; kind: string }>(
    'SELECT cents, of_cents, donor_id, kind FROM soft_credit WHERE supporter_id = ?',
    [id],
  );
  expect(rows).toHaveLength(parts);
  expect(rows.reduce((sum, row) => sum + row.cents, 0)).toBe(cents);
  for (const row of rows) expect(row).toMatchObject({ cents: row.of_cents, donor_id: home, kind: 'household' });
  expect((await recordOf(test, id)).giving.lifetime).toBe(0);
  expect(await credit(home, id)).toMatchObject({ revision: null, result: 0 });
  expect((await test.call('POST', `/changes/${revision ?? 0}/undo`, {}, { as: 'admin' })).status).toBe(200);
  expect(await snapshot(test.sql)).toEqual(before);
});
