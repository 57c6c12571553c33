import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Rows that name the home which their people share. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const undo = async (revision: unknown): Promise<unknown> => {
  const { status, body } = await test.call('POST', `/changes/${String(revision)}/undo`, {});
  expect([status, body['error']]).toEqual([200, undefined]);
  return body['revision'];
};

describe('the household of a row', () => {
  it('is found or added, one for each name at an address, and goes back and forth by undo', async () => {
    const { body: made } = await test.call('POST', '/supporters', {
      kind: 'household',
      organization: 'The Vance Home',
    });
    const pia = await addPerson(test, { first: 'Pia', last: 'Vance' });
    const before = await snapshot(test.sql);
    const file = [
      'First name,Last name,Household,Street,City,State,ZIP',
      'Pia,Vance,the vance home,,,,',
      'Una,Moor,The Moor Home,12 Lyra St,Elko,NV,89801',
      'Bo,Moor,The Moor Home,12 Lyra St,Elko,NV,89801',
      'Cy,Moor,The Moor Home,9 Mill Rd,Reno,NV,89501',
    ].join('\n');
    const { body: intake } = await test.call('POST', '/intakes?name=homes.csv', undefined, { raw: Buffer.from(file) });
    const picks = { 2: pia };
    const set = { version: intake['version'], setting: { ...(intake['setting'] as object), picks } };
    expect((await test.call('PUT', `/intakes/${String(intake['id'])}`, set)).status).toBe(200);
    const posted = await test.call('POST', `/intakes/${String(intake['id'])}/post`, {});
    expect(await test.jobEnd(Number(posted.body['jobId']))).toMatchObject({ state: 'done' });
    const homes = await test.sql.rows<{ home: string; members: string; street: string | null; firsts: number }>(
      `SELECT h.id, h.organization AS home, GROUP_CONCAT(p.first ORDER BY p.id) AS members, a.street,
              SUM(p.id = h.primary_id) AS firsts
       FROM supporter h JOIN supporter p ON p.household_id = h.id LEFT JOIN address a ON a.supporter_id = h.id
       GROUP BY h.id, h.organization, a.street ORDER BY h.id`,
    );
    expect(homes.map(({ home, members, street, firsts }) => [home, members, street, Number(firsts)])).toEqual([
      ['The Vance Home', 'Pia', null, 1],
      ['The Moor Home', 'Una,Bo', '12 Lyra St', 1],
      ['The Moor Home', 'Cy', '9 Mill Rd', 1],
    ]);
    expect(made['id']).toBeDefined();
    const standing = await snapshot(test.sql);
    const { revision } = (await test.call('GET', `/intakes/${String(intake['id'])}`)).body;
    const out = await undo(revision);
    const back = await undo(out);
    expect(await snapshot(test.sql)).toEqual(standing);
    await undo(back);
    expect((await test.call('DELETE', `/intakes/${String(intake['id'])}`)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(before);
  });
});
