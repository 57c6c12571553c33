import { spanOf } from '@tallystick/core/dates';
import type { Calendar } from '@tallystick/core/dates';
import { FLAG } from '@tallystick/core/facts';
import type { Facts } from '@tallystick/core/facts';
import { isNumeric } from '@tallystick/core/fields';
import type { FieldKind } from '@tallystick/core/fields';
import { bandOf, grouped, Order, placeAfter } from '@tallystick/core/lists';
import type { ListGroup, Mark, SortKey } from '@tallystick/core/lists';
import { evaluate, giftsIn, givenIn, lastGiftDay, within } from '@tallystick/core/segments';
import type { AskedGroup } from './asked.ts';
import type { SupporterKind } from '@tallystick/core/supporters';
import { SUPPORTER_KINDS, kindOfCode } from '@tallystick/core/supporters';

export type ListSort =
  | 'name'
  | 'number'
  | 'town'
  | 'state'
  | 'kind'
  | 'lifetime'
  | 'thisYear'
  | 'lastYear'
  | 'count'
  | 'largest'
  | 'average'
  | 'first'
  | 'last'
  | 'household';
export type ListGroupBy = 'kind' | 'state' | 'town' | 'lastYear';

/** A custom field to sort or group by, with what its values are. */
export interface FieldSort {
  field: number;
  kind: FieldKind;
}

/** One of what a list is sorted by, and whether large values come first. */
export interface ListSorting {
  by: ListSort | FieldSort;
  down: boolean;
}

/** What supporters come to, in cents, and the number of their gifts. */
export interface ListSum {
  lifetime: number;
  thisYear: number;
  lastYear: number;
  count: number;
}

/** A list of supporters: who (of a kind, matching conditions, out of the trash or in it), in what order, put together by what. */
export interface ListQuestion {
  ask: 'list';
  kind: SupporterKind | null;
  asked: AskedGroup | null;
  trashed: boolean;
  /** The first counts most; names and numbers settle what is equal. */
  sorts: readonly ListSorting[];
  groupBy: ListGroupBy | FieldSort | null;
  /** What the page before ended with; null to begin. */
  after: Mark | null;
  /** Rows wanted; null for the ids of the whole list without figures. */
  limit: number | null;
  calendar: Calendar;
}

export interface ListAnswer {
  ids: Uint32Array;
  /** The place of the first id in the list. */
  at: number;
  /** What the page ends with; null for an empty one. */
  end: Mark | null;
  total: number;
  sum: ListSum;
  groups: ListGroup<ListSum>[];
}

interface WholeList {
  slots: Uint32Array;
  groups: ListGroup<ListSum>[];
  sum: ListSum;
}

const MOST_ORDERS = 12;

/** Answers lists from facts. Orders are kept, and put right for the supporters that changed. */
export class Listing {
  private readonly orders = new Map<string, { order: Order; pending: Set<number> }>();
  /** Whole lists as last asked for, until something changes. */
  private readonly lists = new Map<string, WholeList>();

  constructor(private readonly facts: Facts) {}

  /** A slot whose facts changed. */
  changed(slot: number): void {
    this.lists.clear();
    if (slot < 0) return;
    // Whoever shares a home has other household totals now.
    for (const other of this.facts.homeOf(slot)) for (const { pending } of this.orders.values()) pending.add(other);
    for (const { pending } of this.orders.values()) pending.add(slot);
  }

  answer(question: ListQuestion): ListAnswer {
    const { slots, groups, sum } = this.whole(question);
    const { after, sorts, limit } = question;
    const markOf = this.marks(question);
    const at =
      after === null
        ? 0
        : placeAfter(
            slots,
            after,
            markOf,
            sorts.map(({ down }) => down),
          );
    const end = limit === null ? slots.length : Math.min(slots.length, at + limit);
    const page = Uint32Array.from(slots.slice(at, end), (slot) => this.facts.ids[slot] ?? 0);
    const last = end > at ? markOf(slots[end - 1] ?? 0) : null;
    return { ids: page, at, end: last, total: slots.length, sum, groups };
  }

  private marks({ sorts, groupBy, calendar }: ListQuestion): (slot: number) => Mark {
    const keysOf = sorts.map(({ by }) => this.keyOf(by, calendar));
    const group = groupBy === null ? () => null : this.groupOf(groupBy, calendar);
    const { sortNames, ids } = this.facts;
    return (slot) => ({
      group: group(slot),
      keys: keysOf.map((keyOf) => keyOf(slot)),
      name: sortNames[slot] ?? '',
      id: ids[slot] ?? 0,
    });
  }

  private whole(question: ListQuestion): WholeList {
    const { after: _after, limit: _limit, asked, ...about } = question;
    const key = JSON.stringify([about, asked && keyOf(asked)]);
    const known = this.lists.get(key);
    if (known) return known;
    const { slots, groups } = this.rows(question);
    const list = { slots, groups, sum: this.sumOf(slots, question.calendar) };
    const oldest = this.lists.keys().next().value;
    if (this.lists.size >= MOST_ORDERS && oldest !== undefined) this.lists.delete(oldest);
    this.lists.set(key, list);
    return list;
  }

  private rows(question: ListQuestion): Omit<WholeList, 'sum'> {
    const { facts } = this;
    const kind = question.kind === null ? -1 : SUPPORTER_KINDS[question.kind].code;
    const matching = question.asked === null ? null : evaluate(question.asked.group, facts, question.asked.setting);
    const order = this.ordered(question.sorts, question.calendar);
    const slots = order.filter((slot) => {
      const place = (facts.people.flags.values[slot] ?? 0) & (FLAG.trashed | FLAG.erased);
      if (place !== (question.trashed ? FLAG.trashed : 0) || (kind >= 0 && facts.people.kind.values[slot] !== kind))
        return false;
      return matching === null || matching.has(slot);
    });
    if (question.groupBy === null) return { slots, groups: [] };
    const key = this.groupOf(question.groupBy, question.calendar);
    const inGroups = grouped(slots, key, (inside) => this.sumOf(inside, question.calendar));
    return { slots: Uint32Array.from(inGroups.rows), groups: inGroups.groups.slice(0, 2000) };
  }

  private ordered(sorts: ListQuestion['sorts'], calendar: Calendar): Uint32Array {
    const name = `${JSON.stringify(sorts)} ${calendar.today} ${calendar.fiscalYearStart}`;
    let kept = this.orders.get(name);
    if (kept) this.orders.delete(name);
    else {
      const by = sorts.map(({ by, down }) => ({ keyOf: this.keyOf(by, calendar), down }));
      const order = new Order(by, (a, b) => this.byName(a, b));
      order.build(this.facts.size);
      kept = { order, pending: new Set() };
    }
    this.orders.set(name, kept);
    const oldest = this.orders.keys().next().value;
    if (this.orders.size > MOST_ORDERS && oldest !== undefined) this.orders.delete(oldest);
    if (kept.pending.size > this.facts.size / 20) kept.order.build(this.facts.size);
    else kept.order.move(kept.pending);
    kept.pending.clear();
    return kept.order.rows;
  }

  private byName(a: number, b: number): number {
    const [x, y] = [this.facts.sortNames[a] ?? '', this.facts.sortNames[b] ?? ''];
    return x < y ? -1 : x > y ? 1 : (this.facts.ids[a] ?? 0) - (this.facts.ids[b] ?? 0);
  }

  /** What rows are put together by: amounts and numbers by the band that they lie in. */
  private groupOf(by: ListGroupBy | FieldSort, calendar: Calendar): (slot: number) => SortKey {
    const key = this.keyOf(by, calendar);
    const kind = typeof by === 'object' ? by.kind : by === 'lastYear' ? 'money' : null;
    if (kind !== 'money' && kind !== 'number') return key;
    const unit = kind === 'money' ? 100 : 1;
    return (slot) => {
      const value = key(slot);
      return typeof value === 'number' ? bandOf(value, unit) : value;
    };
  }

  private keyOf(sort: ListSorting['by'], calendar: Calendar): (slot: number) => SortKey {
    const { facts } = this;
    const year = (ago: number) => spanOf({ kind: 'fiscal-year', ago }, calendar);
    const given = (span: { from: number; to: number }) => {
      const asked = within(span);
      return (slot: number) => givenIn(facts, slot, asked);
    };
    const ever = within(spanOf({ kind: 'ever' }, calendar));
    const ifGave =
      (key: (slot: number) => number) =>
      (slot: number): SortKey =>
        (facts.gifts.count[slot] ?? 0) === 0 ? '' : key(slot);
    if (typeof sort === 'object') return fieldKey(facts, sort);
    switch (sort) {
      case 'name':
        return (slot) => facts.sortNames[slot] ?? '';
      case 'number':
        return (slot) => facts.ids[slot] ?? 0;
      case 'town':
        return (slot) => facts.people.city.at(slot);
      case 'state':
        return (slot) => facts.people.region.at(slot);
      case 'kind':
        return (slot) => kindOfCode(facts.people.kind.values[slot] ?? 0);
      case 'lifetime':
        return (slot) => givenIn(facts, slot, ever);
      case 'thisYear':
        return given(year(0));
      case 'lastYear':
        return given(year(1));
      case 'count':
        return (slot) => giftsIn(facts, slot, ever);
      case 'average':
        return ifGave((slot) => givenIn(facts, slot, ever) / Math.max(1, giftsIn(facts, slot, ever)));
      case 'largest':
        return ifGave((slot) => overGifts(facts, slot, facts.gifts.columns.cents.values, 0, Math.max));
      case 'first':
        return ifGave((slot) => overGifts(facts, slot, facts.gifts.columns.day.values, Infinity, Math.min));
      case 'last':
        return (slot) => lastGiftDay(facts, slot, Infinity) ?? '';
      case 'household':
        return (slot) => facts.sharersOf(slot).reduce((sum, other) => sum + givenIn(facts, other, ever), 0);
    }
  }

  private sumOf(slots: Iterable<number>, calendar: Calendar): ListSum {
    const [current, before] = [0, 1].map((ago) => within(spanOf({ kind: 'fiscal-year', ago }, calendar)));
    const ever = within(spanOf({ kind: 'ever' }, calendar));
    const sum = { lifetime: 0, thisYear: 0, lastYear: 0, count: 0 };
    for (const slot of slots) {
      sum.count += this.facts.gifts.count[slot] ?? 0;
      sum.lifetime += givenIn(this.facts, slot, ever);
      if (current) sum.thisYear += givenIn(this.facts, slot, current);
      if (before) sum.lastYear += givenIn(this.facts, slot, before);
    }
    return sum;
  }
}

/** What tells one question from another; a list of people never changes, so its id stands for it. */
const keyOf = ({ group, setting: { lists, segments, ...setting } }: AskedGroup) => [
  ...[group, setting, [...(lists?.keys() ?? [])], [...(segments ?? [])]],
];

function overGifts(
  facts: Facts,
  slot: number,
  values: ArrayLike<number>,
  start: number,
  choose: (a: number, b: number) => number,
): number {
  const from = facts.gifts.start[slot] ?? 0;
  const end = from + (facts.gifts.count[slot] ?? 0);
  let best = start;
  for (let row = from; row < end; row++) best = choose(best, values[row] ?? start);
  return best;
}

function fieldKey(facts: Facts, { field, kind }: FieldSort): (slot: number) => SortKey {
  const valueOf = (slot: number): string => facts.fields.get(field)?.get(slot) ?? '';
  if (!isNumeric(kind)) return valueOf;
  return (slot) => {
    const value = valueOf(slot);
    return value === '' ? '' : Number(value);
  };
}
