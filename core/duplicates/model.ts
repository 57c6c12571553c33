import { FIELDS, LEVELS } from './levels.ts';
import type { Agreement, Field } from './levels.ts';

/*
 * How likely two records are one, after I. P. Fellegi and A. B. Sunter, "A Theory for Record Linkage", Journal of the
 * American Statistical Association 64 (1969): each level of agreement weighs as often as it is seen among pairs that are
 * one against pairs that are not. Pairs that are not one come in three sorts here: strangers; relatives of one home,
 * who share a last name, an address and a telephone without being one; and a parent and a child of one name. A pair must
 * be likelier as one than as any of these.
 * How often is what the data says, by expectation maximisation (W. E. Winkler, "Using the EM Algorithm for Weight
 * Computation in the Fellegi-Sunter Model of Record Linkage", Proceedings of the Section on Survey Research Methods,
 * American Statistical Association, 1988), begun at, and held near, values that are sensible of donors.
 */

/** What a pair may be. */
export const SORTS = ['one', 'relatives', 'generations', 'strangers'] as const;
export type PairSort = (typeof SORTS)[number];

/** How often each level of a field is seen among pairs of a sort, of those in which both say something. */
type Rates = { [F in Field]: readonly number[] };
export interface Model {
  /** How often a pair that is compared is of the sort. */
  share: Readonly<Record<PairSort, number>>;
  rates: Readonly<Record<PairSort, Rates>>;
}

/** In the order of `LEVELS`, without `nothing`. They need not add up; see `scaled`. */
const BEGINNING: Record<PairSort, Record<Field, readonly number[]>> = {
  one: {
    first: [800, 70, 60, 35, 15, 20],
    middle: [700, 230, 70],
    last: [850, 20, 25, 70, 15, 20],
    name: [800, 120, 60, 20],
    generation: [930, 20, 46, 4],
    email: [650, 350],
    phone: [650, 30, 320],
    street: [640, 60, 30, 90, 180],
    birthday: [900, 40, 45, 15],
    outside: [900, 100],
  },
  relatives: {
    first: [2, 2, 8, 25, 6, 957],
    middle: [60, 80, 860],
    last: [900, 10, 25, 20, 5, 40],
    name: [10, 20, 10, 960],
    generation: [940, 10, 40, 10],
    email: [250, 750],
    phone: [600, 10, 390],
    street: [850, 40, 10, 60, 40],
    birthday: [3, 1, 6, 990],
    outside: [5, 995],
  },
  generations: {
    first: [960, 15, 5, 15, 2, 3],
    middle: [500, 100, 400],
    last: [960, 5, 10, 15, 5, 5],
    name: [10, 20, 10, 960],
    generation: [150, 10, 420, 420],
    email: [100, 900],
    phone: [600, 10, 390],
    street: [850, 40, 10, 60, 40],
    birthday: [3, 1, 6, 990],
    outside: [5, 995],
  },
  strangers: {
    first: [300, 40, 30, 40, 30, 560],
    middle: [50, 80, 870],
    last: [350, 3, 12, 40, 55, 540],
    name: [30, 40, 10, 920],
    generation: [940, 10, 40, 10],
    email: [3, 997],
    phone: [10, 2, 988],
    street: [15, 40, 5, 200, 740],
    birthday: [15, 6, 6, 973],
    outside: [1, 999],
  },
};

const scaled = (counts: readonly number[]): number[] => {
  const sum = counts.reduce((total, count) => total + count, 0);
  return [0, ...counts.map((count) => count / sum)];
};
const byField = <T>(of: (field: Field) => T): Record<Field, T> =>
  Object.fromEntries(FIELDS.map((field) => [field, of(field)])) as Record<Field, T>;
const ratesOf = (sort: PairSort): Rates => byField((field) => scaled(BEGINNING[sort][field]));

const bySort = <T>(of: (sort: PairSort) => T): Record<PairSort, T> => ({
  ...{ one: of('one'), relatives: of('relatives'), generations: of('generations'), strangers: of('strangers') },
});

/** What is supposed before any data was seen. */
export const FIRST_MODEL: Model = {
  share: { one: 0.1, relatives: 0.2, generations: 0.005, strangers: 0.695 },
  rates: bySort(ratesOf),
};

/** How often the values in which two records agree are met: as a multiple of how often two strangers share one. */
export interface Rarity {
  first: number;
  last: number;
}
const USUAL: Rarity = { first: 1, last: 1 };

/** The logarithm of how likely a pair is of a sort and agrees as it does. */
function logOf(model: Model, sort: PairSort, agreement: Agreement, { first, last }: Rarity): number {
  const rates = model.rates[sort];
  let sum = Math.log(model.share[sort]);
  for (let at = 0; at < FIELDS.length; at++) {
    const level = agreement[at] ?? 0;
    if (level > 0) sum += Math.log(rates[FIELDS[at] ?? 'first'][level] ?? 1);
  }
  // Strangers share a rare name less often than a common one; of one family they share it whatever it is.
  return sort === 'strangers' ? sum + Math.log(first) + Math.log(last) : sum;
}

/** How likely a pair is of each sort, given how it agrees. They add up to 1. */
export function chances(model: Model, agreement: Agreement, rarity = USUAL): Record<PairSort, number> {
  const logs = bySort((sort) => logOf(model, sort, agreement, rarity));
  const top = Math.max(logs.one, logs.relatives, logs.generations, logs.strangers);
  const shares = bySort((sort) => Math.exp(logs[sort] - top));
  const sum = shares.one + shares.relatives + shares.generations + shares.strangers;
  return bySort((sort) => shares[sort] / sum);
}

/** How many pairs the beginning counts for against those that were seen. */
const HELD = 400;

/**
 * The model that explains best how many pairs were seen to agree in which way, held near the beginning as if `HELD`
 * pairs of each sort had been seen as that says. Few pairs leave it as it is.
 */
export function fitted(seen: readonly { agreement: Agreement; many: number }[], rounds = 15): Model {
  let model = FIRST_MODEL;
  for (let round = 0; round < rounds; round++) {
    const shares = bySort((sort) => FIRST_MODEL.share[sort] * HELD * SORTS.length);
    const counts = bySort((sort) => byField((field) => FIRST_MODEL.rates[sort][field].map((rate) => rate * HELD)));
    for (const { agreement, many } of seen) {
      const likely = chances(model, agreement);
      for (const sort of SORTS) {
        const weight = likely[sort] * many;
        shares[sort] += weight;
        FIELDS.forEach((field, at) => {
          const level = agreement[at] ?? 0;
          const rates = counts[sort][field];
          if (level > 0) rates[level] = (rates[level] ?? 0) + weight;
        });
      }
    }
    const all = SORTS.reduce((sum, sort) => sum + shares[sort], 0);
    model = {
      share: bySort((sort) => shares[sort] / all),
      rates: bySort((sort) => byField((field) => scaled(counts[sort][field].slice(1)))),
    };
  }
  return model;
}

/** The weight of each level in bits: how much likelier it is among pairs that are one than among strangers. */
export const weightsOf = (model: Model): Record<Field, { level: string; bits: number }[]> =>
  Object.fromEntries(
    FIELDS.map((field) => [
      field,
      LEVELS[field]
        .slice(1)
        .map((level, at) => ({
          level,
          bits: Math.log2((model.rates.one[field][at + 1] ?? 1) / (model.rates.strangers[field][at + 1] ?? 1)),
        })),
    ]),
  ) as Record<Field, { level: string; bits: number }[]>;
