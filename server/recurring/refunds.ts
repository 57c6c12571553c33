import type { DataSource } from 'typeorm';
import { z } from 'zod';
import { giftNumber } from '@tallystick/core/gifts';
import { formatMoney } from '@tallystick/core/money';
import { GiftTable } from '../gifts/index.ts';
import type { AskedRefund, Corrections, ReceiptNeeds } from '../gifts/index.ts';
import type { Actor, Changes, Committed } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { jobKind } from '../platform/job-queue.ts';
import { TryLater } from '../platform/jobs.ts';
import type { Jobs } from '../platform/jobs.ts';
import { Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import { keyPart, TILL } from './charges.ts';
import { RefundTable } from './recurring.entity.ts';
import type { ChargeRecord, RefundRecord } from './recurring.entity.ts';
import { TillRefused, TillSilent } from './till.ts';
import type { Till, TillEvent } from './till.ts';

const refundJob = jobKind('refund', { name: 'refunds', atOnce: 1 }, z.object({ refundId: z.number() }));

const SECONDS_AT_FIRST = 3;
const SECONDS_AT_MOST = 300;

/**
 * Gives money back through the till. A refund is committed as `asking`, with the job that sees it through, before the
 * till is asked; its key at the till names the refund, so that asking again gives nothing back twice. It is noted in
 * the books in the transaction that takes it out of `asking`.
 */
export class Refunds {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    jobs: Jobs,
    private readonly till: Till | null,
    private readonly corrections: Corrections,
  ) {
    this.sql = sqlOn(source);
    jobs.handle(refundJob, async ({ actor, attempt, payload }) => {
      try {
        await this.see(actor, payload.refundId);
      } catch (error) {
        if (!(error instanceof TillSilent)) throw error;
        const seconds = Math.min(SECONDS_AT_MOST, SECONDS_AT_FIRST * 2 ** Math.min(attempt, 8));
        throw new TryLater('The till has not answered yet; asking again. Nothing is given back twice.', seconds);
      }
      return (await this.get(payload.refundId))?.state === 'done' ? 'The till gave it back.' : 'The till refused it.';
    });
  }

  private get(id: number): Promise<RefundRecord | null> {
    return one<RefundRecord>(this.sql, 'SELECT * FROM refund WHERE id = ?', [id]);
  }

  /** What the till is being asked to give back of a gift, in cents. */
  async askedOf(giftId: number): Promise<number> {
    const asked = await one<{ cents: number | null }>(
      this.sql, // refund_gift (gift_id, state)
      `SELECT SUM(cents) AS cents FROM refund WHERE gift_id = ? AND state = 'asking'`,
      [giftId],
    );
    return Number(asked?.cents ?? 0);
  }

  /** Refunds a gift that came through the till; null for one that did not. */
  async giveBack(
    actor: Actor,
    giftId: number,
    asked: AskedRefund,
  ): Promise<Committed<{ receiptNeeds: ReceiptNeeds }> | null> {
    const charge = await one<ChargeRecord>(this.sql, `SELECT * FROM charge WHERE gift_id = ? AND state = 'paid'`, [
      giftId,
    ]);
    if (!charge || !this.till) return null;
    const refundId = await this.ask(actor, charge, giftId, asked);
    try {
      const noted = await this.see(actor, refundId);
      if (noted) return noted;
    } catch (error) {
      if (!(error instanceof TillSilent)) throw error;
      throw new Problem(
        502,
        'till-silent',
        `The till has not said yet whether it refunded ${giftNumber(giftId)} (${error.message}). It is asked again by itself until it does, and the refund is noted then; nothing is given back twice.`,
      );
    }
    const why = (await this.get(refundId))?.why ?? '';
    throw new Problem(502, 'till', `The till did not refund it (${why}). Nothing was noted.`);
  }

  /** Commits a refund as asked; refuses what could not be noted afterwards. */
  private async ask(actor: Actor, charge: ChargeRecord, giftId: number, asked: AskedRefund): Promise<number> {
    const number = giftNumber(giftId);
    const formats = await this.settings.formats();
    let summary = `Asked the till to refund ${number}`;
    const { result } = await this.changes.write(actor, { kind: 'refund', summary: () => summary }, async (tx) => {
      const gift = await tx.expect(GiftTable, giftId, asked.version ?? 0, `Gift ${number}`);
      if (gift.state !== 'kept') throw new Problem(409, 'taken-back', `${number} was taken back before.`);
      const cents = asked.cents ?? gift.cents;
      const money = formatMoney(cents, { ...formats, currency: gift.currency });
      if (cents > gift.cents)
        throw new Problem(400, 'invalid', 'More than is left of the gift.', {
          fields: { cents: 'Refund at most what is left of the gift.' },
        });
      const open = await tx.sql.rows(`SELECT id FROM refund WHERE gift_id = ? AND state = 'asking'`, [giftId]); // refund_gift
      if (open.length > 0)
        throw new Problem(
          409,
          'refund-asked',
          `The till is being asked for another refund of ${number}; wait for that.`,
        );
      summary = `Asked the till to refund ${money} of ${number}`;
      const id = await tx.insert(RefundTable, {
        ...{ supporter_id: gift.supporter_id, gift_id: giftId, charge_id: charge.id, cents, reason: asked.reason },
        ...{ state: 'asking', till_id: '', why: '' },
      });
      await tx.enqueue(refundJob, { title: `Refunding ${money} of ${number}`, payload: { refundId: id }, total: 1 });
      return id;
    });
    return result;
  }

  /** Asks the till for a refund and notes what it says; null where it refused. Throws `TillSilent` without an answer. */
  private async see(actor: Actor, id: number): Promise<Committed<{ receiptNeeds: ReceiptNeeds }> | null> {
    const refund = await this.get(id);
    const charge =
      refund && (await one<ChargeRecord>(this.sql, 'SELECT * FROM charge WHERE id = ?', [refund.charge_id]));
    if (!refund || !charge || !this.till || refund.state === 'refused') return null;
    if (refund.state === 'done') return this.note(actor, refund, refund.till_id);
    try {
      const key = `${await keyPart(this.settings)}-refund-${id}`;
      const answer = await this.till.refund(key, { charge: charge.till_id, cents: refund.cents });
      return await this.note(actor, refund, answer.id);
    } catch (error) {
      if (!(error instanceof TillRefused)) throw error;
      const summary = `The till refused to refund ${giftNumber(refund.gift_id)}`;
      await this.changes.write(actor, { kind: 'refund', summary }, async (tx) => {
        const now = (await tx.lock(RefundTable, [id])).get(id);
        if (now?.state === 'asking')
          await tx.update(RefundTable, id, { state: 'refused', why: error.message.slice(0, 200) });
      });
      return null;
    }
  }

  private note(actor: Actor, refund: RefundRecord, number: string) {
    return this.corrections.note(
      actor,
      refund.gift_id,
      { kind: 'refund', version: null, cents: refund.cents, reason: refund.reason },
      { number, noted: (tx) => settle(tx, refund.id, number) },
    );
  }

  /** The till reports by itself that it refunded: at our asking, or at its own desk. */
  async event(event: TillEvent & { kind: 'refund' }): Promise<void> {
    const charge = await one<ChargeRecord>(
      this.sql, // charge_till (till_id)
      'SELECT * FROM charge WHERE till_id = ? AND gift_id IS NOT NULL',
      [event.charge],
    );
    if (!charge?.gift_id) return;
    // An answer of ours that is still on its way.
    const ours = await one<RefundRecord>(
      this.sql,
      `SELECT * FROM refund WHERE charge_id = ? AND (till_id = ? OR (state = 'asking' AND cents = ?)) ORDER BY id LIMIT 1`,
      [charge.id, event.refund, event.cents],
    );
    if (ours) {
      await this.note(TILL, ours, event.refund);
      return;
    }
    try {
      await this.corrections.note(
        TILL,
        charge.gift_id,
        { kind: 'refund', version: null, cents: event.cents, reason: 'Refunded at the till' },
        { number: event.refund, noted: async () => undefined },
      );
    } catch (error) {
      // Taken back here before, by hand: the books say already what the till says now.
      if (!(error instanceof Problem && error.code === 'taken-back')) throw error;
    }
  }
}

/** Takes a refund out of `asking`, with the till's number of it. */
async function settle(tx: Transaction, id: number, number: string): Promise<void> {
  const refund = (await tx.lock(RefundTable, [id])).get(id);
  if (refund?.state === 'asking') await tx.update(RefundTable, id, { state: 'done', till_id: number });
}
