import { fiscalYearOf, fiscalYearOfDay } from '../dates/index.ts';
import type { Calendar } from '../dates/index.ts';

/** How money reached us; the code is what is stored, the word is what is read. */
export const PAYMENT_METHODS = {
  cash: 'Cash',
  cheque: 'Check',
  card: 'Card',
  bank: 'Bank transfer',
  other: 'Other',
} as const;

export type PaymentMethod = keyof typeof PAYMENT_METHODS;

const SYNONYMS: Record<string, PaymentMethod> = {
  cash: 'cash',
  check: 'cheque',
  cheque: 'cheque',
  chk: 'cheque',
  card: 'card',
  'credit card': 'card',
  'debit card': 'card',
  bank: 'bank',
  'bank transfer': 'bank',
  ach: 'bank',
  eft: 'bank',
  wire: 'bank',
  other: 'other',
};

/** The payment method that a word in a file stands for, or null. */
export function paymentMethodOf(word: string): PaymentMethod | null {
  return SYNONYMS[word.trim().toLowerCase()] ?? null;
}

/** `S-10482`, `G-20931`: the numbers people read are the row's own id with a letter. */
export const supporterNumber = (id: number): string => `S-${id}`;
export const giftNumber = (id: number): string => `G-${id}`;

/** The id in `S-10482`, `s10482` or `10482`, or null. */
export function supporterIdOf(text: string): number | null {
  const digits = /^\s*(?:s-?)?(\d{1,9})\s*$/i.exec(text)?.[1];
  return digits === undefined ? null : Number(digits);
}

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

/** Adds up gifts given as days and cents, by the fiscal years of a calendar. */
export function givingTotals(gifts: readonly { day: number; cents: number }[], calendar: Calendar): GivingTotals {
  const current = fiscalYearOf(calendar.today, calendar.fiscalYearStart);
  const byYear = new Map<number, number>();
  const totals = { lifetime: 0, count: 0, largest: 0, firstDay: null as number | null, lastDay: null as number | null };
  for (const { day, cents } of gifts) {
    totals.lifetime += cents;
    totals.count++;
    totals.largest = Math.max(totals.largest, cents);
    totals.firstDay = Math.min(totals.firstDay ?? day, day);
    totals.lastDay = Math.max(totals.lastDay ?? day, day);
    const year = fiscalYearOfDay(day, calendar.fiscalYearStart);
    byYear.set(year, (byYear.get(year) ?? 0) + cents);
  }
  let bestYear: GivingTotals['bestYear'] = null;
  for (const [year, cents] of byYear)
    if (!bestYear || cents > bestYear.cents || (cents === bestYear.cents && year > bestYear.year))
      bestYear = { year, cents };
  return { ...totals, thisYear: byYear.get(current) ?? 0, lastYear: byYear.get(current - 1) ?? 0, bestYear };
}
