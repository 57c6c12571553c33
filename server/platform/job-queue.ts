import type { z } from 'zod';
import type { Actor } from './actor.ts';
import { one } from './db.ts';
import type { Sql } from './db.ts';
import { eraseAll, eraseFrom } from './erase-text.ts';
import { outside } from './tables.ts';

/** Jobs that wait for each other and for no others; so many of them run at once in a process. */
export interface Lane {
  name: string;
  atOnce: number;
}

/** A kind of long work: its name in the queue, the lane it runs in, and what it must be told. */
export interface JobKind<P> {
  kind: string;
  lane: Lane;
  payload: z.ZodType<P>;
}
export const jobKind = <P>(kind: string, lane: Lane, payload: z.ZodType<P>): JobKind<P> => ({ kind, lane, payload });

/** What a job needs to begin. `link` is where in the app its outcome is seen. */
export interface JobRequest<P> {
  title: string;
  payload: P;
  total?: number;
  link?: string;
}

/**
 * Puts a job in the queue, on whatever connection or transaction `sql` runs. Answers its id. Of jobs with the same
 * `once` there is only the first; 0 is answered for another.
 */
export async function addJob<P>(
  sql: Sql,
  at: string,
  actor: Actor,
  { kind }: JobKind<P>,
  job: JobRequest<P>,
  once: string | null = null,
): Promise<number> {
  const made = await one<{ id: number }>(
    sql,
    `INSERT ${once === null ? '' : 'IGNORE'} INTO job (kind, title, payload, state, total, link, run_after, created_by, actor, least, created_at, once_key)
     VALUES (?, ?, ?, 'queued', ?, ?, ?, ?, ?, ?, ?, ?) RETURNING id`,
    [
      ...[kind, job.title.slice(0, 200), JSON.stringify(job.payload), job.total ?? 0, job.link ?? null, at],
      ...[actor.userId, actor.name, actor.least ?? null, at, once],
    ],
  );
  return made?.id ?? 0;
}

outside(
  'job',
  'states of work, which would fill history with noise',
  eraseAll(eraseFrom('job', 'title'), eraseFrom('job', 'message')),
);
outside('schedule', 'the next hour of each recurring job');
