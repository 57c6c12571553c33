import { randomBytes } from 'node:crypto';
import mysql from 'mysql2/promise';
import { endOfDay } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { FIRST_VIEW } from '@tallystick/core/segments';
import type { Group } from '@tallystick/core/segments';
import { ROLES } from '@tallystick/contract/endpoint';
import type { Role } from '@tallystick/contract/endpoint';
import { Supporter } from '@tallystick/contract/supporters';
import { App } from '../app.ts';
import type { AppConfig, Services } from '../app.ts';
import { sqlOn } from '../platform/db.ts';
import { stampOf } from '../platform/clock.ts';
import { brokenGuards } from '../platform/guards.ts';
import type { Sql } from '../platform/db.ts';
import type { Mailer, Message, Sent } from '../platform/mail.ts';
import type { Transaction } from '../platform/transaction.ts';
import { DEFAULT_ORGANIZATION, AppealTable, CampaignTable, FundTable } from '../settings/index.ts';
import { LetterTable } from '../letters/index.ts';
import { declaredTables } from '../platform/tables.ts';

export const TODAY = '2026-11-23';
export const TESTER = { userId: null, name: 'Tester' };
export const PASSWORD = 'lamps off please';

/** What an answer of the API looks like to a test. */
export interface Answer {
  status: number;
  body: Record<string, unknown>;
  text: string;
  bytes: Buffer;
  headers: Headers;
}

export interface TestApp {
  app: App;
  services: Services;
  sql: Sql;
  url: string;
  databaseUrl: string;
  /** Calls the API with a token of a role; `as: null` calls it without any. */
  call(method: string, path: string, body?: unknown, options?: CallOptions): Promise<Answer>;
  /** Waits until a job has ended; answers its state and message. */
  jobEnd(id: number): Promise<{ state: string; message: string }>;
  close(): Promise<void>;
}

export interface CallOptions {
  as?: Role | null;
  key?: string;
  headers?: Record<string, string>;
  raw?: Buffer;
  /** Another server over the same database. */
  at?: string;
}

/** A mailer that keeps what it is given and answers as the test says. */
export class FakeMailer implements Mailer {
  readonly messages: Message[] = [];
  answer: (message: Message) => Sent | Promise<Sent> = () => ({ kind: 'sent' });

  async send(message: Message): Promise<Sent> {
    const sent = await this.answer(message);
    if (sent.kind !== 'later' && sent.kind !== 'busy') this.messages.push(message);
    return sent;
  }
}

export async function freshDatabase(): Promise<string> {
  const server = process.env['TEST_DATABASE_URL'] ?? '';
  const name = `t_${randomBytes(6).toString('hex')}`;
  const connection = await mysql.createConnection(server);
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
  await connection.end();
  const url = new URL(server);
  url.pathname = `/${name}`;
  return url.href;
}

export const testConfig = (databaseUrl: string, over: Partial<AppConfig> = {}): AppConfig => ({
  databaseUrl,
  smtpUrl: 'smtp://127.0.0.1:9',
  today: TODAY,
  checkFactsEach: 0,
  demo: false,
  till: null,
  mailRoom: null,
  webFolder: null,
  publicUrl: null,
  logLevel: process.env['TEST_LOG'] ?? 'silent',
  ...over,
});

/** The organization, funds, campaigns, appeals and a letter that tests rely on. Funds: 1 open, 2 open, 3 closed. */
export async function seed(services: Services): Promise<void> {
  await services.changes.write(TESTER, { kind: 'load', summary: 'Test data' }, async (tx: Transaction) => {
    const organization = {
      id: 1,
      ...DEFAULT_ORGANIZATION,
      name: 'Test Basin',
      time_zone: process.env['TEST_ZONE'] ?? DEFAULT_ORGANIZATION.time_zone,
      address: 'Tansy Creek',
      tax_id: '00-0000000',
      fiscal_year_start: 7,
      secret: 'a test secret',
    };
    const columns = Object.keys(organization);
    await tx.sql.run(
      `INSERT INTO organization (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`,
      Object.values(organization),
    );
    await tx.insertAll(FundTable, [
      { code: 'GEN', name: 'General Operating', closed: 0 },
      { code: 'VAN', name: 'Telescope Van', closed: 0 },
      { code: 'COMET', name: 'Comet Year Exhibit', closed: 1 },
    ]);
    await tx.insert(CampaignTable, { code: 'AF', name: 'Annual Fund', closed: 0 });
    await tx.insert(AppealTable, { code: 'FALL', name: 'Fall letter', closed: 0, campaign_id: 1 });
    await tx.insert(AppealTable, { code: 'OLD', name: 'Old letter', closed: 1, campaign_id: 1 });
    await tx.insert(LetterTable, {
      name: 'Thanks',
      subject: 'Thank you, {first|friend}',
      body: JSON.stringify(LETTER),
    });
  });
}

export const LETTER = {
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'Dear ' },
        { type: 'mergeField', attrs: { field: 'salutation', fallback: 'friend' } },
        { type: 'text', text: ',' },
      ],
    },
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'Thank you for ' },
        { type: 'mergeField', attrs: { field: 'giftAmount', fallback: 'your help' } },
        { type: 'text', text: '.' },
      ],
    },
  ],
};

/** A server of its own over a database of its own, with a token for each role. */
export async function openTestApp(over: Partial<AppConfig> = {}): Promise<TestApp> {
  const databaseUrl = over.databaseUrl ?? (await freshDatabase());
  const app = await App.open(testConfig(databaseUrl, over));
  const { services } = app;
  const sql = sqlOn(services.source);
  if ((await sql.rows('SELECT id FROM organization')).length === 0) await seed(services);
  const tokens = new Map<Role, string>();
  for (const role of ROLES) tokens.set(role, (await services.accounts.addToken(TESTER, `test ${role}`, role)).secret);
  const url = await app.listen(0);

  const call: TestApp['call'] = async (method, path, body, options = {}) => {
    const role = options.as === undefined ? 'officer' : options.as;
    const response = await fetch(`${options.at ?? url}/api/v1${path}`, {
      method,
      headers: {
        ...(role === null ? {} : { Authorization: `Bearer ${tokens.get(role) ?? ''}` }),
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...(options.raw ? { 'Content-Type': 'application/octet-stream' } : {}),
        ...(options.key ? { 'Idempotency-Key': options.key } : {}),
        ...options.headers,
      },
      ...(options.raw
        ? { body: new Uint8Array(options.raw) }
        : body === undefined
          ? {}
          : { body: JSON.stringify(body) }),
      redirect: 'manual',
    });
    const bytes = Buffer.from(await response.arrayBuffer());
    const text = bytes.toString('utf8');
    const isJson = (response.headers.get('content-type') ?? '').includes('json');
    return { status: response.status, body: isJson ? JSON.parse(text) : {}, text, bytes, headers: response.headers };
  };
  return {
    app,
    services,
    sql,
    url,
    databaseUrl,
    call,
    async jobEnd(id) {
      for (let tries = 0; tries < 400; tries++) {
        const job = await services.jobs.get(id);
        if (job.finished_at !== null) return job;
        await pause(50);
      }
      throw new Error(`Job ${id} did not end.`);
    },
    async close() {
      // Whatever the tests did, what must hold still does.
      const broken = await brokenGuards(sql);
      const differing = await services.facts.checking.all();
      await app.close();
      if (broken.length > 0) throw new Error(broken.map(({ holds, says }) => `${holds}, but: ${says}`).join('\n'));
      if (differing.length > 0) throw new Error(`Facts differ from the database: ${JSON.stringify(differing)}`);
    },
  };
}

export const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Has all that is kept in memory be read anew, since rows were written past the history. */
export const readAnew = ({ services }: TestApp) =>
  services.changes.write(TESTER, { kind: 'load', summary: 'Read anew', evenWithoutRows: true }, () =>
    Promise.resolve(),
  );

/** Asks again and again until something is true. */
export async function until(what: () => Promise<boolean>, milliseconds = 60_000): Promise<void> {
  const end = Date.now() + milliseconds;
  while (!(await what())) {
    if (Date.now() > end) throw new Error('It did not come true in time.');
    await pause(50);
  }
}

let next = 0;
/** Adds a person through the API; answers its id. */
export async function addPerson(test: TestApp, over: Record<string, unknown> = {}): Promise<number> {
  next++;
  const draft = {
    kind: 'person',
    first: `First${next}`,
    last: `Last${next}`,
    emails: [{ address: `person${next}@example.org`, label: 'home', preferred: true }],
    ...over,
  };
  const { status, body, text } = await test.call('POST', '/supporters', draft);
  if (status !== 200) throw new Error(text);
  return Number(body['id']);
}

/** A record as the API gives it, held against the contract. */
export async function recordOf(test: TestApp, id: number): Promise<Supporter> {
  const { status, body, text } = await test.call('GET', `/supporters/${id}`);
  if (status !== 200) throw new Error(text);
  return Supporter.parse(body);
}

/** Records a gift through the API; answers its id. */
export async function addGift(test: TestApp, supporterId: number, over: Record<string, unknown> = {}): Promise<number> {
  const { status, body, text } = await test.call('POST', '/gifts', {
    supporterId,
    cents: 2_500,
    date: '2026-11-01',
    fundId: 1,
    ...over,
  });
  if (status !== 200) throw new Error(text);
  return Number(body['id']);
}

/** The ids of everyone who matches conditions, ascending. */
export async function membersOf(test: TestApp, conditions: Group): Promise<number[]> {
  const { body } = await test.call('POST', '/segments/table', { conditions, view: FIRST_VIEW, limit: 1000 });
  return (body['items'] as { id: number }[]).map(({ id }) => id).sort((a, b) => a - b);
}

/** Has everything that was written so far, or from a revision on, be recorded on a day: at its last second where it is. */
export async function recordedOn(test: TestApp, day: IsoDate, from = 0): Promise<void> {
  const { timeZone } = await test.services.settings.days();
  const last = new Date(endOfDay(day, timeZone).getTime() - 1_000);
  await readAnew(test);
  await test.sql.run('UPDATE change_set SET at = ? WHERE revision >= ?', [stampOf(last), from]);
}

/** A message without how far it is on its way, which goes on by itself while a test looks at everything else. */
function withoutWay(row: Record<string, unknown>): Record<string, unknown> {
  const { state: _state, detail: _detail, at: _at, taken_by: _by, tries: _tries, due_at: _due, ...rest } = row;
  return rest;
}

/** Every row of every table that change sets write, without versions: what an undo must restore. */
export async function snapshot(sql: Sql): Promise<Record<string, unknown[]>> {
  const state: Record<string, unknown[]> = {};
  for (const { name: table, rule } of declaredTables()) {
    if (rule.undo === 'stays') continue;
    const rows = await sql.rows<Record<string, unknown>>(`SELECT * FROM ${table} ORDER BY id`);
    state[table] = rows.map(({ version: _version, ...row }) => (table === 'delivery' ? withoutWay(row) : row));
  }
  return state;
}
