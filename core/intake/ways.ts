import { addressKey, phoneKey } from '../contact/index.ts';
import type { PostalAddress } from '../contact/index.ts';
import type { IsoDate } from '../dates/index.ts';
import { fold } from '../names/index.ts';
import type { Wish } from '../wishes/index.ts';
import type { NameColumn } from './details.ts';
import type { DraftRecurring, OpenPledge } from './promises.ts';

/* A record as rows are held against it, and when what a row says is what it has already, however each writes it. */

/** A way that a record has; `id` is null for one that an earlier row of the file adds. */
interface KeptWay {
  id: number | null;
  label: string;
  /** Whether it is used for reaching them. */
  usable: boolean;
}

/** A record as rows are held against it; it changes with each row that says something of it. */
export interface KeptRecord {
  names: Record<NameColumn, string>;
  /** Whether it is a person, who alone has such names and a birthday. */
  person: boolean;
  birthday: string;
  emails: (KeptWay & { address: string })[];
  phones: (KeptWay & { number: string })[];
  /** Where somebody lives for a season is not where they move from. */
  addresses: (KeptWay & PostalAddress & { seasonal?: boolean })[];
  /** Who else lives in their home, or the home itself, with the address that is used for them. Known where all move. */
  sharers: { id: number; called: string; at: PostalAddress & { id: number } }[];
  wishes: Map<Wish, IsoDate | null>;
  /** Their tags; one that a segment keeps is nobody else's to take off. Known where a list comes back. */
  tags: { name: string; standing: boolean }[];
  /** Values of custom fields as they are kept, by field. */
  own: Map<number, string>;
  /** The names of a spouse, and of employers, as they are tied today. */
  spouses: string[];
  employers: string[];
  /** Who they are tied to by name; `first` where they stand first in the tie. */
  tied: { kind: number; first: boolean; name: string }[];
  /** The name of the home that they share; empty where they share none. */
  household: string;
  /** What they promised, the oldest first, and their recurring gifts of today. */
  pledges: OpenPledge[];
  recurring: (number | DraftRecurring)[];
  /** Every tie of today, as `tieKey` writes it. */
  ties: Set<string>;
  /** Their numbers where the file comes from. */
  outside: Set<string>;
}

export const sameText = (a: string, b: string): boolean => a === b || fold(a) === fold(b);
export const sameNumber = (a: string, b: string): boolean => a === b || phoneKey(a) === phoneKey(b);

export const sameAddress = (a: PostalAddress, b: PostalAddress): boolean =>
  (a.street === b.street && a.postal === b.postal && a.city === b.city) || addressKey(a) === addressKey(b);
