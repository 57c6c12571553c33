import type { DaySpan } from '../dates/index.ts';
import type { Cents } from '../money/index.ts';

/**
 * Whose giving is counted: that of legal donors; recognition, which goes by soft credits alone; or both, where a
 * gift that was given and is recognised within the same set of people counts once.
 */
export const CREDIT_CHOICES = {
  legal: 'Legal donors',
  recognition: 'Recognition (soft credits)',
  both: 'Both, each cent once',
} as const;
export type CreditChoice = keyof typeof CREDIT_CHOICES;

/** Which gifts count; null is any. A payment method is its place in `METHOD_CODES`. */
export interface GiftFilter {
  span: DaySpan;
  fund: number | null;
  campaign: number | null;
  appeal: number | null;
  method: number | null;
}

export interface Total {
  cents: Cents;
  gifts: number;
  /** Supporters with any of it. */
  donors: number;
}

export const EVER: DaySpan = { from: -1_000_000, to: 4_000_000 };
export const ANY_GIFT: GiftFilter = { span: EVER, fund: null, campaign: null, appeal: null, method: null };

/** What totals are laid out by; each gives the key of a row of gifts. */
export const TOTAL_BY = {
  nothing: 'In all',
  fund: 'Fund',
  campaign: 'Campaign',
  appeal: 'Appeal',
  method: 'Payment method',
  year: 'Fiscal year',
  month: 'Month',
} as const;
export type TotalBy = keyof typeof TOTAL_BY;
