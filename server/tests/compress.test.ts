import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { get } from 'node:http';
import type { IncomingHttpHeaders } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, brotliDecompressSync, gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPerson, openTestApp, TESTER } from './support.ts';
import type { TestApp } from './support.ts';

const SCRIPT = `console.log('${'a word '.repeat(500)}');`;
const folder = mkdtempSync(join(tmpdir(), 'tallystick-web-'));
let test: TestApp;
let token = '';
beforeAll(async () => {
  mkdirSync(join(folder, 'assets'));
  writeFileSync(join(folder, 'index.html'), `<!doctype html><p>${'words '.repeat(500)}</p>`);
  writeFileSync(join(folder, 'assets', 'main-1.js'), SCRIPT);
  writeFileSync(join(folder, 'assets', 'main-1.js.br'), brotliCompressSync(SCRIPT));
  test = await openTestApp({ webFolder: folder });
  token = (await test.services.accounts.addToken(TESTER, 'compress', 'officer')).secret;
  for (let count = 0; count < 10; count++) await addPerson(test);
});
afterAll(async () => {
  await test.close();
  rmSync(folder, { recursive: true });
});

/** The answer as it is on the wire; fetch would open it. `first` answers with the first piece of a stream. */
function wire(path: string, encodings: string, first = false): Promise<{ headers: IncomingHttpHeaders; body: Buffer }> {
  return new Promise((resolve, reject) => {
    const headers = { 'Accept-Encoding': encodings, Authorization: `Bearer ${token}` };
    get(`${test.url}${path}`, { headers }, (response) => {
      const parts: Buffer[] = [];
      const done = (): void => resolve({ headers: response.headers, body: Buffer.concat(parts) });
      response.on('data', (part: Buffer) => {
        parts.push(part);
        if (first) {
          done();
          response.destroy();
        }
      });
      response.on('end', done);
    }).on('error', reject);
  });
}

describe('what is sent', () => {
  it('is the file as it was compressed when it was built', async () => {
    const { headers, body } = await wire('/assets/main-1.js', 'gzip, br');
    expect([headers['content-encoding'], headers['cache-control'], headers['content-type']]).toEqual([
      'br',
      'public, max-age=31536000, immutable',
      expect.stringContaining('javascript'),
    ]);
    expect(brotliDecompressSync(body).toString()).toBe(SCRIPT);
  });
  it('is plain for who asks for that', async () => {
    const { headers, body } = await wire('/assets/main-1.js', 'identity');
    expect([headers['content-encoding'], body.toString()]).toEqual([undefined, SCRIPT]);
  });
  it('is not there where there is no such file', async () =>
    expect((await fetch(`${test.url}/assets/main-2.js`)).status).toBe(404));
  it.each(['/', '/api/v1/supporters?limit=10', '/api/v1/openapi.json'])(
    'is compressed on the way: %s',
    async (path) => {
      const { headers, body } = await wire(path, 'gzip');
      expect([headers['content-encoding'], headers['vary']]).toEqual([
        'gzip',
        expect.stringContaining('Accept-Encoding'),
      ]);
      const plain = await wire(path, 'identity');
      expect(gunzipSync(body).equals(plain.body)).toBe(true);
      expect(body.length).toBeLessThan(plain.body.length / 2);
    },
  );
  it('is a stream that comes word by word, never gathered', async () => {
    const { headers, body } = await wire('/api/v1/jobs/stream', 'gzip, br', true);
    expect([headers['content-encoding'], body.toString()]).toEqual([undefined, expect.stringContaining('retry: 1500')]);
  });
});
