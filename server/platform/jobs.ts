import { hostname } from 'node:os';
import { randomUUID } from 'node:crypto';
import { Cron } from 'croner';
import type { Logger } from 'pino';
import { instant } from './clock.ts';
import type { Clock } from './clock.ts';
import { one } from './db.ts';
import type { Sql } from './db.ts';
import type { Role } from '@tallystick/contract/endpoint';
import type { Actor } from './changes.ts';
import { requireOwn } from './rights.ts';
import { addJob } from './job-queue.ts';
import type { JobKind, JobRequest, Lane } from './job-queue.ts';
import { isDatabaseGone, notFound } from './problem.ts';

/** A durable piece of long work, as its handler sees it. */
export interface RunningJob<P = unknown> {
  id: number;
  payload: P;
  actor: Actor;
  /** 1 at first; a later attempt goes on where the one before stopped. */
  attempt: number;
  /** Notes how far the work is, and that this process is alive; throws `Cancelled` when someone asked to stop. */
  progress(done: number, total: number, message?: string): Promise<void>;
}

export type JobHandler<P> = (job: RunningJob<P>) => Promise<string>;

/** Thrown by a handler that must wait for something outside: the job goes on by itself after `seconds`. */
export class TryLater extends Error {
  constructor(
    message: string,
    readonly seconds: number,
  ) {
    super(message);
  }
}

/** The attempt at a job, as what it took is marked with. */
export const attemptOf = ({ id, attempt }: Pick<RunningJob, 'id' | 'attempt'>): string => `${id}.${attempt}`;
/** SQL: whether the attempt that a column names is going on. */
export const isRunning = (column: string): string =>
  `EXISTS (SELECT 1 FROM job WHERE job.state = 'running' AND CONCAT(job.id, '.', job.attempts) = ${column})`;

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
  least: Role | null;
  created_at: string;
  finished_at: string | null;
  tick: number;
}

const HEARTBEAT_SECONDS = 4;
/** A running job whose heart has been still for so long is taken over by another process. */
const STALE_SECONDS = 15;
const IDLE_MS = 400;
const SCHEDULE_MS = 5_000;
/** After so many looks at the schedules comes one for work that nobody is at. */
const TEND_TURNS = 6;

/** What a schedule begins when its hour has come. */
export interface ScheduledJob {
  actor: Actor;
  kind: JobKind<unknown>;
  job: JobRequest<unknown>;
}

/** Says what to begin when the hour has come; null where there is nothing to do this time. */
type Begin = () => Promise<ScheduledJob | null>;

/** One loop that claims and runs jobs of a lane, with the name that it claims under. */
interface Worker {
  name: string;
  /** Null for what no lane takes. */
  lane: string | null;
}

/** A recurring hour: five cron fields and the zone that they are read in. */
export interface Hours {
  at: string;
  timeZone: string;
}

/**
 * Runs jobs from the table `job`, each lane by itself, so that mail never waits for a file. Several processes may run
 * against one database: a job is claimed under `FOR UPDATE SKIP LOCKED`, and taken over when its worker's heartbeat
 * stops. Job rows are the bookkeeping of work, not records, and so are not part of change sets; what a job writes to
 * records is.
 */
export class Jobs {
  private readonly handlers = new Map<string, { kind: JobKind<unknown>; handler: JobHandler<unknown> }>();
  private readonly schedules: { name: string; cron: Cron; begin: Begin }[] = [];
  private readonly process = `${hostname().slice(0, 20)}:${process.pid}:${randomUUID().slice(0, 8)}`;
  private readonly tended: (() => Promise<void>)[] = [];
  private loops: Promise<void>[] = [];
  private stopping = false;
  private readonly sleepers = new Set<() => void>();

  constructor(
    private readonly sql: Sql,
    private readonly clock: Clock,
    private readonly log: Logger,
  ) {}

  handle<P>(kind: JobKind<P>, handler: JobHandler<P>): void {
    const known = [...this.handlers.values()].some((one) => one.kind.lane.name === kind.lane.name);
    this.handlers.set(kind.kind, { kind, handler: handler as JobHandler<unknown> });
    if (this.loops.length > 0 && !known) this.open(kind.lane);
  }

  start(): void {
    if (this.loops.length > 0) return;
    // What nobody here knows must fail and say so, not wait for ever.
    const others: Worker = { name: `${this.process}:?`, lane: null };
    this.loops = [this.work(others), this.keepTime()];
    const lanes = new Map([...this.handlers.values()].map(({ kind: { lane } }) => [lane.name, lane]));
    for (const lane of lanes.values()) this.open(lane);
  }

  private open(lane: Lane): void {
    for (let place = 0; place < lane.atOnce; place++)
      this.loops.push(this.work({ name: `${this.process}:${lane.name}${place}`.slice(0, 60), lane: lane.name }));
  }

  /** The condition on the kinds of jobs that a worker takes, with its parameter. */
  private kindsOf({ lane }: Worker): [where: string, kinds: string[]] {
    const known = [...this.handlers.values()].map(({ kind }) => kind);
    if (lane === null) return ['kind NOT IN (?)', ['', ...known.map(({ kind }) => kind)]];
    return ['kind IN (?)', known.filter((one) => one.lane.name === lane).map(({ kind }) => kind)];
  }

  /** Lets the current steps end, then stops; an unfinished job is given back at once. */
  async stop(): Promise<void> {
    this.stopping = true;
    this.nudge();
    await Promise.all(this.loops);
  }

  /** Puts a job in the queue and looks for work at once. */
  async add<P>(actor: Actor, kind: JobKind<P>, job: JobRequest<P>): Promise<number> {
    const id = await addJob(this.sql, this.clock.stamp(), actor, kind, job);
    this.nudge();
    return id;
  }

  /**
   * Begins a job at each of some hours, once on one server or five: the hour is a row, and the job carries it as a
   * key that is there once. An hour that passed while nothing ran is made up for when something does.
   */
  async schedule(name: string, hours: Hours, begin: Begin): Promise<void> {
    const cron = new Cron(hours.at, { timezone: hours.timeZone, paused: true });
    await this.sql.run('INSERT IGNORE INTO schedule (name, next_at) VALUES (?, ?)', [name, this.nextOf(cron)]);
    this.schedules.push({ name, cron, begin });
  }

  private nextOf(cron: Cron): string {
    const next = cron.nextRun(this.clock.now()) ?? new Date(8.64e15);
    return next.toISOString().replace('T', ' ').replace('Z', '');
  }

  /** Has `work` done now and then while the jobs run: what looks for work that nobody is at. */
  tend(work: () => Promise<void>): void {
    this.tended.push(work);
  }

  private async keepTime(): Promise<void> {
    for (let turn = 0; !this.stopping; turn++) {
      try {
        if (turn % TEND_TURNS === 0) for (const work of this.tended) await work();
        for (const schedule of this.schedules) await this.beginWhatIsDue(schedule);
      } catch (error) {
        if (!isDatabaseGone(error)) this.log.error({ err: error }, 'schedules');
      }
      await this.idle(SCHEDULE_MS);
    }
  }

  private async beginWhatIsDue({ name, cron, begin }: (typeof this.schedules)[number]): Promise<void> {
    const due = await one<{ next_at: string }>(
      this.sql,
      'SELECT next_at FROM schedule WHERE name = ? AND next_at <= ?',
      [name, this.clock.stamp()],
    );
    if (!due) return;
    const begun = await begin();
    // First the job, whose key is there once, then the next hour: whoever is cut off between is made up for by another.
    if (begun) await addJob(this.sql, this.clock.stamp(), begun.actor, begun.kind, begun.job, `${name} ${due.next_at}`);
    await this.sql.run('UPDATE schedule SET next_at = ? WHERE name = ? AND next_at = ?', [
      this.nextOf(cron),
      name,
      due.next_at,
    ]);
    this.nudge();
  }

  /** Looks for work now rather than at the next turn. */
  nudge(): void {
    for (const wake of this.sleepers) wake();
  }

  private async work(worker: Worker): Promise<void> {
    while (!this.stopping) {
      try {
        const job = await this.claim(worker);
        if (job) await this.run(job, worker.name);
        else await this.idle(IDLE_MS);
      } catch (error) {
        if (!isDatabaseGone(error)) this.log.error({ err: error }, 'job loop');
        await this.idle(IDLE_MS);
      }
    }
  }

  private idle(milliseconds: number): Promise<void> {
    if (this.stopping) return Promise.resolve();
    return new Promise((resolve) => {
      const wake = (): void => {
        clearTimeout(timer);
        this.sleepers.delete(wake);
        resolve();
      };
      const timer = setTimeout(wake, milliseconds);
      this.sleepers.add(wake);
    });
  }

  private async claim(worker: Worker): Promise<StoredJob | null> {
    const { name } = worker;
    const [where, kinds] = this.kindsOf(worker);
    const now = this.clock.stamp();
    const stale = this.clock.stamp(-STALE_SECONDS);
    // job_next (kind, state, run_after). One statement: the claim and its mark are atomic.
    const claimed = await this.sql.run(
      `UPDATE job SET state = 'running', worker = ?, heartbeat_at = ?, attempts = attempts + 1, tick = tick + 1
       WHERE id = (SELECT id FROM (
         SELECT id FROM job WHERE ${where} AND ((state IN ('queued', 'waiting') AND run_after <= ?) OR (state = 'running' AND heartbeat_at < ?))
         ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED) AS next)`,
      [name, now, kinds, now, stale],
    );
    if (claimed.affectedRows === 0) return null;
    return one<StoredJob>(
      this.sql,
      `SELECT * FROM job WHERE worker = ? AND state = 'running' ORDER BY heartbeat_at DESC LIMIT 1`,
      [name],
    );
  }

  private async run(job: StoredJob, worker: string): Promise<void> {
    const beat = setInterval(() => void this.beat(job.id, worker), HEARTBEAT_SECONDS * 1000);
    try {
      const known = this.handlers.get(job.kind);
      if (!known) throw new Error(`No one here knows how to do “${job.kind}”.`);
      const message = await known.handler({
        id: job.id,
        payload: known.kind.payload.parse(JSON.parse(job.payload)),
        actor: { userId: job.created_by, name: job.actor, least: job.least ?? undefined },
        attempt: job.attempts,
        progress: (done, total, text) => this.progress(job.id, worker, done, total, text),
      });
      await this.finish(job.id, worker, 'done', message);
    } catch (error) {
      await this.endBy(job, worker, error);
    } finally {
      clearInterval(beat);
    }
  }

  private async endBy(job: StoredJob, worker: string, error: unknown): Promise<void> {
    if (error instanceof Cancelled)
      return this.finish(job.id, worker, 'cancelled', 'Stopped; what was done stays done.');
    if (error instanceof TryLater || isDatabaseGone(error)) {
      const seconds = error instanceof TryLater ? error.seconds : 2;
      const message = error instanceof TryLater ? error.message : 'The database was away; going on.';
      const after = this.clock.stamp(seconds);
      await this.sql.run(
        `UPDATE job SET state = 'waiting', message = ?, run_after = ?, tick = tick + 1 WHERE id = ? AND worker = ? AND state = 'running'`,
        [message.slice(0, 500), after, job.id, worker],
      );
      return;
    }
    this.log.error({ err: error, job: job.id }, 'job failed');
    await this.finish(job.id, worker, 'failed', error instanceof Error ? error.message : String(error));
  }

  private async beat(id: number, worker: string): Promise<void> {
    await this.sql
      .run('UPDATE job SET heartbeat_at = ? WHERE id = ? AND worker = ?', [this.clock.stamp(), id, worker])
      .catch(() => undefined);
  }

  private async progress(id: number, worker: string, done: number, total: number, message = ''): Promise<void> {
    const updated = await this.sql.run(
      `UPDATE job SET done = ?, total = ?, message = ?, heartbeat_at = ?, tick = tick + 1 WHERE id = ? AND worker = ? AND cancel_asked = 0`,
      [done, total, message.slice(0, 500), this.clock.stamp(), id, worker],
    );
    if (updated.affectedRows === 0) throw new Cancelled();
    if (this.stopping) throw new TryLater('Going on after the restart.', 0);
  }

  private async finish(
    id: number,
    worker: string,
    state: 'done' | 'failed' | 'cancelled',
    message: string,
  ): Promise<void> {
    await this.sql.run(
      'UPDATE job SET state = ?, message = ?, finished_at = ?, tick = tick + 1 WHERE id = ? AND worker = ?',
      [state, message.slice(0, 500), this.clock.stamp(), id, worker],
    );
  }

  /** Asks a job to stop after its current step; one that has not begun is stopped at once. */
  async cancel(actor: Actor, id: number): Promise<void> {
    requireOwn(actor, 'jobs.change', (await this.get(id)).created_by, 'This work');
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

  /** The last job of a kind that leads to a place of the app, by its id. */
  async lastOf({ kind }: Pick<JobKind<unknown>, 'kind'>, link: string): Promise<number | null> {
    const found = await one<{ id: number }>(
      this.sql,
      'SELECT id FROM job WHERE kind = ? AND link = ? ORDER BY id DESC LIMIT 1',
      [kind, link],
    );
    return found?.id ?? null;
  }

  /**
   * Whether anyone is at the work that leads to a place: a job of a kind that does all of it, or of one that does a
   * part. `halted`: the last of the first, or a later one of the others, was stopped or failed.
   */
  async workOn(
    link: string,
    all: Pick<JobKind<unknown>, 'kind'>,
    parts: readonly Pick<JobKind<unknown>, 'kind'>[],
  ): Promise<'running' | 'halted' | 'none'> {
    const now = await one<{ live: number; halted: number }>(
      this.sql,
      `SELECT COALESCE(SUM(state IN ('queued', 'running', 'waiting')), 0) AS live,
         COALESCE(SUM(state IN ('cancelled', 'failed')), 0) AS halted
       FROM job WHERE link = ? AND kind IN (?) AND id >= COALESCE((SELECT MAX(id) FROM job WHERE link = ? AND kind = ?), 0)`,
      [link, [all.kind, ...parts.map(({ kind }) => kind)], link, all.kind],
    );
    if ((now?.live ?? 0) > 0) return 'running';
    return (now?.halted ?? 0) > 0 ? 'halted' : 'none';
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

export function jobView(job: StoredJob) {
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
    ownerId: job.created_by,
    link: job.link,
  };
}
