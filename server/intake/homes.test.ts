import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, recordOf, snapshot } from '../tests/support.ts';
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

describe('a file of moves', () => {
  const OLD = {
    street: '12 Lyra St',
    city: 'Elko',
    region: 'NV',
    postal: '89801',
    country: '',
    label: 'home',
    preferred: true,
  };
  const WINTER = { ...OLD, street: '3 Saguaro Loop', label: 'seasonal', preferred: false };
  const WINTERS = { addresses: [OLD, { ...WINTER, seasonFrom: '01-01', seasonTo: '12-31' }] };
  const DEAD = { wishes: [{ kind: 'deceased' }] };
  const HEAD = 'Number,Street,City,State,ZIP,Address from,Kind of move';
  const person = (first: string, over: Record<string, unknown> = {}) =>
    addPerson(test, { first, last: 'Tern', addresses: [OLD], ...over });
  const streets = async (id: number) =>
    (await recordOf(test, id)).addresses
      .toSorted((a, b) => Number(b.preferred) - Number(a.preferred))
      .map(({ street, validFrom, validTo }) => [street, validFrom, validTo]);
  /** A home of four and itself: one of them lives elsewhere, one has died. */
  async function home() {
    const [ana, bo, kit, old] = [
      await person('Ana'),
      await person('Bo'),
      await person('Kit', WINTERS),
      await person('Oda', DEAD),
    ];
    const away = await person('Eve', { addresses: [{ ...OLD, street: '9 Mill Rd' }] });
    const members = [ana, bo, kit, old, away].map((id, at) => ({ id, name: '', primary: at === 0 }));
    const { body } = await test.call('POST', '/supporters', {
      ...{ kind: 'household', organization: 'The Tern Home', members, addresses: [OLD] },
    });
    return { ana, bo, kit, old, away, itself: Number(body['id']) };
  }
  async function brought(...rows: string[]) {
    const text = [HEAD, ...rows].join('\n');
    const { body: intake } = await test.call('POST', '/intakes?name=moves.csv', undefined, { raw: Buffer.from(text) });
    const id = Number(intake['id']);
    const { items } = (await test.call('GET', `/intakes/${id}/rows?limit=50`)).body as unknown as {
      items: { verdict: string; says: string; changes: { field: string; after: string }[] }[];
    };
    return { id, items };
  }
  const post = async (id: number): Promise<unknown> => {
    const posted = await test.call('POST', `/intakes/${id}/post`, {});
    expect(await test.jobEnd(Number(posted.body['jobId']))).toMatchObject({ state: 'done' });
    return (await test.call('GET', `/intakes/${id}`)).body['revision'];
  };
  const MOVED = [
    ['7 Comet Way', '2026-06-01', null],
    ['12 Lyra St', null, '2026-05-31'],
  ];
  const STAYED = [['12 Lyra St', null, null]];

  it('moves all who share the home and the address where it says so, once each, and goes back by undo', async () => {
    const { ana, bo, kit, old, away, itself } = await home();
    const standing = await snapshot(test.sql);
    const { id, items } = await brought(
      `S-${ana},7 Comet Way,Ely,NV,89301,2026-06-01,Family`,
      `S-${bo},3 Vega Ct,Reno,NV,89501,2026-07-01,individual`,
      `S-${kit},7 Comet Way,Ely,NV,89301,2026-06-01,F`,
    );
    expect(items.map(({ verdict }) => verdict)).toEqual(['known', 'known', 'known']);
    const along = items[0]?.changes.filter(({ field }) => field === 'moveKind').map(({ after }) => after);
    expect(along).toEqual([
      `Bo Tern S-${bo} moves, too`,
      `Kit Tern S-${kit} moves, too`,
      `The Tern Home S-${itself} moves, too`,
    ]);
    expect(items[1]?.changes.map(({ field }) => field)).toEqual(['street']);
    const revision = await post(id);
    for (const one of [ana, itself]) expect(await streets(one)).toEqual(MOVED);
    // Where somebody is for a season they stay.
    expect(await streets(kit)).toEqual(expect.arrayContaining([...MOVED, ['3 Saguaro Loop', null, null]]));
    // Their own row says where they live; who lives elsewhere, or died, stays.
    expect((await streets(bo))[0]).toEqual(['3 Vega Ct', '2026-07-01', null]);
    expect(await streets(old)).toEqual(STAYED);
    expect(await streets(away)).toEqual([['9 Mill Rd', null, null]]);
    await undo(revision);
    expect((await test.call('DELETE', `/intakes/${id}`)).status).toBe(200);
    expect(await snapshot(test.sql)).toEqual(standing);
  });

  it('moves one alone where it says that, or nothing; and asks about a kind that is not known', async () => {
    const { ana, bo, itself } = await home();
    const { id, items } = await brought(
      `S-${ana},7 Comet Way,Ely,NV,89301,2026-06-01,individual`,
      `S-${bo},7 Comet Way,Ely,NV,89301,2026-06-01,sideways`,
    );
    expect(items.map(({ verdict }) => verdict)).toEqual(['known', 'bad']);
    expect(items[1]?.says).toContain('“sideways” is no kind of move known here');
    await post(id);
    expect(await streets(ana)).toEqual(MOVED);
    for (const one of [bo, itself]) expect(await streets(one)).toEqual(STAYED);
  });

  it('moves a home, and who lives in it, by the number of the home', async () => {
    const { ana, bo, kit, itself } = await home();
    const { id, items } = await brought(`S-${itself},7 Comet Way,Ely,NV,89301,2026-06-01,household`);
    expect(items[0]?.changes.filter(({ field }) => field === 'moveKind')).toHaveLength(3);
    await post(id);
    for (const one of [ana, bo, itself]) expect(await streets(one)).toEqual(MOVED);
    expect((await streets(kit))[0]).toEqual(MOVED[0]);
  });
});
