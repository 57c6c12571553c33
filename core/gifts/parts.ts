import { divide } from '../money/index.ts';
import type { Cents } from '../money/index.ts';

/** One part of a gift: so much to a fund, within a campaign, for an appeal. */
export interface GiftPart {
  cents: Cents;
  fundId: number;
  campaignId: number | null;
  appealId: number | null;
}

/** Why recognition is given to someone who is not the legal donor. */
export const CREDIT_KINDS = {
  spouse: 'Spouse',
  household: 'Household',
  adviser: 'Adviser of the fund',
  solicitor: 'Solicitor',
  peer: 'Fundraised by',
} as const;
export type CreditKind = keyof typeof CREDIT_KINDS;

/** What is wrong with the parts of a gift of `cents`, in words, or null. */
export function partsFault(cents: Cents, parts: readonly GiftPart[]): string | null {
  if (parts.length === 0) return 'A gift goes to one fund at least.';
  if (parts.some((part) => part.cents <= 0)) return 'Each part must be above zero.';
  const places = parts.map((part) => [part.fundId, part.campaignId, part.appealId].join('|'));
  if (new Set(places).size < places.length) return 'Two parts go to the same fund, campaign and appeal; make them one.';
  const sum = parts.reduce((total, part) => total + part.cents, 0);
  if (sum === cents) return null;
  const [short, has] = [Math.abs(cents - sum), sum < cents ? 'less' : 'more'];
  return `The parts add up to ${(sum / 100).toFixed(2)}, ${(short / 100).toFixed(2)} ${has} than the gift of ${(cents / 100).toFixed(2)}.`;
}

/** Parts in the proportion of what they were, adding up to another amount; parts that come to nothing fall away. */
export function shared(cents: Cents, parts: readonly GiftPart[]): GiftPart[] {
  const amounts = divide(
    cents,
    parts.map((part) => part.cents),
  );
  return parts.map((part, place) => ({ ...part, cents: amounts[place] ?? 0 })).filter((part) => part.cents > 0);
}

/** How much of a soft credit falls to each part of the gift, adding up to the credit; in the order of the parts. */
export const creditParts = (credit: Cents, parts: readonly GiftPart[]): Cents[] =>
  divide(
    credit,
    parts.map((part) => part.cents),
  );

/**
 * The recognition that several credits of one part of a gift come to for people counted together: their sum, and
 * never more than that part.
 */
export const recognised = (credits: readonly Cents[], part: Cents): Cents =>
  Math.min(
    part,
    credits.reduce((sum, cents) => sum + cents, 0),
  );
