import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams } from './common.ts';

export const JOB_STATES = ['queued', 'running', 'waiting', 'done', 'failed', 'cancelled'] as const;
export const Job = z.object({
  id: Id,
  kind: z.string(),
  title: z.string(),
  state: z.enum(JOB_STATES),
  done: z.number(),
  total: z.number(),
  message: z.string(),
  createdAt: z.string(),
  finishedAt: z.string().nullable(),
  /** Who began it; null for the house itself. */
  ownerId: Id.nullable(),
  /** Where in the app the job's outcome is seen. */
  link: z.string().nullable(),
});
export type Job = z.infer<typeof Job>;
const area = 'jobs';
export const listJobs = endpoint({
  id: 'listJobs',
  area,
  method: 'get',
  path: '/jobs',
  right: 'jobs.see',
  summary: 'Running jobs and those finished within a day.',
  response: z.object({ items: z.array(Job) }),
});
export const getJob = endpoint({
  id: 'getJob',
  area,
  method: 'get',
  path: '/jobs/:id',
  right: 'jobs.see',
  summary: 'One job.',
  params: IdParams,
  response: Job,
});
export const cancelJob = endpoint({
  id: 'cancelJob',
  area,
  method: 'post',
  path: '/jobs/:id/cancel',
  right: 'jobs.change',
  summary: 'Stop a job after its current step.',
  params: IdParams,
  response: Job,
});
/** What the stream says when something was written: the newest revision, and the areas whose tables it touched. */
export const Revision = z.object({ revision: z.number(), written: z.array(z.string()) });

export const streamJobs = endpoint({
  id: 'streamJobs',
  area,
  method: 'get',
  path: '/jobs/stream',
  right: 'jobs.see',
  produces: 'text/event-stream',
  summary:
    'Server-sent events: `job` with a Job whenever one moves on, `revision` with a Revision whenever something was written.',
  response: z.string(),
});
