import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { get } from 'node:http';
import { App } from '../app.ts';
import { freshDatabase, openTestApp, PASSWORD, seed, TESTER, testConfig } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
  await test.services.accounts.addUser(TESTER, {
    email: 'marisol@example.org',
    name: 'Marisol',
    role: 'officer',
    password: PASSWORD,
  });
});
afterAll(() => test.close());

const own = (): Record<string, string> => ({ Origin: test.url });
const signIn = (email: string, password: string, headers = own()) =>
  test.call('POST', '/session', { email, password }, { as: null, headers });
const cookieOf = (headers: Headers): string => headers.get('set-cookie')?.split(';')[0] ?? '';

describe('signing in', () => {
  it('gives a session cookie that scripts cannot read and other sites do not send', async () => {
    const { status, body, headers } = await signIn('Marisol@example.org', PASSWORD);
    expect(status).toBe(200);
    expect(body['user']).toMatchObject({ name: 'Marisol', role: 'officer' });
    expect(headers.get('set-cookie')).toMatch(/HttpOnly/i);
    expect(headers.get('set-cookie')).toMatch(/SameSite=Lax/i);
    const session = await test.call('GET', '/session', undefined, { as: null, headers: { Cookie: cookieOf(headers) } });
    expect(session.body['user']).toMatchObject({ email: 'marisol@example.org' });
  });

  it('keeps only hashes: of the password argon2id, of the session SHA-256', async () => {
    const { headers } = await signIn('marisol@example.org', PASSWORD);
    const token = cookieOf(headers).split('=')[1] ?? '';
    const [user] = await test.sql.rows<{ password_hash: string }>(
      `SELECT password_hash FROM user WHERE kind = 'person'`,
    );
    expect(user?.password_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
    expect(await test.sql.rows('SELECT 1 FROM session WHERE token_hash = ?', [token])).toEqual([]);
  });

  it('says the same for a wrong password and an unknown address', async () => {
    const wrong = await signIn('marisol@example.org', 'wrong');
    const unknown = await signIn('nobody@example.org', 'wrong');
    expect([wrong.status, unknown.status]).toEqual([401, 401]);
    expect(wrong.text).toBe(unknown.text);
  });

  it('ends with signing out', async () => {
    const { headers } = await signIn('marisol@example.org', PASSWORD);
    const cookie = { Cookie: cookieOf(headers) };
    expect((await test.call('GET', '/supporters', undefined, { as: null, headers: cookie })).status).toBe(200);
    await test.call('DELETE', '/session', undefined, { as: null, headers: { ...cookie, ...own() } });
    expect((await test.call('GET', '/supporters', undefined, { as: null, headers: cookie })).status).toBe(401);
  });

  it('in a browser takes the place of the session before', async () => {
    const first = cookieOf((await signIn('marisol@example.org', PASSWORD)).headers);
    const second = await signIn('marisol@example.org', PASSWORD, { ...own(), Cookie: first });
    expect(second.status).toBe(200);
    expect((await as(first, 'GET', '/supporters?limit=1')).status).toBe(401);
    expect((await as(cookieOf(second.headers), 'GET', '/supporters?limit=1')).status).toBe(200);
  });

  it('is over when nothing was asked for twelve hours, or after fourteen days whatever was asked', async () => {
    for (const age of ['seen_at = UTC_TIMESTAMP(3) - INTERVAL 721 MINUTE', 'expires_at = UTC_TIMESTAMP(3)']) {
      const cookie = cookieOf((await signIn('marisol@example.org', PASSWORD)).headers);
      expect((await as(cookie, 'GET', '/supporters?limit=1')).status).toBe(200);
      await test.sql.run(`UPDATE session SET ${age}`);
      expect((await as(cookie, 'GET', '/supporters?limit=1')).status).toBe(401);
    }
  });

  it('ends the stream of events that came by it', async () => {
    const cookie = cookieOf((await signIn('marisol@example.org', PASSWORD)).headers);
    const stream = await fetch(`${test.url}/api/v1/jobs/stream`, { headers: { Cookie: cookie } });
    expect(stream.status).toBe(200);
    await as(cookie, 'DELETE', '/session');
    // Reads to its end, which never comes while the stream goes on.
    expect(await stream.text()).toContain('retry');
  });

  it('of 200 guesses at once ten are looked at', async () => {
    await test.services.accounts.addUser(TESTER, {
      ...{ email: 'ida@example.org', name: 'Ida', role: 'read' as const, password: PASSWORD },
    });
    await test.sql.run('DELETE FROM sign_in_try');
    const answers = await Promise.all(Array.from({ length: 200 }, () => signIn('ida@example.org', 'a guess or two')));
    const of = (status: number) => answers.filter((answer) => answer.status === status).length;
    expect([of(401), of(429)]).toEqual([10, 190]);
  });

  it('goes on in a known browser while others guess, and for other accounts at that address', async () => {
    const me = { email: 'odd@example.org', name: 'Odd', role: 'read' as const, password: PASSWORD };
    await test.services.accounts.addUser(TESTER, me);
    await test.sql.run('DELETE FROM sign_in_try');
    const before = await signIn(me.email, PASSWORD);
    const browser = before.headers
      .getSetCookie()
      .map((cookie) => cookie.split(';')[0] ?? '')
      .find((cookie) => cookie.startsWith('tallystick_browser='));
    for (let guess = 0; guess < 12; guess++) await signIn(me.email, 'a guess or two');
    expect((await signIn(me.email, PASSWORD)).status).toBe(429);
    expect((await signIn('marisol@example.org', PASSWORD)).status).toBe(200);
    const known = { ...own(), Cookie: browser ?? '' };
    expect((await signIn(me.email, PASSWORD, known)).status).toBe(200);
    // A browser known for one account is none for another.
    for (let guess = 0; guess < 12; guess++) await signIn('marisol@example.org', 'a guess or two', known);
    expect((await signIn('marisol@example.org', PASSWORD, known)).status).toBe(429);
    await test.sql.run('DELETE FROM sign_in_try');
  });

  it('closes after ten failures, for the right password too, and a reset opens it', async () => {
    await test.services.accounts.addUser(TESTER, {
      email: 'fern@example.org',
      name: 'Fern',
      role: 'entry',
      password: PASSWORD,
    });
    await test.sql.run('DELETE FROM sign_in_try');
    for (let tries = 0; tries < 10; tries++) expect((await signIn('fern@example.org', 'wrong')).status).toBe(401);
    const closed = await signIn('fern@example.org', PASSWORD);
    expect(closed.status).toBe(429);
    expect(closed.body['error']).toMatchObject({ code: 'too-many-tries' });
    await test.services.accounts.resetPassword('fern@example.org', 'a new pass phrase');
    expect((await signIn('fern@example.org', 'a new pass phrase')).status).toBe(200);
  });
});

/** Asks with a cookie, as a page of ours does. */
const as = (cookie: string, method: string, path: string, body?: unknown) =>
  test.call(method, path, body, { as: null, headers: { ...own(), Cookie: cookie } });

describe('one’s own account', () => {
  const me = { email: 'wren@example.org', name: 'Wren', role: 'entry' as const, password: PASSWORD };
  const fresh = 'moss copper lantern';
  beforeAll(async () => {
    await test.services.accounts.addUser(TESTER, me);
  });
  const enter = async (password = PASSWORD) => cookieOf((await signIn(me.email, password)).headers);
  const inside = async (cookie: string) => (await as(cookie, 'GET', '/supporters?limit=1')).status === 200;

  it('lists its sessions and ends one, or all others', async () => {
    const [here, there, third] = [await enter(), await enter(), await enter()];
    const { items } = (await as(here, 'GET', '/session/all')).body as { items: { id: number; current: boolean }[] };
    expect(items.map((one) => one.current).filter(Boolean)).toEqual([true]);
    expect(items).toHaveLength(3);
    const marisol = cookieOf((await signIn('marisol@example.org', PASSWORD)).headers);
    const other = items.find((one) => !one.current);
    expect((await as(marisol, 'DELETE', `/session/all/${other?.id}`)).status).toBe(404);
    expect((await as(here, 'DELETE', `/session/all/${other?.id}`)).status).toBe(200);
    expect((await as(here, 'DELETE', '/session/others')).body).toEqual({ ended: 1 });
    expect([await inside(here), await inside(there), await inside(third)]).toEqual([true, false, false]);
    expect(await inside(marisol)).toBe(true);
  });

  it('changes its password with the old one, to none that is guessed, and everyone else is out', async () => {
    const [here, there] = [await enter(), await enter()];
    const change = (old: string, next: string) => as(here, 'PUT', '/session/password', { old, fresh: next });
    expect((await change('not mine at all', fresh)).body['error']).toMatchObject({ code: 'wrong-password' });
    for (const weak of ['short one', 'passwordpassword', 'aaaaaaaaaaaaaaaa', 'qwertyuiop123456'])
      expect([weak, (await change(PASSWORD, weak)).status]).toEqual([weak, 400]);
    expect((await change(PASSWORD, fresh)).status).toBe(200);
    expect([await inside(here), await inside(there)]).toEqual([true, false]);
    expect((await signIn(me.email, PASSWORD)).status).toBe(401);
    expect((await signIn(me.email, fresh)).status).toBe(200);
    expect((await test.call('PUT', '/session/password', { old: fresh, fresh: PASSWORD })).status).toBe(403);
  });
});

describe('users', () => {
  it('are given another role, or no way in, but for the last administrator', async () => {
    const add = (name: string, role: 'admin' | 'entry') =>
      test.services.accounts.addUser(TESTER, { email: `${name}@example.org`, name, role, password: PASSWORD });
    const [boss, hand] = [await add('boss', 'admin'), await add('hand', 'entry')];
    const set = (id: number, to: object) => test.call('PUT', `/users/${id}`, to, { as: 'admin' });
    const cookie = cookieOf((await signIn('hand@example.org', PASSWORD)).headers);
    expect((await as(cookie, 'POST', '/supporters', { first: 'A', last: 'B' })).status).toBe(200);
    expect((await set(hand.id, { role: 'read', active: true })).body).toMatchObject({ role: 'read' });
    expect((await as(cookie, 'POST', '/supporters', { first: 'A', last: 'B' })).status).toBe(403);
    expect((await set(hand.id, { role: 'read', active: false })).status).toBe(200);
    expect((await as(cookie, 'GET', '/supporters')).status).toBe(401);
    expect((await signIn('hand@example.org', PASSWORD)).status).toBe(401);
    const both = await Promise.all([
      set(boss.id, { role: 'officer', active: true }),
      set(boss.id, { role: 'admin', active: false }),
    ]);
    expect(both.map((one) => one.body['error'])).toMatchObject([{ code: 'last-admin' }, { code: 'last-admin' }]);
  });
});

describe('the log of accesses', () => {
  const log = async (what: string) =>
    (await test.call('GET', `/accesses?what=${what}&limit=1`, undefined, { as: 'admin' })).body['items'] as {
      by: string;
      says: string;
      address: string;
    }[];

  it('has who signed in, was refused, took much out and changed rights, for administrators', async () => {
    const cookie = cookieOf((await signIn('marisol@example.org', PASSWORD)).headers);
    expect((await log('sign-in'))[0]).toMatchObject({ by: 'Marisol', address: expect.stringMatching(/127\.0\.0\.1/) });
    await signIn('marisol@example.org', 'a guess or two');
    expect((await log('refused'))[0]).toMatchObject({ says: 'wrong-password: POST /api/v1/session' });
    await as(cookie, 'PUT', '/addressing', {});
    expect((await log('refused'))[0]).toMatchObject({ by: 'Marisol', says: 'not-allowed: PUT /api/v1/addressing' });
    await as(cookie, 'GET', '/gifts/export.csv');
    expect((await log('export'))[0]).toMatchObject({ by: 'Marisol', says: expect.stringContaining('exportGifts') });
    await test.call('POST', '/tokens', { name: 'Feed', role: 'read' }, { as: 'admin' });
    expect((await log('rights'))[0]).toMatchObject({ says: 'createToken' });
    await as(cookie, 'DELETE', '/session');
    expect((await log('sign-out'))[0]).toMatchObject({ by: 'Marisol' });
    expect((await test.call('GET', '/accesses')).status).toBe(403);
  });

  it('cannot be changed, not even in the database', async () => {
    await expect(test.sql.run(`UPDATE access_log SET actor = 'x'`)).rejects.toThrow('only added to');
    await expect(test.sql.run('DELETE FROM access_log')).rejects.toThrow('only added to');
  });
});

describe('the names that we answer to', () => {
  const ask = (url: string, host: string) =>
    new Promise<number>((resolve, reject) => {
      const { hostname, port } = new URL(url);
      get({ hostname, port, path: '/api/v1/session', headers: { Host: host } }, (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
      }).on('error', reject);
    });

  it('are those of this computer and those that are set, and no other', async () => {
    for (const host of ['127.0.0.1', 'localhost:4460', '[::1]:80']) expect(await ask(test.url, host)).toBe(200);
    for (const host of ['evil.example.com', 'localhost.evil.example.com', '127.0.0.1.evil.example.com', '', 'a b'])
      expect([host, await ask(test.url, host)]).toEqual([
        host,
        host === 'a b' || host === '' ? expect.any(Number) : 421,
      ]);
    const app = await App.open(
      testConfig(test.databaseUrl, { publicUrl: 'https://give.example.org', hosts: ['inside.example.org'] }),
    );
    const url = await app.listen(0);
    for (const host of ['give.example.org', 'inside.example.org:8080']) expect(await ask(url, host)).toBe(200);
    expect(await ask(url, 'evil.example.com')).toBe(421);
    await app.close();
  });
});

describe('the origin check', () => {
  it('refuses writes by cookie from another site, or from nowhere', async () => {
    const { headers } = await signIn('marisol@example.org', PASSWORD);
    const write = (more: Record<string, string>) =>
      test.call(
        'POST',
        '/supporters',
        { first: 'A', last: 'B' },
        { as: null, headers: { Cookie: cookieOf(headers), ...more } },
      );
    expect((await write({ Origin: 'https://elsewhere.example.com' })).status).toBe(403);
    expect((await write({ Origin: 'null' })).status).toBe(403);
    expect((await write({})).status).toBe(403);
    expect((await write(own())).status).toBe(200);
  });
  it('refuses signing in from another site', async () =>
    expect((await signIn('marisol@example.org', PASSWORD, { Origin: 'https://elsewhere.example.com' })).status).toBe(
      403,
    ));
});

describe('roles', () => {
  const draft = { first: 'Role', last: 'Test' };
  it.each([
    ['GET', '/supporters', undefined, 'read'],
    ['POST', '/supporters', draft, 'entry'],
    ['POST', '/segments', { name: 'x', conditions: { kind: 'group', join: 'all', parts: [] } }, 'officer'],
    ['GET', '/users', undefined, 'admin'],
  ] as const)('%s %s needs at least its role', async (method, path, body, least) => {
    const roles = ['read', 'entry', 'officer', 'admin'] as const;
    for (const role of roles) {
      const { status } = await test.call(method, path, body, { as: role });
      expect([role, status]).toEqual([role, roles.indexOf(role) >= roles.indexOf(least) ? 200 : 403]);
    }
    expect((await test.call(method, path, body, { as: null, headers: own() })).status).toBe(401);
  });
});

describe('API tokens', () => {
  it('are shown once, stored hashed, and can be revoked', async () => {
    const made = await test.call('POST', '/tokens', { name: 'Nightly feed', role: 'read' }, { as: 'admin' });
    const secret = String(made.body['secret']);
    const use = () =>
      test.call('GET', '/supporters', undefined, { as: null, headers: { Authorization: `Bearer ${secret}` } });
    expect((await use()).status).toBe(200);
    const listed = await test.call('GET', '/tokens', undefined, { as: 'admin' });
    expect(listed.text).toContain('Nightly feed');
    expect(listed.text).not.toContain(secret);
    expect(await test.sql.rows('SELECT 1 FROM api_token WHERE token_hash = ?', [secret])).toEqual([]);
    await test.call('DELETE', `/tokens/${(made.body['token'] as { id: number }).id}`, undefined, { as: 'admin' });
    expect((await use()).status).toBe(401);
  });
});

describe('an empty start', () => {
  it('asks for the first administrator, once', async () => {
    const app = await App.open(testConfig(await freshDatabase()));
    await seed(app.services);
    const url = await app.listen(0);
    const first = (name: string) =>
      fetch(`${url}/api/v1/session/first-user`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Origin: url },
        body: JSON.stringify({ name, email: `${name}@example.org`, password: PASSWORD }),
      });
    try {
      expect(await (await fetch(`${url}/api/v1/session`)).json()).toMatchObject({
        needsFirstUser: true,
        user: null,
        demoUsers: [],
      });
      const short = await fetch(`${url}/api/v1/session/first-user`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Origin: url },
        body: JSON.stringify({ name: 'A', email: 'a@example.org', password: 'short' }),
      });
      expect(await short.json()).toMatchObject({
        error: { code: 'invalid', fields: { password: 'A password has at least 12 characters.' } },
      });
      const statuses = (await Promise.all([first('ana'), first('bo'), first('cy')])).map((response) => response.status);
      expect(statuses.sort()).toEqual([200, 409, 409]);
      expect(await (await fetch(`${url}/api/v1/session`)).json()).toMatchObject({ needsFirstUser: false });
    } finally {
      await app.close();
    }
  });
});
