import { formatMoney } from '@tallystick/core/money';
import type { Formats } from '@tallystick/core/money';
import { counted } from '@tallystick/core/words';
import type { Actor } from '../platform/changes.ts';
import type { Clock } from '../platform/clock.ts';
import { one } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import type { RunningJob } from '../platform/jobs.ts';
import type { FeedRecord, RunRecord } from './feed.entity.ts';
import type { Portal } from './portal.ts';

/* The log of runs: each has a line, which adds up in the transactions that do what it counts. */

/** A run under way. */
export interface Run {
  id: number;
  feed: FeedRecord;
  actor: Actor;
  portal: Portal;
  /** Tells that it is alive; throws where somebody stopped it. */
  alive: (message: string) => Promise<void>;
}

/** What a run adds to its line in the log. */
export type Tally = Partial<
  Record<
    'came' | 'came_cents' | 'again' | 'brought' | 'brought_cents' | 'aside' | 'refunds' | 'refund_cents' | 'told',
    number
  >
>;

export class RunLog {
  constructor(
    private readonly sql: Sql,
    private readonly clock: Clock,
  ) {}

  /** The line of a run in the log; one that goes on keeps its own. */
  async begun(job: RunningJob, feed: FeedRecord, rehearsed: boolean): Promise<number> {
    const at = this.clock.stamp();
    if (!rehearsed) await this.sql.run('UPDATE feed_place SET began_at = ? WHERE feed_id = ?', [at, feed.id]);
    await this.sql.run(
      `INSERT INTO feed_run (feed_id, job_id, actor, began_at, state) VALUES (?, ?, ?, ?, 'running')
       ON DUPLICATE KEY UPDATE state = 'running', message = ''`,
      [feed.id, job.id, job.actor.name, at],
    );
    const run = await one<RunRecord>(this.sql, 'SELECT * FROM feed_run WHERE job_id = ?', [job.id]);
    return run?.id ?? 0;
  }

  async note(id: number, state: RunRecord['state'], message: string): Promise<void> {
    const ended = state === 'waiting' ? null : this.clock.stamp();
    await this.sql.run('UPDATE feed_run SET state = ?, message = ?, ended_at = ? WHERE id = ?', [
      ...[state, message.slice(0, 500), ended, id],
    ]);
  }

  /** What came of a run, in words. */
  async says(id: number, formats: Formats): Promise<string> {
    return saysOf(await one<RunRecord>(this.sql, 'SELECT * FROM feed_run WHERE id = ?', [id]), formats);
  }
}

/** Adds to the line of a run, on whatever connection or transaction `sql` runs. */
export async function add(sql: Sql, runId: number, tally: Tally): Promise<void> {
  const columns = Object.keys(tally);
  if (columns.length === 0) return;
  const values: Param[] = Object.values(tally);
  await sql.run(`UPDATE feed_run SET ${columns.map((column) => `${column} = ${column} + ?`).join(', ')} WHERE id = ?`, [
    ...values,
    runId,
  ]);
}

/** A line of the log in words. */
function saysOf(run: RunRecord | null, formats: Formats): string {
  if (!run) return '';
  const money = (cents: number): string => formatMoney(cents, formats);
  const parts = [
    run.came === 0 ? 'No new gift came' : `${counted(run.came, 'gift')} came, ${money(run.came_cents)}`,
    run.brought > 0 ? `${counted(run.brought, 'gift')} in the books, ${money(run.brought_cents)}` : '',
    run.aside > 0 ? `${counted(run.aside, 'row')} to be looked at` : '',
    run.refunds > 0 ? `${counted(run.refunds, 'refund')} of ${money(run.refund_cents)}` : '',
    run.told > 0 ? `${counted(run.told, 'gift')} told of` : '',
  ];
  return `${parts.filter(Boolean).join('; ')}.`;
}
