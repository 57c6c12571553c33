import type { IsoDate } from '../dates/index.ts';
import { addDays } from '../dates/index.ts';

/** What a supporter asked for, or what is so; the words are how screens say it. The bit is its place in facts. */
export const WISHES = {
  no_mail: { word: 'No mail', bit: 16 },
  no_email: { word: 'No e-mail', bit: 1 },
  no_calls: { word: 'No calls', bit: 32 },
  no_solicitation: { word: 'No asking for gifts', bit: 64 },
  receipts_only: { word: 'Receipts only', bit: 128 },
  once_a_year: { word: 'Once a year only', bit: 256 },
  anonymous: { word: 'Not named in public', bit: 512 },
  deceased: { word: 'Deceased', bit: 2 },
} as const;
export type Wish = keyof typeof WISHES;
export const WISH_NAMES = Object.keys(WISHES) as Wish[];

/** The wishes among the bits that facts hold, in the order of `WISHES`. */
export const wishesOf = (bits: number): Wish[] => WISH_NAMES.filter((wish) => (bits & WISHES[wish].bit) !== 0);

export type Channel = 'email' | 'mail' | 'call';
/** An appeal asks for gifts; news does not; a receipt answers a gift. */
export type Purpose = 'appeal' | 'news' | 'receipt';

/** What decides whether a sending goes to a supporter. */
export interface SendingSubject {
  /** The address for the channel, or null. */
  reach: string | null;
  /** Whether that address is marked undeliverable. */
  bad: boolean;
  wishes: readonly Wish[];
  trashed: boolean;
  /** When an appeal or news last went to them; null for never. */
  lastSentOn: IsoDate | null;
}

export type HoldReason =
  | 'in the trash'
  | 'deceased'
  | 'wants no e-mail'
  | 'wants no mail'
  | 'wants no calls'
  | 'wants receipts only'
  | 'does not want to be asked'
  | 'was written to within a year'
  | 'no e-mail address'
  | 'no address'
  | 'no telephone'
  | 'e-mail bounced'
  | 'address is undeliverable'
  | 'telephone is marked bad';

const CHANNELS: Record<Channel, { wish: Wish; refused: HoldReason; missing: HoldReason; bad: HoldReason }> = {
  email: { wish: 'no_email', refused: 'wants no e-mail', missing: 'no e-mail address', bad: 'e-mail bounced' },
  mail: { wish: 'no_mail', refused: 'wants no mail', missing: 'no address', bad: 'address is undeliverable' },
  call: { wish: 'no_calls', refused: 'wants no calls', missing: 'no telephone', bad: 'telephone is marked bad' },
};

/**
 * Why a supporter is held back from a sending, the weightiest reason first, or null when nothing holds them back.
 * A wish to get receipts only, or not to be asked, never stops a receipt.
 */
export function heldBack(
  channel: Channel,
  purpose: Purpose,
  subject: SendingSubject,
  today: IsoDate,
): HoldReason | null {
  const { wish, refused, missing, bad } = CHANNELS[channel];
  const wants = (name: Wish): boolean => subject.wishes.includes(name);
  if (subject.trashed) return 'in the trash';
  if (wants('deceased')) return 'deceased';
  if (wants(wish)) return refused;
  if (purpose !== 'receipt') {
    if (wants('receipts_only')) return 'wants receipts only';
    if (purpose === 'appeal' && wants('no_solicitation')) return 'does not want to be asked';
    if (wants('once_a_year') && subject.lastSentOn !== null && subject.lastSentOn > addDays(today, -365))
      return 'was written to within a year';
  }
  if (subject.reach === null) return missing;
  return subject.bad ? bad : null;
}
