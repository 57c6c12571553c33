import { listedAs } from '../catalogue/index.ts';
import type { Known, Read } from '../catalogue/index.ts';
import { dayNumber, spanOf } from '../dates/index.ts';
import type { Calendar } from '../dates/index.ts';
import { grown } from '../facts/index.ts';
import type { Facts } from '../facts/index.ts';
import { recognised } from '../gifts/index.ts';
import { EVER } from '../totals/index.ts';
import type { CreditChoice } from '../totals/index.ts';
import type { RowsCondition, Where } from './condition.ts';
import type { Given } from './given.ts';
import { straightOf } from './straight.ts';
import type { Rows, Straight } from './straight.ts';
import { isOpen } from './test.ts';
import type { CodeTest } from './test.ts';
import { testsOf } from './where.ts';

/** What of a condition decides which rows are read. */
export type RowsAsked = Pick<RowsCondition, 'of' | 'where' | 'together'>;

const SOME_ROWS = 64;
const NONE: ArrayLike<number> = [];
const PLACES = ['fund', 'campaign', 'appeal'];

/**
 * Reads of a supporter the rows of a list that are asked about. Of split gifts as much counts as went where it is asked
 * about, as one gift of that size; of recognition each part of a gift once, and never beside the gift itself.
 */
export class Reader {
  private days = new Int32Array(SOME_ROWS);
  private cents = new Float64Array(SOME_ROWS);
  private many = 0;
  /** The rows that were read last. */
  private readonly given: Given;
  private from = EVER.from;
  private to = EVER.to;
  /** The days that count of the supporter who is read. */
  low = EVER.from;
  high = EVER.to;
  private size: { least: number; most: number } | null = null;
  private readonly lists: readonly Rows[];
  /** Recognition, where it counts. */
  private readonly credits: Rows | null;
  /** Whether days are asked about at all. */
  readonly bounded: boolean;
  readonly today: number;
  private readonly both: boolean;
  private readonly together: boolean;
  /** Whether rows are only counted: neither their days nor their amounts are wanted. */
  private readonly counted: boolean;
  /** Whether nothing but days is asked of whole gifts. */
  private readonly plain: boolean;

  constructor(
    private readonly facts: Facts,
    private readonly calendar: Calendar,
    asked: RowsAsked,
    credit: CreditChoice,
    /** Of the supporter who is read, the day from which so many days count; NaN where there is none. */
    private readonly after: { day: () => number; days: number } | null = null,
    /** So many rows are enough; what comes after them is not read. */
    readonly enough = Infinity,
    counted = false,
  ) {
    const listed = listedAs(asked.of);
    const gifts = asked.of === 'gifts';
    const where = asked.where.filter(({ test }) => !isOpen(test));
    const others = where.filter((one) => !this.takes(one, listed.sum !== undefined, listed.dated));
    const inParts = gifts && where.some(({ part }) => PLACES.includes(part));
    const rowsOf = (list: { start: Uint32Array; count: Uint32Array; columns: Read['columns'] }, parts: boolean): Rows =>
      this.rowsOf(list, parts, listed.parts, others);
    const own = gifts && credit === 'recognition' ? [] : [rowsOf(facts.listOf(asked.of), false)];
    // A gift that went to several places is asked about by its parts.
    const { fund } = facts.gifts.columns;
    const isWhole = ({ values, ok }: CodeTest): boolean => values === fund.values && ok[0] === 0;
    for (const { codes } of inParts ? own : [])
      if (!codes.some(isWhole)) codes.unshift({ values: fund.values, ok: NOT_SPLIT, beyond: 1 });
    this.lists = inParts && own.length > 0 ? [...own, rowsOf(facts.splits, true)] : own;
    this.credits = gifts && credit !== 'legal' ? rowsOf(facts.credits, true) : null;
    this.both = credit === 'both';
    this.together = asked.together === true;
    [this.low, this.high] = [this.from, this.to];
    this.bounded = after !== null || this.from > EVER.from || this.to < EVER.to;
    this.plain =
      this.lists.length === 1 && !this.credits && gifts && !this.together && this.size === null && others.length === 0;
    if (this.size !== null || this.credits) this.enough = Infinity;
    this.counted = counted && this.size === null && !this.credits;
    const { day, cents } = facts.gifts.columns;
    this.today = dayNumber(calendar.today);
    this.given = {
      ...{ begin: 0, end: 0, inTurn: this.plain },
      ...(this.plain ? { days: day.values, cents: cents.values } : { days: this.days, cents: this.cents }),
      ...{ today: this.today, fiscalYearStart: calendar.fiscalYearStart },
    };
  }

  /** Takes what can be asked in the loop itself; answers whether that is all of it. */
  private takes({ part, test, not }: Where, sized: boolean, dated: boolean): boolean {
    if (not) return false;
    if (part === 'day' && dated && test.is === 'in') {
      const { from, to } = spanOf(test.window, this.calendar);
      [this.from, this.to] = [Math.max(this.from, from), Math.min(this.to, to)];
      return true;
    }
    // The size of a split gift is that of its parts that count, so it is asked when they are together.
    if (part === 'cents' && sized && test.is === 'between') {
      const [least, most] = [test.atLeast ?? -Infinity, test.atMost ?? Infinity];
      this.size = { least: Math.max(least, this.size?.least ?? least), most: Math.min(most, this.size?.most ?? most) };
      return true;
    }
    return false;
  }

  private rowsOf(
    { start, count, columns }: { start: Uint32Array; count: Uint32Array; columns: Read['columns'] },
    parts: boolean,
    known: Readonly<Record<string, Known>>,
    others: readonly Where[],
  ): Rows {
    const values = (name: string): ArrayLike<number> => columns[name]?.values ?? NONE;
    const read: Read = { facts: this.facts, calendar: this.calendar, columns };
    return {
      ...{ start, count, names: parts ? values('gift') : null, inTurn: columns === this.facts.gifts.columns },
      ...{ days: columns['day']?.values, cents: columns['cents']?.values },
      ...testsOf(others, known, read),
    };
  }

  /**
   * How many rows of a supporter there are, what they sum up to, or the day of the last, told from the columns as they
   * stand; null where rows must be put together first (recognition, sizes).
   */
  straight(measure: Straight): ((slot: number) => number) | null {
    if (this.credits !== null || this.size !== null) return null;
    if (measure === 'last' && (this.together || this.after !== null)) return null;
    const of = straightOf(measure, this.lists, this);
    if (!this.together) return of;
    const { facts, enough } = this;
    return (slot) => {
      if (facts.sharedHome(slot) === 0) return of(slot);
      let figure = 0;
      for (const one of facts.homeOf(slot)) if (!facts.isGone(one)) figure += of(one);
      return Math.min(figure, enough);
    };
  }

  /** Puts the days that count of the supporter who is read, where they begin with something of theirs. */
  putBounds(): void {
    if (this.after === null) return;
    const day = this.after.day();
    this.low = Math.max(this.from, day);
    this.high = Math.min(this.to, day + this.after.days);
  }

  /** No rows. */
  nothing(): Given {
    return { ...this.given, begin: 0, end: 0 };
  }

  /** Whether a supporter has no rows at all, whatever is asked of them. */
  hasNone(slot: number): boolean {
    if (this.credits !== null || (this.together && this.facts.sharedHome(slot) !== 0)) return false;
    for (let at = 0; at < this.lists.length; at++) if ((this.lists[at] as Rows).count[slot] !== 0) return false;
    return true;
  }

  /** The rows of a supporter, which stay until the next is read. */
  read(slot: number): Given {
    const { given } = this;
    this.putBounds();
    if (this.plain) {
      this.readPlain(this.lists[0] as Rows, slot, given);
      return given;
    }
    this.many = 0;
    if (this.together && this.facts.sharedHome(slot) !== 0) {
      const slots = this.facts.sharersOf(slot);
      for (const one of slots) for (const rows of this.lists) this.readRows(rows, one);
      if (this.credits) this.readCredits(this.credits, slots);
    } else {
      for (let at = 0; at < this.lists.length; at++) this.readRows(this.lists[at] as Rows, slot);
      if (this.credits) this.readCredits(this.credits, [slot]);
    }
    if (this.size !== null) this.keepSized(this.size.least, this.size.most);
    given.end = this.many;
    return given;
  }

  /** The rows of gifts that lie between two days, where they stand: they are in the order of their days. */
  private readPlain(rows: Rows, slot: number, given: Given): void {
    const days = rows.days as Int32Array;
    let begin = rows.start[slot] as number;
    let end = begin + (rows.count[slot] as number);
    const { low, high } = this;
    while (begin < end && !((days[begin] as number) >= low)) begin++;
    while (end > begin && !((days[end - 1] as number) <= high)) end--;
    given.begin = begin;
    given.end = end;
  }

  private readRows(rows: Rows, slot: number): void {
    let start = rows.start[slot] as number;
    let end = start + (rows.count[slot] as number);
    if (start === end) return;
    const { days, names, codes, tests } = rows;
    const { low, high } = this;
    let dated = this.bounded && days !== undefined;
    if (dated && rows.inTurn) {
      while (start < end && !((days?.[start] as number) >= low)) start++;
      while (end > start && !((days?.[end - 1] as number) <= high)) end--;
      if (start === end) return;
      dated = false;
    }
    const only = codes[0];
    if (this.counted && only !== undefined && codes.length === 1 && tests.length === 0 && names === null && !dated)
      return this.countCoded(only, start, end);
    this.makeRoom(this.many + end - start);
    const { enough, counted, days: outDays, cents: outCents } = this;
    const cents = counted ? undefined : rows.cents;
    let many = this.many;
    let before = NaN;
    next: for (let row = start; row < end; row++) {
      // What has no day is in no window, but counts where none is asked about.
      if (dated && !((days?.[row] as number) >= low && (days?.[row] as number) <= high)) continue;
      for (let at = 0; at < codes.length; at++) {
        const { values, ok, beyond } = codes[at] as CodeTest;
        const code = values[row] as number;
        if ((code < ok.length ? ok[code] : beyond) === 0) continue next;
      }
      for (let at = 0; at < tests.length; at++) if (!(tests[at] as (row: number) => boolean)(row)) continue next;
      const amount = cents === undefined ? 0 : (cents[row] as number);
      // The parts of one gift stand together.
      if (names !== null && names[row] === before) {
        outCents[many - 1] = (outCents[many - 1] as number) + amount;
        continue;
      }
      if (names !== null) before = names[row] as number;
      if (!counted) {
        outDays[many] = days === undefined ? 0 : (days[row] as number);
        outCents[many] = amount;
      }
      many++;
      if (many >= enough) break;
    }
    this.many = many;
  }

  /** Rows of which one code is asked, and that are only counted. */
  private countCoded({ values, ok, beyond }: CodeTest, start: number, end: number): void {
    const { enough } = this;
    let many = this.many;
    for (let row = start; row < end && many < enough; row++) {
      const code = values[row] as number;
      if ((code < ok.length ? ok[code] : beyond) !== 0) many++;
    }
    this.many = many;
  }

  private passes(rows: Rows, row: number): boolean {
    // What has no day is in no window, but counts where none is asked about.
    if (this.bounded && rows.days !== undefined) {
      const on = rows.days[row] as number;
      if (!(on >= this.low && on <= this.high)) return false;
    }
    for (const { values, ok, beyond } of rows.codes) {
      const code = values[row] as number;
      if ((code < ok.length ? ok[code] : beyond) === 0) return false;
    }
    for (const test of rows.tests) if (!test(row)) return false;
    return true;
  }

  /** What people are recognised for: of each gift as much as they share of it, at most what its parts are. */
  private readCredits(rows: Rows, slots: readonly number[]): void {
    const { part, of, donor, gift } = this.facts.credits.columns;
    const gifts = new Map<number, { day: number; parts: Map<number, { of: number; credits: number[] }> }>();
    for (const slot of slots) {
      const start = rows.start[slot] as number;
      const end = start + (rows.count[slot] as number);
      for (let row = start; row < end; row++) {
        if (!this.passes(rows, row)) continue;
        if (this.both && slots.includes(this.facts.slotOf(donor.values[row] as number))) continue;
        const one = gifts.get(gift.values[row] as number) ?? {
          day: (rows.days as Int32Array)[row] as number,
          parts: new Map(),
        };
        gifts.set(gift.values[row] as number, one);
        const place = part.values[row] as number;
        const its = one.parts.get(place) ?? { of: of.values[row] as number, credits: [] };
        one.parts.set(place, its);
        its.credits.push((rows.cents as Float64Array)[row] as number);
      }
    }
    this.makeRoom(this.many + gifts.size);
    for (const { day, parts } of gifts.values()) {
      let sum = 0;
      for (const { of: whole, credits } of parts.values()) sum += recognised(credits, whole);
      this.days[this.many] = day;
      this.cents[this.many++] = sum;
    }
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
    [this.given.days, this.given.cents] = [this.days, this.cents];
  }
}

/** Of gifts, those that did not go to several places. */
const NOT_SPLIT = Uint8Array.of(0);
