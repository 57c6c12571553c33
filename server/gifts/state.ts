import type { Row } from '@tallystick/core/changes';
import type { Correction, CorrectionKind, GiftDetails, GiftPart, GiftState } from '@tallystick/core/gifts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { GiftRecord } from './gift.entity.ts';

/** The rows of a gift that its money is in. `gift` is null where it does not exist. */
export interface GiftRows {
  gift: GiftRecord | null;
  splits: readonly SplitRow[];
  /** In the order in which they were made. */
  corrections: readonly CorrectionRow[];
}
export type SplitRow = Row & {
  id: number;
  gift_id: number;
  place: number;
  cents: number;
  fund_id: number;
  campaign_id: number | null;
  appeal_id: number | null;
};
export type CorrectionRow = Row & {
  id: number;
  gift_id: number;
  kind: CorrectionKind;
  booked_on: string;
  was: string;
  became: string;
};

/** The rows of gifts by their ids, of each that exists. */
export async function giftRows(sql: Sql, ids: readonly number[]): Promise<Map<number, GiftRows>> {
  if (ids.length === 0) return new Map();
  const [gifts, splits, corrections] = await Promise.all([
    sql.rows<GiftRecord>('SELECT * FROM gift WHERE id IN (?)', [ids]),
    sql.rows<SplitRow>('SELECT * FROM gift_split WHERE gift_id IN (?)', [ids]), // gift_split_gift
    sql.rows<CorrectionRow>('SELECT * FROM correction WHERE gift_id IN (?)', [ids]), // correction_gift
  ]);
  const [ofSplits, ofCorrections] = [byGift(splits), byGift(corrections)];
  return new Map(
    gifts.map((gift) => [
      gift.id,
      {
        gift,
        splits: (ofSplits.get(gift.id) ?? []).sort((a, b) => a.place - b.place),
        corrections: (ofCorrections.get(gift.id) ?? []).sort((a, b) => a.id - b.id),
      },
    ]),
  );
}

/** Rows by the gift that they belong to. */
export function byGift<R extends { gift_id: number }>(rows: readonly R[]): Map<number, R[]> {
  const groups = new Map<number, R[]>();
  for (const row of rows) {
    const group = groups.get(row.gift_id);
    if (group) group.push(row);
    else groups.set(row.gift_id, [row]);
  }
  return groups;
}

/** The money of a gift by its rows. */
export function stateIn(gift: GiftRecord, splits: readonly SplitRow[]): GiftState {
  const whole = { cents: gift.cents, fundId: gift.fund_id, campaignId: gift.campaign_id, appealId: gift.appeal_id };
  const parts: GiftPart[] = splits.map((row) => ({
    ...{ cents: row.cents, fundId: row.fund_id, campaignId: row.campaign_id, appealId: row.appeal_id },
  }));
  return {
    supporterId: gift.supporter_id,
    cents: gift.cents,
    date: gift.date,
    method: gift.method,
    parts: gift.cents === 0 ? [] : gift.split === 1 && parts.length > 0 ? parts : [whole],
    benefit: { cents: gift.benefit_cents, what: gift.benefit },
  };
}

/** A kept correction, read. */
export function correctionIn({ booked_on, was, became }: CorrectionRow): Omit<Correction, 'kind'> {
  const [before, after]: GiftState[] = [JSON.parse(was), JSON.parse(became)];
  if (!before || !after) throw new Error('A correction lacks what the gift was.');
  return { bookedOn: booked_on, before, after };
}

/** The money of a stored gift. */
export async function stateOf(sql: Sql, gift: GiftRecord): Promise<GiftState> {
  const splits =
    gift.split === 0
      ? []
      : await sql.rows<SplitRow>('SELECT * FROM gift_split WHERE gift_id = ? ORDER BY place', [gift.id]);
  return stateIn(gift, splits);
}

/** A gift as far as something else is booked of it than what was given. */
interface Booked {
  id: number;
  bookedOn: string;
  state: GiftState;
  fundId: number;
  isVoid: boolean;
  soldOn: string | null;
  /** What came in for its stock, less the broker's fees; null while it is not sold. */
  soldFor: number | null;
  fee: number;
}

/** Whether something else may be booked of a gift: it is stock, or a processor kept a part. */
export const booksMore = (gift: Row | null): boolean =>
  gift !== null && (gift['method'] === 'stock' || Number(gift['fee_cents'] ?? 0) !== 0);

/** The gifts of which something else is booked, among some or all there are. */
export async function bookedOf(sql: Sql, ids: readonly number[] | null): Promise<Booked[]> {
  const found =
    ids ??
    // gift_method would be a scan as well
    (await sql.rows<{ id: number }>(`SELECT id FROM gift WHERE fee_cents <> 0 OR method = 'stock'`)).map(
      (row) => row.id,
    );
  const booked: Booked[] = [];
  for (const some of chunks(found))
    for (const { gift, splits } of (await giftRows(sql, some)).values()) {
      if (gift === null) continue;
      const details: GiftDetails | null = gift.details === null ? null : JSON.parse(gift.details);
      const sale = details?.kind === 'stock' && details.soldOn !== null ? details : null;
      const came = sale?.proceedsCents ?? null;
      booked.push({
        ...{ id: gift.id, bookedOn: gift.booked_on, state: stateIn(gift, splits), fundId: gift.fund_id },
        ...{ isVoid: gift.state === 'void', soldOn: sale?.soldOn ?? null, fee: gift.fee_cents },
        soldFor: sale && came !== null ? came - sale.feeCents : null,
      });
    }
  return booked;
}

/** The days on which gifts stand in the books. */
export async function bookedOnOf(sql: Sql, ids: readonly number[]): Promise<Map<number, string>> {
  const days = new Map<number, string>();
  for (const some of chunks(ids))
    for (const row of await sql.rows<{ id: number; day: string }>(
      'SELECT id, booked_on AS day FROM gift WHERE id IN (?)',
      [some],
    ))
      days.set(row.id, row.day);
  return days;
}
