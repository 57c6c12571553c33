import type { Actor } from './changes.ts';
import { one } from './db.ts';
import type { Sql } from './db.ts';
import { outside } from './tables.ts';

/** What a job needs to begin. `link` is where in the app its outcome is seen. */
export interface JobRequest {
  kind: string;
  title: string;
  payload: unknown;
  total?: number;
  link?: string;
}

/** Puts a job in the queue, on whatever connection or transaction `sql` runs. Answers its id. */
export async function addJob(sql: Sql, at: string, actor: Actor, job: JobRequest): Promise<number> {
  const made = await one<{ id: number }>(
    sql,
    `INSERT INTO job (kind, title, payload, state, total, link, run_after, created_by, actor, created_at)
     VALUES (?, ?, ?, 'queued', ?, ?, ?, ?, ?, ?) RETURNING id`,
    [
      job.kind,
      job.title.slice(0, 200),
      JSON.stringify(job.payload),
      job.total ?? 0,
      job.link ?? null,
      at,
      actor.userId,
      actor.name,
      at,
    ],
  );
  return made?.id ?? 0;
}

outside('job', 'states of work, which would fill history with noise');
