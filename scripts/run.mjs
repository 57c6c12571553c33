// Makes sure that what a command needs is installed, then runs it. Plain JavaScript without imports from npm, since
// it is what installs them.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createHash } from 'node:crypto';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const [command, ...options] = process.argv.slice(2);

const DATABASE = { 'mariadb-server-core': '/usr/sbin/mariadbd', 'mariadb-client-core': '/usr/bin/mariadb' };
const DUMP = { 'mariadb-client': '/usr/bin/mariadb-dump' };
const BROWSER = { chromium: '/usr/bin/chromium', 'chromium-driver': '/usr/bin/chromedriver' };
const CLOCK = { faketime: '/usr/bin/faketime' };
const NEEDS = {
  start: DATABASE,
  dev: DATABASE,
  bench: DATABASE,
  admin: { ...DATABASE, ...(options[0] === 'dump' || options[0] === 'restore' ? DUMP : {}) },
  test: { ...DATABASE, ...DUMP, ...BROWSER, ...CLOCK },
  shots: { ...DATABASE, ...BROWSER },
  frames: { ...DATABASE, ...BROWSER },
  duplicates: {},
  licences: {},
  weight: {},
};

const fail = (message) => {
  console.error(message);
  process.exit(2);
};

const [major, minor] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19))
  fail(`Tallystick needs Node.js 20.19 or newer; this is ${process.version}.`);
const needs = NEEDS[command] ?? fail(`Unknown command ${command ?? ''}.`);

const external = process.env.DATABASE_URL ? Object.keys(DATABASE) : [];
const missing = Object.entries(needs)
  .filter(([name, path]) => !external.includes(name) && !existsSync(path))
  .map(([name]) => name);
if (missing.length > 0) {
  const line = `apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (process.getuid?.() !== 0)
    fail(`These Debian packages are missing: ${missing.join(', ')}. As root, run:\n  ${line}`);
  console.log(`Installing ${missing.join(', ')} …`);
  try {
    execFileSync('sh', ['-c', `(${line}) >/tmp/tallystick-apt.log 2>&1`], {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      stdio: 'inherit',
    });
  } catch {
    fail(`The packages could not be installed; see /tmp/tallystick-apt.log. To try by hand:\n  ${line}`);
  }
}

const stamp = join(root, 'node_modules', '.tallystick-installed');
const wanted = createHash('sha256')
  .update(readFileSync(join(root, 'package-lock.json')))
  .digest('hex');
if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== wanted) {
  console.log('Installing npm packages …');
  try {
    execFileSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
    });
  } catch {
    fail('npm ci failed; see above. Nothing was started.');
  }
  writeFileSync(stamp, wanted);
}

// From here on what npm installed is there: TypeScript is understood, and what is started is built first.
(await import('tsx/esm/api')).register();
const { programArguments } = await import('./lib/build.ts');
const child = spawn(process.execPath, [...(await programArguments(`scripts/${command}.ts`)), ...options], {
  cwd: root,
  stdio: 'inherit',
  env: {
    ...process.env,
    TALLYSTICK_CALLED_FROM: process.env.TALLYSTICK_CALLED_FROM ?? process.env.INIT_CWD ?? process.cwd(),
  },
});
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => child.kill(signal === 'SIGHUP' ? 'SIGTERM' : signal));
child.on('exit', (code, signal) => process.exit(code ?? (signal ? 1 : 0)));
