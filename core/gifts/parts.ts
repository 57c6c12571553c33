import { divide, parseGiftAmount, typedMoney } from '../money/index.ts';
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

/** That two parts go to the same place, in words, or null. */
export function placedTwice(parts: readonly Omit<GiftPart, 'cents'>[]): string | null {
  const places = parts.map((part) => [part.fundId, part.campaignId, part.appealId].join('|'));
  return new Set(places).size < places.length
    ? 'Two parts go to the same fund, campaign and appeal; make them one.'
    : null;
}

/** What is wrong with the parts of a gift of `cents`, in words, or null. */
export function partsFault(cents: Cents, parts: readonly GiftPart[]): string | null {
  if (parts.length === 0) return 'A gift goes to one fund at least.';
  if (parts.some((part) => part.cents <= 0)) return 'Each part must be above zero.';
  const twice = placedTwice(parts);
  if (twice !== null) return twice;
  const sum = parts.reduce((total, part) => total + part.cents, 0);
  if (sum === cents) return null;
  const [short, has] = [Math.abs(cents - sum), sum < cents ? 'less' : 'more'];
  return `The parts add up to ${typedMoney(sum)}, ${typedMoney(short)} ${has} than the gift of ${typedMoney(cents)}.`;
}

/**
 * The amounts that parts of a gift are typed as, in cents that add up to it: an amount, a share (`40%`), or nothing in
 * one of them, which then takes the rest. Shares that do not come out even differ by a cent. Or why not, in words.
 */
export function readParts(
  cents: Cents,
  texts: readonly string[],
): { ok: true; cents: Cents[] } | { ok: false; place: number; reason: string } {
  const wrong = (place: number, reason: string) => ({ ok: false as const, place, reason });
  const shares = texts.map((text) => /^\s*(\d{1,3}(?:\.\d{1,2})?)\s*%\s*$/.exec(text)?.[1]);
  const hundredths = shares.map((share) => (share === undefined ? 0 : Math.round(Number(share) * 100)));
  const whole = hundredths.reduce((sum, one) => sum + one, 0);
  if (whole > 100_00) return wrong(hundredths.length - 1, `The shares come to ${whole / 100}%, more than the whole.`);
  const ofShares = divide(cents, [...hundredths, 100_00 - whole]);
  const amounts: Cents[] = [];
  let rest: number | null = null;
  for (const [place, text] of texts.entries()) {
    if (shares[place] !== undefined) amounts.push(ofShares[place] ?? 0);
    else if (text.trim() === '' && rest === null) {
      rest = place;
      amounts.push(0);
    } else {
      const amount = parseGiftAmount(text);
      if (!amount.ok) return wrong(place, amount.reason);
      amounts.push(amount.cents);
    }
  }
  const left = cents - amounts.reduce((sum, one) => sum + one, 0);
  if (rest === null) return { ok: true, cents: amounts };
  if (left <= 0) return wrong(rest, 'Nothing is left for this part.');
  return { ok: true, cents: amounts.map((amount, place) => (place === rest ? left : amount)) };
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
