/** How money reached us; the code is what is stored, the word is what is read. */
export const PAYMENT_METHODS = {
  cash: 'Cash',
  cheque: 'Check',
  card: 'Card',
  bank: 'Bank transfer',
  stock: 'Stock',
  in_kind: 'In kind',
  other: 'Other',
} as const;

export type PaymentMethod = keyof typeof PAYMENT_METHODS;

/** The methods in the order of their codes in facts. */
export const METHOD_CODES = Object.keys(PAYMENT_METHODS) as PaymentMethod[];

/** Whether it is money that is taken to a bank; stock and goods are gifts, but no deposit. */
export const isBanked = (method: PaymentMethod): boolean => method !== 'stock' && method !== 'in_kind';

const SYNONYMS: Record<string, PaymentMethod> = {
  cash: 'cash',
  check: 'cheque',
  cheque: 'cheque',
  chk: 'cheque',
  card: 'card',
  'credit card': 'card',
  'debit card': 'card',
  visa: 'card',
  mastercard: 'card',
  'master card': 'card',
  amex: 'card',
  'american express': 'card',
  bank: 'bank',
  'bank transfer': 'bank',
  ach: 'bank',
  eft: 'bank',
  wire: 'bank',
  stock: 'stock',
  shares: 'stock',
  securities: 'stock',
  'in kind': 'in_kind',
  'in-kind': 'in_kind',
  goods: 'in_kind',
  other: 'other',
};

/** The payment method that a word in a file stands for, or null. */
export function paymentMethodOf(word: string): PaymentMethod | null {
  return SYNONYMS[word.trim().toLowerCase()] ?? null;
}
