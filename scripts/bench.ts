import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import mysql from 'mysql2/promise';
import { addDays, dateInZone } from '@tallystick/core/dates';
import type { Calendar, IsoDate } from '@tallystick/core/dates';
import type { Facts } from '@tallystick/core/facts';
import { all, evaluate, FIRST_VIEW, STANDING, total } from '@tallystick/core/segments';
import { GiftDraft } from '@tallystick/contract/gifts';
import type { Group } from '@tallystick/core/segments';
import { DEMO_ORGANIZATION, setUpEmpty } from '@tallystick/demo/load';
import { loadScale } from '@tallystick/demo/scale';
import { App } from '@tallystick/server/app';
import { PLAIN_LIST } from '@tallystick/server/facts/index';
import { FactsReplica } from '@tallystick/server/facts/replica';
import type { FactsAnswers, FactsQuestion } from '@tallystick/server/facts/replica';
import { SOURCES, SUPPORTERS_SQL, wholeOf } from '@tallystick/server/facts/sources';
import { connectFollower, FollowerDb } from '@tallystick/server/platform/follower';
import { openDatabase, sqlOn } from '@tallystick/server/platform/db';
import { brokenGuards } from '@tallystick/server/platform/guards';
import { doHeavy, heavyWork } from '@tallystick/server/platform/pool';
import type { Asking } from './lib/clients.work.ts';
import { startMariaDb } from './lib/mariadb.ts';
import { main, readOptions } from './lib/options.ts';
import { heavyRequests, listsBeside } from './lib/beside.ts';
import { lines, median, p95, report, reportDone, reportFaster, reportUnder, tell, timed } from './lib/figures.ts';
import { benchQuestions } from './lib/question-figures.ts';
import { shapesOn } from './lib/questions.ts';
import { intakeFigures, ROOM_MB } from './lib/intake-figures.ts';
import { sheetFigures } from './lib/sheet-figures.ts';

/* Measures what quality is measured by. Every figure stands beside a baseline of the same run, since machines differ.
 * `questions`, `facts`, `intake` or `app` after -- measures only that part. */

const ACTOR = { userId: null, name: 'bench' };
const CLIENTS = heavyWork<Asking, number[]>(new URL('./lib/clients.work.ts', import.meta.url), 120);

async function benchLoad(url: string): Promise<FactsReplica> {
  const fresh = async <T>(work: (db: FollowerDb) => Promise<T>): Promise<T> => {
    const connection = connectFollower(url);
    try {
      return await work(new FollowerDb(connection));
    } finally {
      connection.destroy();
    }
  };
  let loaded: FactsReplica | undefined;
  const bare = () =>
    fresh(async (db) => {
      let rows = 0;
      for (const sql of [SUPPORTERS_SQL, ...Object.values(SOURCES).map((source) => source.sql)])
        await db.stream(wholeOf(sql), () => rows++);
    });
  const ours = () =>
    fresh(async (db) => {
      const replica = new FactsReplica();
      await replica.load(db);
      loaded = replica;
    });
  await bare();
  await ours();
  report('load the facts', await timed(3, ours), await timed(3, bare), 2);
  if (!loaded) throw new Error('The facts were not loaded.');
  const megabytes = loaded.facts.bytes / 1e6;
  lines.push({
    ...{
      work: 'memory of the facts, in one of two threads',
      figure: `${megabytes.toFixed(0)} MB`,
      baseline: '-',
      ratio: '-',
    },
    ...{ goal: 'at most 400 MB', met: megabytes <= 400 },
  });
  return loaded;
}

/** Holds the whole database against what must hold; none of it may be broken. */
async function benchGuards(url: string): Promise<void> {
  const source = openDatabase(url, []);
  await source.initialize();
  const begun = performance.now();
  const broken = await brokenGuards(sqlOn(source));
  const taken = performance.now() - begun;
  await source.destroy();
  if (broken.length > 0) throw new Error(broken.map(({ says }) => says).join('\n'));
  reportUnder('check all that must hold', taken, 20_000);
}

async function benchSegments(url: string, facts: Facts, today: IsoDate): Promise<void> {
  const connection = await mysql.createConnection(url);
  const calendar: Calendar = { today, fiscalYearStart: DEMO_ORGANIZATION.fiscal_year_start };
  const setting = { calendar };
  for (const { name, group, loop, sql } of shapesOn(calendar)) {
    const ask = async (): Promise<number> => {
      const [rows] = await connection.query<mysql.RowDataPacket[]>(sql);
      return Number(rows[0]?.['many']);
    };
    const counts = [evaluate(group, facts, setting).count(), loop(facts), await ask()];
    if (new Set(counts).size > 1) throw new Error(`The three answers for “${name}” differ: ${counts.join(', ')}.`);
    for (let warm = 0; warm < 5; warm++) {
      evaluate(group, facts, setting).count();
      loop(facts);
    }
    const ours = await timed(15, () => evaluate(group, facts, setting).count());
    const byHand = await timed(15, () => loop(facts));
    const bySql = await timed(3, ask);
    report(`count: ${name}, against a loop`, ours, byHand, 3);
    reportFaster(`count: ${name}, against SQL`, ours, bySql, 10);
  }
  await connection.end();
}

/** The first rows of a segment's table, right after its conditions changed: ten columns, sorted by a sum. */
async function benchTable(replica: FactsReplica, today: IsoDate): Promise<void> {
  const setting = { calendar: { today, fiscalYearStart: DEMO_ORGANIZATION.fiscal_year_start } };
  const columns = FIRST_VIEW.columns.slice(0, 10).map(({ shows }) => shows);
  const page = (least: number): number => {
    const answer = replica.answer({
      ...{ ...PLAIN_LIST, setting, columns, group: all(total([], least)), limit: 100 },
      ...{ sorts: [{ by: STANDING.lifetime, down: true }], formats: { locale: 'en-US', currency: 'USD' } },
    } as FactsQuestion) as FactsAnswers['list'];
    return answer.cells.length;
  };
  let least = 10_000;
  const first = await timed(1, () => page(least));
  const next = await timed(15, () => page((least += 1)));
  reportUnder('first 100 rows with ten columns, in an order not asked for before', first, 2_000);
  reportUnder('first 100 rows with ten columns, after a change of the conditions', next, 200);
}

/** Gives a supporter at least five hundred gifts, as a monthly giver of many years has. */
async function fiveHundredGifts(sql: ReturnType<typeof sqlOn>, supporterId: number, fund: number): Promise<void> {
  const rows = Array.from({ length: 500 }, (_, month) => [
    supporterId,
    2_500,
    'USD',
    `${1985 + Math.floor(month / 12)}-${String((month % 12) + 1).padStart(2, '0')}-15`,
    fund,
    'card',
    '2020-01-01',
  ]);
  await sql.run('INSERT INTO gift (supporter_id, cents, currency, date, fund_id, method, booked_on) VALUES ?', [rows]);
}

async function benchApp(url: string, supporters: number, today: IsoDate, only: string | undefined): Promise<void> {
  const app = await App.open({
    databaseUrl: url,
    smtpUrl: 'smtp://127.0.0.1:9',
    today,
    demo: false,
    till: null,
    mailRoom: null,
    webFolder: null,
    publicUrl: null,
    logLevel: 'error',
  });
  const { services } = app;
  const sql = sqlOn(services.source);
  await benchIntake(app, sql, url, today);
  if (only === 'intake') return app.close();
  const everyone: Group = all();
  await services.segments.count({ match: everyone, credit: 'legal' });
  const [someone] = await sql.rows<{ id: number }>(
    `SELECT id FROM supporter WHERE state = 'active' ORDER BY id LIMIT 1 OFFSET 1000`,
  );
  const supporterId = someone?.id ?? 0;

  const [fund] = await sql.rows<{ id: number }>('SELECT id FROM fund LIMIT 1');
  const [recordings, catchUps]: [number[], number[]] = [[], []];
  for (let gift = 0; gift < 40; gift++) {
    const asked = performance.now();
    await services.gifts.record(
      ACTOR,
      GiftDraft.parse({ supporterId, cents: 2_500, date: today, fundId: fund?.id ?? 1, method: 'cash' }),
      null,
    );
    const begun = performance.now();
    recordings.push(begun - asked);
    await services.lists.rowsFor([supporterId]);
    catchUps.push(performance.now() - begun);
  }
  reportUnder('record a gift (median of 40)', median(recordings), 50);
  reportUnder('catch up after one recorded gift (p95 of 40)', p95(catchUps), 50);

  for (const [many, checkGoal, postGoal] of [
    [300, 1_000, 3_000],
    [5_000, 10_000, 30_000],
  ] as const) {
    const { check, post, undo } = await sheetFigures(services, sql, many);
    const [posting, undoing] = [await post(), await undo()];
    await post();
    reportUnder(`check a sheet of ${many} rows`, check, checkGoal);
    reportUnder(`post a sheet of ${many} rows`, posting, postGoal);
    reportUnder(`undo a sheet of ${many} rows`, undoing, postGoal);
  }

  const address = await app.listen(0);
  const { secret } = await services.accounts.addToken(ACTOR, 'bench', 'officer');
  const get = async (path: string): Promise<number> => {
    const begun = performance.now();
    const response = await fetch(`${address}/api/v1${path}`, { headers: { Authorization: `Bearer ${secret}` } });
    if (response.status !== 200) throw new Error(`${path}: ${await response.text()}`);
    await response.arrayBuffer();
    return performance.now() - begun;
  };
  // A signed-in request that reads one row by its key: who it is who asks.
  for (let warm = 0; warm < 20; warm++) await get('/session');
  const signedIn = await timed(200, () => get('/session'));
  const words = [
    'rookwood',
    'ana cruz',
    'rokwood',
    'S-10482',
    '555-0142',
    'kathrine sandovall',
    'x',
    'foundation',
    'G-20931',
    '125.00',
  ];
  const names = ['sort=name', 'sort=-lifetime', 'sort=number', 'kind=organization'];
  await fiveHundredGifts(sql, supporterId, fund?.id ?? 1);
  const requests: [string, (turn: number) => string][] = [
    ['a page of the supporters list', (turn) => `/supporters?${names[turn % names.length]}`],
    ['find anything as one types', (turn) => `/find?q=${encodeURIComponent(words[turn % words.length] ?? '')}`],
    ['a page of the gifts of a fund', () => `/gifts?fundId=${fund?.id ?? 1}`],
    ['how gifts fall to funds and appeals', () => `/gifts/facets?from=${addDays(today, -150)}`],
    ['open a supporter with 500 gifts', () => `/supporters/${supporterId}`],
  ];
  for (const [work, path] of requests) {
    for (let warm = 0; warm < 20; warm++) await get(path(warm));
    const alone: number[] = [];
    for (let turn = 0; turn < 60; turn++) alone.push(await get(path(turn)));
    report(work, median(alone), signedIn, 4);
    const together = await doHeavy(CLIENTS, {
      urls: Array.from({ length: 40 }, (_, turn) => `${address}/api/v1${path(turn)}`),
      headers: { Authorization: `Bearer ${secret}` },
      ...{ clients: 20, times: 25, pause: 150 },
    });
    reportUnder(`${work}, p95 with 20 clients`, p95(together), supporters > 500_000 ? 150 : 60);
  }
  await benchBeside(address, secret, sql, () => get(requests[0]?.[1](0) ?? ''));
  await app.close();
}

/** An intake of 100,000 rows, from its bytes to its undoing. */
async function benchIntake(
  app: App,
  sql: ReturnType<typeof sqlOn>,
  databaseUrl: string,
  today: IsoDate,
): Promise<void> {
  const many = 100_000;
  const { parsing, reading, paging, choosing, mending, posting, inserting, undoing, fits } = await intakeFigures(
    app.services,
    sql,
    databaseUrl,
    many,
    today,
  );
  report(`read, map, clean and match ${many} rows of an intake`, reading, parsing, 8);
  report('post them', posting, inserting, 3);
  reportUnder('a page of their review', paging, 150);
  reportUnder('a page after a choice for one', choosing, 150);
  reportUnder('a page after a cell is changed', mending, 150);
  reportUnder('undo them', undoing, 60_000);
  reportDone(`judge, post and undo them with ${ROOM_MB} MB in all`, fits);
}

/** The list while one client asks the heaviest that is allowed. */
async function benchBeside(
  address: string,
  secret: string,
  sql: ReturnType<typeof sqlOn>,
  list: () => Promise<number>,
): Promise<void> {
  const gifts = await sql.rows<{ id: number }>('SELECT id FROM gift ORDER BY id DESC LIMIT 1000');
  const [letter] = await sql.rows<{ id: number }>('SELECT id FROM letter LIMIT 1');
  const requests = heavyRequests(
    gifts.map(({ id }) => id),
    letter?.id ?? 0,
  );
  for (const [work, request] of Object.entries(requests)) {
    const statuses = new Set<number>();
    const beside = await listsBeside(list, async () => {
      const [path, body] = request();
      const response = await fetch(`${address}/api/v1${path}`, {
        method: 'POST',
        headers: { Authorization: `Bearer ${secret}`, 'Content-Type': 'application/json' },
        body: typeof body === 'string' ? body : JSON.stringify(body),
      });
      statuses.add(response.status);
      await response.arrayBuffer();
    });
    const answers = [...statuses];
    reportUnder(`the list beside ${work} (answered ${answers.join(', ')}), p95`, p95(beside), 100);
    if (answers.some((status) => status >= 500)) reportDone(`${work}, without a fault`, false);
  }
}

/** Everything that is measured on a database of its own. */
async function benchDatabase(
  supporters: number,
  gifts: number,
  today: IsoDate,
  only: string | undefined,
): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'tallystick-bench-'));
  const database = await startMariaDb(folder, { fast: true, bufferPool: '3G' });
  try {
    console.log(`Making ${supporters} supporters and ${gifts} gifts …`);
    await setUpEmpty(database.url);
    await loadScale(database.url, supporters, gifts, today, console.log);
    const connection = await mysql.createConnection(database.url);
    await connection.query('ANALYZE TABLE supporter, gift, email, phone, address, supporter_tag');
    await connection.end();
    if (only !== 'intake') await benchGuards(database.url);
    if (only !== 'app' && only !== 'intake') {
      const replica = await benchLoad(database.url);
      await benchTable(replica, today);
      await benchSegments(database.url, replica.facts, today);
    }
    if (only === undefined || only === 'app' || only === 'intake')
      await benchApp(database.url, supporters, today, only);
  } finally {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

await main(async () => {
  const options = readOptions();
  const [supporters, gifts] = [options.supporters ?? 200_000, options.gifts ?? 2_000_000];
  const today = options.today ?? dateInZone(new Date(), DEMO_ORGANIZATION.time_zone);
  const only = options.rest[0];
  try {
    if (only === undefined || only === 'questions')
      await benchQuestions(supporters, gifts, { today, fiscalYearStart: DEMO_ORGANIZATION.fiscal_year_start });
    if (only !== 'questions') await benchDatabase(supporters, gifts, today, only);
  } finally {
    // What was measured before something failed is told all the same.
    tell();
  }
});
