import { once } from 'node:events';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout as pause } from 'node:timers/promises';
import express from 'express';
import { afterAll, describe, expect, it } from 'vitest';
import { csv, harmless, sendCsv } from './csv.ts';

describe('CSV', () => {
  it.each([
    ['=1+1', "'=1+1"],
    ['+SUM(A1)', "'+SUM(A1)"],
    ['-2+3', "'-2+3"],
    ['@cmd', "'@cmd"],
    ['\tx', "'\tx"],
    ['\rx', "'\rx"],
    ['\u200B=1+1', "'\u200B=1+1"],
    ['\uFEFF@cmd', "'\uFEFF@cmd"],
    ['\u00A0+1+1', "'\u00A0+1+1"],
    ['＝1+1', "'＝1+1"],
    ['＠cmd', "'＠cmd"],
    ['－2', "'－2"],
    ['-12.50', '-12.50'],
    ['+1,250', '+1,250'],
    ['plain', 'plain'],
  ])('makes %j harmless', (cell, expected) => expect(harmless(cell)).toBe(expected));
  it('keeps line breaks of either kind within their cells', async () =>
    expect(await csv(['Street'], [['12 Lyra St\nApt 4'], ['a\rb']])).toBe(
      '\uFEFFStreet\r\n"12 Lyra St\nApt 4"\r\n"a\rb"\r\n',
    ));
  it('quotes what must be quoted', async () =>
    expect(await csv(['a', 'b'], [['x,y', 'he said "no"']])).toBe('\uFEFFa,b\r\n"x,y","he said ""no"""\r\n'));
});

describe('rows of a file', () => {
  it('are the same of many as of few, and let others go first on the way', async () => {
    const rows = Array.from({ length: 4_321 }, (_, at) => [`Row ${at}`, at]);
    let turns = 0;
    const others = setInterval(() => turns++, 0);
    const text = await csv(['a', 'b'], rows);
    clearInterval(others);
    expect(text.split('\r\n')).toEqual(['\uFEFFa,b', ...rows.map((row) => row.join(',')), '']);
    expect(turns).toBeGreaterThan(0);
    expect(await csv(['a'], [])).toBe('\uFEFFa\r\n');
  });
});

describe('a file that is sent while its rows come', () => {
  const servers: Server[] = [];
  afterAll(() => servers.forEach((server) => server.close()));

  /** What a server sends whose rows come so. */
  async function sent(pages: () => AsyncGenerator<string[][]>): Promise<Response> {
    const app = express();
    app.get('/', (_request, response, next) => {
      sendCsv(response, 'rows.csv', ['Name'], pages()).catch(next);
    });
    app.use(((error: Error, _request, response, _next) => {
      if (response.headersSent) response.destroy();
      else response.status(500).send(error.message);
    }) satisfies express.ErrorRequestHandler);
    const server = app.listen(0, '127.0.0.1');
    servers.push(server);
    await once(server, 'listening');
    return fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
  }

  it('is whole when all have come', async () => {
    const response = await sent(async function* () {
      yield [['Ana'], ['Bo']];
      await pause(5);
      yield [['Cy']];
    });
    expect(response.headers.get('content-disposition')).toContain('rows.csv');
    expect(await response.text()).toBe('Name\r\nAna\r\nBo\r\nCy\r\n');
  });

  it('says what is wrong where that is known before anything is sent', async () => {
    const response = await sent(async function* () {
      yield await Promise.reject<string[][]>(new Error('There is no such fund.'));
    });
    expect([response.status, await response.text()]).toEqual([500, 'There is no such fund.']);
  });

  it('is cut off when it fails on the way, so that nobody takes a part for all', async () => {
    const whole = sent(async function* () {
      yield [['Ana']];
      await pause(5);
      throw new Error('The database went away.');
    });
    await expect(whole.then((response) => response.text())).rejects.toThrow();
  });
});
