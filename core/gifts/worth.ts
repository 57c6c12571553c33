import type { IsoDate } from '../dates/index.ts';
import type { Cents } from '../money/index.ts';
import type { PaymentMethod } from './methods.ts';

export interface StockDetails {
  kind: 'stock';
  symbol: string;
  /** Decimal texts: `12.5` shares at a mean price of `101.2375` on the day of the gift. */
  shares: string;
  meanPrice: string;
  feeCents: Cents;
  soldOn: IsoDate | null;
  /** What the sale brought before fees, null while the shares are held. */
  proceedsCents: Cents | null;
}

export interface InKindDetails {
  kind: 'in_kind';
  description: string;
  /** Whose estimate the value is; it is never printed on a receipt. */
  estimateBy: 'donor' | 'us';
}

export type GiftDetails = StockDetails | InKindDetails;

/**
 * What a gift was, once its amount or payment method is another: shares are named while they come to the amount, goods
 * while it is in kind; otherwise nothing is said any more. All of a gift may be gone without that.
 */
export function detailsAfter(
  details: GiftDetails | null,
  became: { method: PaymentMethod; cents: Cents },
): GiftDetails | null {
  if (details === null || became.cents === 0) return details;
  if (details.kind !== became.method) return null;
  return details.kind === 'stock' && stockCents(details.shares, details.meanPrice) !== became.cents ? null : details;
}

/**
 * What the donor may deduct: the gift less the fair value of goods and services received for it, never below
 * zero (US: IRC section 6115, quid pro quo contributions).
 */
export const deductible = (cents: Cents, benefitCents: Cents): Cents => Math.max(0, cents - benefitCents);

/**
 * The value of a gift of stock: shares times the mean of the day's high and low price (US: Treas. Reg.
 * 1.170A-1(c)), to the nearest cent, half a cent up. Fees of a later sale do not lessen it. Null for texts that
 * are not decimals above zero with at most six places.
 */
export function stockCents(shares: string, meanPrice: string): Cents | null {
  const [many, price] = [millionths(shares), millionths(meanPrice)];
  if (many === null || price === null) return null;
  const tenBillionths = many * price;
  const cents = Number((tenBillionths * 100n + 500_000_000_000n) / 1_000_000_000_000n);
  return Number.isSafeInteger(cents) && cents > 0 ? cents : null;
}

function millionths(text: string): bigint | null {
  const parts = /^(\d{1,12})(?:\.(\d{1,6}))?$/.exec(text.trim().replace(/,/g, ''));
  if (!parts) return null;
  const value = BigInt((parts[1] ?? '') + (parts[2] ?? '').padEnd(6, '0'));
  return value > 0n ? value : null;
}
