import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { appendFile, open, rename, rm, stat } from 'node:fs/promises';
import type { Transform } from 'node:stream';
import { PassThrough } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import mysql from 'mysql2/promise';
import { isSetUp } from '@tallystick/demo/load';
import { Plain } from './options.ts';

/*
 * Dumps end with a mark: how many bytes there are before it and their sum. A restore looks at the mark first, fills a
 * database of its own, has that checked, and only then puts it in its place.
 */

/** The mark is the last line of a dump; `bytes` are those before it. */
const MARK = /^-- Tallystick dump, whole: (\d+) bytes, sha256 ([0-9a-f]{64})\n$/;
const markOf = (bytes: number, sum: string): string => `-- Tallystick dump, whole: ${bytes} bytes, sha256 ${sum}\n`;
const LONGEST_MARK = 200;

/** The client's options for a URL; the password goes by the environment, which other users cannot read. */
function client(url: string): { args: string[]; env: NodeJS.ProcessEnv; database: string } {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    args: [
      '--no-defaults',
      '--protocol=tcp',
      `--host=${hostname}`,
      `--port=${port || '3306'}`,
      `--user=${decodeURIComponent(username)}`,
      '--default-character-set=utf8mb4',
    ],
    env: { ...process.env, MYSQL_PWD: decodeURIComponent(password) },
    database: pathname.slice(1),
  };
}

/** Sums up what goes through. */
function summing(): { through: Transform; sum: () => { bytes: number; sha256: string } } {
  const hash = createHash('sha256');
  let bytes = 0;
  const through = new PassThrough();
  through.on('data', (part: Buffer) => {
    hash.update(part);
    bytes += part.length;
  });
  return { through, sum: () => ({ bytes, sha256: hash.digest('hex') }) };
}

/** Writes the whole database to a file, which has its name only once it is whole. */
export async function dump(url: string, file: string): Promise<void> {
  if (existsSync(file)) throw new Plain(`${file} exists already; nothing was written over it.`);
  const { args, env, database } = client(url);
  const child = spawn('/usr/bin/mariadb-dump', [...args, '--single-transaction', '--hex-blob', database], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise<number | null>((done) => child.on('exit', done));
  const part = `${file}.part`;
  const { through, sum } = summing();
  await pipeline(child.stdout, through, createWriteStream(part, { mode: 0o600 }));
  if ((await ended) !== 0) {
    await rm(part, { force: true });
    throw new Plain('The dump failed; see above. Nothing was written.');
  }
  const { bytes, sha256 } = sum();
  await appendFile(part, markOf(bytes, sha256));
  await rename(part, file);
}

/** Refuses a file that is no whole dump; answers how many bytes of it are the dump. */
async function wholeOf(file: string): Promise<number> {
  const { size } = await stat(file);
  const handle = await open(file);
  const tail = Buffer.alloc(Math.min(size, LONGEST_MARK));
  await handle.read(tail, 0, tail.length, size - tail.length);
  await handle.close();
  const text = tail.toString('latin1');
  const line = text.slice(text.lastIndexOf('\n', text.length - 2) + 1);
  const [, bytes, wanted] = MARK.exec(line) ?? [];
  const cut = (found: string): Plain =>
    new Plain(`${file} is not a whole dump: ${found}. Nothing was changed. Use another copy of it.`);
  if (bytes === undefined) throw cut('the mark at its end is missing, so it was cut off, or not made by dump');
  const length = Number(bytes);
  if (length !== size - line.length) throw cut(`it has ${size - line.length} bytes where ${length} were written`);
  const { through, sum } = summing();
  through.resume();
  await pipeline(createReadStream(file, { end: Math.max(0, length - 1) }), through);
  if (sum().sha256 !== wanted) throw cut('its sum is another than when it was written, so something in it was changed');
  return length;
}

/** Who made a trigger, as a line of a dump begins with it; within a value no line begins, its ends are escaped there. */
const MAKER = /^(\/\*!50003 CREATE\*\/ )\/\*!50017 DEFINER=`[^`]*`@`[^`]*`\*\/ /gm;

/** A dump without who made its triggers: whoever restores it makes them, and may have another name. */
async function* withoutMakers(parts: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let begun = '';
  for await (const part of parts) {
    const text = begun + part.toString('latin1');
    const end = text.lastIndexOf('\n') + 1;
    begun = text.slice(end);
    yield Buffer.from(text.slice(0, end).replace(MAKER, '$1'), 'latin1');
  }
  yield Buffer.from(begun, 'latin1');
}

/**
 * Puts a dump into an empty database: into one beside it first, which `check` must find good; answers how many tables
 * there are. Whatever goes wrong, the database is as it was.
 */
export async function restore(
  url: string,
  file: string,
  check: (url: string) => Promise<readonly string[]>,
): Promise<number> {
  if (!existsSync(file)) throw new Plain(`There is no file ${file}.`);
  if (await isSetUp(url))
    throw new Plain(
      'The database is not empty. A dump is restored into an empty one only: choose another --data folder.',
    );
  const length = await wholeOf(file);
  const { args, env, database } = client(url);
  const beside = `${database}_restoring`;
  const besideUrl = new URL(url);
  besideUrl.pathname = `/${beside}`;
  const connection = await mysql.createConnection(url);
  try {
    await connection.query(`DROP DATABASE IF EXISTS \`${beside}\``);
    await connection.query(`CREATE DATABASE \`${beside}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
    const child = spawn('/usr/bin/mariadb', [...args, beside], { env, stdio: ['pipe', 'inherit', 'inherit'] });
    const ended = new Promise<number | null>((done) => child.on('exit', done));
    const read = createReadStream(file, { end: length - 1, highWaterMark: 4 << 20 });
    await pipeline(read, withoutMakers, child.stdin).catch(() => undefined);
    if ((await ended) !== 0) throw new Plain('Restoring failed; see above. The database is as it was.');
    const broken = await check(besideUrl.href);
    if (broken.length > 0)
      throw new Plain(`What was restored does not hold, so the database is as it was:\n${broken.join('\n')}`);
    return await moveTables(connection, beside, database);
  } finally {
    await connection.query(`DROP DATABASE IF EXISTS \`${beside}\``);
    await connection.end();
  }
}

/** Moves all tables in one step; triggers do not move with theirs, and are made anew. */
async function moveTables(connection: mysql.Connection, from: string, to: string): Promise<number> {
  const rowsOf = async (sql: string, params: string[]): Promise<Record<string, string>[]> =>
    (await connection.query<mysql.RowDataPacket[]>(sql, params))[0] as Record<string, string>[];
  const tables = async (schema: string): Promise<string[]> =>
    (await rowsOf('SELECT TABLE_NAME AS name FROM information_schema.TABLES WHERE TABLE_SCHEMA = ?', [schema])).map(
      (row) => row['name'] ?? '',
    );
  const triggers = await rowsOf(
    `SELECT TRIGGER_NAME AS name, ACTION_TIMING AS timing, EVENT_MANIPULATION AS event, EVENT_OBJECT_TABLE AS tab, ACTION_STATEMENT AS body
     FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = ?`,
    [from],
  );
  await connection.query('SET FOREIGN_KEY_CHECKS = 0');
  for (const name of await tables(to)) await connection.query(`DROP TABLE \`${to}\`.\`${name}\``);
  for (const { name } of triggers) await connection.query(`DROP TRIGGER \`${from}\`.\`${name ?? ''}\``);
  const moved = await tables(from);
  await connection.query(
    `RENAME TABLE ${moved.map((name) => `\`${from}\`.\`${name}\` TO \`${to}\`.\`${name}\``).join(', ')}`,
  );
  await connection.query('SET FOREIGN_KEY_CHECKS = 1');
  for (const { name, timing, event, tab, body } of triggers)
    await connection.query(
      `CREATE TRIGGER \`${to}\`.\`${name ?? ''}\` ${timing ?? ''} ${event ?? ''} ON \`${to}\`.\`${tab ?? ''}\` FOR EACH ROW ${body ?? ''}`,
    );
  return moved.length;
}
