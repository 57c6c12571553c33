import { CORRECTIONS, correctionNeeds, giftNumber, partsFault, takenBack } from '@tallystick/core/gifts';
import type { CorrectionKind, GiftPart, GiftState, PaymentMethod } from '@tallystick/core/gifts';
import { formatDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import type { Actor, Changes } from '../platform/changes.ts';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { shrinkPayments } from '../pledges/index.ts';
import { formatsIn, closedThrough, lockClosedThrough } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { bookingDay } from './books.ts';
import type { GiftRecord } from './gift.entity.ts';
import { creditsOf, moveOwned, syncParts } from './write.ts';
import { requireActive } from '../supporters/index.ts';
import { CorrectionTable, GiftTable } from './gift.entity.ts';

export type AskedCorrection =
  | {
      kind: 'adjust';
      version: number;
      reason: string;
      supporterId: number;
      cents: number;
      date: string;
      method: PaymentMethod;
      parts: GiftPart[];
    }
  | { kind: Exclude<CorrectionKind, 'adjust'>; version: number | null; reason: string; cents?: number | undefined };

/** Why a gift cannot simply be edited any more, as a sentence; empty while it can. */
export async function settledBecause(sql: Sql, gift: GiftRecord): Promise<string> {
  const receipt = await one<{ number: string }>(
    sql, // receipt_of_gift (gift_id)
    'SELECT number FROM receipt WHERE gift_id = ? AND voided_on IS NULL LIMIT 1',
    [gift.id],
  );
  if (receipt) return `Receipt ${receipt.number} was issued for it.`;
  if (gift.state !== 'kept') return 'It was taken back.';
  const batch =
    gift.batch_id === null
      ? null
      : await one<{ state: string }>(sql, 'SELECT state FROM batch WHERE id = ?', [gift.batch_id]);
  if (batch?.state === 'posted') return 'Its batch was deposited.';
  const closed = await closedThrough(sql);
  if (closed !== null && gift.booked_on <= closed)
    return `The books are closed through ${formatDate(closed, await formatsIn(sql))}.`;
  return '';
}

/** The money of a stored gift. */
export async function stateOf(sql: Sql, gift: GiftRecord): Promise<GiftState> {
  const split =
    gift.split === 0
      ? []
      : await sql.rows<GiftPart>(
          `SELECT cents, fund_id AS fundId, campaign_id AS campaignId, appeal_id AS appealId FROM gift_split
           WHERE gift_id = ? ORDER BY place`,
          [gift.id],
        );
  const whole = { cents: gift.cents, fundId: gift.fund_id, campaignId: gift.campaign_id, appealId: gift.appeal_id };
  return {
    supporterId: gift.supporter_id,
    cents: gift.cents,
    date: gift.date,
    method: gift.method,
    parts: gift.cents === 0 ? [] : split.length > 0 ? split : [whole],
  };
}

/**
 * Gives money back where it came from: the till's number of the refund, or null for a gift that it did not take. Null
 * `cents` is all of it.
 */
export type GiveBack = (giftId: number, cents: number | null, version: number | null) => Promise<string | null>;

/** Corrections of gifts: each keeps what the gift was, on the day that it is booked. */
export class Corrections {
  private giveBack: GiveBack = async () => null;

  constructor(
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {}

  /** Has refunds go back through where the money came from before they are noted. */
  givesBackBy(giveBack: GiveBack): void {
    this.giveBack = giveBack;
  }

  /** Corrects a gift; money that came through the till goes back through it first. Answers what its receipt needs now. */
  async correct(actor: Actor, id: number, asked: AskedCorrection) {
    const refund = asked.kind === 'refund' ? await this.giveBack(id, asked.cents ?? null, asked.version) : null;
    return this.note(actor, id, asked, refund);
  }

  /** Notes a correction in the books. `refund` is the till's number of one; the same one is noted once. */
  async note(actor: Actor, id: number, asked: AskedCorrection, refund: string | null) {
    const { today } = await this.settings.calendar();
    const number = giftNumber(id);
    const summary = `${CORRECTIONS[asked.kind].word} ${number}: ${asked.reason}`;
    return this.changes.write(actor, { kind: 'gift', summary }, async (tx) => {
      const gift = await theGift(tx, id, asked.version);
      if (refund !== null) {
        const noted = await one(tx.sql, 'SELECT id FROM correction WHERE till_refund = ?', [refund]);
        if (noted) return { receiptNeeds: gift.receipt_needs };
      }
      if (gift.state !== 'kept')
        throw new Problem(409, 'taken-back', `${number} was taken back before; undo that to correct it differently.`);
      const was = await stateOf(tx.sql, gift);
      const became = await this.becomes(tx, was, asked, today);
      const needs = correctionNeeds(was, became);
      if (needs === null) throw fault('cents', 'Nothing of the gift would differ.');
      await tx.insert(CorrectionTable, {
        supporter_id: was.supporterId,
        gift_id: id,
        kind: asked.kind,
        booked_on: bookingDay(today, today, await lockClosedThrough(tx.sql)),
        reason: asked.reason,
        actor: actor.name,
        was: JSON.stringify(was),
        became: JSON.stringify(became),
        till_refund: refund,
        deposit_id: await depositOf(tx.sql, gift),
      });
      const receipt = await one(tx.sql, 'SELECT id FROM receipt WHERE gift_id = ? AND voided_on IS NULL', [id]);
      const receiptNeeds = receipt ? needs : '';
      const credits = became.cents === 0 ? [] : await creditsOf(tx, id);
      await tx.update(GiftTable, id, {
        supporter_id: became.supporterId,
        cents: became.cents,
        date: became.date,
        method: became.method,
        state: became.cents === 0 ? CORRECTIONS[asked.kind].state : 'kept',
        receipt_needs: receiptNeeds,
      });
      await syncParts(
        tx,
        id,
        became,
        credits
          .filter((credit) => credit.supporterId !== became.supporterId)
          .map((credit) => ({ ...credit, cents: Math.min(credit.cents, became.cents) })),
      );
      await moveOwned(tx, id, became.supporterId);
      if (became.cents < was.cents) await shrinkPayments(tx, id, became.cents);
      return { receiptNeeds: receiptNeeds as '' | 'void' | 'reissue' };
    });
  }

  private async becomes(tx: Transaction, was: GiftState, asked: AskedCorrection, today: string): Promise<GiftState> {
    if (asked.kind !== 'adjust') {
      const back = asked.kind === 'refund' ? (asked.cents ?? was.cents) : was.cents;
      if (back > was.cents)
        throw fault(
          'cents',
          `Only ${formatMoney(was.cents, await formatsIn(tx.sql))} is left of the gift; refund that much at most.`,
        );
      if (asked.kind === 'returned' && was.method !== 'cheque')
        throw fault('kind', 'Only a check comes back from the bank; refund or void the gift instead.');
      return takenBack(was, back);
    }
    if (asked.date > today) throw fault('date', 'The date is in the future.');
    if (asked.supporterId !== was.supporterId) await requireActive(tx, asked.supporterId);
    const wrong = partsFault(asked.cents, asked.parts);
    if (wrong !== null) throw fault('parts', wrong);
    const { supporterId, cents, date, method, parts } = asked;
    return { supporterId, cents, date, method, parts };
  }
}

async function depositOf(sql: Sql, gift: GiftRecord): Promise<number | null> {
  const batch = await one<{ deposit_id: number | null }>(sql, 'SELECT deposit_id FROM batch WHERE id = ?', [
    gift.batch_id,
  ]);
  return batch?.deposit_id ?? null;
}

async function theGift(tx: Transaction, id: number, version: number | null): Promise<GiftRecord> {
  const label = `Gift ${giftNumber(id)}`;
  const row =
    version === null ? (await tx.lock(GiftTable, [id])).get(id) : await tx.expect(GiftTable, id, version, label);
  if (!row) throw notFound(label);
  return row as unknown as GiftRecord;
}

const fault = (field: string, message: string): Problem =>
  new Problem(400, 'invalid', message, { fields: { [field]: message } });
