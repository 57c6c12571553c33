import type { IsoDate } from '../dates/index.ts';

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

export const CHANNELS = ['mail', 'email', 'call'] as const;
export type Channel = (typeof CHANNELS)[number];
/** What a file of supporters is for: to reach them by a channel, or to be looked at in the office. */
export const FILE_USES = ['office', ...CHANNELS] as const;
export type FileUse = (typeof FILE_USES)[number];
/** An appeal asks for gifts; news does not; a receipt answers a gift. */
export type Purpose = 'appeal' | 'news' | 'receipt';

/** What decides whether a sending goes to a supporter. */
export interface SendingSubject {
  /** What each channel would use that day, or null; `bad` where all there is of it is marked undeliverable. */
  reach: Record<Channel, { address: string; bad: boolean } | null>;
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
