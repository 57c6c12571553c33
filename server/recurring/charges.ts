import type { DataSource } from 'typeorm';
import { addDays } from '@tallystick/core/dates';
import { divide, formatMoney } from '@tallystick/core/money';
import { amountOn, expected, nextTry, recurringNumber } from '@tallystick/core/recurring';
import { counted } from '@tallystick/core/words';
import { insertGifts, openBatch } from '../gifts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { TryLater } from '../platform/jobs.ts';
import type { Jobs, RunningJob, ScheduledJob } from '../platform/jobs.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import { plansOf } from './plans.ts';
import type { ChargeRecord, RecurringRecord, Share } from './recurring.entity.ts';
import { TillRefused, TillSilent } from './till.ts';
import type { Till, TillAnswer, TillEvent } from './till.ts';
import { ChargeTable } from './recurring.entity.ts';
import { z } from 'zod';
import { jobKind } from '../platform/job-queue.ts';
import { DECEASED } from '../supporters/index.ts';

const chargeJob = jobKind('charge-recurring', { name: 'charges', atOnce: 1 }, z.object({}));

/** What the keys at the till begin with: part of the organisation's secret, so that two of them never meet there. */
export async function keyPart(settings: Settings): Promise<string> {
  const { secret } = await settings.organization();
  return secret.slice(0, 8).replace(/\W/g, '_');
}

/** What is noted of a charge that the till would not hear of. */
interface Refused {
  id: '';
  outcome: 'refused';
  reason: string;
}

export const TILL: Actor = { userId: null, name: 'The till' };
const MORNING: Actor = { userId: null, name: 'The morning run' };

/**
 * Charges recurring gifts through the till. A charge is committed as `asking` before the till is asked, with a key
 * that names the charge and the attempt; when no answer comes it is asked again by the same key, which the till
 * answers with what it did. A gift is written in the transaction that takes a charge out of `asking`.
 */
export class Charges {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly jobs: Jobs,
    private readonly till: Till | null,
  ) {
    this.sql = sqlOn(source);
    jobs.handle(chargeJob, (job) => this.run(job));
  }

  /** Queues a charging of all that is due. */
  async begin(actor: Actor): Promise<{ jobId: number; due: number }> {
    const { due, job } = await this.due(actor);
    return { jobId: await this.jobs.add(actor, chargeJob, job), due };
  }

  /** What the schedule of each morning begins. */
  morning(): () => Promise<ScheduledJob> {
    return async () => ({ actor: MORNING, kind: chargeJob, job: (await this.due(MORNING)).job });
  }

  /** Makes what has come due into charges, and the job that asks for them. */
  private async due(actor: Actor) {
    const { today } = await this.settings.calendar();
    await this.makeDue(actor, today);
    const due = (await this.waiting(today)).length;
    const title = `Charging ${counted(due, 'recurring gift')}`;
    return { due, job: { title, payload: {}, total: due, link: '/gifts/recurring' } };
  }

  private waiting(today: string): Promise<ChargeRecord[]> {
    return this.sql.rows<ChargeRecord>(
      `SELECT * FROM charge WHERE state = 'asking' OR (state IN ('due', 'failed') AND next_on <= ?) ORDER BY id`, // charge_next
      [today],
    );
  }

  /** Makes a charge for each date that has come; never two for one date (charge_due). */
  private async makeDue(actor: Actor, today: string): Promise<void> {
    await this.changes.write(actor, { kind: 'charge', summary: 'Recurring gifts fell due' }, async (tx) => {
      const rows = await tx.sql.rows<RecurringRecord & { last: string | null; dead: number }>(
        `SELECT r.*, (SELECT MAX(c.due) FROM charge c WHERE c.recurring_id = r.id) AS last,
         r.supporter_id IN (SELECT w.supporter_id FROM ${DECEASED} w) AS dead
         FROM recurring r JOIN supporter s ON s.id = r.supporter_id
         WHERE r.method = 'card' AND r.card <> '' AND s.state = 'active' AND r.start_on <= ? FOR UPDATE`,
        [today],
      );
      const plans = await plansOf(tx.sql, rows);
      const closedFunds = new Map(
        (await this.settings.choices()).funds.filter((fund) => fund.closed).map(({ id, name }) => [id, name]),
      );
      for (const row of rows) {
        const plan = plans.get(row.id);
        if (!plan) continue;
        const from = row.last === null ? row.start_on : addDays(row.last, 1);
        const shares: Share[] = JSON.parse(row.parts);
        const shut = shares.find((share) => closedFunds.has(share.fundId));
        const stopped = row.dead
          ? 'Marked as deceased; speak to the family before charging.'
          : shut
            ? `The fund “${closedFunds.get(shut.fundId) ?? ''}” is closed; agree on another with the donor.`
            : '';
        await tx.insertAll(
          ChargeTable,
          expected(plan, from, today).map(({ due }) => ({
            supporter_id: row.supporter_id,
            recurring_id: row.id,
            due,
            cents: amountOn(plan, due),
            state: stopped === '' ? 'due' : 'call',
            attempts: 0,
            next_on: stopped === '' ? due : null,
            till_id: '',
            reason: stopped,
            gift_id: null,
          })),
        );
      }
    });
  }

  private async run(job: RunningJob): Promise<string> {
    const { today } = await this.settings.calendar();
    const { till } = this;
    if (!till) throw new Error('No till is set up; recurring gifts by card cannot be charged.');
    await this.makeDue(job.actor, today);
    const list = await this.waiting(today);
    const said = { approved: 0, cents: 0, declined: 0, expired: 0, refused: 0 };
    let silent = '';
    for (const [index, charge] of list.entries()) {
      await job.progress(index, list.length);
      const asking = await this.claim(job.actor, charge.id, today);
      if (!asking) continue;
      try {
        const answer = await till.charge(await this.keyOf(asking), {
          card: asking.card,
          cents: asking.cents,
          currency: asking.currency,
          about: recurringNumber(asking.recurring_id),
        });
        if (await this.noteAnswer(job.actor, asking.id, asking.attempts, answer)) {
          said[answer.outcome]++;
          if (answer.outcome === 'approved') said.cents += asking.cents;
        }
      } catch (error) {
        if (error instanceof TillSilent) silent = error.message;
        else if (error instanceof TillRefused) {
          // Nothing was charged, and the same would be refused again: a person looks at it; the others go on.
          await this.noteAnswer(job.actor, asking.id, asking.attempts, {
            id: '',
            outcome: 'refused',
            reason: error.message,
          });
          said.refused++;
        } else throw error;
      }
    }
    if (silent !== '') {
      // Asked again by the same keys: 2 s after the first time, then longer, five minutes at most.
      const seconds = Math.min(300, 2 ** Math.min(job.attempt, 9));
      throw new TryLater(`The till did not answer (${silent}); asking again. Nothing is charged twice.`, seconds);
    }
    await job.progress(list.length, list.length);
    const formats = await this.settings.formats();
    const failed = said.declined + said.expired + said.refused;
    return `${said.approved} charged, ${formatMoney(said.cents, formats)}${failed > 0 ? `; ${failed} not taken` : ''}`;
  }

  /** The key of an attempt. It holds part of the organisation's secret, so that two of them at one till never meet. */
  private async keyOf({ id, attempts }: { id: number; attempts: number }): Promise<string> {
    return `${await keyPart(this.settings)}-${id}-${attempts}`;
  }

  /** Marks a charge as being asked for; one already so keeps its attempt, and with it its key. */
  private async claim(actor: Actor, id: number, today: string) {
    const { result } = await this.changes.write(
      actor,
      { kind: 'charge', summary: 'Asked the till for a recurring gift' },
      async (tx) => {
        const charge = await lockCharge(tx, id);
        if (!charge) return null;
        const ready = (charge.state === 'due' || charge.state === 'failed') && (charge.next_on ?? '9') <= today;
        if (charge.state !== 'asking' && !ready) return null;
        const attempts = ready ? charge.attempts + 1 : charge.attempts;
        if (ready) await tx.update(ChargeTable, id, { state: 'asking', attempts });
        const recurring = await one<RecurringRecord>(tx.sql, 'SELECT * FROM recurring WHERE id = ?', [
          charge.recurring_id,
        ]);
        return recurring ? { ...charge, attempts, card: recurring.card, currency: recurring.currency } : null;
      },
    );
    return result;
  }

  /** Writes down what the till said. False where it was written down before. */
  private async noteAnswer(actor: Actor, id: number, attempt: number, answer: TillAnswer | Refused): Promise<boolean> {
    const [{ today }, formats] = await Promise.all([this.settings.calendar(), this.settings.formats()]);
    let summary = 'A recurring gift was not taken';
    const { result } = await this.changes.write(actor, { kind: 'charge', summary: () => summary }, async (tx) => {
      const charge = await lockCharge(tx, id);
      if (!charge || charge.state !== 'asking' || charge.attempts !== attempt) return false;
      const name = recurringNumber(charge.recurring_id);
      if (answer.outcome === 'approved') {
        const giftId = await this.writeGift(tx, charge, answer, today);
        await tx.update(ChargeTable, id, {
          state: 'paid',
          till_id: answer.id,
          next_on: null,
          reason: '',
          gift_id: giftId,
        });
        summary = `Charged ${formatMoney(charge.cents, formats)} for ${name}`;
        return true;
      }
      // A card that has expired, or that the till will not hear of, does not come back by asking again.
      const again = answer.outcome === 'declined' ? nextTry(attempt, today) : null;
      summary = `${name} was not taken: ${answer.reason}`;
      await tx.update(ChargeTable, id, {
        state: again === null ? 'call' : 'failed',
        next_on: again,
        till_id: answer.id,
        reason: answer.reason.slice(0, 200),
      });
      return true;
    });
    return result;
  }

  private async writeGift(
    tx: Transaction,
    charge: ChargeRecord,
    answer: Pick<TillAnswer, 'id' | 'feeCents'>,
    today: string,
  ): Promise<number> {
    const recurring = await one<RecurringRecord>(tx.sql, 'SELECT * FROM recurring WHERE id = ?', [charge.recurring_id]);
    if (!recurring) throw notFound('This recurring gift');
    const [giftId = 0] = await insertGifts(tx, [
      {
        supporterId: recurring.supporter_id,
        cents: charge.cents,
        currency: recurring.currency,
        date: today,
        bookedOn: today,
        method: 'card',
        parts: sharesOf(recurring.parts, charge.cents),
        reference: answer.id,
        feeCents: Math.min(answer.feeCents, charge.cents),
        batchId: await openBatch(tx, 'till', today, 'Recurring gifts charged'),
        recurringId: recurring.id,
      },
    ]);
    return giftId;
  }

  /** Asks anew, at once, for a charge that failed. */
  async retry(actor: Actor, id: number): Promise<{ jobId: number }> {
    const { today } = await this.settings.calendar();
    await this.change(actor, id, 'Asked again for a charge', { state: 'due', next_on: today });
    return { jobId: (await this.begin(actor)).jobId };
  }

  skip(actor: Actor, id: number) {
    return this.change(actor, id, 'Gave a charge up', { state: 'skipped', next_on: null });
  }

  private change(actor: Actor, id: number, summary: string, to: { state: 'due' | 'skipped'; next_on: string | null }) {
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      const charge = await lockCharge(tx, id);
      if (!charge) throw notFound('This charge');
      if (charge.state !== 'failed' && charge.state !== 'call')
        throw new Problem(409, 'not-failed', 'Only a charge that failed can be asked for again or given up.');
      await tx.update(ChargeTable, id, to);
    });
  }

  /** The till reports by itself that it charged. The same event twice finds its work done. */
  async event(event: TillEvent & { kind: 'charge' }): Promise<void> {
    const [, id, attempt] = /-(\d+)-(\d+)$/.exec(event.key) ?? [];
    if (id === undefined || (await this.keyOf({ id: Number(id), attempts: Number(attempt) })) !== event.key) return;
    await this.noteAnswer(TILL, Number(id), Number(attempt), {
      ...{ id: event.charge, outcome: 'approved' as const, reason: '', feeCents: event.feeCents },
    });
  }
}

async function lockCharge(tx: Transaction, id: number): Promise<ChargeRecord | null> {
  const row = (await tx.lock(ChargeTable, [id])).get(id);
  return (row as unknown as ChargeRecord | undefined) ?? null;
}

/** The parts of a recurring gift's amount by its shares, in whole cents; a share that comes to nothing falls away. */
export function sharesOf(json: string, cents: number) {
  const shares: Share[] = JSON.parse(json);
  const amounts = divide(
    cents,
    shares.map((share) => share.weight),
  );
  return shares
    .map(({ fundId, campaignId, appealId }, place) => ({ cents: amounts[place] ?? 0, fundId, campaignId, appealId }))
    .filter((part) => part.cents > 0);
}
