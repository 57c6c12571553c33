import type { IsoDate } from '../dates/index.ts';
import type { Cents } from '../money/index.ts';
import type { PaymentMethod } from './methods.ts';
import { shared } from './parts.ts';
import type { GiftPart } from './parts.ts';

/** What may be done to a gift afterwards, the word for it, and whether the gift ends with it. */
export const CORRECTIONS = {
  adjust: { word: 'Adjusted', state: 'kept' },
  refund: { word: 'Refunded', state: 'refunded' },
  void: { word: 'Voided', state: 'void' },
  returned: { word: 'Check returned', state: 'returned' },
} as const;
export type CorrectionKind = keyof typeof CORRECTIONS;

/** The money of a gift: from whom, how much, when, how, and to what. */
export interface GiftState {
  supporterId: number;
  cents: Cents;
  date: IsoDate;
  method: PaymentMethod;
  /** Empty where nothing is left of the gift. */
  parts: readonly GiftPart[];
  /** What the donor got for it and its fair value; not known of corrections that were made before it was kept. */
  benefit?: { cents: Cents; what: string };
}

/** A correction keeps what the gift was. It is booked on a day of its own; the gift's date is not touched by that. */
export interface Correction {
  kind: CorrectionKind;
  bookedOn: IsoDate;
  before: GiftState;
  after: GiftState;
}

/**
 * What a gift was known to be at the end of a day: as the first correction after that day found it, or as it is.
 * Null before it was booked at all. `corrections` are in the order in which they were made.
 */
export function stateAt(
  now: GiftState,
  bookedOn: IsoDate,
  corrections: readonly Correction[],
  date: IsoDate,
): GiftState | null {
  if (bookedOn > date) return null;
  return corrections.find((correction) => correction.bookedOn > date)?.before ?? now;
}

/** A gift after part or all of it went back: its parts shrink in proportion. */
export function takenBack(state: GiftState, cents: Cents): GiftState {
  const left = state.cents - cents;
  if (left <= 0) return { ...state, cents: 0, parts: [] };
  return { ...state, cents: left, parts: shared(left, state.parts) };
}

const samePart = (one: GiftPart, other: GiftPart | undefined): boolean =>
  one.cents === other?.cents &&
  one.fundId === other.fundId &&
  one.campaignId === other.campaignId &&
  one.appealId === other.appealId;

const sameBenefit = ({ benefit: one }: GiftState, { benefit: other }: GiftState): boolean =>
  !one || !other || (one.cents === other.cents && one.what === other.what);

export const sameState = (one: GiftState, other: GiftState): boolean =>
  one.cents === other.cents &&
  one.date === other.date &&
  one.supporterId === other.supporterId &&
  one.method === other.method &&
  one.parts.length === other.parts.length &&
  one.parts.every((part, place) => samePart(part, other.parts[place])) &&
  sameBenefit(one, other);

/** What the receipt of a gift needs after a correction, in words, or null where it still says what is true. */
export function correctionNeeds(before: GiftState, after: GiftState): 'void' | 'reissue' | null {
  if (after.cents === 0) return 'void';
  return sameState(before, after) ? null : 'reissue';
}
