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

const SYNONYMS = new Map<string, PaymentMethod>(
  Object.entries({
    cash: 'cash',
    check: 'cheque',
    cheque: 'cheque',
    ...{ chk: 'cheque', ck: 'cheque', checks: 'cheque', 'paper check': 'cheque', 'personal check': 'cheque' },
    card: 'card',
    ...{ 'credit card': 'card', 'debit card': 'card', cc: 'card', credit: 'card', debit: 'card', discover: 'card' },
    ...{ 'credit/debit': 'card', 'credit/debit card': 'card', 'credit or debit card': 'card', creditcard: 'card' },
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
    ...{ 'wire transfer': 'bank', 'ach transfer': 'bank', 'bank draft': 'bank', 'direct debit': 'bank' },
    ...{ echeck: 'bank', 'e-check': 'bank', 'bank account': 'bank', 'direct deposit': 'bank' },
    stock: 'stock',
    shares: 'stock',
    securities: 'stock',
    'in kind': 'in_kind',
    'in-kind': 'in_kind',
    ...{ goods: 'in_kind', 'gift in kind': 'in_kind', 'gift-in-kind': 'in_kind', inkind: 'in_kind' },
    other: 'other',
  }),
);

/** The kind of a card with its last digits: `Visa ending in 4242`. */
const A_CARD =
  /^(?:visa|master ?card|amex|american express|discover|(?:credit |debit )?card)\b[\s*x.#-]*(?:ending(?: in| with)?)?[\s*x.#-]*\d{4}$/;
const A_CHECK = /^(?:check|cheque|chk|ck)\b\s*(?:no\.?|number|#)?\s*#?\s*(\d{1,15})$/;
const plain = (text: string): string => text.trim().toLowerCase();

/** The payment method that a word in a file stands for, or null. */
export function paymentMethodOf(word: string): PaymentMethod | null {
  const text = plain(word);
  const known = SYNONYMS.get(text);
  if (known) return known;
  if (A_CARD.test(text)) return 'card';
  return A_CHECK.test(text) ? 'cheque' : null;
}

/** The number of a check that stands with its method, `Check #1849`; empty where none does. */
export const chequeNumberIn = (word: string): string => A_CHECK.exec(plain(word))?.[1] ?? '';
