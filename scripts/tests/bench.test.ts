import { spawn } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { ROOT } from '../lib/processes.ts';

describe('npm run bench', () => {
  it('makes its data, checks that facts, loop and SQL agree, and prints a row for each goal', async () => {
    const env: NodeJS.ProcessEnv = { ...process.env };
    delete env['DATABASE_URL'];
    const child = spawn(
      process.execPath,
      ['scripts/run.mjs', 'bench', 'facts', '--supporters', '1500', '--gifts', '9000'],
      { cwd: ROOT, env },
    );
    let text = '';
    child.stdout.on('data', (part: Buffer) => (text += part.toString()));
    child.stderr.on('data', (part: Buffer) => (text += part.toString()));
    const code = await new Promise((resolve) => child.on('exit', resolve));
    expect([code, text]).toEqual([0, expect.stringContaining('9000 gifts')]);
    for (const row of [
      'check all that must hold',
      'load the facts',
      'one state',
      'gave in a window',
      'total in a window',
      'gave last year, not this',
      'a fund, a state and a date',
      'nested, with windows',
    ])
      expect(text).toContain(row);
    expect(text).toMatch(/goals? (is|are) m(et|issed)/);
  }, 120_000);
});
