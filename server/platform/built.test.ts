import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { readCards } from '@tallystick/core/vcard';
import type { Card } from '@tallystick/core/vcard';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { scriptOf } from './built.ts';
import { doHeavy, heavyWork } from './pool.ts';

let built: string;
beforeAll(() => {
  built = mkdtempSync(join(tmpdir(), 'tallystick-built-'));
  mkdirSync(join(built, 'server', 'find'), { recursive: true });
  writeFileSync(join(built, 'server', 'find', 'worker.js'), '');
});
afterAll(() => rmSync(built, { recursive: true, force: true }));

const FIND = new URL('../find/worker.ts', import.meta.url);

describe('the script of a thread', () => {
  it('is what was built of it', () =>
    expect(scriptOf(FIND, built)).toBe(pathToFileURL(join(built, 'server', 'find', 'worker.js')).href));

  it.each<[string, URL, () => string]>([
    ['nothing was built', FIND, () => ''],
    ['there is no such folder', FIND, () => join(built, 'gone')],
    ['this one was not built', new URL('../facts/worker.ts', import.meta.url), () => built],
    ['it is built itself', new URL('../find/worker.js', import.meta.url), () => built],
  ])('is itself where %s', (_, script, folder) => expect(scriptOf(script, folder())).toBe(script.href));

  it('is built of every one that there is, so that no test waits for a thread to be translated', () => {
    const server = fileURLToPath(new URL('..', import.meta.url));
    const scripts = readdirSync(server, { recursive: true, encoding: 'utf8' }).filter(
      (path) => /(\.work|[\\/]worker)\.ts$/.test(path) && !/^(dist|node_modules)[\\/]/.test(path),
    );
    expect(scripts).toContain(join('supporters', 'cards.work.ts'));
    for (const path of scripts)
      expect(scriptOf(pathToFileURL(join(server, path)))).toMatch(/\/dist\/\w+\/server\/.+\.js$/);
  });

  it('does as its source says', async () => {
    const read = heavyWork<string, Card[]>(new URL('../supporters/cards.work.ts', import.meta.url), 60);
    const text = 'BEGIN:VCARD\nVERSION:3.0\nFN:Ada Finch\nEND:VCARD\n';
    expect(await doHeavy(read, text)).toEqual(readCards(text));
  });
});
