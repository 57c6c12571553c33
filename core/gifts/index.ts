import { addDays, fiscalYearDays, fiscalYearOf, fiscalYearOfDay } from '../dates/index.ts';
import type { Calendar, IsoDate } from '../dates/index.ts';

export {
  chequeNumberIn,
  isBanked,
  METHOD_CODES,
  PAYMENT_METHODS,
  paymentMethodOf,
  type PaymentMethod,
} from './methods.ts';
export {
  creditParts,
  CREDIT_KINDS,
  partsFault,
  placedTwice,
  readParts,
  recognised,
  shared,
  type CreditKind,
  type GiftPart,
} from './parts.ts';
export {
  deductible,
  detailsAfter,
  stockCents,
  type GiftDetails,
  type InKindDetails,
  type StockDetails,
} from './worth.ts';
export {
  CORRECTIONS,
  correctionNeeds,
  sameState,
  stateAt,
  takenBack,
  type Correction,
  type CorrectionKind,
  type GiftState,
} from './corrections.ts';

/** Before this no gift is dated: whatever says so is a slip. */
export const FIRST_GIFT_DAY: IsoDate = '1900-01-01';

/** What is odd about the day of a gift that may be right all the same, as a sentence to ask about; or null. */
export const oddDay = (date: IsoDate, today: IsoDate): string | null =>
  // Days are only counted where the calendar leaves it open: files have many.
  date < `${Number(today.slice(0, 4)) - 1}${today.slice(4)}` && date < addDays(today, -366)
    ? 'That is more than a year ago.'
    : null;

/** Why a gift cannot have a date, as a sentence, or null. */
export function giftDateFault(date: IsoDate, today: IsoDate): string | null {
  if (date > today) return 'The date is in the future; a gift is recorded when it has come in.';
  return date < FIRST_GIFT_DAY ? 'The date is before 1900; look at the year.' : null;
}

/** `G-20931`: the number that people read is the row's own id with a letter. */
export const giftNumber = (id: number): string => `G-${id}`;

/** A supporter's giving in figures; amounts in cents, dates as day numbers, null where nothing was given. */
export interface GivingTotals {
  lifetime: number;
  thisYear: number;
  lastYear: number;
  count: number;
  largest: number;
  firstDay: number | null;
  lastDay: number | null;
  /** The fiscal year with the most given, the later of equals. */
  bestYear: { year: number; cents: number } | null;
}

/** Adds gifts up one by one, in any order; those that come in the order of days cost least. */
export class GivingSum {
  private lifetime = 0;
  private count = 0;
  private largest = 0;
  private firstDay = Infinity;
  private lastDay = -Infinity;
  private readonly byYear = new Map<number, number>();
  /** The fiscal year of the gift before, with its first and last day: the next is mostly in it too. */
  private year = 0;
  private from = Infinity;
  private to = -Infinity;

  constructor(private readonly calendar: Calendar) {}

  add(day: number, cents: number): void {
    this.lifetime += cents;
    this.count++;
    if (cents > this.largest) this.largest = cents;
    if (day < this.firstDay) this.firstDay = day;
    if (day > this.lastDay) this.lastDay = day;
    if (day < this.from || day > this.to) {
      this.year = fiscalYearOfDay(day, this.calendar.fiscalYearStart);
      const { from, to } = fiscalYearDays(this.year, this.calendar.fiscalYearStart);
      this.from = from;
      this.to = to;
    }
    this.byYear.set(this.year, (this.byYear.get(this.year) ?? 0) + cents);
  }

  totals(): GivingTotals {
    const { lifetime, count, largest, byYear, calendar } = this;
    const current = fiscalYearOf(calendar.today, calendar.fiscalYearStart);
    let bestYear: GivingTotals['bestYear'] = null;
    for (const [year, cents] of byYear)
      if (!bestYear || cents > bestYear.cents || (cents === bestYear.cents && year > bestYear.year))
        bestYear = { year, cents };
    return {
      ...{ lifetime, count, largest, bestYear },
      firstDay: count === 0 ? null : this.firstDay,
      lastDay: count === 0 ? null : this.lastDay,
      thisYear: byYear.get(current) ?? 0,
      lastYear: byYear.get(current - 1) ?? 0,
    };
  }
}

/** Adds up gifts given as days and cents, by the fiscal years of a calendar. */
export function givingTotals(gifts: readonly { day: number; cents: number }[], calendar: Calendar): GivingTotals {
  const sum = new GivingSum(calendar);
  for (const { day, cents } of gifts) sum.add(day, cents);
  return sum.totals();
}
