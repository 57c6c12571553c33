import type { Actor, Changes } from '../platform/changes.ts';
import type { Clock } from '../platform/clock.ts';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { TryLater } from '../platform/jobs.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import type { JobRequest } from '../platform/job-queue.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { sendJob } from './sendings.ts';
import type { Sendings, Source } from './sendings.ts';
import type { Mailer, Message } from '../platform/mail.ts';
import { maybe, ref, stamp, table, text } from '../platform/tables.ts';
import type { Settings } from '../settings/index.ts';
import { noteBounce } from '../supporters/index.ts';
import type { RowOf } from '../platform/tables.ts';
import { isFinal } from '../platform/changes.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    send: true;
    bounce: true;
    public: true;
  }
}
isFinal('send', 'messages went out');

export const DeliveryTable = table(
  'delivery',
  {
    ...{ area: 'outreach', owner: 'supporter_id', topics: ['sent'], undo: 'rows' },
    called: (row) => `${row['channel'] === 'print' ? 'Letter' : 'E-mail'} “${String(row['subject'])}”`,
    erasing: { blank: { address: '', subject: '', detail: '' } },
  },
  {
    supporter_id: ref,
    /** What it was sent with: the kind of sending and which, as a mailing or an issue of receipts. */
    source_kind: text(20),
    source_id: ref,
    receipt_id: maybe(ref),
    channel: text<'email' | 'print'>(8),
    address: text(254),
    subject: text(200),
    /** queued → sending → sent | bounced | unsure; held and print are final from the start. */
    state: text<'queued' | 'sending' | 'sent' | 'bounced' | 'unsure' | 'held' | 'print'>(12).says('State'),
    detail: text(500).says('Detail'),
    at: stamp,
  },
);
export type DeliveryRecord = RowOf<typeof DeliveryTable>;

/** A message, or why it must not go after all. */
export type Composed = { send: Message } | { hold: string };

const AT_ONCE = 4;
const RETRY_SECONDS = [5, 10, 20, 40, 60];

/**
 * Sends queued deliveries, each at most once. A delivery is marked `sending` and committed before its message is
 * handed over; one still so marked when a job begins was cut off there, may have arrived, and becomes `unsure`:
 * a person decides whether it goes again. States of deliveries are the bookkeeping of sending, not records, and so
 * are no change sets; an address that bounced is.
 */
export class Deliveries {
  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly mailer: Mailer,
    private readonly clock: Clock,
    private readonly settings: Settings,
    private readonly sendings: Sendings,
    jobs: Jobs,
  ) {
    jobs.handle(sendJob, (job) => this.send(job.payload, job));
  }

  /** Works through what is queued of a source; answers how it ended in words. */
  async send(source: Source, job: RunningJob): Promise<string> {
    const sending = this.sendings.of(source.kind);
    const compose = await sending.composer(source.id);
    const of = [source.kind, source.id];
    await this.sql.run(
      `UPDATE delivery SET state = 'unsure', detail = 'The sending was interrupted here; it may have arrived.'
       WHERE source_kind = ? AND source_id = ? AND state = 'sending'`,
      of,
    );
    let tally = await this.counts(source);
    for (;;) {
      // delivery_source (source_kind, source_id, state, id)
      const rows = await this.sql.rows<DeliveryRecord>(
        `SELECT * FROM delivery WHERE source_kind = ? AND source_id = ? AND state = 'queued' ORDER BY id LIMIT ?`,
        [...of, AT_ONCE * 5],
      );
      if (rows.length === 0) break;
      const composed = await compose(rows);
      for (let at = 0; at < rows.length; at += AT_ONCE) {
        await Promise.all(
          rows.slice(at, at + AT_ONCE).map((row, index) => this.sendOne(row, composed[at + index], job)),
        );
        tally = await this.counts(source);
        await job.progress(tally.total - tally.queued, tally.total);
      }
    }
    await sending.finished?.(source.id, job.actor);
    const parts = [`${tally.sent} reached`];
    if (tally.bounced + tally.unsure > 0) parts.push(`${tally.bounced + tally.unsure} not reached`);
    return parts.join(', ');
  }

  private async sendOne(row: DeliveryRecord, composed: Composed | undefined, job: RunningJob): Promise<void> {
    if (!composed) return;
    if ('hold' in composed) return this.mark(row.id, 'held', composed.hold);
    await this.mark(row.id, 'sending', '');
    const sent = await this.mailer.send(composed.send);
    switch (sent.kind) {
      case 'sent':
        return this.mark(row.id, 'sent', '');
      case 'unsure':
        return this.mark(
          row.id,
          'unsure',
          `The connection was lost while sending; it may have arrived. ${sent.reason}`,
        );
      case 'bounced':
        await this.mark(row.id, 'bounced', sent.reason);
        return this.noteBounce(job.actor, row);
      case 'later': {
        await this.mark(row.id, 'queued', sent.reason);
        const seconds = RETRY_SECONDS[Math.min(job.attempt - 1, RETRY_SECONDS.length - 1)] ?? 60;
        throw new TryLater(
          `The mail server is not taking mail (${sent.reason}). Nothing is lost; trying again in ${seconds} s.`,
          seconds,
        );
      }
    }
  }

  private async mark(id: number, state: DeliveryRecord['state'], detail: string): Promise<void> {
    await this.sql.run('UPDATE delivery SET state = ?, detail = ?, at = ? WHERE id = ?', [
      state,
      detail.slice(0, 500),
      this.clock.stamp(),
      id,
    ]);
  }

  /** Marks the address on the record, so that later sendings hold it back. */
  private async noteBounce(actor: Actor, row: DeliveryRecord): Promise<void> {
    const { today } = await this.settings.calendar();
    await this.changes.write(actor, { kind: 'bounce', summary: `E-mail to ${row.address} bounced` }, (tx) =>
      noteBounce(tx, row.supporter_id, row.address, today),
    );
  }

  /** Queues a message again that was not reached, because a person decided so; answers the job that sends it. */
  async retry(id: number): Promise<JobRequest<Source>> {
    const row = await one<DeliveryRecord>(this.sql, 'SELECT * FROM delivery WHERE id = ?', [id]);
    if (!row) throw notFound('This message');
    const again = await this.sql.run(
      `UPDATE delivery SET state = 'queued', detail = '' WHERE id = ? AND state IN ('unsure', 'bounced')`,
      [id],
    );
    if (again.affectedRows === 0)
      throw new Problem(409, 'not-retryable', 'Only a message that was not reached can be sent again.');
    return this.sendings.jobFor({ kind: row.source_kind, id: row.source_id }, `Sending “${row.subject}” again`, 1);
  }

  async counts({ kind, id }: Source) {
    const rows = await this.sql.rows<{ state: DeliveryRecord['state']; many: number }>(
      'SELECT state, COUNT(*) AS many FROM delivery WHERE source_kind = ? AND source_id = ? GROUP BY state',
      [kind, id],
    );
    const of = (...states: DeliveryRecord['state'][]): number =>
      rows.filter((row) => states.includes(row.state)).reduce((sum, row) => sum + row.many, 0);
    return {
      queued: of('queued', 'sending'),
      sent: of('sent'),
      bounced: of('bounced'),
      unsure: of('unsure'),
      held: of('held'),
      print: of('print'),
      total: of('queued', 'sending', 'sent', 'bounced', 'unsure'),
    };
  }
}
