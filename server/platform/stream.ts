import type { Response } from 'express';
import type { Changes } from './changes.ts';
import { one } from './db.ts';
import type { Sql } from './db.ts';
import { jobView } from './jobs.ts';
import type { Jobs } from './jobs.ts';

const TURN_MS = 300;

/**
 * Tells browsers what moves: jobs and the newest revision. It reads the database, since the work may be done by
 * another process, and only while somebody listens.
 */
export class Stream {
  private readonly listeners = new Map<
    Response,
    { userId: number | null; seen: Map<number, number>; revision: number }
  >();
  private timer: NodeJS.Timeout | null = null;
  private busy = false;
  private readonly forget: () => void;

  constructor(
    private readonly sql: Sql,
    private readonly jobs: Jobs,
    changes: Changes,
  ) {
    this.forget = changes.onCommit(() => void this.turn());
  }

  add(response: Response, userId: number | null): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    response.write('retry: 1500\n\n');
    this.listeners.set(response, { userId, seen: new Map(), revision: 0 });
    response.on('close', () => this.listeners.delete(response));
    this.timer ??= setInterval(() => void this.turn(), TURN_MS);
    void this.turn();
  }

  close(): void {
    this.forget();
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    for (const response of this.listeners.keys()) response.end();
    this.listeners.clear();
  }

  private async turn(): Promise<void> {
    if (this.busy || this.listeners.size === 0) return;
    this.busy = true;
    try {
      const [jobs, counter] = await Promise.all([
        this.jobs.recent(),
        one<{ value: number }>(this.sql, `SELECT value FROM counter WHERE name = 'revision'`),
      ]);
      const revision = counter?.value ?? 0;
      for (const [response, listener] of this.listeners) {
        for (const job of jobs.toReversed()) {
          if (listener.seen.get(job.id) === job.tick) continue;
          listener.seen.set(job.id, job.tick);
          response.write(`event: job\ndata: ${JSON.stringify(jobView(job, listener.userId))}\n\n`);
        }
        if (listener.revision !== revision) {
          listener.revision = revision;
          response.write(`event: revision\ndata: ${revision}\n\n`);
        }
      }
    } catch {
      // The database is away; the next turn asks again.
    } finally {
      this.busy = false;
    }
  }
}
