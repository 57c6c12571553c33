import { spawn } from 'node:child_process';
import { expect, it } from 'vitest';
import { ROOT } from '../lib/processes.ts';

/* Small, so that what is timed is not what is looked at: that three answers agree, and that each goal has its row. */
it.each([
  [
    'facts',
    [
      ...['check all that must hold', 'load the facts', 'one state', 'gave in a window', 'total in a window'],
      ...['gave last year, not this', 'a fund, a state and a date', 'nested, with windows'],
    ],
  ],
  [
    'questions',
    [
      ...['a: one custom value', 'b: to one fund', 'f: homes over', 'h: had the e-mail', 'i: gave by card only'],
      ...['against a loop', 'against SQL', 'after a keystroke'],
    ],
  ],
])(
  'npm run bench %s makes its data, checks that facts, loop and SQL agree, and prints a row for each goal',
  async (part, rows) => {
    const env: NodeJS.ProcessEnv = { ...process.env };
    delete env['DATABASE_URL'];
    const child = spawn(
      process.execPath,
      ['scripts/run.mjs', 'bench', part, '--supporters', '1500', '--gifts', '9000'],
      { cwd: ROOT, env },
    );
    let text = '';
    child.stdout.on('data', (some: Buffer) => (text += some.toString()));
    child.stderr.on('data', (some: Buffer) => (text += some.toString()));
    const code = await new Promise((resolve) => child.on('exit', resolve));
    expect([code, text]).toEqual([0, expect.stringContaining('goal')]);
    for (const row of rows) expect(text).toContain(row);
    expect(text).toMatch(/goals? (is|are) m(et|issed)/);
  },
  120_000,
);
