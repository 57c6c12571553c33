import { NOT_REACHED } from '@tallystick/contract/outreach';
import type { Actor, Changes } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import type { Clock } from '../platform/clock.ts';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { attemptOf, isRunning, TryLater } from '../platform/jobs.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Composed, DeliveryRecord } from './delivery.entity.ts';
import { sendAgainJob, sendJob } from './sendings.ts';
import type { Sendings, Source } from './sendings.ts';
import type { Mailer, Sent } from '../platform/mail.ts';
import type { Settings } from '../settings/index.ts';
import { noteBounce } from '../supporters/index.ts';
import { isFinal } from '../platform/changes.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    send: true;
    bounce: true;
  }
}
isFinal('send', 'messages went out');

const AT_ONCE = 4;
/** How long until a server that takes nothing is tried again, by how often the work was begun. */
const SERVER_PAUSES = [5, 10, 20, 40, 60];
/** How long until a recipient who was busy is tried again, in minutes; a day in all. */
const BUSY_PAUSES = [1, 5, 15, 60, 240, 480, 639];
/** How soon to look again at what someone else is sending. */
const OTHERS_PAUSE = 2;

/** What is written of a message once it is known what became of it. */
interface Outcome {
  state: DeliveryRecord['state'];
  detail: string;
  /** Seconds until it is tried again. */
  again?: number;
}

/**
 * Sends queued deliveries, each at most once, on however many servers. A delivery is taken by one step, from `queued`
 * to `sending` with the attempt of the job that took it, committed before its message is handed over; who does not get
 * it leaves it. What is `sending` under an attempt that is over was cut off there, may have arrived, and becomes
 * `unsure`: a person decides whether it goes again. A job ends only when none of its deliveries is open; `tend` finds
 * those that nobody is sending. States of deliveries are the bookkeeping of sending, not records, and so are no change
 * sets; an address that bounced is.
 */
export class Deliveries {
  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly mailer: Mailer,
    private readonly clock: Clock,
    private readonly settings: Settings,
    private readonly sendings: Sendings,
    private readonly jobs: Jobs,
  ) {
    jobs.handle(sendJob, (job) => this.send(job.payload, job));
    jobs.handle(sendAgainJob, (job) => this.sendAgain(job.payload.delivery, job));
    jobs.tend(() => this.tend());
  }

  /** Works through what is queued of a source; answers how it ended in words. */
  private async send(source: Source, job: RunningJob): Promise<string> {
    const sending = this.sendings.of(source.kind);
    const compose = await sending.composer(source.id);
    await this.giveUpOn(source);
    // What was tried is told however the attempt ends: the rest may wait for a day.
    let begun = false;
    try {
      await this.sendQueued(source, compose, job, () => (begun = true));
    } finally {
      if (begun) await this.tell(source, job.actor);
    }
    const tally = await this.counts(source);
    await this.waitForTheRest(source, tally);
    // What an attempt that was killed could not tell any more.
    if (!begun) await this.tell(source, job.actor);
    await sending.finished?.(source.id, job.actor);
    return wordsOf(tally);
  }

  private async sendQueued(
    source: Source,
    compose: (rows: readonly DeliveryRecord[]) => Promise<Composed[]>,
    job: RunningJob,
    begun: () => void,
  ): Promise<void> {
    for (;;) {
      // delivery_source (source_kind, source_id, state, id)
      const rows = await this.sql.rows<DeliveryRecord>(
        `SELECT * FROM delivery WHERE source_kind = ? AND source_id = ? AND state = 'queued' AND (due_at IS NULL OR due_at <= ?)
         ORDER BY id LIMIT ?`,
        [source.kind, source.id, this.clock.stamp(), AT_ONCE * 5],
      );
      if (rows.length === 0) break;
      begun();
      const composed = await compose(rows);
      for (let at = 0; at < rows.length; at += AT_ONCE) {
        await this.together(
          rows.slice(at, at + AT_ONCE).map((row, index) => this.sendOne(row, composed[at + index], job)),
        );
        const tally = await this.counts(source);
        await job.progress(tally.total - tally.queued, tally.total);
      }
    }
  }

  /** Sends one message again, and nothing else of its source. */
  private async sendAgain(id: number, job: RunningJob): Promise<string> {
    const row = await this.row(id);
    await this.giveUpOn({ kind: row.source_kind, id: row.source_id });
    const compose = await this.sendings.of(row.source_kind).composer(row.source_id);
    const [composed] = await compose([row]);
    await this.sendOne(row, composed, job);
    const { state, due_at: due } = await this.row(id);
    if (state === 'queued') throw new TryLater('The recipient is busy; asked again later.', this.secondsTo(due));
    if (state === 'sending') throw new TryLater('Another server is sending it.', OTHERS_PAUSE);
    await this.tell({ kind: row.source_kind, id: row.source_id }, job.actor);
    return state === 'sent' ? '1 reached' : '1 not reached';
  }

  /** Has those look again who keep in memory what became of messages: their states are no rows of change sets. */
  private async tell(source: Source, actor: Actor): Promise<void> {
    const [tally, people] = await Promise.all([
      this.counts(source),
      this.sql.rows<{ id: number }>(
        // delivery_source (source_kind, source_id, …)
        'SELECT DISTINCT supporter_id AS id FROM delivery WHERE source_kind = ? AND source_id = ?',
        [source.kind, source.id],
      ),
    ]);
    const reason = { kind: 'send', summary: `What was sent: ${wordsOf(tally)}`, evenWithoutRows: true } as const;
    await this.changes.write(actor, reason, (tx) => Promise.resolve(tx.touch(people.map(({ id }) => id))));
  }

  /** All of them to their end, and then the first failure, if any: none is left running behind a job that is over. */
  private async together(work: Promise<void>[]): Promise<void> {
    for (const done of await Promise.allSettled(work)) if (done.status === 'rejected') throw done.reason;
  }

  /** What was being sent by an attempt that is over, or was taken from whoever had it: nobody knows if it went. */
  private async giveUpOn({ kind, id }: Source): Promise<void> {
    await this.sql.run(
      `UPDATE delivery d SET d.state = 'unsure', d.detail = 'The sending was interrupted here; it may have arrived.'
       WHERE d.source_kind = ? AND d.source_id = ? AND d.state = 'sending' AND NOT ${isRunning('d.taken_by')}`,
      [kind, id],
    );
  }

  /** Throws when the job must come back because messages of its source are open still. */
  private async waitForTheRest({ kind, id }: Source, tally: Tally): Promise<void> {
    const next = await one<{ busy: number; due: string | null }>(
      this.sql,
      `SELECT COALESCE(SUM(state = 'queued'), 0) AS busy, MIN(IF(state = 'queued', due_at, NULL)) AS due FROM delivery
       WHERE source_kind = ? AND source_id = ? AND state IN ('queued', 'sending') HAVING COUNT(*) > 0`,
      [kind, id],
    );
    if (!next) return;
    const busy = `${tally.sent} reached; ${next.busy} could not be reached yet and will be tried again for a day.`;
    if (next.due === null) throw new TryLater('Another server is sending the rest.', OTHERS_PAUSE);
    throw new TryLater(busy, this.secondsTo(next.due));
  }

  private secondsTo(stamp: string | null): number {
    const left = stamp === null ? 0 : Date.parse(instant(stamp)) - this.clock.now().getTime();
    return Math.max(OTHERS_PAUSE, left / 1000);
  }

  private async sendOne(row: DeliveryRecord, composed: Composed | undefined, job: RunningJob): Promise<void> {
    if (!composed) return;
    const me = attemptOf(job);
    // The one step that decides who sends it, or holds it back.
    const taken = await this.sql.run(
      `UPDATE delivery SET state = ?, detail = ?, address = ?, taken_by = ?, due_at = NULL, at = ? WHERE id = ? AND state = 'queued'`,
      [
        ...('hold' in composed ? ['held', composed.hold, row.address] : ['sending', '', composed.send.to]),
        ...[me, this.clock.stamp(), row.id],
      ],
    );
    if (taken.affectedRows === 0 || 'hold' in composed) return;
    const sent = await this.mailer.send(composed.send);
    const settled = await this.settle(row.id, me, outcomeOf(sent, row.tries));
    if (settled && sent.kind === 'bounced') await this.noteBounce(job.actor, composed.send.to);
    if (sent.kind !== 'later') return;
    const seconds = SERVER_PAUSES[Math.min(job.attempt - 1, SERVER_PAUSES.length - 1)] ?? 60;
    throw new TryLater(
      `The mail server is not taking mail (${sent.reason}). Nothing is lost; trying again in ${seconds} s.`,
      seconds,
    );
  }

  /**
   * Writes what became of a message. Also when it was given up on meanwhile, since this is the truth of it; not when
   * a person has decided about it since. Answers whether it was written.
   */
  private async settle(id: number, me: string, { state, detail, again }: Outcome): Promise<boolean> {
    const due = again === undefined ? null : this.clock.stamp(again);
    const written = await this.sql.run(
      `UPDATE delivery SET state = ?, detail = ?, tries = tries + ?, due_at = ?, at = ?
       WHERE id = ? AND taken_by = ? AND state IN ('sending', 'unsure')`,
      [state, detail.slice(0, 500), due === null ? 0 : 1, due, this.clock.stamp(), id, me],
    );
    return written.affectedRows > 0;
  }

  /** Takes up what waits and nobody sends, but where a person stopped it or its job failed and says why. */
  async tend(): Promise<void> {
    // delivery_open (state, source_kind, source_id)
    const open = await this.sql.rows<{ kind: string; id: number; many: number; subject: string }>(
      `SELECT source_kind AS kind, source_id AS id, COUNT(*) AS many, MIN(subject) AS subject FROM delivery
       WHERE state IN ('queued', 'sending') GROUP BY source_kind, source_id`,
    );
    for (const source of open)
      if ((await this.workOn(source)) === 'none')
        await this.jobs.add(SENDER, sendJob, this.sendings.jobFor(source, `Sending “${source.subject}”`, source.many));
  }

  /** Whether a job is at the open messages of a source, is over though it should not be, or was stopped. */
  private workOn({ kind, id }: Source): Promise<'running' | 'halted' | 'none'> {
    return this.jobs.workOn(this.sendings.of(kind).link(id), sendJob, [sendAgainJob]);
  }

  /** Whether nobody will send what waits of a source until a person says so; asked where something waits. */
  async isStopped(source: Source): Promise<boolean> {
    return (await this.workOn(source)) === 'halted';
  }

  /** Goes on sending what waits, after it was stopped or failed; answers the job. */
  async resume(actor: Actor, source: Source): Promise<number> {
    const { queued } = await this.counts(source);
    if (queued === 0) throw new Problem(409, 'nothing-waits', 'Nothing of it waits to be sent.');
    if ((await this.workOn(source)) === 'running') throw new Problem(409, 'being-sent', 'It is being sent already.');
    return this.jobs.add(actor, sendJob, this.sendings.jobFor(source, 'Sending what was left', queued));
  }

  /** Marks the address on every record that has it, so that later sendings hold it back. */
  private async noteBounce(actor: Actor, address: string): Promise<void> {
    const { today } = await this.settings.calendar();
    await this.changes.write(actor, { kind: 'bounce', summary: `E-mail to ${address} bounced` }, (tx) =>
      noteBounce(tx, address, today),
    );
  }

  private async row(id: number): Promise<DeliveryRecord> {
    const row = await one<DeliveryRecord>(this.sql, 'SELECT * FROM delivery WHERE id = ?', [id]);
    if (!row) throw notFound('This message');
    return row;
  }

  /** Sends a message again that was not reached, because a person decided so; answers the job that sends it alone. */
  async retry(actor: Actor, id: number): Promise<number> {
    const row = await this.row(id);
    if ((await this.queueAgain([id])) === 0)
      throw new Problem(409, 'not-retryable', 'Only a message that was not reached can be sent again.');
    return this.jobs.add(actor, sendAgainJob, {
      title: `Sending “${row.subject}” again`,
      payload: { delivery: id },
      total: 1,
      link: this.sendings.of(row.source_kind).link(row.source_id),
    });
  }

  /** Has messages that were not reached wait as if they were never tried; answers how many. */
  private async queueAgain(ids: readonly number[]): Promise<number> {
    const { affectedRows } = await this.sql.run(
      `UPDATE delivery SET state = 'queued', detail = '', tries = 0, due_at = NULL, taken_by = '' WHERE id IN (?) AND state IN (?)`,
      [ids, NOT_REACHED],
    );
    return affectedRows;
  }

  /** As `retry`, for many: those that were reached, wait or were held back are passed over. Answers how many go again. */
  async retryMany(actor: Actor, ids: readonly number[]): Promise<number> {
    const rows = await this.sql.rows<{ id: number; kind: Source['kind']; source: number }>(
      'SELECT id, source_kind AS kind, source_id AS source FROM delivery WHERE id IN (?) AND state IN (?)',
      [ids, NOT_REACHED],
    );
    const sources = new Map(rows.map(({ kind, source }) => [`${kind} ${source}`, { kind, id: source }]));
    let again = 0;
    for (const source of sources.values()) {
      const some = rows.filter((row) => row.kind === source.kind && row.source === source.id);
      // What waits of a sending that was stopped goes on only when a person says so.
      if ((await this.counts(source)).queued > 0 && (await this.isStopped(source)))
        throw new Problem(409, 'stopped', 'A sending of these was stopped with messages waiting; go on with it first.');
      const many = await this.queueAgain(some.map((row) => row.id));
      again += many;
      if (many > 0 && (await this.workOn(source)) !== 'running')
        await this.jobs.add(actor, sendJob, this.sendings.jobFor(source, 'Sending again', many));
    }
    return again;
  }

  async counts({ kind, id }: Source): Promise<Tally> {
    const rows = await this.sql.rows<{ state: DeliveryRecord['state']; many: number; opened: number }>(
      'SELECT state, COUNT(*) AS many, COUNT(opened_at) AS opened FROM delivery WHERE source_kind = ? AND source_id = ? GROUP BY state',
      [kind, id],
    );
    const of = (...states: readonly DeliveryRecord['state'][]): number =>
      rows.filter((row) => states.includes(row.state)).reduce((sum, row) => sum + row.many, 0);
    return {
      queued: of('queued', 'sending'),
      sent: of('sent'),
      opened: rows.reduce((sum, row) => sum + row.opened, 0),
      notReached: of(...NOT_REACHED),
      held: of('held'),
      total: of('queued', 'sending', 'sent', ...NOT_REACHED),
    };
  }
}

/** How many messages of a source are in which way; `total` leaves out those held back or printed. */
interface Tally {
  queued: number;
  sent: number;
  opened: number;
  notReached: number;
  held: number;
  total: number;
}

/** Who goes on with what nobody was sending. */
const SENDER: Actor = { userId: null, name: 'Tallystick' };

/** What an answer makes of a message whose recipient was busy `tries` times before. */
function outcomeOf(sent: Sent, tries: number): Outcome {
  switch (sent.kind) {
    case 'sent':
      return { state: 'sent', detail: '' };
    case 'unsure':
      return { state: 'unsure', detail: `The connection was lost while sending; it may have arrived. ${sent.reason}` };
    case 'bounced':
      return { state: 'bounced', detail: sent.reason };
    case 'refused':
      return { state: 'failed', detail: sent.reason };
    case 'later':
      return { state: 'queued', detail: sent.reason };
    case 'busy': {
      const minutes = BUSY_PAUSES[tries];
      if (minutes === undefined) return { state: 'failed', detail: `Tried for a day. ${sent.reason}` };
      return { state: 'queued', detail: sent.reason, again: minutes * 60 };
    }
  }
}

const wordsOf = ({ sent, notReached }: Tally): string =>
  [`${sent} reached`, ...(notReached > 0 ? [`${notReached} not reached`] : [])].join(', ');

/** How many messages to each of the supporters wait to be sent. */
export const waitingTo = async (sql: Sql, ids: readonly number[]): Promise<Map<number, number>> =>
  new Map(
    (ids.length === 0
      ? []
      : await sql.rows<{ id: number; many: number }>(
          // delivery_supporter (supporter_id, at)
          `SELECT supporter_id AS id, COUNT(*) AS many FROM delivery WHERE supporter_id IN (?) AND state = 'queued' GROUP BY supporter_id`,
          [ids],
        )
    ).map(({ id, many }) => [id, many]),
  );
