import { creditParts } from '@tallystick/core/gifts';
import type { CreditKind, GiftDetails, GiftPart, PaymentMethod } from '@tallystick/core/gifts';
import type { Row } from '@tallystick/core/changes';
import type { Transaction } from '../platform/transaction.ts';
import type { CreditRecord, GiftRecord } from './gift.entity.ts';
import { GiftFieldTable } from '../settings/index.ts';
import { GiftSplitTable, GiftTable, SoftCreditTable, TributeTable } from './gift.entity.ts';
import type { AnyTable } from '../platform/tables.ts';
import type { Kept } from '@tallystick/core/fields';

export interface Credit {
  supporterId: number;
  kind: CreditKind;
  cents: number;
}

/** A gift as it is to be stored. */
export interface NewGift {
  supporterId: number;
  cents: number;
  currency: string;
  date: string;
  bookedOn: string;
  method: PaymentMethod;
  /** One part at least; more are a split. */
  parts: readonly GiftPart[];
  cheque?: string;
  reference?: string;
  note?: string;
  benefitCents?: number;
  benefit?: string;
  /** What the processor kept of it. */
  feeCents?: number;
  details?: GiftDetails | null;
  sourceId?: number | null;
  batchId?: number | null;
  recurringId?: number | null;
  intakeId?: number | null;
  /** Where it was answered before it came here. */
  acknowledgedOn?: string | null;
  credits?: readonly Credit[];
  /** Values of custom fields in the form they are kept. */
  own?: readonly (readonly [field: number, value: Kept])[];
}

const firstOf = (parts: readonly GiftPart[]): Row => ({
  fund_id: parts[0]?.fundId ?? null,
  campaign_id: parts[0]?.campaignId ?? null,
  appeal_id: parts[0]?.appealId ?? null,
  split: parts.length > 1 ? 1 : 0,
});

/** Stores new gifts with their parts, credits and fields; answers their ids in the same order. */
export async function insertGifts(tx: Transaction, gifts: readonly NewGift[]): Promise<number[]> {
  const ids = await tx.insertAll(
    GiftTable,
    gifts.map((gift) => ({
      supporter_id: gift.supporterId,
      cents: gift.cents,
      currency: gift.currency,
      date: gift.date,
      ...firstOf(gift.parts),
      source_code_id: gift.sourceId ?? null,
      method: gift.method,
      cheque: gift.cheque ?? '',
      reference: gift.reference ?? '',
      note: gift.note ?? '',
      benefit_cents: gift.benefitCents ?? 0,
      benefit: gift.benefit ?? '',
      fee_cents: gift.feeCents ?? 0,
      details: gift.details ? JSON.stringify(gift.details) : null,
      state: 'kept',
      booked_on: gift.bookedOn,
      batch_id: gift.batchId ?? null,
      recurring_id: gift.recurringId ?? null,
      acknowledged_on: gift.acknowledgedOn ?? null,
      receipt_needs: '',
      intake_id: gift.intakeId ?? null,
    })),
  );
  const at = (index: number): number => ids[index] ?? 0;
  await tx.insertAll(
    GiftSplitTable,
    gifts.flatMap((gift, index) => (gift.parts.length > 1 ? splitRows(at(index), gift.supporterId, gift.parts) : [])),
  );
  await tx.insertAll(
    SoftCreditTable,
    gifts.flatMap((gift, index) => creditRows(at(index), gift, gift.credits ?? [])),
  );
  await tx.insertAll(
    GiftFieldTable,
    gifts.flatMap((gift, index) =>
      (gift.own ?? []).map(([field_id, value]) => ({
        supporter_id: gift.supporterId,
        gift_id: at(index),
        field_id,
        value,
      })),
    ),
  );
  return ids;
}

const splitRows = (giftId: number, supporterId: number, parts: readonly GiftPart[]): Row[] =>
  parts.map((part, place) => ({ supporter_id: supporterId, gift_id: giftId, place, ...placeRow(part) }));

const placeRow = (part: GiftPart): Row => ({
  cents: part.cents,
  fund_id: part.fundId,
  campaign_id: part.campaignId,
  appeal_id: part.appealId,
});

/** What the credits of a gift need to know of it. */
export interface CreditedGift {
  supporterId: number;
  date: string;
  method: PaymentMethod;
  parts: readonly GiftPart[];
}

function creditRows(giftId: number, gift: CreditedGift, credits: readonly Credit[]): Row[] {
  return credits.flatMap((credit) =>
    creditParts(credit.cents, gift.parts).flatMap((cents, place): Row[] => {
      const part = gift.parts[place];
      if (!part || cents === 0) return [];
      return [
        {
          supporter_id: credit.supporterId,
          gift_id: giftId,
          kind: credit.kind,
          place,
          ...placeRow(part),
          cents,
          of_cents: part.cents,
          date: gift.date,
          donor_id: gift.supporterId,
          method: gift.method,
        },
      ];
    }),
  );
}

/**
 * Credits somebody with all that a household gave itself, as one of it; what they are credited with already stays.
 * Answers for how many gifts they were not.
 */
export async function creditHome(tx: Transaction, householdId: number, supporterId: number): Promise<number> {
  const gifts = await tx.sql.rows<GiftRecord>(
    // gift_facts (supporter_id, ...), soft_credit_gift (gift_id)
    `SELECT g.* FROM gift g WHERE g.supporter_id = ? AND g.cents > 0
     AND NOT EXISTS (SELECT 1 FROM soft_credit c WHERE c.gift_id = g.id AND c.supporter_id = ?) ORDER BY g.id FOR UPDATE`,
    [householdId, supporterId],
  );
  const splits = await tx.sql.rows<GiftPart & { gift_id: number }>(
    `SELECT gift_id, cents, fund_id AS fundId, campaign_id AS campaignId, appeal_id AS appealId FROM gift_split
     WHERE gift_id IN (?) ORDER BY gift_id, place`,
    [[0, ...gifts.filter(({ split }) => split === 1).map(({ id }) => id)]],
  );
  await tx.insertAll(
    SoftCreditTable,
    gifts.flatMap((gift) => {
      const { cents, fund_id: fundId, campaign_id: campaignId, appeal_id: appealId } = gift;
      const own = splits.filter(({ gift_id: of }) => of === gift.id);
      const parts = own.length > 0 ? own : [{ cents, fundId, campaignId, appealId }];
      const credited = { supporterId: householdId, date: gift.date, method: gift.method, parts };
      return creditRows(gift.id, credited, [{ supporterId, kind: 'household', cents }]);
    }),
  );
  return gifts.length;
}

/** The soft credits of a gift as people know them: one for each person and kind. */
export async function creditsOf(tx: Transaction, giftId: number): Promise<Credit[]> {
  const rows = await tx.sql.rows<CreditRecord>('SELECT * FROM soft_credit WHERE gift_id = ? ORDER BY id', [giftId]);
  const credits = new Map<string, Credit>();
  for (const row of rows) {
    const key = `${row.supporter_id}|${row.kind}`;
    const cents = (credits.get(key)?.cents ?? 0) + row.cents;
    credits.set(key, { supporterId: row.supporter_id, kind: row.kind, cents });
  }
  return [...credits.values()];
}

/** Makes the parts and credits of a stored gift what is given; the gift's own row gets the first part. */
export async function syncParts(
  tx: Transaction,
  giftId: number,
  gift: CreditedGift,
  credits: readonly Credit[],
): Promise<void> {
  const wanted: [AnyTable, readonly Row[]][] = [
    [GiftSplitTable, gift.parts.length > 1 ? splitRows(giftId, gift.supporterId, gift.parts) : []],
    [SoftCreditTable, creditRows(giftId, gift, credits)],
  ];
  for (const [table, rows] of wanted) {
    const had = await tx.sql.rows<Row & { id: number }>(`SELECT * FROM ${table.name} WHERE gift_id = ? ORDER BY id`, [
      giftId,
    ]);
    const same =
      had.length === rows.length &&
      rows.every((row, index) => Object.entries(row).every(([column, value]) => had[index]?.[column] === value));
    if (same) continue;
    await tx.removeAll(
      table,
      had.map((row) => row.id),
    );
    await tx.insertRows(table, rows);
  }
  // A gift of which nothing is left still says what it went to.
  await tx.update(GiftTable, giftId, gift.parts.length > 0 ? firstOf(gift.parts) : { split: 0 });
}

/** Rows that belong to a gift follow it to another donor. */
export async function moveOwned(tx: Transaction, giftId: number, supporterId: number): Promise<void> {
  for (const table of [GiftFieldTable, TributeTable]) {
    const rows = await tx.sql.rows<{ id: number }>(`SELECT id FROM ${table.name} WHERE gift_id = ?`, [giftId]);
    await tx.rewrite(
      table,
      rows.map((row) => row.id),
      { supporter_id: supporterId },
    );
  }
}
