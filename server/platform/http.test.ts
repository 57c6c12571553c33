import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { API } from '@tallystick/contract/index';
import { ApiError } from '@tallystick/contract/common';
import { addPerson, openTestApp, recordOf, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

describe('the contract', () => {
  it('is served whole, and nothing else is', () =>
    expect([...test.app.served].sort()).toEqual(API.map((endpoint) => endpoint.id).sort()));

  it('is described as OpenAPI 3.1, every operation with its schemas', async () => {
    const document: {
      openapi: string;
      paths: Record<
        string,
        Record<string, { operationId: string; summary: string; parameters: { name: string; in: string }[] }>
      >;
    } = await (await fetch(`${test.url}/api/v1/openapi.json`)).json();
    expect(document.openapi).toBe('3.1.0');
    const operations = Object.entries(document.paths).flatMap(([path, methods]) =>
      Object.values(methods).map((operation) => ({ path, ...operation })),
    );
    expect(operations.map((operation) => operation.operationId).sort()).toEqual(
      API.map((endpoint) => endpoint.id).sort(),
    );
    for (const { path, parameters, summary } of operations) {
      expect(summary.length).toBeGreaterThan(5);
      const named = [...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]);
      expect(parameters.filter((one) => one.in === 'path').map((one) => one.name)).toEqual(named);
    }
    expect(JSON.stringify(document)).not.toContain('"$schema"');
  });

  it('has a page for people, with all that it is drawn by', async () => {
    const page = await fetch(`${test.url}/api/v1/docs`);
    expect(page.headers.get('Content-Type')).toContain('text/html');
    const files = [...(await page.text()).matchAll(/(?:src|href)="(\/api\/[^"]+)"/g)].map((match) => match[1] ?? '');
    expect(files.length).toBeGreaterThan(4);
    for (const file of files) {
      const { status, headers } = await fetch(test.url + file);
      expect([file, status]).toEqual([file, 200]);
      expect(headers.get('Content-Type')).toMatch(/css|javascript|json/);
    }
    // Only these: the rest of the package's folder is nobody's.
    expect((await fetch(`${test.url}/api/v1/docs/package.json`)).status).toBe(404);
  });

  it('refuses every endpoint to someone not signed in, but for the public ones', async () => {
    for (const endpoint of API.filter((one) => one.role !== 'public')) {
      const path = endpoint.path.replace(/:\w+/g, '1');
      const { status } = await test.call(
        endpoint.method.toUpperCase(),
        path,
        endpoint.method === 'get' ? undefined : {},
        { as: null, headers: { Origin: test.url } },
      );
      expect([endpoint.id, status]).toEqual([endpoint.id, 401]);
    }
  });

  it.each([
    ['NUL', 'A\0b'],
    ['half of a pair', 'A\ud83d'],
    ['a bell', 'A\u0007'],
    ['what is no sign', 'A\uFFFE'],
  ])('refuses %s in a text that would be kept, wherever it stands, and takes whole pairs', async (_name, odd) => {
    const draft = { kind: 'person', first: 'Ann', last: 'Odd', tags: ['fine', odd] };
    const refused = await test.call('POST', '/supporters', draft);
    expect([refused.status, ApiError.parse(refused.body).error.fields]).toEqual([
      400,
      { 'tags.1': expect.any(String) },
    ]);
    expect((await test.call('POST', '/supporters', { ...draft, tags: ['moon 🌕'] })).status).toBe(200);
  });

  it('makes one line of a text of several, but for letters and notes', async () => {
    const id = await addPerson(test, { first: 'Ann\r\n  Marie', last: 'Two\rLines' });
    expect((await recordOf(test, id)).name).toBe('Ann Marie Two Lines');
    const body = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'one\r\ntwo' }] }] };
    await test.call('POST', '/notes', { supporterId: id, date: '2026-11-20', body });
    const { items } = (await test.call('GET', `/supporters/${id}/notes`)).body as { items: { body: unknown }[] };
    expect(JSON.stringify(items[0]?.body)).toContain('one\\ntwo');
  });

  it('lets a read-only token write nothing', async () => {
    for (const endpoint of API.filter((one) => one.role !== 'public' && one.role !== 'read')) {
      const { status } = await test.call(
        endpoint.method.toUpperCase(),
        endpoint.path.replace(/:\w+/g, '1'),
        endpoint.method === 'get' ? undefined : {},
        { as: 'read' },
      );
      expect([endpoint.id, status]).toEqual([endpoint.id, 403]);
    }
  });
});

describe('errors', () => {
  it.each([
    ['GET', '/nowhere', undefined, 404, 'no-such-endpoint'],
    ['GET', '/supporters/999999', undefined, 404, 'not-found'],
    ['GET', '/supporters/abc', undefined, 400, 'invalid'],
    ['GET', '/supporters?limit=0', undefined, 400, 'invalid'],
    ['GET', '/supporters?cursor=rubbish', undefined, 400, 'bad-cursor'],
    ['GET', '/supporters?sort=colour', undefined, 400, 'invalid'],
    ['POST', '/supporters', { kind: 'person' }, 400, 'invalid'],
    ['POST', '/supporters', { kind: 'organization' }, 400, 'invalid'],
    ['POST', '/gifts', { cents: 'many' }, 400, 'invalid'],
  ])('%s %s has the one shape', async (method, path, body, status, code) => {
    const answer = await test.call(method, path, body);
    expect(answer.status).toBe(status);
    expect(ApiError.parse(answer.body).error.code).toBe(code);
  });

  it('speak of broken JSON and of a body that is too large', async () => {
    const send = (body: string) =>
      fetch(`${test.url}/api/v1/session`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Origin: test.url },
        body,
      });
    expect(await (await send('{')).json()).toMatchObject({ error: { code: 'bad-json' } });
    expect((await send(JSON.stringify({ email: 'x'.repeat(5_000_000) }))).status).toBe(413);
  });

  it.each<[string, string, RequestInit & { headers?: Record<string, string> }, number, string]>([
    ['a broken percent sign', '/supporters/%E0%A4%A', {}, 400, 'bad-address'],
    [
      'a packed body',
      '/supporters',
      { method: 'POST', body: 'x', headers: { 'Content-Encoding': 'gzip' } },
      415,
      'bad-encoding',
    ],
    [
      'an odd packing',
      '/supporters',
      { method: 'POST', body: 'x', headers: { 'Content-Encoding': 'rot13' } },
      415,
      'bad-encoding',
    ],
    [
      'an odd charset',
      '/supporters',
      { method: 'POST', body: '{}', headers: { 'Content-Type': 'application/json; charset=ebcdic' } },
      415,
      'bad-charset',
    ],
    ['JSON of another kind', '/supporters', { method: 'POST', body: '"text"' }, 400, 'bad-json'],
    [
      'brackets without end',
      '/supporters',
      { method: 'POST', body: '['.repeat(200_000) + ']'.repeat(200_000) },
      400,
      'invalid',
    ],
    [
      'a table of tables',
      '/supporters',
      { method: 'POST', body: '{"a":'.repeat(200_000) + '1' + '}'.repeat(200_000) },
      400,
      'invalid',
    ],
    ['an odd range', '/supporters', { headers: { Range: 'bytes=9-1' } }, 200, ''],
    ['an odd condition', '/supporters', { headers: { 'If-Match': '"x"', 'If-None-Match': ',,' } }, 200, ''],
  ])('%s is answered in the one shape', async (_name, path, init, status, code) => {
    const { secret } = await test.services.accounts.addToken(TESTER, 'odd', 'officer');
    const answer = await fetch(`${test.url}/api/v1${path}`, {
      ...init,
      headers: { Authorization: `Bearer ${secret}`, 'Content-Type': 'application/json', ...init.headers },
    });
    expect(answer.status).toBe(status);
    if (status !== 200) expect(ApiError.parse(await answer.json()).error.code).toBe(code);
  });

  it('ask first who calls, and only then what was sent', async () => {
    const body = '['.repeat(1_900_000) + ']'.repeat(1_900_000);
    const send = (path: string) =>
      fetch(`${test.url}/api/v1${path}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Origin: test.url },
        body,
      });
    expect((await send('/supporters')).status).toBe(401);
    expect((await send('/session')).status).toBe(413);
  });

  it('name each field that is wrong', async () => {
    const { body } = await test.call('POST', '/supporters', {
      kind: 'person',
      last: 'x'.repeat(121),
      emails: [{ address: 'nope' }],
    });
    expect(Object.keys((body['error'] as { fields: object }).fields).sort()).toEqual(['emails.0.address', 'last']);
  });
});

describe('headers', () => {
  it('allow no inline script and no framing', async () => {
    const policy = (await fetch(`${test.url}/api/v1/session`)).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("script-src 'self'");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
  });
  it('keep what is answered from being stored on the way', async () => {
    for (const path of ['/supporters', '/session', '/nowhere', '/supporters?limit=0'])
      expect((await test.call('GET', path)).headers.get('cache-control')).toBe('no-store');
  });
});

describe('lists', () => {
  it('give every row once, page by page, in order, whichever way they are sorted', async () => {
    for (let index = 0; index < 23; index++)
      await addPerson(test, { first: `P${index % 5}`, last: `Same${index % 3}` });
    for (const sort of ['name', '-name', 'number', '-number']) {
      const seen: { id: number; name: string }[] = [];
      let cursor = '';
      do {
        const { body } = await test.call('GET', `/supporters?limit=5&sort=${sort}${cursor ? `&cursor=${cursor}` : ''}`);
        seen.push(...(body['items'] as { id: number; name: string }[]));
        cursor = String(body['next'] ?? '');
      } while (cursor !== '');
      const { body } = await test.call('GET', `/supporters?limit=1000&sort=${sort}`);
      expect(seen.map((row) => row.id)).toEqual((body['items'] as { id: number }[]).map((row) => row.id));
      expect(new Set(seen.map((row) => row.id)).size).toBe(body['total']);
    }
  });
});
