import { hostname } from 'node:os';
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { instant } from './clock.ts';
import type { Clock } from './clock.ts';
import { one } from './db.ts';
import type { Sql } from './db.ts';
import type { Actor } from './changes.ts';
import { addJob } from './job-queue.ts';
import type { JobRequest } from './job-queue.ts';
import { isDatabaseGone, notFound } from './problem.ts';

/** A durable piece of long work, as its handler sees it. */
export interface RunningJob {
  id: number;
  payload: unknown;
  actor: Actor;
  /** 1 at first; a later attempt goes on where the one before stopped. */
  attempt: number;
  /** Notes how far the work is, and that this process is alive; throws `Cancelled` when someone asked to stop. */
  progress(done: number, total: number, message?: string): Promise<void>;
}

export type JobHandler = (job: RunningJob) => Promise<string>;

/** Thrown by a handler that must wait for something outside: the job goes on by itself after `seconds`. */
export class TryLater extends Error {
  constructor(
    message: string,
    readonly seconds: number,
  ) {
    super(message);
  }
}

export class Cancelled extends Error {}

export interface StoredJob {
  id: number;
  kind: string;
  title: string;
  payload: string;
  state: 'queued' | 'running' | 'waiting' | 'done' | 'failed' | 'cancelled';
  done: number;
  total: number;
  message: string;
  link: string | null;
  attempts: number;
  created_by: number | null;
  actor: string;
  created_at: string;
  finished_at: string | null;
  tick: number;
}

const HEARTBEAT_SECONDS = 4;
/** A running job whose heart has been still for so long is taken over by another process. */
const STALE_SECONDS = 15;
const IDLE_MS = 400;

/**
 * Runs jobs from the table `job`. Several processes may run against one database: a job is claimed under
 * `FOR UPDATE SKIP LOCKED`, and taken over when its worker's heartbeat stops. Job rows are the bookkeeping of
 * work, not records, and so are not part of change sets; what a job writes to records is.
 */
export class Jobs {
  private readonly handlers = new Map<string, JobHandler>();
  private readonly worker = `${hostname()}:${process.pid}:${randomUUID().slice(0, 8)}`;
  private loop: Promise<void> | null = null;
  private stopping = false;
  private wake: () => void = () => undefined;

  constructor(
    private readonly sql: Sql,
    private readonly clock: Clock,
    private readonly log: Logger,
  ) {}

  handle(kind: string, handler: JobHandler): void {
    this.handlers.set(kind, handler);
  }

  start(): void {
    this.loop ??= this.work();
  }

  /** Lets the current step end, then stops; an unfinished job is given back at once. */
  async stop(): Promise<void> {
    this.stopping = true;
    this.wake();
    await this.loop;
  }

  /** Puts a job in the queue and looks for work at once. */
  async add(actor: Actor, job: JobRequest): Promise<number> {
    const id = await addJob(this.sql, this.clock.stamp(), actor, job);
    this.nudge();
    return id;
  }

  /** Looks for work now rather than at the next turn. */
  nudge(): void {
    this.wake();
  }

  private async work(): Promise<void> {
    while (!this.stopping) {
      try {
        const job = await this.claim();
        if (job) await this.run(job);
        else await this.idle();
      } catch (error) {
        if (!isDatabaseGone(error)) this.log.error({ err: error }, 'job loop');
        await this.idle();
      }
    }
  }

  private idle(): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, IDLE_MS);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }

  private async claim(): Promise<StoredJob | null> {
    const now = this.clock.stamp();
    const stale = this.clock.stamp(-STALE_SECONDS);
    // job_next (state, run_after). One statement: the claim and its mark are atomic.
    const claimed = await this.sql.run(
      `UPDATE job SET state = 'running', worker = ?, heartbeat_at = ?, attempts = attempts + 1, tick = tick + 1
       WHERE id = (SELECT id FROM (
         SELECT id FROM job WHERE (state IN ('queued', 'waiting') AND run_after <= ?) OR (state = 'running' AND heartbeat_at < ?)
         ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED) AS next)`,
      [this.worker, now, now, stale],
    );
    if (claimed.affectedRows === 0) return null;
    return one<StoredJob>(
      this.sql,
      `SELECT * FROM job WHERE worker = ? AND state = 'running' ORDER BY heartbeat_at DESC LIMIT 1`,
      [this.worker],
    );
  }

  private async run(job: StoredJob): Promise<void> {
    const beat = setInterval(() => void this.beat(job.id), HEARTBEAT_SECONDS * 1000);
    try {
      const handler = this.handlers.get(job.kind);
      if (!handler) throw new Error(`No one here knows how to do “${job.kind}”.`);
      const message = await handler({
        id: job.id,
        payload: JSON.parse(job.payload),
        actor: { userId: job.created_by, name: job.actor },
        attempt: job.attempts,
        progress: (done, total, text) => this.progress(job.id, done, total, text),
      });
      await this.finish(job.id, 'done', message);
    } catch (error) {
      await this.settle(job, error);
    } finally {
      clearInterval(beat);
    }
  }

  private async settle(job: StoredJob, error: unknown): Promise<void> {
    if (error instanceof Cancelled) return this.finish(job.id, 'cancelled', 'Stopped; what was done stays done.');
    if (error instanceof TryLater || isDatabaseGone(error)) {
      const seconds = error instanceof TryLater ? error.seconds : 2;
      const message = error instanceof TryLater ? error.message : 'The database was away; going on.';
      const after = this.clock.stamp(seconds);
      await this.sql.run(
        `UPDATE job SET state = 'waiting', message = ?, run_after = ?, tick = tick + 1 WHERE id = ? AND state = 'running'`,
        [message.slice(0, 500), after, job.id],
      );
      return;
    }
    this.log.error({ err: error, job: job.id }, 'job failed');
    await this.finish(job.id, 'failed', error instanceof Error ? error.message : String(error));
  }

  private async beat(id: number): Promise<void> {
    await this.sql
      .run('UPDATE job SET heartbeat_at = ? WHERE id = ? AND worker = ?', [this.clock.stamp(), id, this.worker])
      .catch(() => undefined);
  }

  private async progress(id: number, done: number, total: number, message = ''): Promise<void> {
    const updated = await this.sql.run(
      `UPDATE job SET done = ?, total = ?, message = ?, heartbeat_at = ?, tick = tick + 1 WHERE id = ? AND worker = ? AND cancel_asked = 0`,
      [done, total, message.slice(0, 500), this.clock.stamp(), id, this.worker],
    );
    if (updated.affectedRows === 0) throw new Cancelled();
    if (this.stopping) throw new TryLater('Going on after the restart.', 0);
  }

  private async finish(id: number, state: 'done' | 'failed' | 'cancelled', message: string): Promise<void> {
    await this.sql.run(
      'UPDATE job SET state = ?, message = ?, finished_at = ?, tick = tick + 1 WHERE id = ? AND worker = ?',
      [state, message.slice(0, 500), this.clock.stamp(), id, this.worker],
    );
  }

  /** Asks a job to stop after its current step; one that has not begun is stopped at once. */
  async cancel(id: number): Promise<void> {
    await this.sql.run(
      `UPDATE job SET cancel_asked = 1, tick = tick + 1, finished_at = IF(state = 'running', finished_at, ?),
       state = IF(state IN ('queued', 'waiting'), 'cancelled', state) WHERE id = ? AND state IN ('queued', 'waiting', 'running')`,
      [this.clock.stamp(), id],
    );
  }

  async get(id: number): Promise<StoredJob> {
    const job = await one<StoredJob>(this.sql, 'SELECT * FROM job WHERE id = ?', [id]);
    if (!job) throw notFound(`Job ${id}`);
    return job;
  }

  /** Unfinished jobs and those that ended within a day, newest first. */
  recent(): Promise<StoredJob[]> {
    const since = this.clock.stamp(-86_400);
    return this.sql.rows<StoredJob>(
      `SELECT * FROM job WHERE state IN ('queued', 'running', 'waiting') OR finished_at > ? ORDER BY id DESC LIMIT 50`,
      [since],
    );
  }
}

export function jobView(job: StoredJob, userId: number | null) {
  return {
    id: job.id,
    kind: job.kind,
    title: job.title,
    state: job.state,
    done: job.done,
    total: job.total,
    message: job.message,
    createdAt: instant(job.created_at),
    finishedAt: job.finished_at === null ? null : instant(job.finished_at),
    mine: job.created_by === userId,
    link: job.link,
  };
}
