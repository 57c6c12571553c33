import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { draftOf } from '@tallystick/contract/supporters';
import { listFaults, listFindings } from '@tallystick/contract/upkeep';
import type { Finding } from '@tallystick/core/upkeep';
import { FINDING_NAMES } from '@tallystick/core/upkeep';
import { addGift, addPerson, openTestApp, recordOf, snapshot, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* What is unclean: each of it is counted as it is now, mended as it was shown, and comes back by an undo. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const counts = async (): Promise<Record<Finding, number>> => {
  const { items } = listFindings.response.parse((await test.call('GET', '/upkeep')).body);
  expect(items.map(({ finding }) => finding)).toEqual(FINDING_NAMES);
  return Object.fromEntries(items.map(({ finding, count }) => [finding, count])) as Record<Finding, number>;
};
const list = async (finding: Finding, query = '') => {
  const { status, body, text } = await test.call('GET', `/upkeep/${finding}?${query}`);
  if (status !== 200) throw new Error(text);
  return listFaults.response.parse(body);
};
const of = async (finding: Finding, id: number): Promise<[was: string, becomes: string | null] | null> => {
  const found = (await list(finding)).items.find(({ supporterId }) => supporterId === id);
  return found ? [found.was, found.becomes] : null;
};
const rowOf = async (finding: Finding, id: number): Promise<number> =>
  (await list(finding)).items.find(({ supporterId }) => supporterId === id)?.id ?? 0;
const mend = (finding: Finding, rows: readonly number[] | null, more: Record<string, unknown> = {}) =>
  test.call('POST', `/upkeep/${finding}/mend`, { rows, ...more });
const undo = async (revision: unknown): Promise<void> => {
  const { status, text } = await test.call('POST', `/changes/${String(revision)}/undo`, {});
  if (status !== 200) throw new Error(text);
};
const elko = { city: 'Elko', region: 'NV', postal: '89801', country: '', label: 'home', preferred: true };
const at = (street: string, more: Record<string, unknown> = {}) => ({ ...elko, street, ...more });
const homeOf = async (name: string, ids: readonly number[]): Promise<number> => {
  const members = ids.map((id, place) => ({ id, name: '', primary: place === 0 }));
  const { body } = await test.call('POST', '/supporters', { kind: 'household', organization: name, members });
  return Number(body['id']);
};

describe('each finding', () => {
  it('of a record that is written is told at once, mended as it is shown, and is back by an undo', async () => {
    const cases: readonly [Finding, Record<string, unknown>, [string, string]][] = [
      ['capitals', { first: 'ADA', last: 'MCDONALD' }, ['ADA MCDONALD', 'Ada McDonald']],
      [
        'email-slip',
        { emails: [{ address: 'ada@example.con', label: 'home', preferred: true }] },
        ['ada@example.con', 'ada@example.com'],
      ],
      [
        'email-bad',
        {
          emails: [
            { address: 'ada@example.org', label: 'home', preferred: true, badOn: '2026-11-02', badReason: 'bounced' },
          ],
        },
        ['ada@example.org (bad since 2026-11-02, bounced)', 'former'],
      ],
      [
        'address-incomplete',
        { addresses: [at('1 Elm St', { region: '' })] },
        ['1 Elm St, Elko, 89801 (no state)', '1 Elm St, Elko, NV, 89801'],
      ],
      [
        'zip-state',
        { addresses: [at('1 Elm St', { region: 'UT' })] },
        ['1 Elm St, Elko, UT, 89801', '1 Elm St, Elko, NV, 89801'],
      ],
      [
        'address-form',
        { addresses: [at('1 ELM STREET')] },
        ['1 ELM STREET, Elko, NV, 89801', '1 Elm St, Elko, NV, 89801'],
      ],
      ['birthday', { birthday: '2061-03-14' }, ['2061-03-14', '1961-03-14']],
    ];
    for (const [finding, draft, shown] of cases) {
      const before = (await counts())[finding];
      const id = await addPerson(test, { emails: [], ...draft });
      expect([finding, (await counts())[finding]]).toEqual([finding, before + 1]);
      expect([finding, await of(finding, id)]).toEqual([finding, shown]);
      const unmended = await snapshot(test.sql);
      const { status, body } = await mend(finding, [await rowOf(finding, id)]);
      expect([finding, status, body['mended'], body['left']]).toEqual([finding, 200, 1, 0]);
      expect([finding, await of(finding, id)]).toEqual([finding, null]);
      expect([finding, (await counts())[finding]]).toEqual([finding, before]);
      await undo(body['revision']);
      expect(await snapshot(test.sql)).toEqual(unmended);
      expect([finding, await of(finding, id)]).toEqual([finding, shown]);
    }
  });

  it('sorts a name anew that it writes anew, and the list of supporters with it', async () => {
    const id = await addPerson(test, { first: 'ZED', last: 'AALTO' });
    await mend('capitals', [await rowOf('capitals', id)]);
    const [row] = await test.sql.rows<{ sort_name: string }>('SELECT sort_name FROM supporter WHERE id = ?', [id]);
    expect(row?.sort_name).toBe('aalto zed');
    expect((await recordOf(test, id)).name).toBe('Zed Aalto');
  });

  it('asks for an area code, and leaves numbers that none makes a number', async () => {
    await addPerson(test, { phones: [{ number: '775-738-0100', label: 'home', preferred: true }] });
    const id = await addPerson(test, { phones: [{ number: '738-0142', label: 'home', preferred: true }] });
    expect(await list('phone-area')).toMatchObject({ usual: '775', proposed: 1, total: 1 });
    expect((await list('phone-area', 'value=702')).items[0]?.becomes).toBe('(702) 738-0142');
    const row = await rowOf('phone-area', id);
    expect((await mend('phone-area', [row], { value: '000' })).body).toMatchObject({ mended: 0, left: 1 });
    expect((await mend('phone-area', [row], { value: '702' })).body).toMatchObject({ mended: 1, left: 0 });
    expect((await recordOf(test, id)).phones[0]?.number).toBe('(702) 738-0142');
  });

  it('lets what was written by hand follow the rules where the name changed, form by form', async () => {
    const id = await addPerson(test, {
      first: 'Bob',
      addressing: { salutationInformal: 'Bobby', salutationFormal: 'Mr. B' },
    });
    expect(await of('salutation', id)).toBeNull();
    const record = await recordOf(test, id);
    await test.call('PUT', `/supporters/${id}`, {
      version: record.version,
      draft: { ...draftOf(record), first: 'Robert' },
    });
    expect(await of('salutation', id)).toEqual([expect.stringContaining('Bobby'), expect.stringContaining('Robert')]);
    await mend('salutation', null);
    expect((await recordOf(test, id)).addressing.salutationInformal).toMatchObject({ text: 'Robert', byHand: false });
  });

  it('sets tasks, to nobody twice', async () => {
    const id = await addPerson(test, { addresses: [at('3 Oak St', { badOn: '2026-11-01', badReason: 'returned' })] });
    const rows = [await rowOf('address-bad', id)];
    const task = { title: 'Find a new address', due: '2026-12-01', ownerId: null };
    expect((await mend('address-bad', rows)).status).toBe(400);
    expect((await mend('address-bad', rows, { task })).body).toMatchObject({ mended: 1 });
    expect((await mend('address-bad', rows, { task })).body).toMatchObject({ mended: 0, left: 1 });
    expect((await recordOf(test, id)).pending.tasks.map(({ title }) => title)).toEqual(['Find a new address']);
  });

  it('ties couples, and tells of nobody who is tied', async () => {
    const [one, other] = [await addPerson(test), await addPerson(test)];
    const home = await homeOf('The Pair', [one, other]);
    expect((await of('couple', home))?.[1]).toBe('spouses');
    const { body } = await mend('couple', [home]);
    expect(body).toMatchObject({ mended: 1 });
    expect(await of('couple', home)).toBeNull();
    await undo(body['revision']);
    expect(await of('couple', home)).not.toBeNull();
  });

  it('gives a member the address of the home, and keeps what they had as former', async () => {
    const one = await addPerson(test, { addresses: [at('1 Elm St')] });
    const other = await addPerson(test, { addresses: [at('2 Oak St')] });
    await homeOf('The Two Roofs', [one, other]);
    expect(await of('home-address', one)).toBeNull();
    expect(await of('home-address', other)).toEqual(['2 Oak St, Elko, NV, 89801', '1 Elm St, Elko, NV, 89801']);
    const before = await snapshot(test.sql);
    const { body } = await mend('home-address', [await rowOf('home-address', other)]);
    expect(
      (await recordOf(test, other)).addresses.map(({ street, label, validTo }) => [street, label, validTo]),
    ).toEqual([
      ['1 Elm St', 'home', null],
      ['2 Oak St', 'former', '2026-11-22'],
    ]);
    expect(await of('home-address', other)).toBeNull();
    await undo(body['revision']);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('moves empty records to the trash, and none on which anything hangs', async () => {
    const bare = await addPerson(test, { emails: [] });
    const hung: [string, () => Promise<unknown>][] = [
      ['a gift', async () => addGift(test, await made())],
      ['a tag', () => addPerson(test, { emails: [], tags: ['Docent'] })],
      [
        'a task',
        async () =>
          test.call('POST', '/tasks', {
            supporterId: await made(),
            title: 'Call',
            due: '2026-12-01',
            ownerId: null,
            repeats: 'never',
          }),
      ],
      [
        'a credit',
        async () =>
          addGift(test, await addPerson(test), {
            credits: [{ supporterId: await made(), kind: 'spouse', cents: 2_500 }],
          }),
      ],
    ];
    const ids: number[] = [];
    const made = async (): Promise<number> => {
      const id = await addPerson(test, { emails: [] });
      ids.push(id);
      return id;
    };
    for (const [, hang] of hung) await hang();
    expect((await of('empty', bare))?.[1]).toBe('in the trash');
    for (const id of ids) expect(await of('empty', id)).toBeNull();
    expect((await mend('empty', [bare])).body).toMatchObject({ mended: 1 });
    expect((await recordOf(test, bare)).trashed).toBe(true);
  });

  it('deletes a tag that one record has, with its name', async () => {
    const id = await addPerson(test, { tags: ['Voluntere'] });
    const [was] = (await of('tag', id)) ?? [];
    expect(was).toBe('Voluntere');
    const before = await snapshot(test.sql);
    const { body } = await mend('tag', [await rowOf('tag', id)]);
    expect((await recordOf(test, id)).tags).toEqual([]);
    await undo(body['revision']);
    expect(await snapshot(test.sql)).toEqual(before);
    await addPerson(test, { tags: ['voluntere'] });
    expect(await of('tag', id)).toBeNull();
  });

  it('leaves a tag that somebody else has by now', async () => {
    const id = await addPerson(test, { tags: ['Docnet'] });
    const row = await rowOf('tag', id);
    const { deleteTagsOnce } = await import('../supporters/index.ts');
    const [{ tagId } = { tagId: 0 }] = await test.sql.rows<{ tagId: number }>(
      'SELECT tag_id AS tagId FROM supporter_tag WHERE id = ?',
      [row],
    );
    await addPerson(test, { tags: ['Docnet'] });
    const { result } = await test.services.changes.write(TESTER, { kind: 'bulk', summary: 'Late' }, (tx) =>
      deleteTagsOnce(tx, [{ row, tagId }]),
    );
    expect(result).toBe(0);
    expect((await recordOf(test, id)).tags).toHaveLength(1);
  });

  it('takes the nearest choice of a field in place of what is none', async () => {
    const field = await test.call(
      'POST',
      '/fields',
      { about: 'supporter', name: 'Telescope', kind: 'one', choices: ['Refractor', 'Reflector'] },
      { as: 'admin' },
    );
    const fieldId = Number(field.body['id']);
    const id = await addPerson(test, { fields: { [fieldId]: 'Refractor' } });
    const right = await addPerson(test, { fields: { [fieldId]: 'Refractor' } });
    await test.services.changes.write(
      TESTER,
      { kind: 'load', summary: 'From before the field had choices', evenWithoutRows: true },
      (tx) => tx.sql.run(`UPDATE supporter_field SET value = 'refracter' WHERE supporter_id = ?`, [id]),
    );
    expect(await of('field', id)).toEqual(['Telescope: refracter', 'Telescope: Refractor']);
    expect(await of('field', right)).toBeNull();
    expect((await mend('field', null)).body).toMatchObject({ mended: 1, left: 0 });
    expect((await recordOf(test, id)).fields[0]?.shown).toBe('Refractor');
  });

  it('tells with what somebody who died is still busy', async () => {
    const id = await addPerson(test, {
      wishes: [{ kind: 'deceased', source: 'a letter', since: null, happenedOn: null }],
    });
    expect(await of('deceased', id)).toBeNull();
    await test.call('POST', '/tasks', {
      supporterId: id,
      title: 'Call',
      due: '2026-12-01',
      ownerId: null,
      repeats: 'never',
    });
    expect((await of('deceased', id))?.[0]).toBe('1 open task');
    const before = await snapshot(test.sql);
    const { body } = await mend('deceased', [id]);
    expect(body).toMatchObject({ mended: 1, left: 0 });
    expect((await recordOf(test, id)).pending.tasks).toEqual([]);
    expect(await of('deceased', id)).toBeNull();
    await undo(body['revision']);
    expect(await snapshot(test.sql)).toEqual(before);
  });
});

describe('mending', () => {
  it('leaves a row that was changed since it was shown, and one that nobody chose', async () => {
    const ids = [
      await addPerson(test, { last: 'ABEL' }),
      await addPerson(test, { last: 'BAKER' }),
      await addPerson(test, { last: 'CHASE' }),
    ];
    const [first = 0, second = 0, third = 0] = ids;
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [second] }, act: { do: 'trash' } });
    const { body } = await mend('capitals', null, { except: [third] });
    expect(body['mended']).toBeGreaterThanOrEqual(1);
    expect((await recordOf(test, first)).last).toBe('Abel');
    expect((await recordOf(test, second)).last).toBe('BAKER');
    expect((await recordOf(test, third)).last).toBe('CHASE');
  });

  it('does many in a job, as one change set', async () => {
    const many = 620;
    await test.services.changes.write(TESTER, { kind: 'load', summary: 'Many' }, async (tx) => {
      const { SupporterTable } = await import('../supporters/index.ts');
      await tx.insertAll(
        SupporterTable,
        Array.from({ length: many }, (_, index) => ({
          ...{
            kind: 'person' as const,
            first: 'LOUD',
            last: `NAME${'ABCDEFGHIJ'[index % 10] ?? ''}`,
            sort_name: 'name loud',
          },
        })),
      );
    });
    const { body } = await mend('capitals', null);
    expect(body).toMatchObject({ revision: null, mended: null });
    const job = await test.jobEnd(Number(body['jobId']));
    expect(job).toMatchObject({ state: 'done', message: expect.stringMatching(/^6\d\d rows mended/) as string });
    expect((await counts()).capitals).toBe(0);
  });

  it('is for officers, and looking for everybody', async () => {
    const id = await addPerson(test, { last: 'QUIET' });
    const row = await rowOf('capitals', id);
    for (const as of ['read', 'entry'] as const) {
      expect((await test.call('GET', '/upkeep', undefined, { as })).status).toBe(200);
      expect((await test.call('POST', '/upkeep/capitals/mend', { rows: [row] }, { as })).status).toBe(403);
      expect((await test.call('POST', '/upkeep/capitals/mute', { ids: [id], muted: true }, { as })).status).toBe(403);
    }
    expect((await test.call('GET', '/upkeep/nothing')).status).toBe(400);
  });
});

describe('what is right as it is', () => {
  it('is not told of, nor mended with all; and is again once that is taken back', async () => {
    const id = await addPerson(test, { last: 'IKEJA' });
    const row = await rowOf('capitals', id);
    const before = (await counts()).capitals;
    const muted = await test.call('POST', '/upkeep/capitals/mute', { ids: [id, id], muted: true });
    expect(muted.status).toBe(200);
    expect((await counts()).capitals).toBe(before - 1);
    expect((await list('capitals', 'muted=yes')).items.map(({ supporterId }) => supporterId)).toEqual([id]);
    expect((await mend('capitals', [row])).body).toMatchObject({ mended: 0, left: 1 });
    // Once more changes nothing.
    expect((await test.call('POST', '/upkeep/capitals/mute', { ids: [id], muted: true })).body['revision']).toBeNull();
    await undo(muted.body['revision']);
    expect(await rowOf('capitals', id)).toBe(row);
    await test.call('POST', '/upkeep/capitals/mute', { ids: [id], muted: true });
    await test.call('POST', '/upkeep/capitals/mute', { ids: [id], muted: false });
    expect((await counts()).capitals).toBe(before);
  });

  it('stays so of whoever the record is merged into', async () => {
    const [one, other] = [
      await addPerson(test, { first: 'Mo', last: 'KANO' }),
      await addPerson(test, { first: 'Mo', last: 'KANO' }),
    ];
    await test.call('POST', '/upkeep/capitals/mute', { ids: [other], muted: true });
    const records = await Promise.all(
      [one, other].map(async (id) => ({ id, version: (await recordOf(test, id)).version })),
    );
    expect((await test.call('POST', '/duplicates/merge', { into: one, records, choices: {} })).status).toBe(200);
    expect(await of('capitals', one)).toBeNull();
  });
});

describe('how it goes over time', () => {
  it('is kept once a day, the last count of the day', async () => {
    await counts();
    await test.sql.run(
      `INSERT INTO finding_count (day, finding, many) VALUES ('2026-10-20', 'birthday', 41), ('2026-01-01', 'birthday', 99)`,
    );
    const trendOf = async () =>
      listFindings.response
        .parse((await test.call('GET', '/upkeep')).body)
        .items.find(({ finding }) => finding === 'birthday')?.trend;
    const now = (await counts()).birthday;
    expect(await trendOf()).toEqual([
      { day: '2026-10-20', count: 41 },
      { day: '2026-11-23', count: now },
    ]);
    await addPerson(test, { birthday: '2050-01-01' });
    expect((await trendOf())?.at(-1)).toEqual({ day: '2026-11-23', count: now + 1 });
  });
});
