import { dayNumber, fiscalYearSpan, spanOf } from '../dates/index.ts';
import type { Calendar, Window } from '../dates/index.ts';
import { grown } from '../facts/index.ts';
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

/** Of a supporter the gifts that were asked about, in the order of facts: days and amounts from `begin` to before `end`. */
interface Given {
  begin: number;
  end: number;
  days: Int32Array;
  cents: Float64Array;
  today: number;
  fiscalYearStart: number;
}

function sumOf({ begin, end, cents }: Given): number {
  let sum = 0;
  for (let at = begin; at < end; at++) sum += cents[at] as number;
  return sum;
}

/** The place of the first or the last gift up to today, -1 where there is none; of several on that day the largest. */
function placeOf({ begin, end, days, cents, today }: Given, last: boolean): number {
  let found = -1;
  for (let at = begin; at < end; at++) {
    const day = days[at] as number;
    if (day > today) continue;
    const on = found < 0 ? NaN : (days[found] as number);
    if (found < 0 || (last ? day > on : day < on) || (day === on && (cents[at] as number) > (cents[found] as number)))
      found = at;
  }
  return found;
}
const at = (values: Int32Array | Float64Array, place: number): number => (place < 0 ? NaN : (values[place] as number));

/**
 * What is measured of the gifts that are asked about: its words, what kind of figure it is, and how it is made. What has
 * no value (the largest of no gifts) is NaN.
 */
export const MEASURES = {
  sum: { word: 'Total', says: 'total given', type: 'money', of: sumOf },
  number: { word: 'Number of gifts', says: 'number of gifts', type: 'number', of: ({ begin, end }) => end - begin },
  average: {
    ...{ word: 'Average gift', says: 'average gift', type: 'money' },
    of: (given) => (given.end === given.begin ? NaN : Math.round(sumOf(given) / (given.end - given.begin))),
  },
  largest: {
    ...{ word: 'Largest gift', says: 'largest gift', type: 'money' },
    of({ begin, end, cents }) {
      let largest = NaN;
      for (let place = begin; place < end; place++)
        if (!((cents[place] as number) <= largest)) largest = cents[place] as number;
      return largest;
    },
  },
  smallest: {
    ...{ word: 'Smallest gift', says: 'smallest gift', type: 'money' },
    of({ begin, end, cents }) {
      let smallest = NaN;
      for (let place = begin; place < end; place++)
        if (!((cents[place] as number) >= smallest)) smallest = cents[place] as number;
      return smallest;
    },
  },
  first: {
    ...{ word: 'Date of the first gift', says: 'first gift', type: 'date' },
    of: (given) => at(given.days, placeOf(given, false)),
  },
  last: {
    ...{ word: 'Date of the last gift', says: 'last gift', type: 'date' },
    of: (given) => at(given.days, placeOf(given, true)),
  },
  'first-amount': {
    ...{ word: 'Amount of the first gift', says: 'amount of the first gift', type: 'money' },
    of: (given) => at(given.cents, placeOf(given, false)),
  },
  'last-amount': {
    ...{ word: 'Amount of the last gift', says: 'amount of the last gift', type: 'money' },
    of: (given) => at(given.cents, placeOf(given, true)),
  },
  'days-since': {
    ...{ word: 'Days since the last gift', says: 'days since the last gift', type: 'number', unit: 'day' },
    of: (given) => given.today - at(given.days, placeOf(given, true)),
  },
  years: {
    ...{ word: 'Number of fiscal years given in', says: 'number of fiscal years with a gift', type: 'number' },
    ...{ unit: 'fiscal year', of: (given) => yearsIn(given).number },
  },
  run: {
    ...{ word: 'Longest run of fiscal years', says: 'longest run of fiscal years with a gift', type: 'number' },
    ...{ unit: 'fiscal year', of: (given) => yearsIn(given).run },
  },
  // Made of two sums: of the window that is asked about, and of the one that it is measured against.
  change: { word: 'Change of the total', says: 'change of the total given', type: 'money', of: sumOf },
} as const satisfies Record<
  string,
  { word: string; says: string; type: 'money' | 'number' | 'date'; unit?: string; of: (given: Given) => number }
>;
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

/**
 * Reads the gifts of one supporter after another, for as many conditions as ask about them, while they are at hand: the
 * same question asked twice is answered once.
 */
export class GivingPass {
  private readonly known = new Map<string, Tally>();
  private readonly today: number;
  private slot = 0;
  /** Counts supporters, so that a tally knows whether it was made for this one. */
  private turn = 0;

  constructor(
    private readonly facts: Facts,
    private readonly calendar: Calendar,
  ) {
    this.today = dayNumber(calendar.today);
  }

  /** Goes to a supporter; their gifts are read once something is asked of them. */
  goTo(slot: number): void {
    this.slot = slot;
    this.turn++;
  }

  /** What a condition measures of legal donors. */
  ask(condition: GiftsCondition): Tally {
    const { atLeast: _low, atMost: _high, within: _within, not: _not, ...asked } = condition;
    return this.once(JSON.stringify(asked), () => {
      const { against, measure, window } = asked;
      if (measure !== 'change') return this.measured(asked);
      const now = this.ask({ ...asked, measure: 'sum' });
      const before = this.ask({ ...asked, measure: 'sum', window: against ?? window });
      return { value: () => now.value() - before.value() };
    });
  }

  /** A sum by the choice of whose giving counts. */
  credited(asked: GiftsAsked, credit: CreditChoice): Tally {
    const filter = filterOf(asked, this.calendar);
    return { value: () => totalOf(this.facts, [this.slot], filter, credit).cents };
  }

  private once(key: string, make: () => Tally): Tally {
    const known = this.known.get(key) ?? make();
    this.known.set(key, known);
    return known;
  }

  private measured(asked: GiftsCondition): Tally {
    const reader = new Reader(this.facts, filterOf(asked, this.calendar), asked.cents);
    const { fiscalYearStart } = this.calendar;
    const given: Given = {
      begin: 0,
      end: 0,
      days: reader.days,
      cents: reader.cents,
      today: this.today,
      fiscalYearStart,
    };
    const measure: (given: Given) => number = MEASURES[asked.measure].of;
    let [turn, figure] = [-1, NaN];
    return {
      value: () => {
        if (turn === this.turn) return figure;
        turn = this.turn;
        reader.read(this.slot, given);
        figure = measure(given);
        return figure;
      },
    };
  }
}

/** Stands for any fund, campaign, appeal or method: no row has it. */
const ANY = -1;
const SOME_GIFTS = 64;

/** Reads of a supporter the gifts that a filter lets through, and of split ones as much as went there, as one gift. */
class Reader {
  days = new Int32Array(SOME_GIFTS);
  cents = new Float64Array(SOME_GIFTS);
  private many = 0;
  private readonly from: number;
  private readonly to: number;
  private readonly fund: number;
  private readonly campaign: number;
  private readonly appeal: number;
  private readonly method: number;
  /** Whether nothing but days is asked. */
  private readonly plain: boolean;
  /** Whether nothing at all is asked, so that facts answer as they are. */
  private readonly everything: boolean;
  private readonly inParts: boolean;
  private readonly size: { least: number; most: number } | null;

  constructor(
    private readonly facts: Facts,
    filter: GiftFilter,
    size: GiftsCondition['cents'],
  ) {
    this.from = filter.span.from;
    this.to = filter.span.to;
    this.fund = filter.fund ?? ANY;
    this.campaign = filter.campaign ?? ANY;
    this.appeal = filter.appeal ?? ANY;
    this.method = filter.method ?? ANY;
    this.inParts = asksWhere(filter);
    this.plain = !this.inParts && filter.method === null;
    const bounded = size && (size.atLeast !== null || size.atMost !== null);
    this.everything = this.plain && !bounded && this.from <= EVER.from && this.to >= EVER.to;
    this.size = bounded ? { least: size.atLeast ?? -Infinity, most: size.atMost ?? Infinity } : null;
  }

  /** Puts the gifts of a supporter into `given`, where they stay until the next is read. */
  read(slot: number, given: Given): void {
    const { gifts, splits } = this.facts;
    if (this.everything) {
      given.begin = gifts.start[slot] as number;
      given.end = given.begin + (gifts.count[slot] as number);
      given.days = gifts.columns.day.values;
      given.cents = gifts.columns.cents.values;
      return;
    }
    this.many = 0;
    const many = gifts.count[slot] as number;
    this.makeRoom(many);
    if (this.plain) this.readPlain(gifts.start[slot] as number, many);
    else this.readFiltered(gifts, gifts.start[slot] as number, many, null);
    const parts = this.inParts ? (splits.count[slot] as number) : 0;
    if (parts > 0) {
      this.makeRoom(this.many + parts);
      this.readFiltered(splits, splits.start[slot] as number, parts, splits.columns.gift.values);
    }
    if (this.size !== null) this.keepSized(this.size.least, this.size.most);
    given.end = this.many;
    given.days = this.days;
    given.cents = this.cents;
  }

  private readPlain(start: number, count: number): void {
    const { day, cents } = this.facts.gifts.columns;
    const [given, amounts, days, sums, from, to] = [
      day.values,
      cents.values,
      this.days,
      this.cents,
      this.from,
      this.to,
    ];
    const end = start + count;
    let many = 0;
    for (let row = start; row < end; row++) {
      const on = given[row] as number;
      if (on < from || on > to) continue;
      days[many] = on;
      sums[many++] = amounts[row] as number;
    }
    this.many = many;
  }

  private readFiltered(
    rows: Facts['gifts'] | Facts['splits'],
    start: number,
    count: number,
    names: ArrayLike<number> | null,
  ): void {
    const { day, cents } = rows.columns;
    const [given, amounts, days, sums] = [day.values, cents.values, this.days, this.cents];
    const [funds, campaigns] = [rows.columns.fund.values, rows.columns.campaign.values];
    const [appeals, methods] = [rows.columns.appeal.values, rows.columns.method.values];
    const { fund, campaign, appeal, method, from, to } = this;
    const end = start + count;
    let many = this.many;
    let before = NaN;
    for (let row = start; row < end; row++) {
      const on = given[row] as number;
      if (on < from || on > to || (fund !== ANY && funds[row] !== fund)) continue;
      if (campaign !== ANY && campaigns[row] !== campaign) continue;
      if (appeal !== ANY && appeals[row] !== appeal) continue;
      if (method !== ANY && methods[row] !== method) continue;
      const amount = amounts[row] as number;
      // The parts of one gift stand together.
      if (names !== null && names[row] === before) {
        sums[many - 1] = (sums[many - 1] as number) + amount;
        continue;
      }
      if (names !== null) before = names[row] as number;
      days[many] = on;
      sums[many++] = amount;
    }
    this.many = many;
  }

  private keepSized(least: number, most: number): void {
    let kept = 0;
    for (let place = 0; place < this.many; place++) {
      const amount = this.cents[place] as number;
      if (amount < least || amount > most) continue;
      this.days[kept] = this.days[place] as number;
      this.cents[kept++] = amount;
    }
    this.many = kept;
  }

  private makeRoom(needed: number): void {
    if (needed <= this.days.length) return;
    this.days = grown(this.days, needed * 2);
    this.cents = grown(this.cents, needed * 2);
  }
}

/** The first days of fiscal years by the month that they begin in, so that a day's year is looked up. */
const YEAR_TABLES = new Map<number, Int32Array>();
/** Every year that a date of ours may have. */
const [FIRST_YEAR, YEARS] = [1799, 402];
function yearTable(startMonth: number): Int32Array {
  const known = YEAR_TABLES.get(startMonth);
  if (known) return known;
  const made = Int32Array.from({ length: YEARS + 1 }, (_, year) =>
    dayNumber(fiscalYearSpan(FIRST_YEAR + year, startMonth).from),
  );
  YEAR_TABLES.set(startMonth, made);
  return made;
}

/** The place of a day's fiscal year in a table; days before and after it count to its ends. */
function yearPlace(begins: Int32Array, day: number): number {
  let place = Math.min(YEARS, Math.max(0, Math.floor((day - (begins[0] as number)) / 365.2425)));
  while (place < YEARS && day >= (begins[place + 1] as number)) place++;
  while (place > 0 && day < (begins[place] as number)) place--;
  return place;
}

const marks = new Uint8Array(YEARS + 2);
const seen: number[] = [];
/** How many fiscal years the gifts lie in, and the most of those that follow one another. */
function yearsIn({ begin, end, days, fiscalYearStart }: Given): { number: number; run: number } {
  const table = yearTable(fiscalYearStart);
  for (let at = begin; at < end; at++) {
    const place = yearPlace(table, days[at] as number);
    if (marks[place] === 1) continue;
    marks[place] = 1;
    seen.push(place);
  }
  let run = 0;
  for (const place of seen) {
    if (marks[place - 1] === 1) continue;
    let length = 1;
    while (marks[place + length] === 1) length++;
    if (length > run) run = length;
  }
  const number = seen.length;
  for (const place of seen) marks[place] = 0;
  seen.length = 0;
  return { number, run };
}
