import {
  CORRECTIONS,
  correctionNeeds,
  detailsAfter,
  giftDateFault,
  giftNumber,
  partsFault,
  takenBack,
} from '@tallystick/core/gifts';
import type { CorrectionKind, GiftDetails, GiftPart, GiftState, PaymentMethod } from '@tallystick/core/gifts';
import { formatDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import type { Actor, Changes, Committed } from '../platform/changes.ts';
import { one } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { dropMatch, shrinkPayments } from '../pledges/index.ts';
import { formatsIn, closedThrough, lockClosedThrough, refuseClosed } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { bookingDay } from './books.ts';
import type { GiftRecord } from './gift.entity.ts';
import { stateOf } from './state.ts';
import { creditsOf, moveOwned, syncParts } from './write.ts';
import { SAYS } from './views.ts';
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
      /** What the donor got for it; as it was where left out. */
      benefit?: { cents: number; what: string } | undefined;
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
  const corrected = await one(sql, 'SELECT id FROM correction WHERE gift_id = ? LIMIT 1', [gift.id]);
  if (corrected) return 'It was corrected.';
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

export type AskedRefund = Extract<AskedCorrection, { version: number | null }>;
export type ReceiptNeeds = '' | 'void' | 'reissue';

/**
 * Gives money back where it came from, and has it noted; null for a gift whose money did not come through there.
 */
export type GiveBack = (
  actor: Actor,
  giftId: number,
  asked: AskedRefund,
) => Promise<Committed<{ receiptNeeds: ReceiptNeeds }> | null>;

/** A refund that the till made: its own number there, and what else is written once the refund is noted. */
export interface TillRefund {
  number: string;
  noted: (tx: Transaction) => Promise<void>;
}

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
    const done = asked.kind === 'refund' ? await this.giveBack(actor, id, asked) : null;
    return done ?? this.note(actor, id, asked, null);
  }

  /** Notes a correction in the books. What the till refunded is noted once, and cannot be undone. */
  async note(actor: Actor, id: number, asked: AskedCorrection, refund: TillRefund | null) {
    const { today } = await this.settings.calendar();
    const number = giftNumber(id);
    const summary = `${CORRECTIONS[asked.kind].word} ${number}: ${asked.reason}`;
    const kind = refund ? 'refund' : 'gift';
    return this.changes.write(actor, { kind, summary }, async (tx): Promise<{ receiptNeeds: ReceiptNeeds }> => {
      const gift = await theGift(tx, id, asked.version);
      if (refund) {
        await refund.noted(tx);
        const noted = await one(tx.sql, 'SELECT id FROM correction WHERE till_refund = ?', [refund.number]);
        if (noted) return { receiptNeeds: gift.receipt_needs };
      }
      if (gift.state !== 'kept')
        throw new Problem(409, 'taken-back', `${number} was taken back before; undo that to correct it differently.`);
      const was = await stateOf(tx.sql, gift);
      const became = await this.becomes(tx, was, asked, today);
      if (correctionNeeds(was, became) === null) throw fault('cents', 'Nothing of the gift would differ.');
      await tx.insert(CorrectionTable, {
        supporter_id: was.supporterId,
        gift_id: id,
        kind: asked.kind,
        booked_on: bookingDay(today, today, await lockClosedThrough(tx.sql)),
        reason: asked.reason,
        actor: actor.name,
        was: JSON.stringify(was),
        became: JSON.stringify(became),
        till_refund: refund?.number ?? null,
        deposit_id: await depositOf(tx.sql, gift),
      });
      const credits = became.cents === 0 ? [] : await creditsOf(tx, id);
      await tx.update(GiftTable, id, {
        supporter_id: became.supporterId,
        cents: became.cents,
        date: became.date,
        method: became.method,
        state: became.cents === 0 ? CORRECTIONS[asked.kind].state : 'kept',
        details: keptDetails(gift.details, became),
        ...(became.benefit ? { benefit_cents: became.benefit.cents, benefit: became.benefit.what } : {}),
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
      if (became.cents === 0) await dropMatch(tx, id);
      const receiptNeeds = await receiptNeedsOf(tx.sql, id);
      await tx.update(GiftTable, id, { receipt_needs: receiptNeeds });
      return { receiptNeeds };
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
    const odd = giftDateFault(asked.date, today);
    if (odd !== null) throw fault('date', odd);
    if (asked.supporterId !== was.supporterId) await requireActive(tx, asked.supporterId);
    if (asked.method !== was.method && (asked.method === 'in_kind' || asked.method === 'stock'))
      throw fault('method', 'A correction cannot say what was given: void this gift and record that one.');
    const wrong = partsFault(asked.cents, asked.parts);
    if (wrong !== null) throw fault('parts', wrong);
    // Where it was before may have been closed since.
    const had = (column: 'fundId' | 'campaignId' | 'appealId', id: number | null): number | null =>
      was.parts.some((part) => part[column] === id) ? null : id;
    for (const part of asked.parts)
      await refuseClosed(tx, {
        fund: had('fundId', part.fundId),
        campaign: had('campaignId', part.campaignId),
        appeal: had('appealId', part.appealId),
      });
    const { supporterId, cents, date, method, parts } = asked;
    const benefit = asked.benefit ?? was.benefit ?? { cents: 0, what: '' };
    return { supporterId, cents, date, method, parts, benefit };
  }
}

function keptDetails(json: string | null, became: GiftState): string | null {
  const was: GiftDetails | null = json === null ? null : JSON.parse(json);
  return detailsAfter(was, became) === null ? null : json;
}

/** What has to become of the valid receipt of a gift, by what it says and what the gift is now. */
async function receiptNeedsOf(sql: Sql, giftId: number): Promise<ReceiptNeeds> {
  const receipt = await one<{ state: GiftRecord['state']; same: number }>(
    sql, // receipt_of_gift (gift_id)
    `SELECT g.state, r.says = ${SAYS} AS same FROM receipt r JOIN gift g ON g.id = r.gift_id
     WHERE r.gift_id = ? AND r.voided_on IS NULL`,
    [giftId],
  );
  if (!receipt) return '';
  if (receipt.state !== 'kept') return 'void';
  return receipt.same === 1 ? '' : 'reissue';
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
