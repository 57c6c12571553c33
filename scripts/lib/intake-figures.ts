import { performance } from 'node:perf_hooks';
import { parse } from 'csv-parse/sync';
import type { IsoDate } from '@tallystick/core/dates';
import type { Services } from '@tallystick/server/app';
import { parseFile } from '@tallystick/server/intake/parse';
import type { Sql } from '@tallystick/server/platform/db';
import { startThread } from '@tallystick/server/platform/thread';
import type { BroughtIn } from './intake-room.work.ts';

const ACTOR = { userId: null, name: 'bench' };
const HEADINGS = [
  ...['Number', 'First name', 'Last name', 'Email', 'Phone', 'Address', 'City', 'State', 'Zip'],
  ...['Amount', 'Date', 'Transaction ID', 'Tags'],
];
const FIRST = ['Ana', 'Bo', 'Cy', 'Di', 'Ed', 'Flo', 'Gus', 'Hal'];
/** What the rows of an intake are mostly written to. */
const TABLES = ['supporter', 'email', 'phone', 'address', 'gift'] as const;
const AT_ONCE = 1_000;

/** A file of so many rows, half of them of supporters who are here by their number. */
async function fileOf(sql: Sql, many: number, today: IsoDate): Promise<Buffer> {
  const known = await sql.rows<{ id: number }>(`SELECT id FROM supporter WHERE state = 'active' ORDER BY id LIMIT ?`, [
    Math.ceil(many / 2),
  ]);
  const lines = Array.from({ length: many }, (_, at) => {
    const who = at % 2 === 0 ? (known[at / 2]?.id ?? null) : null;
    const someone =
      who === null
        ? ['', FIRST[at % FIRST.length], `Intake${((at * 7919) % 50_021).toString(36)}`, `intake${at}@example.org`]
        : [`S-${who}`, '', '', ''];
    const place = [
      `775-555-${String(at % 10_000).padStart(4, '0')}`,
      `${(at % 900) + 1} Lyra St`,
      'Elko',
      'NV',
      '89801',
    ];
    return [...someone, ...place, `${5 + (at % 200)}.00`, today, `IN-${at}`, at % 3 === 0 ? 'gala' : ''].join(',');
  });
  return Buffer.from([HEADINGS.join(','), ...lines].join('\n'));
}

async function timed(work: () => unknown): Promise<number> {
  const begun = performance.now();
  await work();
  return performance.now() - begun;
}

/**
 * How long an intake of so many rows takes, in milliseconds: to be parsed alone (the baseline), to be read, mapped,
 * cleaned and matched, a page of it, the effect of one choice and of one cell, to be posted, a bare insert of the rows that it wrote
 * (the baseline of that), and to be undone; and whether a server with little room can do that.
 */
export async function intakeFigures(services: Services, sql: Sql, databaseUrl: string, many: number, today: IsoDate) {
  const bytes = await fileOf(sql, many, today);
  // Whoever keeps all records compared begins when it is first asked: in a server that has run for a while it has.
  const first = await services.intakes.upload(ACTOR, 'first.csv', await fileOf(sql, 2, today));
  await services.intakes.judge(first.id);
  const parsing = await timed(() => parse(bytes, { bom: true, relax_column_count: true }));
  const { id } = await services.intakes.upload(ACTOR, 'bench.csv', bytes);
  const reading = (await timed(() => parseFile(bytes))) + (await timed(() => services.intakes.judge(id)));
  const page = (cursor: string): Promise<unknown> => services.intakes.preview(id, { limit: 100, cursor });
  await page('0');
  const paging = await timed(() => page(String(Math.floor(many / 2))));
  const { version, setting } = await services.intakes.get(id);
  await services.intakes.change(ACTOR, id, { version, setting: { ...setting, picks: { 5: 'skip' } } });
  const choosing = await timed(() => page('0'));
  const chosen = await services.intakes.get(id);
  const edits = { '3:2': 'Mended' };
  await services.intakes.change(ACTOR, id, { version: chosen.version, setting: { ...chosen.setting, edits } });
  const mending = await timed(() => page('0'));
  const [before] = await sql.rows<{ id: number }>('SELECT MAX(id) AS id FROM supporter');
  const posting = await timed(() => services.intakes.bringIn(ACTOR, id));
  const inserting = await bareInsert(sql, before?.id ?? 0, id);
  const { revision } = await services.intakes.get(id);
  const undoing = await timed(() => services.changes.undo(ACTOR, revision ?? 0));
  const fits = await fitsInto(ROOM_MB, { databaseUrl, bytes });
  return { parsing, reading, paging, choosing, mending, posting, inserting, undoing, fits };
}

/** What a server has that does nothing takes about 100 MB of it. */
export const ROOM_MB = 600;

/** Whether a file can be brought in and taken back by a server that has so much memory. */
async function fitsInto(room: number, given: BroughtIn): Promise<boolean> {
  const server = startThread(new URL('./intake-room.work.ts', import.meta.url), given, {
    maxOldGenerationSizeMb: room,
  });
  return new Promise((resolve, reject) => {
    server.on('exit', () => resolve(true));
    server.on('error', (error: Error & { code?: string }) =>
      error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? resolve(false) : reject(error),
    );
  });
}

/** How long the rows that an intake added take to be inserted into empty copies of their tables. */
async function bareInsert(sql: Sql, after: number, intake: number): Promise<number> {
  let taken = 0;
  for (const table of TABLES) {
    const of = table === 'supporter' ? 'id > ?' : table === 'gift' ? 'intake_id = ?' : 'supporter_id > ?';
    const rows = await sql.rows<Record<string, string | number | null>>(`SELECT * FROM ${table} WHERE ${of}`, [
      table === 'gift' ? intake : after,
    ]);
    const columns = Object.keys(rows[0] ?? {});
    await sql.run(`CREATE TABLE bench_${table} LIKE ${table}`);
    taken += await timed(async () => {
      for (let from = 0; from < rows.length; from += AT_ONCE)
        await sql.run(`INSERT INTO bench_${table} (${columns.map((column) => `\`${column}\``).join(', ')}) VALUES ?`, [
          rows.slice(from, from + AT_ONCE).map((row) => columns.map((column) => row[column] ?? null)),
        ]);
    });
    await sql.run(`DROP TABLE bench_${table}`);
  }
  return taken;
}
