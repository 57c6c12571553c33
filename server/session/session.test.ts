import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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

  it('closes after ten failures, for the right password too, and a reset opens it', async () => {
    await test.services.accounts.addUser(TESTER, {
      email: 'fern@example.org',
      name: 'Fern',
      role: 'entry',
      password: PASSWORD,
    });
    await test.sql.run('DELETE FROM sign_in_failure');
    for (let tries = 0; tries < 10; tries++) expect((await signIn('fern@example.org', 'wrong')).status).toBe(401);
    const closed = await signIn('fern@example.org', PASSWORD);
    expect(closed.status).toBe(429);
    expect(closed.body['error']).toMatchObject({ code: 'too-many-tries' });
    await test.sql.run(`DELETE FROM sign_in_failure WHERE subject LIKE 'from:%'`);
    await test.services.accounts.resetPassword('fern@example.org', 'a new pass phrase');
    expect((await signIn('fern@example.org', 'a new pass phrase')).status).toBe(200);
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
        error: { code: 'invalid', fields: { password: 'A password has at least 10 characters.' } },
      });
      const statuses = (await Promise.all([first('ana'), first('bo'), first('cy')])).map((response) => response.status);
      expect(statuses.sort()).toEqual([200, 409, 409]);
      expect(await (await fetch(`${url}/api/v1/session`)).json()).toMatchObject({ needsFirstUser: false });
    } finally {
      await app.close();
    }
  });
});
