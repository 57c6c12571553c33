import type { Response } from 'express';
import type { Changes } from './changes.ts';
import { one } from './db.ts';
import type { Sql } from './db.ts';
import { jobView } from './jobs.ts';
import type { Jobs } from './jobs.ts';
import { tableNamed } from './tables.ts';

const TURN_MS = 300;
/** How long a stream may outlive its session. */
const STANDS_MS = 3_000;

/**
 * Tells browsers what moves: jobs and the newest revision. It reads the database, since the work may be done by
 * another process, and only while somebody listens.
 */
export class Stream {
  private readonly listeners = new Map<
    Response,
    { seen: Map<number, number>; revision: number; stands: () => Promise<boolean>; asked: number }
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

  /** Tells a browser what moves for as long as its session `stands`. */
  add(response: Response, stands: () => Promise<boolean>): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    response.write('retry: 1500\n\n');
    this.listeners.set(response, { seen: new Map(), revision: 0, stands, asked: Date.now() });
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

  /** The areas whose tables were written after a revision; `*` where that is not known row by row. */
  private async writtenSince(revision: number): Promise<string[]> {
    const [sets, rows] = await Promise.all([
      one<{ bare: number }>(this.sql, 'SELECT COUNT(*) AS bare FROM change_set WHERE revision > ? AND row_count = 0', [
        revision,
      ]),
      // the primary key (revision, seq)
      this.sql.rows<{ name: string }>('SELECT DISTINCT table_name AS name FROM change_row WHERE revision > ?', [
        revision,
      ]),
    ]);
    const areas = rows.map(({ name }) => tableNamed(name).rule.area);
    return [...new Set([...areas, ...(sets && sets.bare > 0 ? ['*'] : [])])];
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
        if (Date.now() - listener.asked > STANDS_MS) {
          listener.asked = Date.now();
          if (!(await listener.stands())) {
            response.end();
            continue;
          }
        }
        for (const job of jobs.toReversed()) {
          if (listener.seen.get(job.id) === job.tick) continue;
          listener.seen.set(job.id, job.tick);
          response.write(`event: job\ndata: ${JSON.stringify(jobView(job))}\n\n`);
        }
        if (listener.revision !== revision) {
          const written = listener.revision === 0 ? [] : await this.writtenSince(listener.revision);
          listener.revision = revision;
          response.write(`event: revision\ndata: ${JSON.stringify({ revision, written })}\n\n`);
        }
      }
    } catch {
      // The database is away; the next turn asks again.
    } finally {
      this.busy = false;
    }
  }
}
