import type { Facts } from '../facts/index.ts';
import type { GiftFilter } from './filters.ts';

export const FACETS = ['fund', 'campaign', 'appeal', 'method'] as const;
export type Facet = (typeof FACETS)[number];
/** Number of gifts and their sum for each id (or method's place), as given by legal donors. */
export type FacetSums = Record<Facet, Map<number, { count: number; cents: number }>>;

/** How the gifts of some slots (null: of all) fall to funds, campaigns, appeals and methods, in one pass over columns. */
export function facetsOf(facts: Facts, slots: Iterable<number> | null, filter: GiftFilter): FacetSums {
  type Sum = { count: number; cents: number; last: number };
  const sums: Record<Facet, Map<number, Sum>> = {
    fund: new Map(),
    campaign: new Map(),
    appeal: new Map(),
    method: new Map(),
  };
  const add = (facet: Facet, key: number, cents: number, gift: number): void => {
    const sum = sums[facet].get(key);
    if (!sum) sums[facet].set(key, { count: 1, cents, last: gift });
    else {
      sum.cents += cents;
      // Parts of one gift come one after another: a gift counts once with each key.
      if (sum.last !== gift) sum.count++;
      sum.last = gift;
    }
  };
  const through = (rows: Facts['gifts'] | Facts['splits'], slot: number, gifts: ArrayLike<number> | null): void => {
    const { day, cents, fund, campaign, appeal, method } = rows.columns;
    const from = rows.start[slot] ?? 0;
    const end = from + (rows.count[slot] ?? 0);
    for (let row = from; row < end; row++) {
      const at = { fund: fund.values[row] ?? 0, campaign: campaign.values[row] ?? 0, appeal: appeal.values[row] ?? 0 };
      if (gifts === null && at.fund === 0) continue;
      const on = day.values[row] ?? 0;
      const how = method.values[row] ?? 0;
      if (on < filter.span.from || on > filter.span.to) continue;
      if (filter.fund !== null && at.fund !== filter.fund) continue;
      if (filter.campaign !== null && at.campaign !== filter.campaign) continue;
      if (filter.appeal !== null && at.appeal !== filter.appeal) continue;
      if (filter.method !== null && how !== filter.method) continue;
      const amount = cents.values[row] ?? 0;
      const gift = gifts === null ? -1 - row : (gifts[row] ?? 0);
      add('fund', at.fund, amount, gift);
      if (at.campaign !== 0) add('campaign', at.campaign, amount, gift);
      if (at.appeal !== 0) add('appeal', at.appeal, amount, gift);
      add('method', how, amount, gift);
    }
  };
  const every = function* (): Generator<number> {
    for (let slot = 0; slot < facts.size; slot++) yield slot;
  };
  for (const slot of slots ?? every()) {
    through(facts.gifts, slot, null);
    through(facts.splits, slot, facts.splits.columns.gift.values);
  }
  return sums;
}
