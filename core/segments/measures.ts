import type { DaySpan } from '../dates/index.ts';
import type { Facts } from '../facts/index.ts';

/*
 * What one supporter's rows say. The evaluator calls these in its loops and the explanation calls the same ones
 * for a single supporter, so the two cannot disagree.
 */

/** Cents given within the span, to one fund or (0) to any. */
export function givenIn(facts: Facts, slot: number, span: DaySpan, fund: number): number {
  const { day, cents, fund: funds } = facts.gifts.columns;
  const from = facts.gifts.start[slot] ?? 0;
  const end = from + (facts.gifts.count[slot] ?? 0);
  const [days, amounts, fundOf] = [day.values, cents.values, funds.values];
  const { from: first, to: last } = span;
  let sum = 0;
  for (let row = from; row < end; row++) {
    const on = days[row] as number;
    if (on >= first && on <= last && (fund === 0 || fundOf[row] === fund)) sum += amounts[row] as number;
  }
  return sum;
}

/** Gifts within the span, to one fund or (0) to any. */
export function giftsIn(facts: Facts, slot: number, span: DaySpan, fund: number): number {
  const { day, fund: funds } = facts.gifts.columns;
  const from = facts.gifts.start[slot] ?? 0;
  const end = from + (facts.gifts.count[slot] ?? 0);
  const [days, fundOf] = [day.values, funds.values];
  const { from: first, to: last } = span;
  let many = 0;
  for (let row = from; row < end; row++) {
    const on = days[row] as number;
    if (on >= first && on <= last && (fund === 0 || fundOf[row] === fund)) many++;
  }
  return many;
}

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

export const hasTag = (facts: Facts, slot: number, tag: number): boolean =>
  holds(facts.tags, facts.tags.columns.tag.values, slot, tag);

export const inGroup = (facts: Facts, slot: number, group: number): boolean =>
  holds(facts.groups, facts.groups.columns.group.values, slot, group);

function holds(
  list: { start: Uint32Array; count: Uint32Array },
  values: Uint32Array,
  slot: number,
  wanted: number,
): boolean {
  const from = list.start[slot] ?? 0;
  const end = from + (list.count[slot] ?? 0);
  for (let row = from; row < end; row++) if (values[row] === wanted) return true;
  return false;
}
