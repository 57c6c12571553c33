import { fold } from '../names/index.ts';
import { frequencyOf } from '../schedule/index.ts';

/** What a gift is besides a gift by itself. */
export type GiftKind = { is: 'recurring' } | { is: 'payment'; pledge: number | null };

const ONE_TIME = ['', 'onetime', 'single', 'once', 'gift', 'donation', 'outright', 'cash', 'none', 'no', 'onceonly'];
const RECURRING = [
  'recurring',
  'recurringgift',
  'recurringdonation',
  'sustainer',
  'sustaining',
  'subscription',
  'regular',
];
const PAYMENT = ['pledgepayment', 'pledge', 'payment', 'installment', 'pledgeinstallment', 'onpledge'];

/** What a gift is as a file says it: by itself (null), a recurring one, or a payment on a pledge. Undefined: none of these. */
export function giftKindOf(text: string): GiftKind | null | undefined {
  if (text === '') return null;
  const word = fold(text).replace(/[^\p{L}\p{N}]+/gu, '');
  const numbered = /^\s*p-(\d{1,9})\s*$/i.exec(text);
  if (numbered) return { is: 'payment', pledge: Number(numbered[1]) };
  if (ONE_TIME.includes(word)) return null;
  if (PAYMENT.includes(word)) return { is: 'payment', pledge: null };
  return RECURRING.includes(word) || frequencyOf(text) !== null ? { is: 'recurring' } : undefined;
}
