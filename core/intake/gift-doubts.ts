import { dateInZone } from '../dates/index.ts';
import { nthOf } from './fields.ts';
import type { IntakeColumn, IntakeField } from './fields.ts';
import type { DraftGift, RowSetting } from './rows.ts';

/* Whether what a row says of a gift is what it seems. */

/** Gifts of so much are looked at: $1,000,000. */
const MUCH = 100_000_000;

/**
 * Two digits after the sign that does not stand before decimals here, `1,23` where they are written 1.23: a digit may be
 * missing. Two noughts are surely no dollars.
 */
const OTHER_MARK = { '.': /^[^\d]*\d{1,3},(?!00)\d{2}[^\d]*$/, ',': /^[^\d]*\d{1,3}\.(?!00)\d{2}[^\d]*$/ } as const;

/** A day with its time, and how far that is off UTC. */
const INSTANT = /^(\d{4}-\d{2}-\d{2})[T ](\d{2}:\d{2}(?::\d{2}(?:\.\d+)?)?)\s?(?:(Z|UTC|GMT)|([+-]\d{2}):?(\d{2}))$/;

/** Which day a text of a time and its zone was in a time zone; null for what is none. */
function dayHere(text: string, zone: string): string | null {
  const [, day, time, utc, hours, minutes] = INSTANT.exec(text) ?? [];
  if (day === undefined || time === undefined) return null;
  const instant = new Date(`${day}T${time}${utc === undefined ? `${hours ?? ''}:${minutes ?? ''}` : 'Z'}`);
  return Number.isNaN(instant.getTime()) ? null : dateInZone(instant, zone);
}

/** Tells what is odd about the nth gift of a row. */
export function lookAtGift(
  gift: DraftGift,
  nth: number,
  at: (field: IntakeColumn) => string,
  { decimal, zone }: RowSetting,
  warn: (field: IntakeColumn, reason: string) => void,
): void {
  const [amount, date, benefit] = (['amount', 'date', 'benefit'] as const).map((field: IntakeField) =>
    nthOf(field, nth),
  ) as [IntakeColumn, IntakeColumn, IntakeColumn];
  if (gift.cents >= MUCH) warn(amount, `“${at(amount)}” is a million or more; look whether a point is lost.`);
  if (OTHER_MARK[decimal].test(at(amount)))
    warn(amount, `“${at(amount)}” has a “${decimal === '.' ? ',' : '.'}” where decimals here have a “${decimal}”.`);
  if (gift.benefitCents > gift.cents) warn(benefit, 'What was received for the gift is worth more than the gift.');
  const here = zone === undefined || at(date).length < 16 ? null : dayHere(at(date), zone);
  if (here !== null && here !== gift.date)
    warn(date, `“${at(date)}” was ${here} where you are; it is taken for ${gift.date}.`);
}
