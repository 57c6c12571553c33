import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { builtPrograms, programArguments, ROOT } from '../lib/build.ts';

const filesIn = (folder: string): string[] => readdirSync(folder, { recursive: true, encoding: 'utf8' });

it('builds every program and every script of a thread, and nothing that still asks for TypeScript', async () => {
  const folder = await builtPrograms();
  expect(await builtPrograms()).toBe(folder);
  const scripts = filesIn(join(ROOT, 'server'))
    .filter((path) => /(\.work|[\\/]worker)\.ts$/.test(path) && !/^(dist|node_modules)[\\/]/.test(path))
    .map((path) => join('server', path.replace(/\.ts$/, '.js')));
  const built = filesIn(folder);
  expect(scripts.length).toBeGreaterThan(7);
  expect(built).toEqual(expect.arrayContaining([...scripts, join('server', 'main.js'), join('scripts', 'admin.js')]));
  for (const path of built.filter((name) => name.endsWith('.js'))) {
    const code = readFileSync(join(folder, path), 'utf8');
    expect(code, path).not.toMatch(/new URL\(['"]\.[^'"]*\.ts['"]/);
    expect(code, path).not.toMatch(/import\.meta\.(url|dirname)\b(?![^\n]*\/g)/);
  }
  expect(await programArguments('server/main.ts')).toEqual(['--enable-source-maps', join(folder, 'server', 'main.js')]);
});
