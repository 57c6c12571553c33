import type { Request } from 'express';
import { describe, expect, it } from 'vitest';
import { COOKIE, cookieOf, hashPassword, isOwnOrigin, sha256 } from './auth.ts';
import { mayDo } from '@tallystick/contract/rights';
import { Clock, instant } from './clock.ts';
import { decodeCursor, decodeId, encodeCursor } from './cursor.ts';
import { chunks } from './db.ts';
import { isDatabaseGone, notFound, Problem } from './problem.ts';
import { tableNamed } from './tables.ts';

const request = (headers: Record<string, string>): Request =>
  ({ headers: { host: 'tally.example.org', ...headers } }) as unknown as Request;

describe('isOwnOrigin', () => {
  it.each([
    ['our own page', { origin: 'https://tally.example.org' }, true],
    ['another site', { origin: 'https://evil.example.com' }, false],
    ['another port', { origin: 'https://tally.example.org:8443' }, false],
    ['a site that begins alike', { origin: 'https://tally.example.org.evil.example.com' }, false],
    ['a sandboxed page', { origin: 'null' }, false],
    ['rubbish', { origin: '::::' }, false],
    ['no origin, the browser vouching', { 'sec-fetch-site': 'same-origin' }, true],
    ['no origin, from elsewhere', { 'sec-fetch-site': 'cross-site' }, false],
    ['no word at all', {}, false],
  ])('%s', (_title, headers, own) => expect(isOwnOrigin(request(headers))).toBe(own));
});

describe('roles and secrets', () => {
  it('each role may do what the ones before it may', () => {
    expect([
      mayDo('read', 'read'),
      mayDo('read', 'entry'),
      mayDo('officer', 'entry'),
      mayDo('entry', 'officer'),
      mayDo('admin', 'admin'),
    ]).toEqual([true, false, true, false, true]);
  });
  it('the cookie is found among others', () => {
    expect(cookieOf(request({ cookie: 'a=1; tallystick_session=abc; b=2' }), COOKIE)).toBe('abc');
    expect(cookieOf(request({ cookie: 'tallystick_sessions=abc' }), COOKIE)).toBeUndefined();
    expect(cookieOf(request({}), COOKIE)).toBeUndefined();
  });
  it('the same password is hashed differently each time, a token always alike', async () => {
    expect(await hashPassword('the same one')).not.toBe(await hashPassword('the same one'));
    expect(sha256('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
  });
});

describe('cursors', () => {
  it.each([
    ['', 1],
    ['cruz ana-maría', 10_001],
    ['"; DROP', 0],
    ['🌟', 7],
  ])('carry %j and %i', (value, id) => expect(decodeCursor(encodeCursor([value, id]), 2)).toEqual([value, id]));
  it('carry an id alone, and no text for one', () => {
    expect(decodeId(encodeCursor([10_001]))).toBe(10_001);
    expect(() => decodeId(encodeCursor(['10001']))).toThrow(Problem);
  });
  it.each([
    '',
    'x',
    'W10',
    Buffer.from('{"a":1}').toString('base64url'),
    encodeCursor(['a']),
    encodeCursor(['a', 'b', 'c']),
    Buffer.from('["a",{}]').toString('base64url'),
  ])('refuse %j', (text) => expect(() => decodeCursor(text, 2)).toThrow(Problem));
  it('nothing is the beginning', () => expect(decodeCursor(undefined, 2)).toBeNull());
});

describe('the clock', () => {
  it('holds the calendar still when told to, and the time never', () => {
    expect(new Clock('2026-03-14').today('UTC')).toBe('2026-03-14');
    expect(new Clock().today('UTC')).toBe(new Date().toISOString().slice(0, 10));
    expect(Math.abs(new Clock('2026-03-14').now().getTime() - Date.now())).toBeLessThan(1000);
  });
  it('writes instants as the database takes them, and back', () => {
    const stamp = new Clock().stamp();
    expect(stamp).toMatch(/^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d\.\d{3}$/);
    expect(new Date(instant(stamp)).toISOString()).toBe(instant(stamp));
  });
});

describe('small parts', () => {
  it('chunks lose nothing', () => {
    const items = Array.from({ length: 1203 }, (_, index) => index);
    expect(chunks(items, 500).map((chunk) => chunk.length)).toEqual([500, 500, 203]);
    expect(chunks(items, 7).flat()).toEqual(items);
    expect(chunks([], 5)).toEqual([]);
  });
  it.each([
    [{ code: 'ECONNREFUSED' }, true],
    [{ code: 'PROTOCOL_CONNECTION_LOST' }, true],
    [new Error("Can't add new command when connection is in closed state"), true],
    [{ code: 'ER_DUP_ENTRY' }, false],
    [new Error('anything else'), false],
    [null, false],
  ])('%j means the database is gone: %s', (error, gone) => expect(isDatabaseGone(error)).toBe(gone));
  it('what is not found says what', () =>
    expect(notFound('Gift G-1')).toMatchObject({ status: 404, message: 'Gift G-1 does not exist, or was removed.' }));
  it('a table that was never declared has no rule', () =>
    expect(() => tableNamed('gift; DROP TABLE gift')).toThrow('no part'));
});
