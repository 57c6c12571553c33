import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { AlikeGroup } from '@tallystick/contract/duplicates';
import { addGift, addPerson, openTestApp, snapshot, until } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Groups of records that may be one, as they are looked for, shown, and said not to be. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

interface Listed {
  progress: { done: number; of: number } | null;
  total: number;
  records: number;
  items: AlikeGroup[];
}
const list = async (asked: Record<string, unknown> = {}): Promise<Listed> => {
  const { status, body, text } = await test.call('POST', '/duplicates/groups', asked);
  if (status !== 200) throw new Error(text);
  return body as unknown as Listed;
};
const look = async (): Promise<string> => {
  const { body } = await test.call('POST', '/duplicates/search', {});
  return (await test.jobEnd(Number(body['jobId']))).message;
};
const idsIn = ({ items }: Listed): number[][] => items.map(({ members }) => members.map(({ id }) => id));

const street = { city: 'Elko', region: 'NV', postal: '89801', country: '' };
const person = (first: string, last: string, over: Record<string, unknown> = {}) =>
  addPerson(test, { first, last, emails: [], ...over });

let [robert, bob, spouse, apart1, apart2] = [0, 0, 0, 0, 0];
beforeAll(async () => {
  const home = { street: '18 Perseid Place', ...street, label: 'home', preferred: true };
  robert = await person('Robert', 'Thackeray', {
    ...{ addresses: [home], phones: [{ number: '775-555-0142', label: 'home', preferred: true }] },
  });
  bob = await person('Bob', 'Thackeray', {
    addresses: [{ ...home, street: '18 Perseid Pl' }],
    phones: [{ number: '(775) 555-0142', label: 'mobile', preferred: true }],
  });
  spouse = await person('Imogen', 'Thackeray', {
    addresses: [home],
    phones: [{ number: '775-555-0142', label: 'home', preferred: true }],
  });
  const flat = { street: '5 Lyra Rd', ...street, label: 'home', preferred: true };
  apart1 = await person('Odalys', 'Quane', { addresses: [flat], birthday: '1950-02-01', suffix: 'Sr.' });
  apart2 = await person('Odalys', 'Quane', { addresses: [flat], birthday: '1981-02-01', suffix: 'Jr.' });
});

describe('looking for records that are one', () => {
  it('has found nothing before anybody looked, and says so', async () => {
    expect(await list()).toMatchObject({ progress: null, total: 0, items: [] });
  });

  it('finds who is written twice, with reasons in words; no couple, no parent and child', async () => {
    await addGift(test, robert, { cents: 700 });
    await addGift(test, bob, { cents: 300 });
    const said = await look();
    expect(said).toMatch(/Looked at \d+ records: 1 group looks alike\./);
    const found = await list();
    expect(found.progress?.done).toBe(found.progress?.of);
    expect(idsIn(found)).toEqual([[robert, bob]]);
    expect(found).toMatchObject({ total: 1, records: 2 });
    const [group] = found.items;
    expect(group?.reasons).toEqual(['same last name, address and telephone', 'first names Robert and Bob']);
    expect(group?.cents).toBe(1_000);
    expect(group?.members[0]).toMatchObject({ name: 'Robert Thackeray', phone: '775-555-0142', given: { gifts: 1 } });
    expect(idsIn(found).flat()).not.toContain(spouse);
    expect(idsIn(found).flat()).not.toContain(apart1);
  });

  it('are only those that agree in what is asked for', async () => {
    for (const [reason, many] of [
      ['name', 0],
      ['street', 1],
      ['phone', 1],
      ['email', 0],
      ['birthday', 0],
      ['outside', 0],
    ] as const)
      expect([reason, (await list({ reason })).total]).toEqual([reason, many]);
    expect((await test.call('POST', '/duplicates/groups', { reason: 'shoe size' })).status).toBe(400);
  });

  it('are only those of a size, or that gave so much', async () => {
    const total = async (asked: Record<string, unknown>): Promise<number> => (await list(asked)).total;
    expect([await total({ size: 'two' }), await total({ size: 'more' }), await total({ size: 'any' })]).toEqual([
      1, 0, 1,
    ]);
    // Together they gave $10.00, to the cent.
    expect([await total({ least: 1_000 }), await total({ least: 1_001 })]).toEqual([1, 0]);
    const byLast = { rule: [{ field: 'last' }] };
    const all = await list(byLast);
    const [two, more] = [await list({ ...byLast, size: 'two' }), await list({ ...byLast, size: 'more' })];
    expect(two.total + more.total).toBe(all.total);
    expect(two.records + more.records).toBe(all.records);
    expect(more.items.every(({ members }) => members.length > 2)).toBe(true);
    expect((await test.call('POST', '/duplicates/groups', { least: -1 })).status).toBe(400);
  });

  it('knows at once of what was added, changed, merged or put in the trash since', async () => {
    const third = await person('Rob', 'Thackerey', {
      addresses: [{ street: '18 Perseid Place', ...street, label: 'home', preferred: true }],
      phones: [{ number: '775 555 0142', label: 'home', preferred: true }],
    });
    expect(idsIn(await list())).toEqual([[robert, bob, third]]);
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [bob] }, act: { do: 'trash' } });
    expect(idsIn(await list())).toEqual([[robert, third]]);
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [bob] }, act: { do: 'restore' } });
    const merged = await test.call('POST', '/duplicates/merge', {
      into: robert,
      records: [
        { id: robert, version: 1 },
        { id: third, version: 1 },
      ],
      choices: { last: robert },
    });
    expect(merged.status).toBe(200);
    expect(idsIn(await list())).toEqual([[robert, bob]]);
  });

  it('does not propose again who is not the same, until that is undone; it goes with a merge', async () => {
    const before = await snapshot(test.sql);
    const said = await test.call('POST', '/duplicates/not-same', { ids: [bob, robert] });
    expect(said.status).toBe(200);
    expect((await list()).total).toBe(0);
    // Said again, nothing is written.
    expect((await test.call('POST', '/duplicates/not-same', { ids: [robert, bob] })).body).toEqual({ revision: null });
    const { body } = await test.call('POST', '/duplicates/compare', { ids: [robert, bob] });
    expect((body['doubts'] as string[]).join()).toContain('are not the same');
    expect((await test.call('POST', `/changes/${String(said.body['revision'])}/undo`, {})).status).toBe(200);
    expect(idsIn(await list())).toEqual([[robert, bob]]);
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('is told of by the same measure while somebody new is typed', async () => {
    const draft = { first: 'Bobby', last: 'Thackerey', phones: ['775.555.0142'] };
    const noticed = async () =>
      (await test.call('POST', '/supporters/notice', draft)).body['alike'] as { id: number; score: number }[];
    // Until all records are read, what find finds is told by itself.
    await until(async () => (await noticed()).some(({ score }) => score > 85));
    expect(
      (await noticed())
        .slice(0, 2)
        .map(({ id }) => id)
        .sort(),
    ).toEqual([robert, bob]);
  });

  it('is asked about by the same measure in a file and on a sheet, whatever the last name is typed as', async () => {
    const csv =
      'First name,Last name,Phone,Street,City,State,ZIP\nBobby,Thackarey,775-555-0142,18 Perseid Pl,Elko,NV,89801\nZora,Quillan,,,,,\n';
    const { body } = await test.call('POST', '/intakes?name=guests.csv', undefined, { raw: Buffer.from(csv) });
    const path = `/intakes/${String(body['id'])}`;
    const { items } = (await test.call('GET', `${path}/rows`)).body as {
      items: { verdict: string; candidates: { id: number; reasons: string[] }[] }[];
    };
    expect(items.map(({ verdict }) => verdict)).toEqual(['undecided', 'new']);
    expect(items[0]?.candidates.map(({ id }) => id)).toEqual(expect.arrayContaining([robert, bob]));
    expect(items[0]?.candidates[0]?.reasons.join()).toContain('telephone');
    expect((await test.call('DELETE', path)).status).toBe(200);
  });

  it('by rule: what must agree exactly, nearly or in its first letters, as tight as one likes', async () => {
    const by = async (...rule: Record<string, unknown>[]) =>
      idsIn(await list({ rule })).map((ids) => ids.sort((a, b) => a - b));
    expect(await by({ field: 'last' })).toEqual(
      expect.arrayContaining([
        [robert, bob, spouse],
        [apart1, apart2],
      ]),
    );
    expect(await by({ field: 'last' }, { field: 'first' })).toEqual([[apart1, apart2]]);
    expect(await by({ field: 'last' }, { field: 'first', how: 'nearly' })).toEqual(
      expect.arrayContaining([
        [robert, bob],
        [apart1, apart2],
      ]),
    );
    expect(await by({ field: 'phone', how: 'nearly' }, { field: 'first', how: 'letters', letters: 1 })).toEqual([]);
    expect(await by({ field: 'birthday' }, { field: 'last' })).toEqual([]);
    expect((await list({ rule: [{ field: 'street' }], order: 'money' })).items[0]?.cents).toBe(1_000);
    expect((await test.call('POST', '/duplicates/groups', { rule: [] })).status).toBe(400);
    expect(await list({ rule: [{ field: 'last' }] })).toMatchObject({ tooLarge: 0 });
  });

  it('is for officers; others may see', async () => {
    expect((await test.call('POST', '/duplicates/groups', {}, { as: 'read' })).status).toBe(200);
    for (const path of ['search', 'not-same', 'merge', 'compare'])
      expect((await test.call('POST', `/duplicates/${path}`, { ids: [robert, bob] }, { as: 'entry' })).status).toBe(
        403,
      );
    expect((await test.call('POST', '/duplicates/not-same', { ids: [robert] })).status).toBe(400);
    expect((await test.call('POST', '/duplicates/not-same', { ids: [robert, robert] })).status).toBe(400);
    expect((await test.call('POST', '/duplicates/not-same', { ids: [robert, 999_999] })).status).toBe(400);
  });
});

describe('the sure ones together', () => {
  const end = async (answer: { body: Record<string, unknown> }): Promise<string> =>
    (await test.jobEnd(Number(answer.body['jobId']))).message;

  it('are rehearsed, merged as proposed, each by itself, and taken back together; what is doubtful is left', async () => {
    const [names, streets] = [
      ['Wilhelmina Oxbow', 'Thandiwe Larrabee', 'Gideon Petrakis'],
      ['71 Rigel Ct', '402 Deneb Ave', '9 Mizar Way'],
    ];
    const flat = (at: number) => ({ street: streets[at - 1], ...street, label: 'home', preferred: true });
    for (let at = 1; at <= 3; at++)
      for (const name of [names[at - 1] ?? '', (names[at - 1] ?? '').toUpperCase()]) {
        const [first = '', last = ''] = name.split(' ');
        const who = await person(first, last, {
          ...{ addresses: [flat(at)], phones: [{ number: `775-555-01${at * 23}`, label: 'home', preferred: true }] },
        });
        await addGift(test, who, { cents: 100 * at });
        // Of one of them it is known that he died.
        if (at === 3 && first === 'Gideon')
          await test.call('POST', '/supporters/acts', {
            selection: { kind: 'ids', ids: [who] },
            act: { do: 'wish', wish: 'deceased', put: true },
          });
      }
    const before = await snapshot(test.sql);
    const { total } = await list();
    expect(total).toBe(4);
    const rehearsed = await end(await test.call('POST', '/duplicates/merge-sure', { least: 95 }));
    expect(rehearsed).toContain('Would merge');
    expect(rehearsed).toContain('1 group is left to be looked at: ');
    expect(rehearsed).toContain('is marked deceased');
    expect(await snapshot(test.sql)).toEqual(before);

    const made = await test.call('POST', '/duplicates/merge-sure', { least: 95, rehearsed: false });
    const said = await end(made);
    expect(said).toBe(rehearsed.replace('Would merge', 'Merged'));
    expect((await list()).total).toBe(1);
    const changes = (await test.call('GET', '/changes?limit=3')).body['items'] as { kind: string }[];
    expect(changes.map(({ kind }) => kind)).toEqual(['merge', 'merge', 'merge']);

    const back = await end(await test.call('POST', `/duplicates/merge-sure/${String(made.body['jobId'])}/undo`, {}));
    expect(back).toBe('Took back 3 merges.');
    expect(await snapshot(test.sql)).toEqual(before);
    // Nothing is left to be taken back twice.
    expect(await end(await test.call('POST', `/duplicates/merge-sure/${String(made.body['jobId'])}/undo`, {}))).toBe(
      'Took back 0 merges.',
    );
  });

  it('are for officers, and only of a job that merged', async () => {
    expect((await test.call('POST', '/duplicates/merge-sure', {}, { as: 'entry' })).status).toBe(403);
    expect((await test.call('POST', '/duplicates/merge-sure', { least: 50 })).status).toBe(400);
    expect((await test.call('POST', '/duplicates/merge-sure/1/undo', {})).status).toBe(404);
    expect((await test.call('POST', '/duplicates/merge-sure/99999/undo', {})).status).toBe(404);
  });
});
