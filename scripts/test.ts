import { spawn } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { main } from './lib/options.ts';
import { ROOT } from './lib/processes.ts';
import { buildWeb } from './start.ts';

/* Every check and every test; the last line says how many passed and failed. Names after -- go to Vitest as they are. */

function run(command: string, args: readonly string[]): Promise<number> {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: 'inherit',
      env: { ...process.env, NODE_OPTIONS: '--max-old-space-size=4096' },
    });
    child.on('exit', (code) => resolve(code ?? 1));
  });
}

await main(async () => {
  const chosen = process.argv.slice(2);
  const bin = (name: string): string => join(ROOT, 'node_modules', '.bin', name);
  const checks: [string, string[]][] = [
    ['prettier', ['--check', '--log-level', 'warn', '.']],
    ['eslint', ['.']],
    [
      'depcruise',
      ['--config', '.dependency-cruiser.cjs', 'core', 'contract', 'server', 'web/src', 'standins', 'demo', 'scripts'],
    ],
    ['tsc', ['--noEmit', '-p', 'tsconfig.json']],
  ];
  let failedChecks = 0;
  for (const [name, args] of chosen.length > 0 ? [] : checks) {
    console.log(`\n${name} ${args.join(' ')}`);
    if ((await run(bin(name), args)) !== 0) failedChecks++;
  }
  await buildWeb(console.log);
  const report = join(tmpdir(), `tallystick-tests-${process.pid}.json`);
  const status = await run(bin('vitest'), [
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
    ...chosen,
  ]);
  const {
    numPassedTests,
    numFailedTests,
    numFailedTestSuites,
  }: { numPassedTests: number; numFailedTests: number; numFailedTestSuites: number } = JSON.parse(
    readFileSync(report, 'utf8'),
  );
  rmSync(report);
  // A file that broke before its first test counts as one failure, as does a check.
  const broken = status !== 0 && numFailedTests === 0 ? Math.max(1, numFailedTestSuites) : 0;
  const failed = numFailedTests + broken + failedChecks;
  console.log(
    `\nTests: ${numPassedTests + checks.length - failedChecks - (chosen.length > 0 ? checks.length : 0)} passed, ${failed} failed`,
  );
  process.exit(failed > 0 ? 1 : 0);
});
