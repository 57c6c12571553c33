import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { weightOf } from '../lib/weight.ts';

describe('weightOf', () => {
  const dist = mkdtempSync(join(tmpdir(), 'tallystick-weight-'));
  afterAll(() => rmSync(dist, { recursive: true }));
  const write = (manifest: unknown, files: Record<string, number>): void => {
    mkdirSync(join(dist, '.vite'), { recursive: true });
    writeFileSync(join(dist, '.vite', 'manifest.json'), JSON.stringify(manifest));
    for (const [name, bytes] of Object.entries(files)) writeFileSync(join(dist, name), 'x'.repeat(bytes));
  };
  const MANIFEST = {
    'index.html': {
      file: 'main.js',
      isEntry: true,
      imports: ['_shared.js'],
      dynamicImports: ['src/today/TodayPage.tsx', 'src/gifts/GiftsPage.tsx'],
    },
    '_shared.js': { file: 'shared.js', imports: ['_deep.js'] },
    '_deep.js': { file: 'deep.js' },
    '_table.js': { file: 'table.js' },
    'src/today/TodayPage.tsx': { file: 'today.js', imports: ['_shared.js'] },
    'src/gifts/GiftsPage.tsx': { file: 'gifts.js', imports: ['_shared.js', '_table.js'] },
  };

  it('sums what the first page needs, as it is sent, and what each other page needs besides', () => {
    write(MANIFEST, {
      ...{ 'main.js': 100, 'main.js.br': 10, 'shared.js': 200, 'shared.js.br': 20, 'deep.js': 1, 'today.js': 4 },
      ...{ 'gifts.js': 7, 'table.js': 300, 'table.js.br': 30 },
    });
    expect(weightOf(dist)).toEqual({ first: 35, pages: [{ page: 'Gifts', bytes: 37 }] });
  });
  it('fails where the first page cannot be told', () => {
    write({ 'index.html': { file: 'main.js', isEntry: true } }, { 'main.js': 1 });
    expect(() => weightOf(dist)).toThrow('no first page');
  });
});
