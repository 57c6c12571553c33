import { dayNumber, spanOf } from '../dates/index.ts';
import type { Calendar, Window } from '../dates/index.ts';
import type { Facts } from '../facts/index.ts';
import { METHOD_CODES } from '../gifts/index.ts';
import type { PaymentMethod } from '../gifts/index.ts';
import { EVER, totalOf } from '../totals/index.ts';
import type { CreditChoice, GiftFilter } from '../totals/index.ts';
import { Reader } from './reader.ts';
import type { Given } from './reader.ts';
import { yearsIn } from './years.ts';

/** Which gifts a condition asks about; what is null or left out is any. */
export interface GiftsAsked {
  fund: number | null;
  campaign?: number | null;
  appeal?: number | null;
  method?: PaymentMethod | null;
  window: Window;
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
