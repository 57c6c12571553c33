import { dayNumber, fiscalYearOf } from '../dates/index.ts';
import type { DaySpan } from '../dates/index.ts';
import type { GiftPart, GiftState, PaymentMethod } from '../gifts/index.ts';
import type { Total, TotalBy } from './filters.ts';

/** Which of the gifts that were known count, and how they are laid out; null is any. */
export interface KnownFilter {
  span: DaySpan;
  fundId: number | null;
  campaignId: number | null;
  appealId: number | null;
  method: PaymentMethod | null;
  /** The legal donors that count. */
  donors: ReadonlySet<number> | null;
  by: TotalBy;
  fiscalYearStart: number;
}

/** Totals of legal donors over gifts as they were known on a day, by a key of each part, which is its id or name as text. */
export function totalsKnown(
  gifts: Iterable<{ id: number; state: GiftState }>,
  filter: KnownFilter,
): (Total & { key: string })[] {
  const totals = new Map<string, { cents: number; gifts: Set<number>; donors: Set<number> }>();
  for (const { id, state } of gifts) {
    const day = dayNumber(state.date);
    if (state.cents === 0 || day < filter.span.from || day > filter.span.to) continue;
    if (filter.method !== null && state.method !== filter.method) continue;
    if (filter.donors !== null && !filter.donors.has(state.supporterId)) continue;
    for (const part of state.parts) {
      if (!went(part, filter)) continue;
      const key = keyOf(filter, state, part);
      const total = totals.get(key) ?? { cents: 0, gifts: new Set(), donors: new Set() };
      total.cents += part.cents;
      total.gifts.add(id);
      total.donors.add(state.supporterId);
      totals.set(key, total);
    }
  }
  return [...totals].map(([key, one]) => ({ key, cents: one.cents, gifts: one.gifts.size, donors: one.donors.size }));
}

const went = (part: GiftPart, { fundId, campaignId, appealId }: KnownFilter): boolean =>
  (fundId === null || part.fundId === fundId) &&
  (campaignId === null || part.campaignId === campaignId) &&
  (appealId === null || part.appealId === appealId);

function keyOf({ by, fiscalYearStart }: KnownFilter, state: GiftState, part: GiftPart): string {
  switch (by) {
    case 'nothing':
      return '';
    case 'fund':
      return String(part.fundId);
    case 'campaign':
      return String(part.campaignId ?? 0);
    case 'appeal':
      return String(part.appealId ?? 0);
    case 'method':
      return state.method;
    case 'year':
      return String(fiscalYearOf(state.date, fiscalYearStart));
    case 'month':
      return state.date.slice(0, 7);
  }
}
