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
}

/** Adds up gifts given as days and cents; the spans are the fiscal years asked about. */
export function givingTotals(
  gifts: Iterable<{ day: number; cents: number }>,
  thisYear: { from: number; to: number },
  lastYear: { from: number; to: number },
): GivingTotals {
  const totals: GivingTotals = {
    lifetime: 0,
    thisYear: 0,
    lastYear: 0,
    count: 0,
    largest: 0,
    firstDay: null,
    lastDay: null,
  };
  for (const { day, cents } of gifts) {
    totals.lifetime += cents;
    totals.count++;
    if (day >= thisYear.from && day <= thisYear.to) totals.thisYear += cents;
    if (day >= lastYear.from && day <= lastYear.to) totals.lastYear += cents;
    totals.largest = Math.max(totals.largest, cents);
    totals.firstDay = Math.min(totals.firstDay ?? day, day);
    totals.lastDay = Math.max(totals.lastDay ?? day, day);
  }
  return totals;
}
