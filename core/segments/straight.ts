import { asked } from './where.ts';
import type { Tests } from './where.ts';

/* What is measured of a supporter's rows where they stand, in one go over the columns. */

/** Measures that are told so. */
export const STRAIGHT = ['number', 'sum', 'last'] as const;
export type Straight = (typeof STRAIGHT)[number];

/** Rows of one list, with what is asked of them beside their days. */
export interface Rows extends Tests {
  start: Uint32Array;
  count: Uint32Array;
  /** The id of the gift that parts belong to, which stand together; null where each row is one by itself. */
  names: ArrayLike<number> | null;
  /** Whether they stand in the order of their days. */
  inTurn: boolean;
  days: ArrayLike<number> | undefined;
  cents: ArrayLike<number> | undefined;
}

/** Which rows count, whatever else is asked of them. */
export interface Bounds {
  /** Whether days are asked about at all. What has no day is in no window, but counts where none is asked about. */
  bounded: boolean;
  /** The days that count of the supporter who is asked about, once they were put. */
  low: number;
  high: number;
  putBounds: () => void;
  /** So many rows are enough. */
  enough: number;
  /** The last day that has come. */
  today: number;
}

type Figure = (slot: number) => number;

/** A measure of the rows of one list, or of two that are asked alike: of gifts and of their parts. */
export function straightOf(measure: Straight, [rows, parts]: readonly Rows[], bounds: Bounds): Figure {
  if (rows === undefined) return () => (measure === 'last' ? NaN : 0);
  const of = { number: counting, sum: summing, last: latest }[measure];
  const own = of(rows, bounds);
  if (parts === undefined) return own;
  const split = of(parts, bounds);
  const { enough } = bounds;
  switch (measure) {
    case 'number':
      return (slot) => {
        const many = own(slot);
        return many >= enough ? many : Math.min(enough, many + split(slot));
      };
    case 'sum':
      return (slot) => own(slot) + split(slot);
    case 'last':
      return (slot) => {
        const [whole, part] = [own(slot), split(slot)];
        return Number.isNaN(whole) || part > whole ? part : whole;
      };
  }
}

/** What is asked of a row: one code, which is looked up in the loop itself, and the rest. */
function asks({ codes: [only, ...codes], tests }: Rows): {
  values: ArrayLike<number> | null;
  ok: Uint8Array;
  beyond: number;
  rest: ((row: number) => boolean) | null;
} {
  const rest = asked({ codes, tests });
  return only ? { ...only, rest } : { values: null, ok: ALL_PASS, beyond: 1, rest };
}
const ALL_PASS = Uint8Array.of();
const NONE: ArrayLike<number> = [];

function counting(rows: Rows, bounds: Bounds): Figure {
  const { start, count, names } = rows;
  const { enough } = bounds;
  const days = bounds.bounded && rows.days !== undefined ? rows.days : null;
  const { values, ok, beyond, rest } = asks(rows);
  if (days === null && values === null && rest === null && names === null)
    return (slot) => Math.min(count[slot] as number, enough);
  const known = ok.length;
  // Of most rows nothing but one code is asked.
  if (days === null && values !== null && rest === null && names === null)
    return (slot) => {
      const from = start[slot] as number;
      const end = from + (count[slot] as number);
      let many = 0;
      for (let row = from; row < end && many < enough; row++) {
        const code = values[row] as number;
        if ((code < known ? ok[code] : beyond) !== 0) many++;
      }
      return many;
    };
  return (slot) => {
    const from = start[slot] as number;
    const end = from + (count[slot] as number);
    if (from === end) return 0;
    bounds.putBounds();
    const { low, high } = bounds;
    let many = 0;
    let before = NaN;
    for (let row = from; row < end; row++) {
      if (days !== null && !((days[row] as number) >= low && (days[row] as number) <= high)) continue;
      if (values !== null) {
        const code = values[row] as number;
        if ((code < known ? ok[code] : beyond) === 0) continue;
      }
      if (rest !== null && !rest(row)) continue;
      if (names !== null) {
        if (names[row] === before) continue;
        before = names[row] as number;
      }
      many++;
      if (many >= enough) break;
    }
    return many;
  };
}

function summing(rows: Rows, bounds: Bounds): Figure {
  const { start, count, cents = NONE } = rows;
  const days = bounds.bounded && rows.days !== undefined ? rows.days : null;
  const { values, ok, beyond, rest } = asks(rows);
  const known = ok.length;
  return (slot) => {
    const from = start[slot] as number;
    const end = from + (count[slot] as number);
    if (from === end) return 0;
    bounds.putBounds();
    const { low, high } = bounds;
    let sum = 0;
    for (let row = from; row < end; row++) {
      if (days !== null && !((days[row] as number) >= low && (days[row] as number) <= high)) continue;
      if (values !== null) {
        const code = values[row] as number;
        if ((code < known ? ok[code] : beyond) === 0) continue;
      }
      if (rest === null || rest(row)) sum += cents[row] as number;
    }
    return sum;
  };
}

/** The last day of a row up to today; NaN where there is none. */
function latest(rows: Rows, bounds: Bounds): Figure {
  const { start, count, days = NONE } = rows;
  const { low, today } = bounds;
  const high = Math.min(bounds.high, today);
  const { values, ok, beyond, rest } = asks(rows);
  const known = ok.length;
  return (slot) => {
    const from = start[slot] as number;
    const end = from + (count[slot] as number);
    let latest = NaN;
    for (let row = from; row < end; row++) {
      const on = days[row] as number;
      if (on > high || on < low || on <= latest) continue;
      if (values !== null) {
        const code = values[row] as number;
        if ((code < known ? ok[code] : beyond) === 0) continue;
      }
      if (rest === null || rest(row)) latest = on;
    }
    return latest;
  };
}
