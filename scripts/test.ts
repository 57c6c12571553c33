import { spawn } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtPrograms, buildWeb } from './lib/build.ts';
import { DAYS_OF_TRIAL, dayOfTrialOn, described, environmentAt } from './lib/days.ts';
import { main } from './lib/options.ts';
import { ROOT } from './lib/processes.ts';

/*
 * Every check and every test; the last line says how many passed and failed. All but the browser's tests run as if
 * today were one of the days on which calendars go wrong, another one each day. With --days they are run as on each
 * of those days. Other names after -- go to Vitest as they are, on the real day.
 */

interface Count {
  passed: number;
  failed: number;
  /** What failed, with the first lines of why: said again at the very end. */
  faults?: string[];
}
/** So many lines of each fault are said at the end. */
const FAULT_LINES = 12;

const inTools = (command: string, env: Record<string, string> = {}) =>
  [
    join(ROOT, 'node_modules', '.bin', command),
    { cwd: ROOT, env: { ...process.env, NODE_OPTIONS: '--max-old-space-size=4096', ...env } },
  ] as const;

function run(command: string, args: readonly string[], env: Record<string, string> = {}): Promise<number> {
  const [path, options] = inTools(command, env);
  return new Promise((resolve) =>
    spawn(path, args, { ...options, stdio: 'inherit' }).on('exit', (code) => resolve(code ?? 1)),
  );
}

/** Runs a command and keeps what it says. */
function heard(command: string, args: readonly string[]): Promise<{ status: number; said: string }> {
  const [path, options] = inTools(command);
  return new Promise((resolve) => {
    const child = spawn(path, args, options);
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (part: Buffer) => {
        said += part.toString();
      });
    child.on('close', (code) => resolve({ status: code ?? 1, said }));
  });
}

const CHECKS: readonly [string, string[]][] = [
  ['prettier', ['--check', '--log-level', 'warn', '.']],
  ['eslint', ['.']],
  [
    'depcruise',
    ['--config', '.dependency-cruiser.cjs', 'core', 'contract', 'server', 'web/src', 'standins', 'demo', 'scripts'],
  ],
  ['tsc', ['--noEmit', '-p', 'tsconfig.json']],
  ['tsx', ['scripts/weight.ts']],
];

/** Two at a time; what each says is shown whole, when it has ended. */
async function checks(): Promise<Count> {
  const faults: string[] = [];
  const left = [...CHECKS];
  const next = async (): Promise<void> => {
    for (let check = left.shift(); check; check = left.shift()) {
      const [name, args] = check;
      const line = `${name} ${args.join(' ')}`;
      const { status, said } = await heard(name, args);
      console.log(`\n${line}\n${said}`);
      if (status !== 0) faults.push(`${line}\nended with ${status}; what it found stands where it ran`);
    }
  };
  await Promise.all([next(), next()]);
  return { passed: CHECKS.length - faults.length, failed: faults.length, faults };
}

async function tests(args: readonly string[], env: Record<string, string> = {}): Promise<Count> {
  const report = join(tmpdir(), `tallystick-tests-${process.pid}.json`);
  rmSync(report, { force: true });
  const status = await run(
    'vitest',
    ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${report}`, ...args],
    env,
  );
  interface Report {
    numPassedTests: number;
    numFailedTests: number;
    numFailedTestSuites: number;
    testResults: {
      name: string;
      message: string;
      assertionResults: { status: string; fullName: string; failureMessages: string[] }[];
    }[];
  }
  const { numPassedTests, numFailedTests, numFailedTestSuites, testResults }: Report = JSON.parse(
    readFileSync(report, 'utf8'),
  );
  const faults = testResults.flatMap(({ name, message, assertionResults }) => [
    ...(message === '' ? [] : [`${name}\n${message}`]),
    ...assertionResults
      .filter(({ status: became }) => became === 'failed')
      .map(({ fullName, failureMessages }) => `${name}: ${fullName}\n${failureMessages.join('\n')}`),
  ]);
  rmSync(report);
  // A file that broke before its first test counts as one failure.
  const broken = status !== 0 && numFailedTests === 0 ? Math.max(1, numFailedTestSuites) : 0;
  return { passed: numPassedTests, failed: numFailedTests + broken, faults };
}

/** Everything that needs no browser, as if it were one of the days of trial. */
async function testsOn(day: (typeof DAYS_OF_TRIAL)[number], args: readonly string[]): Promise<Count> {
  const now = new Date();
  const at = day.after(now);
  console.log(`\nAs if today were ${described(day, at)}.`);
  return tests(['--project', 'unit', '--project', 'server', ...args], environmentAt(at, day.zone, now));
}

await main(async () => {
  const chosen = process.argv.slice(2).filter((word) => word !== '--days');
  const everyDay = process.argv.includes('--days');
  const counts: Count[] = [];
  if (chosen.length === 0 && !everyDay) counts.push(await checks());
  await buildWeb(console.log);
  await builtPrograms();
  if (everyDay) for (const day of DAYS_OF_TRIAL) counts.push(await testsOn(day, chosen));
  else if (chosen.length > 0) counts.push(await tests(chosen));
  else {
    counts.push(await testsOn(dayOfTrialOn(new Date()), []));
    counts.push(await tests(['--project', 'browser']));
  }
  const sum = (of: (count: Count) => number): number => counts.reduce((total, count) => total + of(count), 0);
  const failed = sum((count) => count.failed);
  for (const fault of counts.flatMap(({ faults = [] }) => faults))
    console.log(`\nFAILED ${fault.split('\n').slice(0, FAULT_LINES).join('\n')}`);
  console.log(`\nTests: ${sum((count) => count.passed)} passed, ${failed} failed`);
  process.exit(failed > 0 ? 1 : 0);
});
