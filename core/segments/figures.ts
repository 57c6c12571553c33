import type { DaySpan } from '../dates/index.ts';
import type { Facts } from '../facts/index.ts';
import { ANY_GIFT, asksWhere } from '../totals/index.ts';
import type { GiftFilter } from '../totals/index.ts';

/* What one supporter gave, as lists show it. */

/** Calls `visit` with the cents of each row of gifts that was asked about; parts of split gifts one by one. */
function eachGiven(facts: Facts, slot: number, asked: GiftFilter, visit: (cents: number, gift: number) => void): void {
  const { fund, campaign, appeal, method } = asked;
  const { from: first, to: last } = asked.span;
  for (const rows of asksWhere(asked) ? [facts.gifts, facts.splits] : [facts.gifts]) {
    const from = rows.start[slot] ?? 0;
    const end = from + (rows.count[slot] ?? 0);
    const of = rows.columns;
    const [days, amounts, funds] = [of.day.values, of.cents.values, of.fund.values];
    const gifts = rows === facts.splits ? of.gift.values : null;
    for (let row = from; row < end; row++) {
      const on = days[row] as number;
      if (on < first || on > last || (fund !== null && funds[row] !== fund)) continue;
      if (campaign !== null && of.campaign.values[row] !== campaign) continue;
      if (appeal !== null && of.appeal.values[row] !== appeal) continue;
      if (method !== null && of.method.values[row] !== method) continue;
      visit(amounts[row] as number, gifts === null ? -1 - row : (gifts[row] as number));
    }
  }
}

/** Cents given, of what was asked about. */
export function givenIn(facts: Facts, slot: number, asked: GiftFilter): number {
  let sum = 0;
  eachGiven(facts, slot, asked, (cents) => (sum += cents));
  return sum;
}

/** Gifts of which something was asked about; a split gift counts once. */
export function giftsIn(facts: Facts, slot: number, asked: GiftFilter): number {
  let many = 0;
  let before = 0;
  eachGiven(facts, slot, asked, (_cents, gift) => {
    if (gift !== before) many++;
    before = gift;
  });
  return many;
}

/** Gifts within a span of days, to one fund or to any. */
export const within = (span: DaySpan, fund: number | null = null): GiftFilter => ({ ...ANY_GIFT, span, fund });

/** The day number of the latest gift up to today, or null where there is none. Gifts dated later do not count. */
export function lastGiftDay(facts: Facts, slot: number, today: number): number | null {
  const days = facts.gifts.columns.day.values;
  const from = facts.gifts.start[slot] ?? 0;
  const end = from + (facts.gifts.count[slot] ?? 0);
  let last = -Infinity;
  for (let row = from; row < end; row++) {
    const on = days[row] as number;
    if (on > last && on <= today) last = on;
  }
  return last === -Infinity ? null : last;
}
