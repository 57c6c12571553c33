import { listedIn, partIn } from '../catalogue/index.ts';
import type { Listed } from '../catalogue/index.ts';
import { withArticle } from '../names/index.ts';
import type { Given } from './given.ts';
import { yearsIn } from './years.ts';

function sumOf({ begin, end, cents }: Given): number {
  let sum = 0;
  for (let at = begin; at < end; at++) sum += cents[at] as number;
  return sum;
}

/** The place of the first or the last gift up to today, -1 where there is none; of several on that day the largest. */
function placeOf(given: Given, last: boolean): number {
  const { days, cents, today, inTurn } = given;
  let { begin, end } = given;
  if (inTurn) {
    // None but those of the day at the one end count.
    while (end > begin && (days[end - 1] as number) > today) end--;
    let [from, to] = last ? [end, end] : [begin, begin];
    while (last && from > begin && days[from - 1] === days[end - 1]) from--;
    while (!last && to < end && days[to] === days[begin]) to++;
    [begin, end] = [from, to];
  }
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
  sum: { word: 'Total', says: ({ sum }) => `total ${sum ?? ''}`, type: 'money', of: sumOf },
  number: {
    word: 'Number',
    says: ({ one, many }) => `number of ${many ?? `${one}s`}`,
    type: 'number',
    of: ({ begin, end }) => end - begin,
  },
  average: {
    ...{ word: 'Average', says: ({ one }) => `average ${one}`, type: 'money' },
    of: (given) => (given.end === given.begin ? NaN : Math.round(sumOf(given) / (given.end - given.begin))),
  },
  largest: {
    ...{ word: 'Largest', says: ({ one }) => `largest ${one}`, type: 'money' },
    of({ begin, end, cents }) {
      let largest = NaN;
      for (let place = begin; place < end; place++)
        if (!((cents[place] as number) <= largest)) largest = cents[place] as number;
      return largest;
    },
  },
  smallest: {
    ...{ word: 'Smallest', says: ({ one }) => `smallest ${one}`, type: 'money' },
    of({ begin, end, cents }) {
      let smallest = NaN;
      for (let place = begin; place < end; place++)
        if (!((cents[place] as number) >= smallest)) smallest = cents[place] as number;
      return smallest;
    },
  },
  first: {
    ...{ word: 'Date of the first', says: ({ one }) => `first ${one}`, type: 'date' },
    of: (given) => at(given.days, placeOf(given, false)),
  },
  last: {
    ...{ word: 'Date of the last', says: ({ one }) => `last ${one}`, type: 'date' },
    of: (given) => at(given.days, placeOf(given, true)),
  },
  'first-amount': {
    ...{ word: 'Amount of the first', says: ({ one }) => `amount of the first ${one}`, type: 'money' },
    of: (given) => at(given.cents, placeOf(given, false)),
  },
  'last-amount': {
    ...{ word: 'Amount of the last', says: ({ one }) => `amount of the last ${one}`, type: 'money' },
    of: (given) => at(given.cents, placeOf(given, true)),
  },
  'days-since': {
    ...{ word: 'Days since the last', says: ({ one }) => `days since the last ${one}`, type: 'number', unit: 'day' },
    of: (given) => given.today - at(given.days, placeOf(given, true)),
  },
  years: {
    ...{
      word: 'Number of fiscal years',
      says: ({ one }) => `number of fiscal years with ${withArticle(one)}`,
      type: 'number',
    },
    ...{ unit: 'fiscal year', of: (given) => yearsIn(given).number },
  },
  run: {
    ...{
      word: 'Longest run of fiscal years',
      says: ({ one }) => `longest run of fiscal years with ${withArticle(one)}`,
      type: 'number',
    },
    ...{ unit: 'fiscal year', of: (given) => yearsIn(given).run },
  },
  // Made of two sums: of the window that is asked about, and of the one that it is measured against.
  change: {
    word: 'Change of the total',
    says: ({ sum }) => `change of the total ${sum ?? ''}`,
    type: 'money',
    of: sumOf,
  },
} as const satisfies Record<string, Measured>;
export type Measure = keyof typeof MEASURES;
export const MEASURE_NAMES = Object.keys(MEASURES) as [Measure, ...Measure[]];

interface Measured {
  word: string;
  /** How it is said of the rows of a list. */
  says: (listed: Listed) => string;
  type: 'money' | 'number' | 'date';
  /** What it counts, where that is not the rows themselves. */
  unit?: string;
  of: (given: Given) => number;
}
export const measureAs = (measure: Measure): Measured => MEASURES[measure];

/** What can be measured of a list: amounts where its rows have some, dates where they have a day. */
export function measuresOf({ sum, dated }: Listed): Measure[] {
  return MEASURE_NAMES.filter((name) => {
    const { type, unit } = measureAs(name);
    if (type === 'money') return sum !== undefined && (dated || !/first|last|change/.test(name));
    return name === 'number' || (dated && (type === 'date' || unit !== undefined));
  });
}

/** The list that a condition is about; null where there is none, or none that can be measured and asked so. */
export function listOf(of: string, measure: Measure, where: readonly { part: string }[]): Listed | null {
  const listed = listedIn(of);
  if (listed === null || !measuresOf(listed).includes(measure)) return null;
  return where.every(({ part }) => partIn(listed.parts, part)) ? listed : null;
}
