import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { API } from '@tallystick/contract/index';
import { DEEDS, leastFor, leastForAny, mayDo, RIGHTS } from '@tallystick/contract/rights';
import type { Right } from '@tallystick/contract/rights';
import { ROLES } from '@tallystick/contract/endpoint';
import type { Role } from '@tallystick/contract/endpoint';
import { addGift, addPerson, openTestApp, TESTER, TODAY, until } from './support.ts';
import type { Answer, TestApp } from './support.ts';

/* Each cell of the table of rights, by every role, and what is one's own against what is another's. */

let test: TestApp;
const other: Record<string, string> = {};
beforeAll(async () => {
  test = await openTestApp();
  for (const role of ['entry', 'officer'] as const)
    other[role] = (await test.services.accounts.addToken(TESTER, `the other ${role}`, role)).secret;
});
afterAll(() => test.close());

/** Asks as one who enters gifts, as another of them, as an officer, or as an administrator. */
type Who = 'me' | 'colleague' | 'officer' | 'admin';
const as = (who: Who, method: string, path: string, body?: unknown): Promise<Answer> =>
  who === 'colleague'
    ? test.call(method, path, body, { as: 'entry', headers: { Authorization: `Bearer ${other['entry']}` } })
    : test.call(method, path, body, { as: who === 'me' ? 'entry' : who });
const note = (text: string) => ({
  ...{ date: TODAY, kind: 'note' },
  body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] },
});
const idOf = ({ body, text }: Answer): number => {
  if (typeof body['id'] !== 'number') throw new Error(text);
  return body['id'];
};

describe('the table of rights', () => {
  const cells = Object.entries(RIGHTS).flatMap(([subject, deeds]) =>
    Object.keys(deeds).map((deed) => `${subject}.${deed}` as Right),
  );

  it('is used whole: each cell by an endpoint or by a rule about what is one’s own', () => {
    const used = new Set(API.map((endpoint) => endpoint.right));
    // A view of the same name is replaced by adding it; a user is changed with its role.
    const byRule = ['views.change', 'users.change'];
    expect(cells.filter((cell) => !used.has(cell) && !byRule.includes(cell))).toEqual([]);
    expect(cells.every((cell) => DEEDS.some((deed) => cell.endsWith(`.${deed}`)))).toBe(true);
    for (const cell of cells) expect(mayDo(leastForAny(cell), leastFor(cell))).toBe(true);
  });

  // What would end the test's own session, take its records away or never end.
  const APART = ['emptyTrash', 'streamJobs', 'signOut'];
  const asked = API.filter((endpoint) => endpoint.right !== 'public' && !APART.includes(endpoint.id));
  it.each(asked.map((endpoint) => [endpoint.id, endpoint] as const))('%s', async (id, endpoint) => {
    for (const role of ROLES) {
      const answer = await test.call(
        endpoint.method.toUpperCase(),
        endpoint.path.replace(/:\w+/g, '999999'),
        endpoint.method === 'get' ? undefined : {},
        { as: role },
      );
      const refused = answer.status === 403;
      expect([id, role, refused]).toEqual([id, role, !mayDo(role, endpoint.role as Role)]);
      expect(answer.status).toBeLessThan(500);
    }
  });
});

describe('what is somebody else’s', () => {
  /** By a colleague it is refused, and then somebody else's rule holds: oneself, or an officer. */
  const holds = async (method: string, path: string, body: unknown, by: Who): Promise<void> => {
    const refused = await as('colleague', method, path, body);
    expect([path, refused.status, refused.body['error']]).toMatchObject([path, 403, { code: 'not-yours' }]);
    const done = await as(by, method, path, body);
    expect([path, done.status, done.text]).toMatchObject([path, 200, expect.any(String)]);
  };

  it.each(['me', 'officer'] as const)('a note is changed and deleted by %s, not by a colleague', async (by) => {
    const supporterId = await addPerson(test);
    const id = idOf(await as('me', 'POST', '/notes', { supporterId, ...note('mine') }));
    await holds('PUT', `/notes/${id}`, { ...note('changed'), version: 1 }, by);
    await holds('DELETE', `/notes/${id}`, {}, by);
  });

  it.each(['me', 'officer'] as const)('a task is changed, done and deleted by %s, not by a colleague', async (by) => {
    const owner = await test.services.accounts.addUser(TESTER, {
      ...{ email: `${by}@example.org`, name: `Owner ${by}`, role: 'officer' as const, password: 'lamps off please' },
    });
    const add = async () => idOf(await as('me', 'POST', '/tasks', { title: 'Call', due: TODAY, ownerId: owner.id }));
    const id = await add();
    await holds('PUT', `/tasks/${id}`, { title: 'Call soon', due: TODAY, ownerId: owner.id, version: 1 }, by);
    await holds('POST', `/tasks/${id}/done`, {}, by);
    await holds('DELETE', `/tasks/${await add()}`, {}, by);
  });

  it('a task that nobody has is anybody’s to do', async () => {
    const id = idOf(await as('me', 'POST', '/tasks', { title: 'Post', due: TODAY }));
    expect((await as('colleague', 'POST', `/tasks/${id}/done`, {})).status).toBe(200);
  });

  it.each(['me', 'officer'] as const)('a view is replaced and deleted by %s, not by a colleague', async (by) => {
    const view = (search: string) => ({
      ...{ list: 'supporters', name: `View ${by}` },
      setting: { search, order: [], hidden: [], widths: {} },
    });
    const id = idOf(await as('me', 'POST', '/views', view('a')));
    await holds('POST', '/views', view('b'), by);
    if (by === 'officer') await as('admin', 'POST', '/views', view('c'));
    const mine = by === 'me' ? 'colleague' : 'me';
    expect((await as(mine, 'DELETE', `/views/${id}`, {})).status).toBe(403);
    expect((await as(by, 'DELETE', `/views/${id}`, {})).status).toBe(200);
  });

  it.each(['me', 'officer'] as const)('a sheet is typed in, posted and thrown away by %s alone', async (by) => {
    const head = { name: 'Mine', columns: ['wholeName', 'amount'].map((field) => ({ field, width: 120 })) };
    const open = async () => idOf(await as('me', 'POST', '/sheets', head));
    const typed = (change: string[], supporterId: number | null = null) => ({
      rows: [
        {
          ...{ key: '00000000-0000-4000-8000-000000000001', place: 0, supporterId, change },
          cells: { amount: '5', ...(supporterId ? { email: 'x@example.org' } : { wholeName: `Ann ${by}` }) },
        },
      ],
      removed: [],
    });
    const id = await open();
    await holds('PUT', `/sheets/${id}/rows`, typed([]), by);
    await holds('PUT', `/sheets/${id}`, { ...head, name: 'Renamed', version: 1 }, by);
    await holds('POST', `/sheets/${id}/post`, { reason: '' }, by);
    const next = await open();
    await holds('DELETE', `/sheets/${next}`, {}, by);
    // Whoever may not change a record may not change it by way of a sheet either.
    const last = await open();
    const known = await addPerson(test);
    expect((await as(by, 'PUT', `/sheets/${last}/rows`, typed(['email'], known))).status).toBe(by === 'me' ? 403 : 200);
  });

  it('work is stopped by whoever began it, or an officer', async () => {
    const begin = async (role: Role) => {
      const { secret } = role === 'entry' ? { secret: other['entry'] } : { secret: other['officer'] };
      const [row] = await test.sql.rows<{ id: number }>(
        'SELECT user_id AS id FROM api_token WHERE name = ? AND revoked = 0',
        [`the other ${role}`],
      );
      expect(secret).toBeDefined();
      const made = await test.sql.rows<{ id: number }>(
        `INSERT INTO job (kind, title, payload, state, total, run_after, created_by, actor, created_at)
         VALUES ('send', 'Wait', '{}', 'waiting', 0, '2199-01-01', ?, 'x', UTC_TIMESTAMP(3)) RETURNING id`,
        [row?.id ?? 0],
      );
      return made[0]?.id ?? 0;
    };
    const officers = await begin('officer');
    expect((await as('me', 'POST', `/jobs/${officers}/cancel`, {})).body['error']).toMatchObject({ code: 'not-yours' });
    expect((await as('officer', 'POST', `/jobs/${officers}/cancel`, {})).status).toBe(200);
    const colleagues = await begin('entry');
    expect((await as('me', 'POST', `/jobs/${colleagues}/cancel`, {})).status).toBe(403);
    expect((await as('colleague', 'POST', `/jobs/${colleagues}/cancel`, {})).status).toBe(200);
  });
});

describe('undo asks for the right of the act', () => {
  const last = async () =>
    (await test.sql.rows<{ id: number }>('SELECT MAX(revision) AS id FROM change_set'))[0]?.id ?? 0;
  const undo = (who: Who, revision: number) => as(who, 'POST', `/changes/${revision}/undo`, {});

  it.each<[string, string, string, unknown]>([
    ['addressing rules', 'PUT', '/addressing', null],
    ['a custom field', 'POST', '/fields', { about: 'gift', name: 'Seat', kind: 'text', choices: [] }],
    ['a custom field’s deletion', 'DELETE', '/fields/', null],
  ])('%s are an administrator’s, and so is undoing and doing them again', async (_name, method, path, body) => {
    let [target, given] = [path, body];
    if (path === '/addressing') {
      const rules = (await as('admin', 'GET', '/addressing')).body;
      given = JSON.parse(JSON.stringify(rules).replace('Dear', 'Hello')) as unknown;
    }
    if (path === '/fields/')
      target += String(
        idOf(await as('admin', 'POST', '/fields', { about: 'gift', name: 'Row', kind: 'text', choices: [] })),
      );
    const before = await last();
    const done = await as('admin', method, target, given ?? {});
    expect([done.status, done.text]).toMatchObject([200, expect.any(String)]);
    const revision = await last();
    expect(revision).toBeGreaterThan(before);
    for (const who of ['me', 'officer'] as const) expect((await undo(who, revision)).status).toBe(403);
    expect((await undo('admin', revision)).status).toBe(200);
    // Undoing the undo is doing it again.
    expect((await undo('officer', await last())).status).toBe(403);
    expect((await undo('admin', await last())).status).toBe(200);
  });

  it('what an officer changed is not a colleague’s to undo, nor what another program of the same role did', async () => {
    const id = await addPerson(test);
    await as('officer', 'POST', '/supporters/acts', {
      ...{ selection: { kind: 'ids', ids: [id] }, act: { do: 'tag', tag: 'moon', put: true } },
    });
    expect((await undo('me', await last())).status).toBe(403);
    const supporterId = await addPerson(test);
    idOf(await as('me', 'POST', '/gifts', { supporterId, cents: 500, date: TODAY, fundId: 1 }));
    const mine = await last();
    expect((await undo('colleague', mine)).status).toBe(403);
    const { items } = (await as('colleague', 'GET', '/changes?limit=1')).body as { items: { undoable: boolean }[] };
    expect(items[0]?.undoable).toBe(false);
    expect((await undo('me', mine)).status).toBe(200);
  });

  it('what the supporter asked for by link is not undone by whoever enters gifts', async () => {
    const id = await addPerson(test);
    await test.services.changes.write(
      { userId: null, name: 'the supporter, by link' },
      { kind: 'public', summary: 'Asked for no more e-mail', evenWithoutRows: true },
      () => Promise.resolve(id),
    );
    expect((await undo('me', await last())).status).toBe(403);
    expect((await undo('colleague', await last())).status).toBe(403);
  });

  it('a program is a user of its own: its work is its own, in lists and keys', async () => {
    const supporterId = await addPerson(test);
    await addGift(test, supporterId);
    const gift = { supporterId, cents: 700, date: TODAY, fundId: 1 };
    const post = (secret: string | undefined) =>
      test.call('POST', '/gifts', gift, {
        as: 'entry',
        key: 'same',
        headers: secret ? { Authorization: `Bearer ${secret}` } : {},
      });
    const [first, again, others] = [await post(undefined), await post(undefined), await post(other['entry'])];
    expect(idOf(again)).toBe(idOf(first));
    expect(idOf(others)).not.toBe(idOf(first));
    const mine = (await as('colleague', 'GET', '/changes?mine=yes&limit=1')).body as { items: { by: string }[] };
    expect(mine.items[0]?.by).toBe('the other entry');
    await until(async () => (await test.services.accounts.users()).every((user) => !user.email.startsWith('token:')));
  });
});
