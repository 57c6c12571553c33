import { dateOfDay, fiscalYearOfDay } from '@tallystick/core/dates';
import type { Calendar } from '@tallystick/core/dates';
import type { Facts } from '@tallystick/core/facts';
import { METHOD_CODES } from '@tallystick/core/gifts';
import { FACETS, facetsOf, totalsBy } from '@tallystick/core/totals';
import type { CreditChoice, Facet, GiftFilter, TotalBy } from '@tallystick/core/totals';

/** Totals of some supporters (null for everyone, those in the trash too), laid out by a key. */
export interface TotalsQuestion {
  ask: 'totals';
  ids: readonly number[] | null;
  /** Counts everyone who shares a home with them, each once. */
  household: boolean;
  filter: GiftFilter;
  credit: CreditChoice;
  by: TotalBy;
  calendar: Calendar;
}
export interface TotalsRow {
  key: string;
  cents: number;
  gifts: number;
  donors: number;
}

export function totalsAsked(facts: Facts, question: TotalsQuestion): TotalsRow[] {
  const { by, calendar } = question;
  const keyOf = (row: { day: number; fund: number; campaign: number; appeal: number; method: number }): string => {
    switch (by) {
      case 'nothing':
        return '';
      case 'fund':
        return String(row.fund);
      case 'campaign':
        return String(row.campaign);
      case 'appeal':
        return String(row.appeal);
      case 'method':
        return METHOD_CODES[row.method] ?? 'other';
      case 'year':
        return String(fiscalYearOfDay(row.day, calendar.fiscalYearStart));
      case 'month':
        return dateOfDay(row.day).slice(0, 7);
    }
  };
  const inParts = by === 'fund' || by === 'campaign' || by === 'appeal';
  const totals = totalsBy(facts, slotsOf(facts, question), question.filter, question.credit, inParts, keyOf);
  return [...totals].map(([key, total]) => ({ key, ...total }));
}

function* slotsOf(facts: Facts, { ids, household }: TotalsQuestion): Generator<number> {
  if (ids === null) {
    for (let slot = 0; slot < facts.size; slot++) yield slot;
    return;
  }
  for (const id of ids) {
    const slot = facts.slotOf(id);
    if (slot < 0) continue;
    if (household) yield* facts.sharersOf(slot);
    else yield slot;
  }
}

/** How gifts fall to places and methods; of everyone where `ids` is null. */
export interface FacetsQuestion {
  ask: 'facets';
  ids: readonly number[] | null;
  filter: GiftFilter;
}
export type FacetRows = Record<Facet, { key: number; count: number; cents: number }[]>;

export function facetsAsked(facts: Facts, { ids, filter }: FacetsQuestion): FacetRows {
  const slots = ids === null ? null : ids.map((id) => facts.slotOf(id)).filter((slot) => slot >= 0);
  const sums = facetsOf(facts, slots, filter);
  const rowsOf = (facet: Facet) =>
    [...sums[facet]].map(([key, { count, cents }]) => ({ key, count, cents })).sort((a, b) => b.cents - a.cents);
  return Object.fromEntries(FACETS.map((facet) => [facet, rowsOf(facet)])) as FacetRows;
}
