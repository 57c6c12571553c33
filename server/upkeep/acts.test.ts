import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { findReturned, lookAtHome, planDeath, planJoining } from '@tallystick/contract/upkeep';
import { addGift, addPerson, openTestApp, recordOf, snapshot } from '../tests/support.ts';
import type { Answer, TestApp } from '../tests/support.ts';

/* People die, move, part and join, and mail comes back: each as one change set that was said before and goes back. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const post = (path: string, body: unknown): Promise<Answer> => test.call('POST', `/upkeep/${path}`, body);
const done = async (path: string, body: unknown): Promise<{ revision: number; says: string[] }> => {
  const { status, body: answer, text } = await post(path, body);
  if (status !== 200) throw new Error(text);
  return answer as unknown as { revision: number; says: string[] };
};
const undone = async (revision: number): Promise<void> => {
  const { status, text } = await test.call('POST', `/changes/${revision}/undo`, {});
  if (status !== 200) throw new Error(text);
};
/** Does an act after it was planned, looks, takes it back, and sees that all is as it was. */
async function tried(path: string, body: unknown, look: (says: readonly string[]) => Promise<void>): Promise<void> {
  const before = await snapshot(test.sql);
  const plan = await post(`${path}/plan`, body);
  expect([plan.status, plan.text.slice(0, 300)]).toEqual([200, expect.any(String)]);
  expect(await snapshot(test.sql)).toEqual(before);
  const { revision, says } = await done(path, body);
  // What was said before is what was done.
  expect(says).toEqual(plan.body['says']);
  await look(says);
  await undone(revision);
  expect(await snapshot(test.sql)).toEqual(before);
}
const fault = (answer: Answer): unknown => (answer.body['error'] as { fields?: unknown } | undefined)?.fields;

const at = (street: string, more: Record<string, unknown> = {}) => ({
  ...{ street, city: 'Elko', region: 'NV', postal: '89801', country: '', label: 'home', preferred: true },
  ...more,
});
const place = (street: string) => ({ street, city: 'Reno', region: 'Nevada', postal: '89501', country: '' });
const homeOf = async (name: string, ids: readonly number[], more: Record<string, unknown> = {}): Promise<number> => {
  const members = ids.map((id, index) => ({ id, name: '', primary: index === 0 }));
  const { body, text } = await test.call('POST', '/supporters', {
    kind: 'household',
    organization: name,
    members,
    ...more,
  });
  if (body['id'] === undefined) throw new Error(text);
  return Number(body['id']);
};
const tie = async (one: number, other: number, as = 'spouse'): Promise<void> => {
  const kinds = (await test.call('GET', '/relation-kinds')).body['items'] as { id: number; name: string }[];
  await test.call('POST', '/relations', {
    fromId: one,
    toId: other,
    kindId: kinds.find(({ name }) => name === as)?.id,
  });
};
const couple = async (last: string, more: Record<string, unknown> = {}) => {
  const one = await addPerson(test, { first: 'Ann', last, addresses: [at('1 Elm St')] });
  const other = await addPerson(test, { first: 'Ben', last, addresses: [at('1 Elm Street')] });
  const home = await homeOf(`The ${last} Family`, [one, other], more);
  await tie(one, other);
  return { one, other, home };
};
const task = (supporterId: number) =>
  test.call('POST', '/tasks', { supporterId, title: 'Call', due: '2026-12-01', ownerId: null, repeats: 'never' });
const pledge = async (supporterId: number): Promise<number> => {
  const { body, text } = await test.call('POST', '/pledges', {
    ...{ supporterId, kind: 'pledge', cents: 60_000, pledgedOn: '2026-10-01', fundId: 1 },
    plan: { kind: 'rows', rows: [{ due: '2027-01-01', cents: 60_000 }] },
  });
  if (body['id'] === undefined) throw new Error(text);
  return Number(body['id']);
};
const recurring = async (supporterId: number): Promise<number> => {
  const { body, text } = await test.call('POST', '/recurring', {
    ...{
      supporterId,
      cents: 2_500,
      method: 'bank',
      parts: [{ fundId: 1, campaignId: null, appealId: null, weight: 1 }],
    },
    schedule: { start: '2026-01-15', every: 'month', lastDay: false },
  });
  if (body['id'] === undefined) throw new Error(text);
  return Number(body['id']);
};

describe('somebody died', () => {
  it('is noted with all that follows from it, as it was decided', async () => {
    const { one, other, home } = await couple('Morrow', { addressing: { salutationInformal: 'Ann and Benny' } });
    const [promised, monthly] = [await pledge(one), await recurring(one)];
    await addGift(test, one, { cents: 12_300 });
    await task(one);
    const body = { id: one, on: '2026-11-20', source: 'a call from Ben', decisions: { [`pledge:${promised}`]: 'off' } };
    const plan = planDeath.response.parse((await post('died/plan', body)).body);
    expect(plan.survivor).toEqual({ id: other, name: 'Ben Morrow' });
    expect(plan.going.map(({ key, choice }) => [key.split(':')[0], choice])).toEqual([
      ['pledge', 'off'],
      ['recurring', 'end'],
      ['task', 'survivor'],
    ]);
    expect(plan.letters.find(({ id }) => id === home)).toMatchObject({
      before: expect.stringContaining('Dear Ann and Benny') as string,
      after: 'Ben Morrow; Dear Ben',
    });
    await tried('died', body, async (says) => {
      expect(says.join(' ')).toContain('1 gift, $123.00');
      const record = await recordOf(test, one);
      expect(record.wishes).toMatchObject([{ kind: 'deceased', source: 'a call from Ben', happenedOn: '2026-11-20' }]);
      expect(record.pending.tasks).toEqual([]);
      expect((await recordOf(test, other)).pending.tasks).toHaveLength(1);
      const members = (await recordOf(test, home)).members;
      expect(members.find(({ primary }) => primary)?.id).toBe(other);
      const { body: kept } = await test.call('GET', `/pledges/${promised}`);
      expect(kept).toMatchObject({ installments: [{ open: 0 }] });
      const [row] = await test.sql.rows<{ until: string }>('SELECT until_on AS until FROM recurring WHERE id = ?', [
        monthly,
      ]);
      expect(row?.until).toBe('2026-11-20');
    });
  });

  it('leaves open what is decided to stay, and what was written by hand where that is wished', async () => {
    const { one, home } = await couple('Nash', { addressing: { salutationInformal: 'dear friends' } });
    const [promised, monthly] = [await pledge(one), await recurring(one)];
    await task(one);
    const [{ id: taskId } = { id: 0 }] = (await recordOf(test, one)).pending.tasks;
    const decisions = { [`recurring:${monthly}`]: 'keep', [`task:${taskId}`]: 'drop' };
    const body = { id: one, on: null, source: 'an obituary', decisions, words: 'keep' };
    await tried('died', body, async () => {
      expect((await test.call('GET', `/pledges/${promised}`)).body).toMatchObject({ installments: [{ open: 60_000 }] });
      const [row] = await test.sql.rows<{ until: string | null }>(
        'SELECT until_on AS until FROM recurring WHERE id = ?',
        [monthly],
      );
      expect(row?.until).toBeNull();
      expect(await test.sql.rows('SELECT id FROM task WHERE id = ?', [taskId])).toEqual([]);
      const [kept] = await test.sql.rows<{ addressing: string }>('SELECT addressing FROM supporter WHERE id = ?', [
        home,
      ]);
      expect(kept?.addressing).toContain('dear friends');
    });
  });

  it('of whom it is noted already keeps that, and tells the day', async () => {
    const id = await addPerson(test, {
      wishes: [{ kind: 'deceased', source: 'a letter', since: '2026-11-01', happenedOn: null }],
    });
    const { says } = await done('died', { id, on: '2026-10-30', source: 'the paper' });
    expect(says[0]).toContain('as is noted already');
    expect((await recordOf(test, id)).wishes).toMatchObject([{ since: '2026-11-01', happenedOn: '2026-10-30' }]);
  });

  it('gives up charges that were still to be tried, of a recurring gift that is to begin too', async () => {
    const id = await addPerson(test);
    const monthly = await recurring(id);
    const [charge] = await test.sql.rows<{ id: number }>(
      `INSERT INTO charge (supporter_id, recurring_id, due, cents, state, attempts, next_on)
       VALUES (?, ?, '2026-11-15', 2500, 'failed', 1, '2026-11-25') RETURNING id`,
      [id, monthly],
    );
    await tried('died', { id, on: '2026-11-20', source: 'a letter' }, async (says) => {
      expect(says.join(' ')).toContain('1 charge is not tried any more');
      const [row] = await test.sql.rows('SELECT state, next_on FROM charge WHERE id = ?', [charge?.id ?? 0]);
      expect(row).toEqual({ state: 'skipped', next_on: null });
    });
  });

  it('tells for which organization somebody else is needed', async () => {
    const id = await addPerson(test);
    const diner = await test.call('POST', '/supporters', { kind: 'organization', organization: 'The Night Diner' });
    await tie(id, Number(diner.body['id']), 'contact');
    const { doubts } = planDeath.response.parse((await post('died/plan', { id, on: null, source: 'x' })).body);
    expect(doubts.join()).toContain('The Night Diner');
  });

  it('tells of gifts after that day', async () => {
    const id = await addPerson(test);
    await addGift(test, id, { date: '2026-11-10' });
    const { doubts } = planDeath.response.parse((await post('died/plan', { id, on: '2026-11-01', source: 'x' })).body);
    expect(doubts.join()).toContain('Nov 10, 2026');
  });

  it('is refused of a household, of a day to come, without who told us, and of who is not there', async () => {
    const { one, home } = await couple('Odell');
    expect(fault(await post('died', { id: home, on: null, source: 'x' }))).toMatchObject({
      id: expect.any(String) as string,
    });
    expect(fault(await post('died', { id: one, on: '2026-12-24', source: 'x' }))).toMatchObject({
      on: expect.any(String) as string,
    });
    expect(fault(await post('died', { id: one, on: null, source: ' ' }))).toMatchObject({ source: 'Say who told us.' });
    expect((await post('died', { id: 999_999, on: null, source: 'x' })).status).toBe(404);
    expect((await test.call('POST', '/upkeep/died', { id: one, on: null, source: 'x' }, { as: 'entry' })).status).toBe(
      403,
    );
  });
});

describe('a household parts', () => {
  it('with who leaves, where to, and what becomes of ties and recognition', async () => {
    const { one, other, home } = await couple('Pike');
    await addGift(test, home, { cents: 10_000 });
    await addGift(test, home, {
      cents: 3_001,
      parts: [
        { fundId: 1, cents: 1_000 },
        { fundId: 2, cents: 2_001 },
      ],
    });
    await addGift(test, one, { cents: 500 });
    const body = { homeId: home, leaving: [one], on: '2026-11-01', place: place('9 Fir St'), credit: 'each' };
    await tried('parting', body, async (says) => {
      expect(says.join(' ')).toContain('credited with 2 gifts of the home itself, $130.01');
      expect(says.join(' ')).toContain('the home comes to $130.01, of $135.01 before');
      const record = await recordOf(test, one);
      expect(record.household).toBeNull();
      expect(record.addresses.map(({ street, validFrom, validTo }) => [street, validFrom, validTo])).toEqual([
        ['9 Fir St', '2026-11-01', null],
        ['1 Elm St', null, '2026-10-31'],
      ]);
      expect(record.addresses[0]?.region).toBe('NV');
      const [credit] = await test.sql.rows<{ cents: number; rows: number }>(
        'SELECT SUM(cents) AS cents, COUNT(*) AS `rows` FROM soft_credit WHERE supporter_id = ?',
        [one],
      );
      expect([Number(credit?.cents), Number(credit?.rows)]).toEqual([13_001, 3]);
      expect((await recordOf(test, home)).members).toMatchObject([{ id: other, primary: true }]);
      const ties = (await test.call('GET', `/supporters/${one}/relations`)).body['items'] as { until: string | null }[];
      expect(ties.map(({ until }) => until)).toEqual(['2026-11-01']);
    });
  });

  it('into a new home that some share, with doubts of what is left to do', async () => {
    const [one, two, three] = [
      await addPerson(test, { first: 'Cy', addresses: [at('7 Ash St')] }),
      await addPerson(test),
      await addPerson(test),
    ];
    const home = await homeOf('The Cy Household', [one, two, three], { addresses: [at('7 Ash St')] });
    const body = { homeId: home, leaving: [one, two], on: '2026-11-01', together: 'The New Place' };
    const { doubts } = (await post('parting/plan', body)).body as { doubts: string[] };
    expect(doubts.join(' ')).toContain('has no address of their own');
    expect(doubts.join(' ')).toContain('still has the address of the home');
    expect(doubts.join(' ')).toContain('still called The Cy Household');
    await tried('parting', body, async () => {
      const { household } = await recordOf(test, one);
      expect(household?.name).toBe('The New Place');
      expect((await recordOf(test, household?.id ?? 0)).members.map(({ id }) => id).sort()).toEqual([one, two].sort());
    });
  });

  it('is refused where nobody stays, of a stranger, and of what is no household', async () => {
    const { one, other, home } = await couple('Quist');
    const stranger = await addPerson(test);
    const body = { homeId: home, on: '2026-11-01' };
    expect((await post('parting', { ...body, leaving: [one, other] })).text).toContain('Somebody stays');
    expect((await post('parting', { ...body, leaving: [stranger] })).text).toContain('does not live in');
    expect((await post('parting', { ...body, homeId: one, leaving: [other] })).status).toBe(400);
    expect((await post('parting', { ...body, leaving: [one], on: '2026-12-31' })).status).toBe(400);
    expect((await post('parting', { ...body, leaving: [] })).status).toBe(400);
  });
});

describe('people share a home', () => {
  it('a new one, with the address of one of them, tied as spouses', async () => {
    const one = await addPerson(test, { first: 'Ida', last: 'Rook', addresses: [at('4 Bay St')] });
    const other = await addPerson(test, { first: 'Jon', last: 'Sable', addresses: [at('5 Cove St')] });
    await addGift(test, one, { cents: 1_000 });
    await addGift(test, other, { cents: 2_000 });
    const body = {
      ...{ people: [one, other], homeId: null, name: 'The Rook-Sable Household', primaryId: other },
      ...{ addressOf: one, on: '2026-11-05', spouses: true },
    };
    const { letters } = planJoining.response.parse((await post('joining/plan', body)).body);
    expect(letters[0]).toMatchObject({ before: '', after: 'Jon Sable and Ida Rook; Dear Jon and Ida' });
    await tried('joining', body, async (says) => {
      expect(says).toContain('Together they gave $30.00.');
      const record = await recordOf(test, other);
      expect(record.household).toMatchObject({ name: 'The Rook-Sable Household', primary: true });
      expect(record.addresses.map(({ street }) => street)).toEqual(['4 Bay St', '5 Cove St']);
      expect((await recordOf(test, record.household?.id ?? 0)).addresses[0]?.street).toBe('4 Bay St');
    });
  });

  it('one that is there; and of a home that they left empty it is told', async () => {
    const { home } = await couple('Tull');
    const lone = await addPerson(test, { first: 'Kit' });
    const left = await homeOf('The Kit Household', [lone]);
    const plan = (await post('joining/plan', { people: [lone], homeId: home, on: '2026-11-05' })).body as {
      doubts: string[];
    };
    expect(plan.doubts.join()).toContain('Nobody lives in The Kit Household any more');
    await tried('joining', { people: [lone], homeId: home, on: '2026-11-05' }, async () => {
      expect((await recordOf(test, home)).members).toHaveLength(3);
      expect((await recordOf(test, left)).members).toEqual([]);
    });
  });

  it('is refused without a name, of one alone, of three as spouses, and without an address to share', async () => {
    const ids = [await addPerson(test), await addPerson(test), await addPerson(test)];
    const body = { people: ids.slice(0, 2), homeId: null, name: 'A Home', on: '2026-11-05' };
    expect(fault(await post('joining', { ...body, name: ' ' }))).toMatchObject({ name: 'A new household has a name.' });
    expect(fault(await post('joining', { ...body, people: ids.slice(0, 1) }))).toHaveProperty('people');
    expect(fault(await post('joining', { ...body, people: ids, spouses: true }))).toHaveProperty('spouses');
    expect(fault(await post('joining', { ...body, addressOf: ids[0] }))).toHaveProperty('addressOf');
  });
});

describe('somebody moved', () => {
  it('with whom of the home, from a day on; the old address ends the day before', async () => {
    const { one, other, home } = await couple('Ward', { addresses: [at('1 Elm St.')] });
    const looked = lookAtHome.response.parse((await test.call('GET', `/upkeep/home/${one}`)).body);
    expect(looked.people.map(({ id, same }) => [id, same])).toEqual([
      [home, true],
      [one, true],
      [other, true],
    ]);
    const body = { id: one, ids: [one, home], place: place('2 New Rd'), from: '2026-11-15' };
    const { doubts } = (await post('moved/plan', body)).body as { doubts: string[] };
    expect(doubts).toEqual(['Ben Ward has the same address, and stays there.']);
    await tried('moved', body, async () => {
      for (const id of [one, home]) {
        const { addresses, reach } = await recordOf(test, id);
        expect(addresses.map(({ street, preferred, label, validTo }) => [street, preferred, label, validTo])).toEqual([
          ['2 New Rd', true, 'home', null],
          [expect.stringContaining('1 Elm St'), false, 'former', '2026-11-14'],
        ]);
        expect(reach.lines[0]).toBe('2 New Rd');
      }
      expect((await recordOf(test, other)).addresses).toHaveLength(1);
    });
  });

  it('in the future uses the old address until then', async () => {
    const id = await addPerson(test, { addresses: [at('1 Elm St')] });
    await done('moved', { id, ids: [id], place: place('2 New Rd'), from: '2027-02-01' });
    const { addresses, reach } = await recordOf(test, id);
    expect(reach.lines[0]).toBe('1 Elm St');
    expect(
      addresses.map(({ street, preferred, validFrom, validTo }) => [street, preferred, validFrom, validTo]),
    ).toEqual([
      ['1 Elm St', true, null, '2027-01-31'],
      ['2 New Rd', false, '2027-02-01', null],
    ]);
  });

  it('on a day gone by ends what was noted after it', async () => {
    const id = await addPerson(test, { addresses: [at('1 Elm St', { validFrom: '2026-11-18' })] });
    await done('moved', { id, ids: [id], place: place('2 New Rd'), from: '2026-11-10' });
    expect((await recordOf(test, id)).addresses.map(({ street, validTo }) => [street, validTo])).toEqual([
      ['2 New Rd', null],
      ['1 Elm St', '2026-11-09'],
    ]);
  });

  it('twice to the same place is once; and an address that mail came back from ends as well', async () => {
    const id = await addPerson(test, { addresses: [at('1 Elm St', { badOn: '2026-11-01', badReason: 'returned' })] });
    const body = { id, ids: [id], place: place('2 New Rd'), from: '2026-11-15' };
    await done('moved', body);
    const again = await done('moved', { ...body, from: '2026-11-20' });
    expect([again.revision, again.says.join()]).toEqual([null, expect.stringContaining('there already')]);
    expect((await recordOf(test, id)).addresses.map(({ validTo }) => validTo)).toEqual([null, '2026-11-14']);
  });

  it('leaves the address of a season, and is refused without a place', async () => {
    const winter = at('8 Sun Loop', { label: 'winter', preferred: false, seasonFrom: '11-01', seasonTo: '04-15' });
    const id = await addPerson(test, { addresses: [at('1 Elm St'), winter] });
    await done('moved', { id, ids: [id], place: place('2 New Rd'), from: '2026-11-15' });
    const { addresses } = await recordOf(test, id);
    expect(addresses.find(({ street }) => street === '8 Sun Loop')).toMatchObject({ validTo: null });
    const nowhere = { street: '', city: '', region: 'NV', postal: '', country: '' };
    expect((await post('moved', { id, ids: [id], place: nowhere, from: '2026-11-15' })).text).toContain(
      'street or a town',
    );
  });
});

describe('mail came back', () => {
  it('by our numbers, old ones of merged records, and numbers elsewhere, each told back', async () => {
    const [one, two, gone] = [
      await addPerson(test, { addresses: [at('1 A St')] }),
      await addPerson(test),
      await addPerson(test),
    ];
    const records = await Promise.all(
      [one, gone].map(async (id) => ({ id, version: (await recordOf(test, id)).version })),
    );
    await test.call('POST', '/duplicates/merge', { into: one, records, choices: {} });
    await test.sql.run(`INSERT INTO known_as (supporter_id, source, called) VALUES (?, 'House list', 'HL-77')`, [one]);
    const codes = [`S-${one}`, String(gone), 'hl-77', String(two), '987654', 'x'];
    const { items } = findReturned.response.parse((await post('returned/find', { codes })).body);
    expect(items.map(({ supporter }) => supporter?.id ?? null)).toEqual([one, one, one, two, null, null]);
    expect(items.map(({ trouble }) => trouble)).toEqual([
      ...['', '', '', 'There is no address to mark.'],
      ...['Nobody has this number.', 'Nobody has this number.'],
    ]);
    expect(items[0]?.address).toBe('1 A St, Elko, NV 89801');
  });

  it('marks the address that is used, sets a task where none is left, and goes back', async () => {
    const lone = await addPerson(test, { addresses: [at('1 A St')] });
    const two = await addPerson(test, { addresses: [at('2 B St'), at('3 C St', { preferred: false })] });
    const none = await addPerson(test);
    const before = await snapshot(test.sql);
    const body = {
      ...{ ids: [lone, two, none, lone], on: '2026-11-20', reason: 'moved' },
      task: { title: 'Find a new address', due: '2026-12-01', ownerId: null },
    };
    const { revision, says } = await done('returned', body);
    expect(says).toEqual([
      '2 addresses are marked undeliverable.',
      '1 supporter has another address, which is used from now on.',
      '1 task is set: “Find a new address”.',
      '1 supporter had no address to mark.',
    ]);
    expect((await recordOf(test, lone)).addresses[0]).toMatchObject({ badOn: '2026-11-20', badReason: 'moved' });
    expect((await recordOf(test, two)).reach.lines[0]).toBe('3 C St');
    const { items } = findReturned.response.parse((await post('returned/find', { codes: [String(lone)] })).body);
    expect(items[0]?.trouble).toBe('The address is marked already.');
    await undone(revision);
    expect(await snapshot(test.sql)).toEqual(before);
    expect((await post('returned', { ...body, on: '2027-01-01' })).status).toBe(400);
    expect((await post('returned', { ...body, ids: [] })).status).toBe(400);
  });
});
