import { once } from 'node:events';
import { parentPort } from 'node:worker_threads';
import type { Worker } from 'node:worker_threads';
import mysql from 'mysql2';
import type { Connection, RowDataPacket } from 'mysql2';
import { EACH_LOOKED_UP } from './connections.ts';
import { isDatabaseGone, Problem } from './problem.ts';
import { startThread, threadData } from './thread.ts';

/*
 * A follower is a worker thread that keeps something in memory for many supporters at once (the facts, the find
 * index). It loads once, and before each answer catches up with the change sets that it has not seen, reloading
 * only the supporters that they touch. So an answer is never older than the question.
 */

/** What a kind of follower does; `load` fills it from nothing, `reload` puts some supporters right. */
export interface Replica {
  load(db: FollowerDb): Promise<void>;
  /** Whether what it keeps can be put right by reloading some; false where all of it must be read anew. */
  isWhole?(db: FollowerDb): Promise<boolean>;
  reload(db: FollowerDb, supporterIds: readonly number[]): Promise<void>;
  /** Holds what it keeps of the next `many` supporters after an id against the database, and puts right what differs. */
  check?(db: FollowerDb, after: number, many: number): Promise<Checked>;
  answer(question: unknown): unknown;
}

/** How far a check came (null at the end), and of whom what was kept differed from the database. */
export interface Checked {
  upTo: number | null;
  differs: { id: number; what: string[] }[];
}
interface Check {
  check: { after: number; many: number };
}

export type Cells = readonly (string | number | null)[];

/** Puts a row with the others of whom its first column names. */
export function gather(into: Map<number, Cells[]>, row: Cells): void {
  const owner = Number(row[0]);
  const list = into.get(owner);
  if (list) list.push(row);
  else into.set(owner, [row]);
}

/** A connection of its own, with rows as arrays and streaming. */
export class FollowerDb {
  constructor(private readonly connection: Connection) {}

  /** Calls `each` for every row while it arrives; the rows are arrays in the order of the columns. */
  stream(sql: string, each: (row: readonly (string | number | null)[]) => void): Promise<void> {
    return new Promise((resolve, reject) => {
      this.connection
        .query({ sql, rowsAsArray: true })
        .on('result', (row: unknown) => each(row as (string | number | null)[]))
        .on('error', reject)
        .on('end', () => resolve());
    });
  }

  rows(sql: string, params: readonly unknown[]): Promise<(string | number | null)[][]> {
    return new Promise((resolve, reject) => {
      this.connection.query<RowDataPacket[][]>({ sql, values: [...params], rowsAsArray: true }, (error, rows) =>
        error ? reject(error) : resolve(rows as unknown as (string | number | null)[][]),
      );
    });
  }
}

export function connectFollower(url: string): Connection {
  const connection = mysql.createConnection({ uri: url, dateStrings: true, timezone: 'Z', decimalNumbers: true });
  connection.query(EACH_LOOKED_UP, () => undefined);
  return connection;
}

/** Runs a follower in this worker thread until the thread is ended. */
export function follow(make: () => Replica): void {
  const { url } = threadData<{ url: string }>();
  let state: { replica: Replica; connection: Connection; db: FollowerDb; revision: number } | null = null;

  const catchUp = async (): Promise<Replica> => {
    if (!state) {
      const connection = connectFollower(url);
      connection.on('error', () => (state = null));
      const db = new FollowerDb(connection);
      const revision = await newestRevision(db);
      const replica = make();
      await replica.load(db);
      state = { replica, connection, db, revision };
    }
    const { replica, db } = state;
    const newest = await newestRevision(db);
    if (newest === state.revision) return replica;
    const loads = await db.rows(
      `SELECT 1 FROM change_set WHERE revision > ? AND revision <= ? AND kind = 'load' LIMIT 1`,
      [state.revision, newest],
    );
    if (loads.length > 0 || (await replica.isWhole?.(db)) === false) {
      state.connection.destroy();
      state = null;
      return catchUp();
    }
    // The primary key (revision, supporter_id)
    const touched = await db.rows(
      'SELECT DISTINCT supporter_id FROM change_touch WHERE revision > ? AND revision <= ?',
      [state.revision, newest],
    );
    for (let at = 0; at < touched.length; at += 1000)
      await replica.reload(
        db,
        touched.slice(at, at + 1000).map((row) => Number(row[0])),
      );
    state.revision = newest;
    return replica;
  };

  /** Checks some supporters while the database stands still for it; answers null where it never did. */
  const checked = async ({ after, many }: Check['check']): Promise<Checked | null> => {
    for (let tries = 0; tries < 5; tries++) {
      const replica = await catchUp();
      if (!state || !replica.check) return null;
      const { db, revision } = state;
      await db.rows('START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY', []);
      const stands = (await newestRevision(db)) === revision;
      const found = stands ? await replica.check(db, after, many) : null;
      await db.rows('COMMIT', []);
      if (found) return found;
    }
    return null;
  };

  let waiting: { id: number; question: unknown }[] = [];
  let busy = false;
  const answerAll = async (): Promise<void> => {
    if (busy) return;
    busy = true;
    // Questions that came while one catch-up ran share the next: it begins after all of them were asked.
    for (let asked = waiting; asked.length > 0; asked = waiting) {
      waiting = [];
      try {
        const replica = await catchUp();
        const checks: { id: number; question: Check }[] = [];
        for (const { id, question } of asked)
          if (isCheck(question)) checks.push({ id, question });
          else parentPort?.postMessage({ id, answer: replica.answer(question) });
        for (const { id, question } of checks) parentPort?.postMessage({ id, answer: await checked(question.check) });
      } catch (error) {
        state?.connection.destroy();
        state = null;
        const message = error instanceof Error ? error.message : String(error);
        for (const { id } of asked) parentPort?.postMessage({ id, failed: { message, away: isDatabaseGone(error) } });
      }
    }
    busy = false;
  };
  parentPort?.on('message', (question: { id: number; question: unknown }) => {
    waiting.push(question);
    void answerAll();
  });
}

const isCheck = (question: unknown): question is Check =>
  typeof question === 'object' && question !== null && 'check' in question;

async function newestRevision(db: FollowerDb): Promise<number> {
  const [row] = await db.rows(`SELECT value FROM counter WHERE name = 'revision'`, []);
  return Number(row?.[0] ?? 0);
}

interface Reply {
  id: number;
  answer?: unknown;
  failed?: { message: string; away: boolean };
}

/** The server's side of a follower: questions in, answers out. A thread that dies is started again. */
export class Follower<Question, Answers> {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, { resolve: (answer: unknown) => void; reject: (error: Error) => void }>();
  private next = 1;
  private closed = false;

  constructor(
    private readonly script: URL,
    private readonly url: string,
    /** What else the thread is given; it reads it with `threadData`. */
    private readonly given: object = {},
  ) {}

  /** Asks, and waits for an answer that knows everything committed before the question. */
  async ask<K extends keyof Answers & string>(question: Question & { ask: K }): Promise<Answers[K]> {
    return (await this.put(this.started(), question)) as Answers[K];
  }

  /**
   * Has what is kept of the next `many` supporters after an id be held against the database, and put right; null where
   * nothing is kept yet, or so much is written that there was no moment for it.
   */
  async check(after: number, many: number): Promise<Checked | null> {
    if (!this.worker) return null;
    const check: Check = { check: { after, many } };
    return (await this.put(this.worker, check)) as Checked | null;
  }

  /** Whether somebody waits for an answer. */
  get isBusy(): boolean {
    return this.waiting.size > 0;
  }

  private put(worker: Worker, question: unknown): Promise<unknown> {
    return new Promise((resolve, reject) => {
      const id = this.next++;
      this.waiting.set(id, { resolve, reject });
      worker.postMessage({ id, question });
    });
  }

  async close(): Promise<void> {
    this.closed = true;
    const worker = this.worker;
    this.worker = null;
    if (worker) await worker.terminate();
  }

  private started(): Worker {
    if (this.worker) return this.worker;
    if (this.closed) throw new Problem(503, 'stopping', 'The server is stopping.');
    const worker = startThread(this.script, { url: this.url, ...this.given });
    worker.on('message', (reply: Reply) => {
      const asked = this.waiting.get(reply.id);
      this.waiting.delete(reply.id);
      if (!reply.failed) asked?.resolve(reply.answer);
      else if (reply.failed.away)
        asked?.reject(new Problem(503, 'database-away', 'The database is not answering; nothing was changed.'));
      else asked?.reject(new Error(reply.failed.message));
    });
    void once(worker, 'exit').then(() => {
      if (this.worker === worker) this.worker = null;
      for (const asked of this.waiting.values()) asked.reject(new Error('The thread that answers ended.'));
      this.waiting.clear();
    });
    worker.on('error', () => undefined);
    this.worker = worker;
    return worker;
  }
}
