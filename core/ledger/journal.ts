import { divide } from '../money/index.ts';
import type { Cents } from '../money/index.ts';
import type { GiftState, PaymentMethod } from '../gifts/index.ts';

/**
 * What is booked besides the gifts themselves: what was pledged, paid on pledges and written off of them; of stock that
 * was sold its value and the gain (a loss below zero); and what a processor kept of a gift.
 */
export const ENTRIES = {
  pledged: 'Pledged',
  paid: 'Paid on pledges',
  written_off: 'Written off',
  sold: 'Stock sold',
  gain: 'Gain on stock',
  fee: 'Processor fees',
} as const;
export type EntryKind = keyof typeof ENTRIES;

/** What one thing comes to in the journal, for a fund; of a fee, with the method by which the gift came. */
export interface Sum {
  what: EntryKind;
  fundId: number;
  method: PaymentMethod | null;
  cents: Cents;
}

/** What a pledge comes to; one that is not promised is nothing. */
export function pledgeSums(pledge: {
  fundId: number;
  promised: boolean;
  pledged: Cents;
  paid: Cents;
  writtenOff: Cents;
}): Sum[] {
  const { fundId } = pledge;
  const sum = (what: EntryKind, cents: Cents): Sum => ({ what, fundId, method: null, cents });
  return pledge.promised
    ? [sum('pledged', pledge.pledged), sum('paid', pledge.paid), sum('written_off', pledge.writtenOff)]
    : [];
}

/** What else of a gift is booked: the sale of stock, by the parts of the gift, and the processor's fee. */
export function giftSums(gift: {
  state: GiftState;
  /** Where nothing is left of it, where it went. */
  fundId: number;
  /** It should never have been recorded. */
  isVoid: boolean;
  /** What came in for stock, less the broker's fees; null while it is not sold. */
  soldFor: Cents | null;
  fee: Cents;
}): Sum[] {
  const { state, fundId, soldFor } = gift;
  const parts = state.parts.length > 0 ? state.parts : [{ fundId, cents: 1 }];
  const weights = parts.map((part) => part.cents);
  const each = (cents: Cents): { fundId: number; cents: Cents }[] =>
    divide(cents, weights).map((some, place) => ({ fundId: parts[place]?.fundId ?? fundId, cents: some }));
  const fees =
    gift.isVoid || gift.fee === 0
      ? []
      : each(gift.fee).map((one) => ({ what: 'fee' as const, method: state.method, ...one }));
  if (soldFor === null || state.method !== 'stock' || state.cents === 0) return fees;
  const sold = each(soldFor).flatMap((one, place): Sum[] => {
    const value = state.parts[place]?.cents ?? 0;
    return [
      { what: 'sold', method: null, fundId: one.fundId, cents: value },
      { what: 'gain', method: null, fundId: one.fundId, cents: one.cents - value },
    ];
  });
  return [...fees, ...sold];
}

const keyOf = ({ what, fundId, method }: Omit<Sum, 'cents'>): string => `${what}|${fundId}|${method ?? ''}`;

/** What is to be booked so that what the journal `had` comes to what is `wanted`; nothing that comes to nothing. */
export function toBook(wanted: readonly Sum[], had: readonly Sum[]): Sum[] {
  const sums = new Map<string, Sum>();
  const add = (list: readonly Sum[], sign: 1 | -1): void => {
    for (const one of list) {
      const known = sums.get(keyOf(one))?.cents ?? 0;
      sums.set(keyOf(one), { ...one, cents: known + sign * one.cents });
    }
  };
  add(wanted, 1);
  add(had, -1);
  return [...sums.values()].filter((one) => one.cents !== 0);
}
