import { grown } from '../facts/index.ts';
import type { Facts } from '../facts/index.ts';
import { asksWhere, EVER } from '../totals/index.ts';
import type { GiftFilter } from '../totals/index.ts';

/** Of a supporter the gifts that were asked about, in the order of facts: days and amounts from `begin` to before `end`. */
export interface Given {
  begin: number;
  end: number;
  days: Int32Array;
  cents: Float64Array;
  today: number;
  fiscalYearStart: number;
}

/** Stands for any fund, campaign, appeal or method: no row has it. */
const ANY = -1;
const SOME_GIFTS = 64;

/** Reads of a supporter the gifts that a filter lets through, and of split ones as much as went there, as one gift. */
export class Reader {
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
    size: { atLeast: number | null; atMost: number | null } | undefined,
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
