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
  /** How many pairs of each sort there are among all records. */
  pairs: Readonly<Record<PairSort, number>>;
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
    birthday: [905, 40, 47, 8],
    outside: [900, 100],
  },
  relatives: {
    first: [2, 1, 8, 2, 6, 981],
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
    generation: [60, 10, 465, 465],
    email: [100, 900],
    phone: [600, 10, 390],
    street: [850, 40, 10, 60, 40],
    birthday: [3, 1, 6, 990],
    outside: [5, 995],
  },
  // Of two who are drawn from all at random; what names they share is counted, not supposed.
  strangers: {
    first: [20, 4, 2, 3, 5, 966],
    middle: [60, 20, 920],
    last: [2, 0.1, 0.5, 0.8, 1.5, 995],
    name: [0.3, 1, 0.2, 998.5],
    generation: [940, 3, 55, 2],
    email: [0.003, 999.997],
    phone: [0.01, 0.005, 999.985],
    street: [0.01, 0.02, 0.005, 4, 996],
    birthday: [0.06, 2.7, 0.4, 997],
    outside: [0.001, 999.999],
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

/** What a record is like to begin with: so many pairs of each sort for each record. */
const FOR_EACH = { one: 0.05, relatives: 0.1, generations: 0.002 } as const;

/** What is supposed of so many records before their pairs were seen. */
export const firstModel = (records: number): Model => ({
  pairs: bySort((sort) => (sort === 'strangers' ? (records * records) / 2 : FOR_EACH[sort] * records)),
  rates: bySort(ratesOf),
});

/** How likely somebody who is drawn has the very first name, and the last name or name, in which two agree; null where they do not. */
export interface Rarity {
  first: number | null;
  last: number | null;
}

/** The logarithm of how many pairs of a sort are expected to agree as a pair does. */
function logOf(model: Model, sort: PairSort, agreement: Agreement, { first, last }: Rarity): number {
  const rates = model.rates[sort];
  let sum = Math.log(model.pairs[sort]);
  for (let at = 0; at < FIELDS.length; at++) {
    const level = agreement[at] ?? 0;
    if (level === 0) continue;
    const field = FIELDS[at] ?? 'first';
    // Strangers share a name as often as it is met, a rare one seldom; in one family it is shared whatever it is.
    const met = sort !== 'strangers' || level !== 1 ? null : field === 'first' ? first : isLast(field) ? last : null;
    sum += Math.log(met ?? rates[field][level] ?? 1);
  }
  return sum;
}
const isLast = (field: Field): boolean => field === 'last' || field === 'name';

/** How likely a pair is of each sort, given how it agrees. They add up to 1. */
export function chances(model: Model, agreement: Agreement, rarity: Rarity): Record<PairSort, number> {
  const logs = bySort((sort) => logOf(model, sort, agreement, rarity));
  const top = Math.max(logs.one, logs.relatives, logs.generations, logs.strangers);
  const shares = bySort((sort) => Math.exp(logs[sort] - top));
  const sum = shares.one + shares.relatives + shares.generations + shares.strangers;
  return bySort((sort) => shares[sort] / sum);
}

/** Of the pairs that are supposed so many count as seen, so that a clean file does not make every double unlikely. */
const PAIRS_HELD = { one: 0.25, relatives: 0.05, generations: 0.05, strangers: 1 } as const;
/** Fewer pairs than these say nothing of how pairs agree. */
const FEWEST = 200;
/** How many pairs the beginning counts for against those that were seen. */
const HELD = 400;

/**
 * The model that explains best how the pairs that were seen agree, begun at the first model of so many `records` and
 * held near it as if `HELD` pairs of each sort had been seen as that says. `part`: which part of all pairs that are
 * compared was seen. Strangers stay as they were supposed, since of them only those are seen that agree in something;
 * `usual` is how often two of them share a name.
 */
export function fitted(
  seen: readonly { agreement: Agreement; many: number }[],
  { records, part, usual }: { records: number; part: number; usual: Rarity },
  rounds = 15,
): Model {
  const first = firstModel(records);
  if (seen.reduce((sum, { many }) => sum + many, 0) < FEWEST) return first;
  let model = first;
  for (let round = 0; round < rounds; round++) {
    const pairs = bySort((sort) => first.pairs[sort] * PAIRS_HELD[sort]);
    const counts = bySort((sort) => byField((field) => first.rates[sort][field].map((rate) => rate * HELD)));
    for (const { agreement, many } of seen) {
      const likely = chances(model, agreement, usual);
      for (const sort of SORTS) {
        const weight = (likely[sort] * many) / part;
        pairs[sort] += weight;
        FIELDS.forEach((field, at) => {
          const level = agreement[at] ?? 0;
          const rates = counts[sort][field];
          if (level > 0) rates[level] = (rates[level] ?? 0) + weight;
        });
      }
    }
    model = {
      pairs: { ...pairs, strangers: first.pairs.strangers },
      rates: {
        ...bySort((sort) => byField((field) => scaled(counts[sort][field].slice(1)))),
        strangers: first.rates.strangers,
      },
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
