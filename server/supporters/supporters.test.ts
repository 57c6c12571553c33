import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { draftOf } from '@tallystick/contract/supporters';
import { addGift, addPerson, openTestApp, recordOf, snapshot } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const get = (id: number) => recordOf(test, id);

describe('a record', () => {
  it('is added with its details and found by each of them at once', async () => {
    const id = await addPerson(test, {
      prefix: 'Dr.',
      first: 'Ana-María',
      last: 'de la Cruz',
      emails: [
        { address: 'Ana@Example.org', label: 'home' },
        { address: 'work@example.com', label: 'work', preferred: true },
      ],
      phones: [{ number: '(775) 555-0142' }],
      addresses: [{ street: '1 Main', city: 'Tansy Creek', region: 'NV', postal: '89901' }],
      tags: ['Volunteer', 'volunteer', 'Board'],
    });
    expect(await get(id)).toMatchObject({
      name: 'Dr. Ana-María de la Cruz',
      number: `S-${id}`,
      tags: [{ name: 'Board', source: 'hand' }, { name: 'Volunteer' }],
      reach: { lines: ['1 Main', 'Tansy Creek, NV 89901'], email: 'work@example.com', phone: '(775) 555-0142' },
      giving: { lifetime: 0 },
      timeline: [],
    });
    const { emails } = await get(id);
    expect(emails.map((email) => [email.address, email.preferred])).toEqual([
      ['work@example.com', true],
      ['ana@example.org', false],
    ]);
    for (const q of ['cruz ana', 'maria', `S-${id}`, 'ana@example.org', 'work@', '0142', '775 555-0142']) {
      const found = await test.call('GET', `/supporters?q=${encodeURIComponent(q)}`);
      expect([q, (found.body['items'] as { id: number }[]).map((row) => row.id)]).toEqual([q, [id]]);
    }
  });

  it('is found by its new name right after it was changed, and no more by the old', async () => {
    const id = await addPerson(test, { first: 'Oldfirst', last: 'Oldlast' });
    const record = await get(id);
    await test.call('PUT', `/supporters/${id}`, {
      version: record.version,
      draft: { ...draftOf(record), last: 'Newlast' },
    });
    const total = async (q: string) => (await test.call('GET', `/supporters?q=${q}`)).body['total'];
    expect([await total('newlast'), await total('oldlast')]).toEqual([1, 0]);
  });

  it('shows its giving and its timeline as of now', async () => {
    const id = await addPerson(test);
    await addGift(test, id, { cents: 10_000, date: '2025-08-01' });
    await addGift(test, id, { cents: 2_500, date: '2026-08-01' });
    expect(await get(id)).toMatchObject({
      giving: {
        lifetime: 12_500,
        thisYear: 2_500,
        lastYear: 10_000,
        count: 2,
        largest: 10_000,
        first: '2025-08-01',
        last: '2026-08-01',
      },
      timeline: [
        { cents: 10_000, acknowledgedOn: null },
        { cents: 2_500, acknowledgedOn: null },
      ],
    });
  });

  it('changes only what was changed', async () => {
    const id = await addPerson(test, { first: 'Ana', last: 'Cruz', phones: [{ number: '555-0100' }], tags: ['One'] });
    const record = await get(id);
    const { body } = await test.call('PUT', `/supporters/${id}`, {
      version: record.version,
      draft: { ...draftOf(record), tags: ['Two'], wishes: [{ kind: 'no_email' }] },
    });
    const rows = await test.sql.rows<{ table_name: string }>(
      'SELECT table_name FROM change_row WHERE revision = ? ORDER BY seq',
      [Number(body['revision'])],
    );
    expect(rows.map((row) => row.table_name)).toEqual(['tag', 'supporter_tag', 'supporter_tag', 'wish']);
    expect(await get(id)).toMatchObject({
      wishes: [{ kind: 'no_email', since: '2026-11-23', source: 'by hand', by: 'test officer' }],
      tags: [{ name: 'Two' }],
      phones: [{ number: '555-0100' }],
    });
    const same = await get(id);
    expect(
      (await test.call('PUT', `/supporters/${id}`, { version: same.version, draft: draftOf(same) })).body['revision'],
    ).toBeNull();
  });

  it('refuses an edit that began before another, and says what that one did', async () => {
    const id = await addPerson(test, { first: 'Ana', last: 'Cruz' });
    const mine = await get(id);
    const theirs = await get(id);
    await test.call('PUT', `/supporters/${id}`, {
      version: theirs.version,
      draft: { ...draftOf(theirs), phones: [{ number: '555-0199' }] },
    });
    const before = await snapshot(test.sql);
    const { status, body } = await test.call('PUT', `/supporters/${id}`, {
      version: mine.version,
      draft: { ...draftOf(mine), first: 'Anna' },
    });
    expect(status).toBe(409);
    expect(body['error']).toMatchObject({
      code: 'stale',
      message: expect.stringContaining('Telephone 555-0199 added'),
    });
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('is not made stale by a gift', async () => {
    const id = await addPerson(test);
    const record = await get(id);
    await addGift(test, id);
    expect(
      (
        await test.call('PUT', `/supporters/${id}`, {
          version: record.version,
          draft: { ...draftOf(record), first: 'Ok' },
        })
      ).status,
    ).toBe(200);
  });
});

describe('names that are hard', () => {
  it.each([
    ['right to left', 'مريم', 'نجار'],
    ['emoji', '🌟', 'Stella 🌠'],
    ['combining marks', 'Zoe\u0308', "O'Brien-Łukasz"],
    ['markup', '<b>Bo</b>', '"; DROP TABLE gift; --'],
  ])('%s are kept as typed', async (_title, first, last) => {
    const id = await addPerson(test, { first, last });
    expect(await get(id)).toMatchObject({ first, last });
  });

  it('with 300 characters are refused with the field', async () => {
    const { status, body } = await test.call('POST', '/supporters', { first: 'N'.repeat(300), last: 'x' });
    expect(status).toBe(400);
    expect(body['error']).toMatchObject({ fields: { first: 'At most 120 characters.' } });
  });
});

describe('history', () => {
  it('tells in words what happened, newest first, with what can be undone', async () => {
    const id = await addPerson(test, { first: 'Hist', last: 'Ory' });
    const record = await get(id);
    await test.call('PUT', `/supporters/${id}`, {
      version: record.version,
      draft: { ...draftOf(record), last: 'Changed' },
    });
    const gift = await addGift(test, id, { cents: 4_200 });
    const { body } = await test.call('GET', `/supporters/${id}/history`);
    const items = body['items'] as { lines: string[]; by: string; undoable: boolean }[];
    expect(items.map((item) => item.lines[0])).toEqual([
      `Gift G-${gift} of $42.00 to General Operating on Nov 1, 2026 added`,
      'Last name changed from Ory to Changed',
      'Record of Hist Ory added',
    ]);
    expect(items.every((item) => item.undoable && item.by === 'test officer')).toBe(true);
  });

  it('comes in pages', async () => {
    const id = await addPerson(test);
    for (let time = 0; time < 5; time++) await addGift(test, id);
    const first = await test.call('GET', `/supporters/${id}/history?limit=4`);
    const second = await test.call('GET', `/supporters/${id}/history?limit=4&cursor=${String(first.body['next'])}`);
    expect([(first.body['items'] as []).length, (second.body['items'] as []).length, second.body['next']]).toEqual([
      4,
      2,
      null,
    ]);
  });
});
