import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { draftOf } from '@tallystick/contract/supporters';
import { addGift, addPerson, openTestApp, recordOf, snapshot, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const addHousehold = async (over: object): Promise<number> => {
  const { body, text } = await test.call('POST', '/supporters', {
    kind: 'household',
    organization: 'The Farr Home',
    ...over,
  });
  if (!body['id']) throw new Error(text);
  return Number(body['id']);
};
const change = async (id: number, over: object) => {
  const record = await recordOf(test, id);
  return test.call('PUT', `/supporters/${id}`, { version: record.version, draft: { ...draftOf(record), ...over } });
};

describe('a household', () => {
  it('is made of people here already and of new ones, and adds up what they gave without counting twice', async () => {
    const oren = await addPerson(test, { first: 'Oren', last: 'Farr', prefix: 'Mr.' });
    const home = await addHousehold({ members: [{ id: oren, primary: true }, { name: 'Dr. Ada Quill' }] });
    const record = await recordOf(test, home);
    expect(record.members.map(({ name, primary }) => [name, primary])).toEqual([
      ['Mr. Oren Farr', true],
      ['Dr. Ada Quill', false],
    ]);
    expect(record.addressing.addresseeFormal.text).toBe('Mr. Oren Farr and Dr. Ada Quill');
    const ada = record.members[1]?.id ?? 0;
    await addGift(test, oren, { cents: 1_000 });
    await addGift(test, ada, { cents: 200 });
    await addGift(test, home, { cents: 30 });
    for (const id of [home, oren, ada]) expect((await recordOf(test, id)).giving.household.lifetime).toBe(1_230);
    expect((await recordOf(test, ada)).giving.lifetime).toBe(200);
    expect(await recordOf(test, ada)).toMatchObject({
      household: { id: home, primary: false },
      members: [{ id: oren }],
    });
  });

  it('is never without a primary while someone is in it', async () => {
    const home = await addHousehold({ members: [{ name: 'Lee and Jo Park' }] });
    const [lee, jo] = (await recordOf(test, home)).members;
    expect([lee?.name, lee?.primary, jo?.name]).toEqual(['Lee Park', true, 'Jo Park']);
    await change(lee?.id ?? 0, { householdId: null });
    expect((await recordOf(test, home)).members).toMatchObject([{ id: jo?.id, primary: true }]);
    await change(home, { members: [] });
    expect((await recordOf(test, home)).members).toEqual([]);
    expect((await recordOf(test, home)).addressing.addresseeFormal.text).toBe('The Farr Home');
  });

  it('writes to who is left when one has died', async () => {
    const home = await addHousehold({ members: [{ name: 'Mr. Lee Park' }, { name: 'Ms. Jo Park' }] });
    const [lee] = (await recordOf(test, home)).members;
    await change(lee?.id ?? 0, { wishes: [{ kind: 'deceased', happenedOn: '2026-11-01', source: 'a call' }] });
    expect((await recordOf(test, home)).addressing.addresseeFormal.text).toBe('Ms. Jo Park');
    expect((await recordOf(test, lee?.id ?? 0)).wishes).toMatchObject([
      { kind: 'deceased', happenedOn: '2026-11-01', source: 'a call' },
    ]);
  });

  it('is refused as a member of itself, of a firm, and of nameless people', async () => {
    const firm = (await test.call('POST', '/supporters', { kind: 'organization', organization: 'Farr & Sons' })).body[
      'id'
    ];
    const home = await addHousehold({});
    const before = await snapshot(test.sql);
    expect((await change(home, { members: [{ id: home }] })).text).toContain('cannot be a member of itself');
    expect((await change(home, { members: [{ id: firm }] })).text).toContain('is not a person');
    expect((await change(home, { members: [{ name: ' ' }] })).text).toContain('has no name');
    const person = await addPerson(test);
    expect((await change(person, { householdId: firm })).text).toContain('is not a household');
    expect((await change(person, { householdId: person })).status).toBe(400);
    const { supporter: _new, email: _mail, ...after } = await snapshot(test.sql);
    expect(before).toMatchObject(after);
  });

  it('moves people out and in as one change, told in the history of both and undone for both', async () => {
    const home = await addHousehold({ members: [{ name: 'Lee Park' }] });
    const before = await snapshot(test.sql);
    const { body } = await change(home, { members: [], organization: 'The Empty Home' });
    const told = async (id: number) =>
      ((await test.call('GET', `/supporters/${id}/history`)).body['items'] as { lines: string[] }[])[0]?.lines ?? [];
    const lee = (before['supporter'] as { id: number; first: string; last: string }[]).findLast(
      (row) => row.first === 'Lee',
    );
    expect(await told(lee?.id ?? 0)).toEqual(['Household changed from The Empty Home to nothing']);
    expect((await told(home)).join()).toContain('Household changed from The Empty Home to nothing');
    await test.services.changes.undo(TESTER, Number(body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('cannot become a person while it has members', async () => {
    const home = await addHousehold({ members: [{ name: 'Lee Park' }] });
    expect((await change(home, { kind: 'person', last: 'Park', organization: '' })).text).toContain('has members');
  });
});

describe('how supporters are addressed', () => {
  it('keeps a text written by hand when the name changes, with a hint, and goes back to the rules', async () => {
    const id = await addPerson(test, { first: 'Ana', last: 'Cruz', addressing: { salutationInformal: 'Anita' } });
    expect((await recordOf(test, id)).addressing.salutationInformal).toEqual({
      text: 'Anita',
      byHand: true,
      stale: false,
      rule: 'Ana',
    });
    await change(id, { first: 'Anna' });
    expect((await recordOf(test, id)).addressing.salutationInformal).toMatchObject({
      text: 'Anita',
      stale: true,
      rule: 'Anna',
    });
    await change(id, { addressing: { salutationInformal: '' } });
    expect((await recordOf(test, id)).addressing.salutationInformal).toMatchObject({ text: 'Anna', byHand: false });
  });

  it('follows the rules of the organisation, which only an administrator changes', async () => {
    const id = await addPerson(test, { first: 'Ana', last: 'Cruz' });
    const { body } = await test.call('GET', '/addressing');
    const rules = body['rules'] as Record<string, Record<string, string>>;
    const mine = { rules: { ...rules, person: { ...rules['person'], salutationInformal: 'friend {a.first}' } } };
    expect((await test.call('PUT', '/addressing', mine)).status).toBe(403);
    const bad = { rules: { ...rules, person: { ...rules['person'], salutationInformal: '{a.fist}' } } };
    expect((await test.call('PUT', '/addressing', bad, { as: 'admin' })).text).toContain('no field {a.fist}');
    const { revision } = (await test.call('PUT', '/addressing', mine, { as: 'admin' })).body as { revision: number };
    expect((await recordOf(test, id)).addressing.salutationInformal.text).toBe('friend Ana');
    await test.services.changes.undo(TESTER, revision);
  });
});

describe('ways to reach someone', () => {
  it('keeps the old preferred one as former, with its date', async () => {
    const id = await addPerson(test, {
      addresses: [{ street: '1 Old St', city: 'Ely', region: 'NV', preferred: true }],
    });
    const { addresses } = draftOf(await recordOf(test, id));
    await change(id, { addresses: [...addresses, { street: '2 New St', city: 'Ely', region: 'NV', preferred: true }] });
    const after = await recordOf(test, id);
    expect(after.addresses).toMatchObject([
      { street: '2 New St', preferred: true, validTo: null },
      { street: '1 Old St', preferred: false, validTo: '2026-11-22', label: 'former' },
    ]);
    expect(after.reach.lines).toEqual(['2 New St', 'Ely, NV']);
  });

  it('writes to the seasonal address in its season, and passes over what is undeliverable', async () => {
    const id = await addPerson(test, {
      addresses: [
        { street: '1 Home St', city: 'Ely', preferred: true },
        { street: '9 Winter Rd', city: 'Yuma', label: 'winter', seasonFrom: '11-15', seasonTo: '04-15' },
      ],
      emails: [
        { address: 'bad@example.org', preferred: true, badOn: '2026-01-01', badReason: 'bounced' },
        { address: 'ana@bücher.example' },
      ],
    });
    expect((await recordOf(test, id)).reach).toMatchObject({
      lines: ['9 Winter Rd', 'Yuma'],
      email: 'ana@bücher.example',
    });
    const refused = await test.call('POST', '/supporters', {
      first: 'x',
      addresses: [{ street: '1', seasonFrom: '02-30', seasonTo: '03-01' }],
    });
    expect(refused.text).toContain('not a day of the year');
    expect(
      (await test.call('POST', '/supporters', { first: 'x', addresses: [{ street: '1', seasonFrom: '02-03' }] })).text,
    ).toContain('first and a last day');
  });

  it('takes a birthday of 29 February without a year', async () => {
    const id = await addPerson(test, { birthday: '--02-29' });
    expect((await recordOf(test, id)).birthday).toBe('--02-29');
    expect((await test.call('POST', '/supporters', { first: 'x', birthday: '--02-30' })).status).toBe(400);
  });
});

describe('two people edit one record', () => {
  it('tells the second what changed, and how the record is now', async () => {
    const id = await addPerson(test, { first: 'Ana', last: 'Cruz' });
    const mine = await recordOf(test, id);
    await change(id, { nickname: 'Nan' });
    const { status, body } = await test.call('PUT', `/supporters/${id}`, {
      version: mine.version,
      draft: { ...draftOf(mine), middle: 'L.' },
    });
    expect(status).toBe(409);
    const { details } = body['error'] as {
      details: { changed: string[]; current: { nickname: string; version: number } };
    };
    expect(details.changed).toEqual(['Nickname changed from nothing to Nan (test officer)']);
    expect(details.current).toMatchObject({ nickname: 'Nan', version: mine.version + 1 });
  });
});
