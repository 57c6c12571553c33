import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { DAYS_OF_TRIAL, dayOfTrialOn, described } from '../lib/days.ts';
import { ROOT } from '../lib/processes.ts';

describe('the days of trial', () => {
  const from = new Date('2026-11-27T03:00:00Z');
  it('come after any moment, each at its hour', () => {
    expect(DAYS_OF_TRIAL.map((day) => described(day, day.after(from)))).toEqual([
      '28 February (2027-02-28 12:00, America/Los_Angeles)',
      '29 February (2028-02-29 12:00, America/Los_Angeles)',
      '31 March (2027-03-31 23:50, America/Los_Angeles)',
      '30 June, the last minutes of the fiscal year (2027-06-30 23:50, America/Los_Angeles)',
      '1 July (2027-07-01 00:01, America/Los_Angeles)',
      '31 December, close to midnight (2026-12-31 23:50, America/Los_Angeles)',
      '1 January (2027-01-01 00:01, America/Los_Angeles)',
      'the night in which the clocks go forward (2027-03-14 01:50, America/Los_Angeles)',
      'the night in which the clocks go back (2027-11-07 01:50, America/Los_Angeles)',
      'an evening on which UTC has tomorrow (2026-11-26 20:30, America/Los_Angeles)',
      'a morning on which UTC still has yesterday (2026-11-28 07:30, Pacific/Auckland)',
    ]);
    for (const day of DAYS_OF_TRIAL) {
      const at = day.after(from);
      expect(at.getTime()).toBeGreaterThan(from.getTime());
      expect(day.after(at).getTime()).toBeGreaterThan(at.getTime());
    }
  });
  it('take their turns by the date', () => {
    const turns = DAYS_OF_TRIAL.map((_, days) => dayOfTrialOn(new Date(from.getTime() + days * 86_400_000)).name);
    expect(new Set(turns).size).toBe(DAYS_OF_TRIAL.length);
  });
});

describe('the test files', () => {
  it('are run, all of them', () => {
    const answer = (command: string, ...args: string[]): string =>
      execFileSync(command, args, { cwd: ROOT, encoding: 'utf8' });
    const files = answer('git', 'ls-files', '--cached', '--others', '--exclude-standard')
      .split('\n')
      .filter((file) => /\.(test|e2e)\.tsx?$/.test(file));
    const listed: { file: string }[] = JSON.parse(
      answer(join(ROOT, 'node_modules/.bin/vitest'), 'list', '--filesOnly', '--json'),
    );
    const run = listed.map(({ file }) => file.slice(ROOT.length + 1));
    expect(run.sort()).toEqual(files.sort());
    expect(run.length).toBeGreaterThan(80);
  });
});
