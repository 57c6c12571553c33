import { dayNumber, fiscalYearOfDay, spanOf } from '../dates/index.ts';
import type { Calendar, Window } from '../dates/index.ts';
import type { Facts } from '../facts/index.ts';
import { METHOD_CODES } from '../gifts/index.ts';
import type { PaymentMethod } from '../gifts/index.ts';
import { asksWhere, EVER, totalOf } from '../totals/index.ts';
import type { CreditChoice, GiftFilter } from '../totals/index.ts';

/** Which gifts a condition asks about; what is null or left out is any. */
export interface GiftsAsked {
  fund: number | null;
  campaign?: number | null;
  appeal?: number | null;
  method?: PaymentMethod | null;
  window: Window;
}

/** What is measured of the gifts that are asked about, each with its words and what kind of figure it is. */
export const MEASURES = {
  sum: { word: 'Total', says: 'total given', type: 'money' },
  number: { word: 'Number of gifts', says: 'number of gifts', type: 'number' },
  average: { word: 'Average gift', says: 'average gift', type: 'money' },
  largest: { word: 'Largest gift', says: 'largest gift', type: 'money' },
  smallest: { word: 'Smallest gift', says: 'smallest gift', type: 'money' },
  first: { word: 'Date of the first gift', says: 'first gift', type: 'date' },
  last: { word: 'Date of the last gift', says: 'last gift', type: 'date' },
  'first-amount': { word: 'Amount of the first gift', says: 'amount of the first gift', type: 'money' },
  'last-amount': { word: 'Amount of the last gift', says: 'amount of the last gift', type: 'money' },
  'days-since': { word: 'Days since the last gift', says: 'days since the last gift', type: 'number' },
  years: { word: 'Number of fiscal years given in', says: 'number of fiscal years with a gift', type: 'number' },
  run: { word: 'Longest run of fiscal years', says: 'longest run of fiscal years with a gift', type: 'number' },
  change: { word: 'Change of the total', says: 'change of the total given', type: 'money' },
} as const satisfies Record<string, { word: string; says: string; type: 'money' | 'number' | 'date' }>;
export type Measure = keyof typeof MEASURES;
export const MEASURE_NAMES = Object.keys(MEASURES) as [Measure, ...Measure[]];

/**
 * A measure of gifts with its test. Figures lie between `atLeast` and `atMost` (cents or a number), dates within
 * `within`; what has no value (the largest of no gifts) meets no test. Gifts dated after today are no first or last
 * ones.
 */
export interface GiftsCondition extends GiftsAsked {
  kind: 'gifts';
  measure: Measure;
  /** How large each gift is that counts, in cents. */
  cents?: { atLeast: number | null; atMost: number | null };
  /** Of a change: the window that it is measured against. */
  against?: Window;
  atLeast?: number | null;
  atMost?: number | null;
  within?: Window | null;
  not?: boolean;
}

/** The gifts that a condition asks about, in the terms of facts. */
export const filterOf = (asked: GiftsAsked, calendar: Calendar): GiftFilter => ({
  span: spanOf(asked.window, calendar),
  fund: asked.fund,
  campaign: asked.campaign ?? null,
  appeal: asked.appeal ?? null,
  method: asked.method ? METHOD_CODES.indexOf(asked.method) : null,
});

/** The bounds that a measure's value lies between, dates as day numbers. */
export function boundsOf(condition: GiftsCondition, calendar: Calendar): { low: number; high: number } {
  if (MEASURES[condition.measure].type === 'date') {
    const { from, to } = condition.within ? spanOf(condition.within, calendar) : EVER;
    return { low: from, high: to };
  }
  return { low: condition.atLeast ?? -Infinity, high: condition.atMost ?? Infinity };
}

/** The figure that a condition sees of one supporter. */
export interface Tally {
  /** Its value for the supporter that the pass is at; NaN for none. */
  value: () => number;
}

/** Reads one supporter's gifts once, for as many conditions as ask about them. */
export class GivingPass {
  private readonly counters: Counter[] = [];
  private readonly known = new Map<string, Tally>();
  private slot = 0;
  private fresh = false;

  constructor(
    private readonly facts: Facts,
    private readonly calendar: Calendar,
  ) {}

  /** What a condition measures; the same question asked twice is answered once. */
  ask(condition: GiftsCondition): Tally {
    const { atLeast: _low, atMost: _high, within: _within, not: _not, ...asked } = condition;
    const key = JSON.stringify(asked);
    const known = this.known.get(key);
    if (known) return known;
    const { against, measure } = condition;
    const tally = measure === 'change' ? this.change(condition, against ?? condition.window) : this.one(condition);
    this.known.set(key, tally);
    return tally;
  }

  private one(condition: GiftsCondition): Tally {
    const counter = new Counter(condition, this.calendar);
    this.counters.push(counter);
    this.inParts = null;
    return {
      value: () => {
        this.see();
        return counter.value();
      },
    };
  }

  private change(condition: GiftsCondition, against: Window): Tally {
    const now = this.ask({ ...condition, measure: 'sum' });
    const before = this.ask({ ...condition, measure: 'sum', window: against });
    return { value: () => now.value() - before.value() };
  }

  /** A sum by the choice of whose giving counts. */
  credited(asked: GiftsAsked, credit: CreditChoice): Tally {
    const filter = filterOf(asked, this.calendar);
    return { value: () => totalOf(this.facts, [this.slot], filter, credit).cents };
  }

  /** Goes to a supporter; their gifts are read once something is asked of them. */
  goTo(slot: number): void {
    this.slot = slot;
    this.fresh = false;
  }

  /** Reads the gifts of the supporter that the pass is at, unless they were read. */
  private see(): void {
    if (this.fresh) return;
    this.fresh = true;
    const { counters, facts, slot } = this;
    for (let at = 0; at < counters.length; at++) (counters[at] as Counter).begin();
    this.read(facts.gifts, slot, null, counters);
    const places = this.places;
    if (places.length > 0 && (facts.splits.count[slot] ?? 0) > 0)
      this.read(facts.splits, slot, facts.splits.columns.gift.values, places);
  }

  /** Those that ask where gifts went, and so look at the parts of split ones. */
  private get places(): readonly Counter[] {
    return (this.inParts ??= this.counters.filter((counter) => counter.inParts));
  }
  private inParts: Counter[] | null = null;

  private read(
    rows: Facts['gifts'] | Facts['splits'],
    slot: number,
    gifts: ArrayLike<number> | null,
    counters: readonly Counter[],
  ): void {
    const from = rows.start[slot] ?? 0;
    const end = from + (rows.count[slot] ?? 0);
    const { day, cents, fund, campaign, appeal, method } = rows.columns;
    const [days, amounts, funds] = [day.values, cents.values, fund.values];
    const [campaigns, appeals, methods] = [campaign.values, appeal.values, method.values];
    for (let row = from; row < end; row++) {
      const on = days[row] as number;
      const amount = amounts[row] as number;
      const gift = gifts === null ? -1 - row : (gifts[row] as number);
      for (let at = 0; at < counters.length; at++) {
        const one = counters[at] as Counter;
        if (on < one.first || on > one.last) continue;
        if (one.fund !== ANY && one.fund !== funds[row]) continue;
        if (one.campaign !== ANY && one.campaign !== campaigns[row]) continue;
        if (one.appeal !== ANY && one.appeal !== appeals[row]) continue;
        if (one.method !== ANY && one.method !== methods[row]) continue;
        one.add(on, amount, gift);
      }
    }
  }
}

/** Stands for any fund, campaign, appeal or method: no row has it. */
const ANY = -1;

/** One measure of the gifts that it asks about. Parts of a split gift are one gift, of the size that went there. */
class Counter {
  readonly first: number;
  readonly last: number;
  readonly fund: number;
  readonly campaign: number;
  readonly appeal: number;
  readonly method: number;
  readonly inParts: boolean;
  private readonly least: number;
  private readonly most: number;
  private readonly today: number;
  private readonly yearStart: number;
  private readonly measure: Measure;
  /** The gift that is being read: its name, its day, and what of it was asked about so far. */
  private gift = 0;
  private day = 0;
  private amount = 0;
  private open = false;
  private count = 0;
  private sum = 0;
  private figure = NaN;
  private on = NaN;
  private readonly years = new Set<number>();

  constructor(condition: GiftsCondition, calendar: Calendar) {
    const filter = filterOf(condition, calendar);
    this.measure = condition.measure;
    this.today = dayNumber(calendar.today);
    this.yearStart = calendar.fiscalYearStart;
    this.first = filter.span.from;
    this.last = DATED.has(condition.measure) ? Math.min(filter.span.to, this.today) : filter.span.to;
    this.fund = filter.fund ?? ANY;
    this.campaign = filter.campaign ?? ANY;
    this.appeal = filter.appeal ?? ANY;
    this.method = filter.method ?? ANY;
    this.inParts = asksWhere(filter);
    this.least = condition.cents?.atLeast ?? -Infinity;
    this.most = condition.cents?.atMost ?? Infinity;
  }

  begin(): void {
    this.open = false;
    this.count = 0;
    this.sum = 0;
    this.figure = NaN;
    this.on = NaN;
    if (this.years.size > 0) this.years.clear();
  }

  /** A row of a gift; rows of one gift come one after another. */
  add(day: number, cents: number, gift: number): void {
    if (this.open && gift === this.gift) {
      this.amount += cents;
      return;
    }
    if (this.open) this.take();
    this.open = true;
    this.gift = gift;
    this.day = day;
    this.amount = cents;
  }

  private take(): void {
    this.open = false;
    const { amount, day } = this;
    if (amount < this.least || amount > this.most) return;
    this.count++;
    switch (this.measure) {
      case 'sum':
      case 'average':
      case 'change':
        this.sum += amount;
        break;
      case 'largest':
        if (!(amount <= this.figure)) this.figure = amount;
        break;
      case 'smallest':
        if (!(amount >= this.figure)) this.figure = amount;
        break;
      case 'first':
      case 'first-amount':
        if (day >= this.on) break;
        this.on = day;
        this.figure = amount;
        break;
      case 'last':
      case 'last-amount':
      case 'days-since':
        // Of two on one day, the one that was recorded later.
        if (day < this.on) break;
        this.on = day;
        this.figure = amount;
        break;
      case 'years':
      case 'run':
        this.years.add(fiscalYearOfDay(day, this.yearStart));
        break;
      case 'number':
        break;
    }
  }

  value(): number {
    if (this.open) this.take();
    switch (this.measure) {
      case 'sum':
      case 'change':
        return this.sum;
      case 'number':
        return this.count;
      case 'average':
        return this.count === 0 ? NaN : Math.round(this.sum / this.count);
      case 'first':
      case 'last':
        return this.on;
      case 'days-since':
        return this.today - this.on;
      case 'years':
        return this.years.size;
      case 'run':
        return longestRun(this.years);
      default:
        return this.figure;
    }
  }
}

/** Measures of a day: gifts dated later than today are none yet. */
const DATED: ReadonlySet<Measure> = new Set(['first', 'last', 'first-amount', 'last-amount', 'days-since']);

/** The most numbers that follow one another. */
function longestRun(numbers: ReadonlySet<number>): number {
  let longest = 0;
  for (const number of numbers) {
    if (numbers.has(number - 1)) continue;
    let length = 1;
    while (numbers.has(number + length)) length++;
    longest = Math.max(longest, length);
  }
  return longest;
}
