import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync, mkdirSync } from 'node:fs';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freshDatabase } from '../../server/tests/support.ts';
import { programArguments } from '../lib/build.ts';
import { freePort } from '../lib/mariadb.ts';
import { readOptions } from '../lib/options.ts';
import { ROOT } from '../lib/processes.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'tallystick-start-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Ran {
  code: number | null;
  text: string;
}

/** Runs a command as npm does, which looks whether all is installed and built; it may be left running. */
const run = (command: string, args: readonly string[], input = '') =>
  running(['scripts/run.mjs', command, ...args], input);

/** Runs what is built for a command on a database that there is. */
const runOn = async (database: string, args: readonly string[], input = ''): Promise<Ran> =>
  running([...(await programArguments('scripts/admin.ts')), ...args], input, { DATABASE_URL: database }).ended;

function running(args: readonly string[], input: string, over: NodeJS.ProcessEnv = {}) {
  const env: NodeJS.ProcessEnv = { ...process.env, TALLYSTICK_CALLED_FROM: folder };
  delete env['DATABASE_URL'];
  const child = spawn(process.execPath, args, { cwd: ROOT, env: { ...env, ...over }, stdio: ['pipe', 'pipe', 'pipe'] });
  let text = '';
  child.stdout.on('data', (part: Buffer) => (text += part.toString()));
  child.stderr.on('data', (part: Buffer) => (text += part.toString()));
  child.stdin.end(input);
  const ended = new Promise<Ran>((resolve) => child.on('exit', (code) => resolve({ code, text })));
  const says = async (words: string): Promise<string> => {
    for (let tries = 0; tries < 600; tries++) {
      if (text.includes(words)) return text;
      if (child.exitCode !== null) throw new Error(`It ended: ${text}`);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error(`It never said “${words}”: ${text}`);
  };
  return { child, ended, says };
}

const urlIn = (text: string): string => /Tallystick\s+(http\S+)/.exec(text)?.[1] ?? '';

describe('npm start', () => {
  it('starts everything, stops everything, and finds the data as it was', async () => {
    const data = join(folder, 'a');
    const port = String(await freePort());
    const first = run('start', ['--data', data, '--port', port, '--empty']);
    const url = urlIn(await first.says('Ctrl-C stops it'));
    const made = await fetch(`${url}/api/v1/session/first-user`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Origin: url },
      body: JSON.stringify({ name: 'Ana', email: 'ana@example.org', password: 'a long enough one' }),
    });
    expect(made.status).toBe(200);
    expect(await (await fetch(url)).text()).toContain('<div id="root">');

    const taken = await run('start', ['--data', join(folder, 'b'), '--port', port]).ended;
    expect([taken.code, taken.text]).toEqual([1, expect.stringContaining(`Port ${port} is in use`)]);
    const shared = await run('start', ['--data', data, '--port', String(await freePort())]).ended;
    expect([shared.code, shared.text]).toEqual([1, expect.stringContaining('already running')]);
    expect((await fetch(`${url}/api/v1/session`)).status).toBe(200);

    const pid = Number(readFileSync(join(data, 'database.pid'), 'utf8'));
    first.child.kill('SIGTERM');
    expect((await first.ended).code).toBe(0);
    expect(() => process.kill(pid, 0)).toThrow();
    await expect(fetch(url)).rejects.toThrow();

    // A lost mark and a password that is none harm nothing: what is in the database is all there.
    rmSync(join(data, 'database-ready'));
    writeFileSync(join(data, 'database-password'), 'gone');
    const users = await run('admin', ['users', '--data', data]).ended;
    expect([users.code, users.text]).toEqual([0, expect.stringContaining('ana@example.org\tadmin\tAna')]);
    const second = run('start', ['--data', data, '--port', port]);
    const session: unknown = await (
      await fetch(`${urlIn(await second.says('Ctrl-C stops it'))}/api/v1/session`)
    ).json();
    expect(session).toMatchObject({ needsFirstUser: false });
    second.child.kill('SIGINT');
    expect((await second.ended).code).toBe(0);
  }, 600_000);

  it('says what is wrong with a port or a folder, and leaves both alone', async () => {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const port = String((server.address() as AddressInfo).port);
    const { code, text } = await run('start', ['--data', join(folder, 'c'), '--port', port]).ended;
    expect([code, text]).toEqual([1, expect.stringContaining('--port N')]);
    expect(existsSync(join(folder, 'c'))).toBe(false);
    server.close();

    const damaged = join(folder, 'd');
    mkdirSync(join(damaged, 'mariadb'), { recursive: true });
    writeFileSync(join(damaged, 'mariadb', 'ibdata1'), 'precious');
    const refused = await run('start', ['--data', damaged, '--port', String(await freePort())]).ended;
    expect([refused.code, refused.text]).toEqual([1, expect.stringContaining('Nothing was changed')]);
    expect(refused.text).toContain(`remove ${join(damaged, 'mariadb')}, and nothing else`);
    expect(readFileSync(join(damaged, 'mariadb', 'ibdata1'), 'utf8')).toBe('precious');
    const start = async (data: string) => run('start', ['--data', data, '--port', String(await freePort())]).ended;
    const file = join(folder, 'a-file');
    writeFileSync(file, 'precious');
    for (const data of [file, join(file, 'within')])
      expect(await start(data)).toMatchObject({ code: 1, text: expect.stringContaining('cannot be used') });
    const misplaced = join(folder, 'h');
    mkdirSync(misplaced);
    writeFileSync(join(misplaced, 'mariadb'), 'precious');
    expect(await start(misplaced)).toMatchObject({
      code: 1,
      text: expect.stringContaining('is a file where the database'),
    });
    const gone = join(folder, 'i');
    mkdirSync(gone);
    writeFileSync(join(gone, 'database-ready'), 'once');
    expect(await start(gone)).toMatchObject({ code: 1, text: expect.stringContaining('is gone. Nothing was changed') });
    expect([readFileSync(file, 'utf8'), readFileSync(join(misplaced, 'mariadb'), 'utf8')]).toEqual([
      'precious',
      'precious',
    ]);
  });
});

describe('npm run admin', () => {
  it('makes a user and a dump in a data folder, and restores that into another, without a browser', async () => {
    const data = join(folder, 'e');
    const admin = (args: string[], input = '') => run('admin', [...args, '--data', data], input).ended;
    expect((await admin(['scale', '--supporters', '5', '--gifts', '20'])).text).toContain('20 gifts');
    expect((await admin(['user', 'bo@example.org', 'officer', 'Bo', 'Farrow'], 'a long enough one\n')).text).toContain(
      'Bo Farrow can now sign in as officer',
    );
    expect((await admin(['dump', 'copy.sql'])).text).toContain('Written to copy.sql');
    expect((await admin(['restore', 'copy.sql'])).text).toContain('not empty');
    const other = (args: string[]) => run('admin', [...args, '--data', join(folder, 'f')]).ended;
    expect((await other(['users'])).text).toContain('This database is empty');
    expect((await other(['restore', 'copy.sql'])).text).toContain('Restored');
    expect((await other(['users'])).text).toContain('bo@example.org\tofficer\tBo Farrow');
  }, 600_000);

  it('makes users and tokens, resets passwords, and refuses what it cannot do, on the database that it is given', async () => {
    const database = await freshDatabase();
    const admin = (args: string[], input = '') => runOn(database, args, input);
    expect((await admin(['scale', '--supporters', '50', '--gifts', '400'])).text).toContain('400 gifts');
    expect((await admin(['user', 'bo@example.org', 'officer', 'Bo', 'Farrow'], 'a long enough one\n')).text).toContain(
      'Bo Farrow can now sign in as officer',
    );
    expect((await admin(['user', 'cy@example.org', 'king', 'Cy'], 'x')).text).toContain('A role is one of');
    expect((await admin(['user', 'cy@example.org', 'read', 'Cy'], 'short\n')).text).toContain('at least 12 characters');
    expect((await admin(['password', 'bo@example.org'], 'another long one\n')).text).toContain('is reset');
    expect((await admin(['password', 'nobody@example.org'], 'another long one\n')).code).toBe(1);
    expect((await admin(['token', 'read', 'feed'])).text).toMatch(/tally_[\w-]{32}/);
    expect((await admin(['dump', 'whole.sql'])).text).toContain('Written to whole.sql');
    expect((await admin(['dump', 'whole.sql'])).text).toContain('exists already');
    expect((await admin([])).text).toContain('npm run admin -- COMMAND');

    const whole = readFileSync(join(folder, 'whole.sql'));
    const empty = await freshDatabase();
    const restored = (name: string) => runOn(empty, ['restore', name]);
    for (const [name, bytes, words] of [
      ['cut.sql', whole.subarray(0, whole.length - 5000), 'is not a whole dump: the mark at its end is missing'],
      ['short.sql', Buffer.concat([whole.subarray(0, 5000), whole.subarray(6000)]), 'bytes where'],
      [
        'changed.sql',
        Buffer.from(whole.toString('latin1').replace('Bo Farrow', 'Bo Harrow'), 'latin1'),
        'its sum is another',
      ],
    ] as const) {
      writeFileSync(join(folder, name), bytes);
      expect(await restored(name)).toMatchObject({ code: 1, text: expect.stringContaining(words) });
    }
    // Nothing of what was refused is there.
    expect((await runOn(empty, ['users'])).text).toContain('This database is empty');
  }, 600_000);
});

describe('options', () => {
  it.each<[string[], RegExp]>([
    [['--port', 'abc'], /whole number/],
    [['--port', '-1'], /whole number|argument/],
    [['--today', '2026-02-30'], /takes a date/],
    [['--colour', 'red'], /Unknown option/],
  ])('%j is refused in words', (args, message) => expect(() => readOptions(args)).toThrow(message));
  it('are read as given', () =>
    expect(readOptions(['--empty', '--today', '2026-03-14', '--data', '/tmp/x', 'demo'])).toMatchObject({
      empty: true,
      today: '2026-03-14',
      data: '/tmp/x',
      port: 4460,
      rest: ['demo'],
    }));
});
