import type { Facts } from '../facts/index.ts';
import { recognised } from '../gifts/index.ts';
import type { Cents } from '../money/index.ts';
import type { CreditChoice, GiftFilter, Total } from './filters.ts';

interface PartRow {
  day: number;
  cents: Cents;
  fund: number;
  campaign: number;
  appeal: number;
  method: number;
  /** Names the gift: rows of one gift of one donor come one after another with the same name. */
  gift: number;
}

/** Whether a filter asks where gifts went, so that the parts of split ones are looked at one by one. */
export const asksWhere = ({ fund, campaign, appeal }: GiftFilter): boolean =>
  fund !== null || campaign !== null || appeal !== null;

const passes = (row: PartRow, filter: GiftFilter): boolean =>
  row.day >= filter.span.from &&
  row.day <= filter.span.to &&
  (filter.fund === null || row.fund === filter.fund) &&
  (filter.campaign === null || row.campaign === filter.campaign) &&
  (filter.appeal === null || row.appeal === filter.appeal) &&
  (filter.method === null || row.method === filter.method);

type Rows = Facts['gifts'] | Facts['splits'] | Facts['credits'];

function* rowsOf(rows: Rows, slot: number, nameOf: (row: number) => number): Generator<PartRow & { row: number }> {
  const { day, cents, fund, campaign, appeal, method } = rows.columns;
  const from = rows.start[slot] ?? 0;
  const end = from + (rows.count[slot] ?? 0);
  for (let row = from; row < end; row++)
    yield {
      row,
      day: day.values[row] ?? 0,
      cents: cents.values[row] ?? 0,
      fund: fund.values[row] ?? 0,
      campaign: campaign.values[row] ?? 0,
      appeal: appeal.values[row] ?? 0,
      method: method.values[row] ?? 0,
      gift: nameOf(row),
    };
}

/** The gifts of one supporter, those that are split in parts where `inParts`. */
function* given(facts: Facts, slot: number, inParts: boolean): Generator<PartRow> {
  // Rows of gifts are named below zero so that they never meet the ids that name split ones.
  for (const row of rowsOf(facts.gifts, slot, (place) => -1 - place)) if (!inParts || row.fund !== 0) yield row;
  if (!inParts) return;
  const { gift } = facts.splits.columns;
  yield* rowsOf(facts.splits, slot, (row) => gift.values[row] ?? 0);
}

/**
 * Totals of a set of supporters (slots), by a key of each row. `inParts` says
 * that the key looks at funds, campaigns or appeals. A cent is never counted twice within one key.
 */
export function totalsBy<K>(
  facts: Facts,
  slots: Iterable<number>,
  filter: GiftFilter,
  choice: CreditChoice,
  inParts: boolean,
  keyOf: (row: PartRow) => K,
): Map<K, Total> {
  const members = new Set(slots);
  const totals = new Map<K, Total & { lastGift: number; lastSlot: number }>();
  const parts = inParts || asksWhere(filter);
  const add = (key: K, slot: number, gift: number, cents: Cents): void => {
    const total = totals.get(key) ?? { cents: 0, gifts: 0, donors: 0, lastGift: NaN, lastSlot: -1 };
    total.cents += cents;
    if (total.lastGift !== gift || total.lastSlot !== slot) total.gifts++;
    if (total.lastSlot !== slot) total.donors++;
    total.lastGift = gift;
    total.lastSlot = slot;
    totals.set(key, total);
  };
  for (const slot of members) {
    if (choice === 'recognition') continue;
    for (const row of given(facts, slot, parts)) if (passes(row, filter)) add(keyOf(row), slot, row.gift, row.cents);
  }
  /** Whether somebody was counted above as a donor under a key already. */
  const gave = (slot: number, key: K): boolean => {
    if (choice === 'recognition') return false;
    for (const row of given(facts, slot, parts)) if (passes(row, filter) && keyOf(row) === key) return true;
    return false;
  };
  if (choice !== 'legal') addCredits(facts, members, filter, choice, keyOf, totals, gave);
  return new Map([...totals].map(([key, { cents, gifts, donors }]) => [key, { cents, gifts, donors }]));
}

/** Adds what the members are recognised for: each part of a gift at most once, whoever shares the credit. */
function addCredits<K>(
  facts: Facts,
  members: ReadonlySet<number>,
  filter: GiftFilter,
  choice: CreditChoice,
  keyOf: (row: PartRow) => K,
  totals: Map<K, Total & { lastGift: number; lastSlot: number }>,
  gave: (slot: number, key: K) => boolean,
): void {
  const { gift, part, of, donor } = facts.credits.columns;
  const found = new Map<string, { key: K; gift: number; of: Cents; credits: Cents[] }>();
  const people = new Map<K, Set<number>>();
  for (const slot of members)
    for (const row of rowsOf(facts.credits, slot, (place) => gift.values[place] ?? 0)) {
      if (!passes(row, filter)) continue;
      if (choice === 'both' && members.has(facts.slotOf(donor.values[row.row] ?? 0))) continue;
      const key = keyOf(row);
      const name = `${row.gift}|${part.values[row.row] ?? 0}`;
      const one = found.get(name) ?? { key, gift: row.gift, of: of.values[row.row] ?? 0, credits: [] };
      one.credits.push(row.cents);
      found.set(name, one);
      people.set(key, (people.get(key) ?? new Set()).add(slot));
    }
  const counted = new Set<string>();
  for (const one of found.values()) {
    const total = totals.get(one.key) ?? { cents: 0, gifts: 0, donors: 0, lastGift: NaN, lastSlot: -1 };
    total.cents += recognised(one.credits, one.of);
    const name = `${String(one.key)}|${one.gift}`;
    if (!counted.has(name)) total.gifts++;
    counted.add(name);
    totals.set(one.key, total);
  }
  for (const [key, slots] of people) {
    const total = totals.get(key);
    if (total) total.donors += [...slots].filter((slot) => !gave(slot, key)).length;
  }
}

/** What a set of supporters gave in all, by the choice of whom to count. */
export function totalOf(facts: Facts, slots: Iterable<number>, filter: GiftFilter, choice: CreditChoice): Total {
  return totalsBy(facts, slots, filter, choice, false, () => 0).get(0) ?? { cents: 0, gifts: 0, donors: 0 };
}
