import { daysInMonth } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';

/** What any way to reach a supporter carries; dates are inclusive, null is open. */
export interface Way {
  preferred: boolean;
  validFrom: IsoDate | null;
  validTo: IsoDate | null;
  /** Since when nothing arrives there; null while it does. */
  badOn: IsoDate | null;
}

/** A part of every year, `MM-DD` to `MM-DD` inclusive; it may run over New Year. */
export interface Season {
  seasonFrom: string | null;
  seasonTo: string | null;
}

export interface PostalAddress {
  street: string;
  city: string;
  region: string;
  postal: string;
  country: string;
}

export const BAD_REASONS = ['returned', 'bounced', 'wrong number', 'moved', 'unknown here'] as const;
export const WAY_LABELS = ['home', 'work', 'mobile', 'seasonal', 'former', 'other'] as const;

/** Whether a way holds on a date: begun, and not ended before it. */
export const holdsOn = (way: Way, on: IsoDate): boolean =>
  (way.validFrom === null || way.validFrom <= on) && (way.validTo === null || way.validTo >= on);

/** Whether a way is undeliverable on a date. */
export const isBad = (way: Way, on: IsoDate): boolean => way.badOn !== null && way.badOn <= on;

/** `inSeason('11-01', '04-15', date)` is true from November over New Year to 15 April. Open ends are never in season. */
export function inSeason(from: string | null, to: string | null, on: IsoDate): boolean {
  if (!from || !to) return false;
  const day = on.slice(5);
  return from <= to ? from <= day && day <= to : day >= from || day <= to;
}

/** Whether `MM-DD` is a day of some year: 02-29 is, 02-30 is not. */
export function isSeasonDay(text: string): boolean {
  const parts = /^(\d{2})-(\d{2})$/.exec(text);
  if (!parts) return false;
  const [month, day] = [Number(parts[1]), Number(parts[2])];
  return month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(2000, month);
}

/**
 * The way to use on a date: of those that hold and are not marked bad, the preferred one, else the one that began
 * last, as after a move that was told beforehand, else the first. Null where none is left; a bad one is never used.
 */
export function wayOn<T extends Way>(ways: readonly T[], on: IsoDate): T | null {
  const usable = ways.filter((way) => holdsOn(way, on) && !isBad(way, on));
  return usable.find((way) => way.preferred) ?? begunLast(usable) ?? null;
}

/** The way that began last; of those that were there always, the first. */
const begunLast = <T extends Way>(ways: readonly T[]): T | undefined =>
  ways.reduce<T | undefined>(
    (last, way) => (last === undefined || (way.validFrom ?? '') > (last.validFrom ?? '') ? way : last),
    undefined,
  );

/** As `wayOn`, but an address in its season comes before the preferred one, and one out of season is passed over. */
export function addressOn<T extends Way & Season>(addresses: readonly T[], on: IsoDate): T | null {
  const seasonal = (address: T): boolean => address.seasonFrom !== null && address.seasonTo !== null;
  const now = addresses.filter((address) => seasonal(address) && inSeason(address.seasonFrom, address.seasonTo, on));
  return (
    wayOn(now, on) ??
    wayOn(
      addresses.filter((address) => !seasonal(address)),
      on,
    )
  );
}

/** What is used of each kind on a day; `lost` where there is only what is marked undeliverable: that one. */
export interface WaysOn<E, P, A> {
  email: E | null;
  phone: P | null;
  address: A | null;
  lost: { email: E | null; phone: P | null; address: A | null };
}

/**
 * By which ways a supporter is reached on a day. Every screen, list, file, mailing and letter has its answer from here,
 * so that none reaches anybody otherwise than the others.
 */
export function waysOn<E extends Way, P extends Way, A extends Way & Season>(
  { emails, phones, addresses }: { emails: readonly E[]; phones: readonly P[]; addresses: readonly A[] },
  on: IsoDate,
): WaysOn<E, P, A> {
  const [email, phone, address] = [wayOn(emails, on), wayOn(phones, on), addressOn(addresses, on)];
  return {
    ...{ email, phone, address },
    lost: {
      email: email ? null : ifGood(emails, (ways) => wayOn(ways, on)),
      phone: phone ? null : ifGood(phones, (ways) => wayOn(ways, on)),
      address: address ? null : ifGood(addresses, (ways) => addressOn(ways, on)),
    },
  };
}

/** What would be chosen if nothing were marked undeliverable. */
function ifGood<T extends Way>(
  ways: readonly T[],
  choose: (ways: readonly (T & { at: number })[]) => { at: number } | null,
) {
  const chosen = choose(ways.map((way, at) => ({ ...way, badOn: null, at })));
  return chosen === null ? null : (ways[chosen.at] ?? null);
}

/**
 * What becomes of the ways of one kind when they are saved: exactly one that still holds is preferred, the first
 * marked, else the one that began last. Where the preferred one was `before` and another takes its place, the old one ends
 * yesterday at the latest and is called former, so that it stays to be read.
 */
export function withOnePreferred<T extends Way & { id?: number | undefined; label: string }>(
  ways: readonly T[],
  before: number | null,
  today: IsoDate,
  yesterday: IsoDate,
): T[] {
  const open = ways.filter((way) => way.validTo === null || way.validTo >= today);
  // A box ticked on another while the old stays ticked means the other.
  const chosen =
    open.find((way) => way.preferred && way.id !== before) ??
    open.find((way) => way.preferred) ??
    begunLast(open.filter((way) => way.validFrom === null || way.validFrom <= today)) ??
    open[0];
  return ways.map((way) => {
    const isChosen = way === chosen;
    const replaced = !isChosen && before !== null && way.id === before && chosen !== undefined && chosen.id !== before;
    if (!replaced || (way.validTo !== null && way.validTo < today)) return { ...way, preferred: isChosen };
    const validFrom = way.validFrom !== null && way.validFrom > yesterday ? null : way.validFrom;
    return { ...way, preferred: false, label: 'former', validFrom, validTo: yesterday };
  });
}
