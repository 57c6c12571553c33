import { bytes, cents, days, ids, NO_DAY, small, words } from './columns.ts';
import type { Column, Columns, RowFor } from './columns.ts';
import { Ragged } from './ragged.ts';

/*
 * What facts hold, declared once. Loading, catching up, growing, packing and the memory figure go over these; the
 * server says of each where it comes from (server/facts/sources.ts), the catalogue what may be asked of it.
 * Days are day numbers (`NO_DAY`: none) in the organization's zone, amounts cents, ids 0 for none.
 */

/** What is known once of every supporter. Region, city, postal code and `mailable` are of the address used today. */
export const personColumns = () => ({
  /** The code of `SUPPORTER_KINDS`. */
  kind: bytes(),
  /** Bits of `FLAG` and of `WISHES`. */
  flags: small(),
  /** The id of the household a person belongs to, a household's own id, or 0. */
  household: ids(),
  region: words(),
  city: words(),
  postal: words(),
  /** 1 where an address can be used today. */
  mailable: bytes(),
  prefix: words(),
  first: words(),
  middle: words(),
  last: words(),
  suffix: words(),
  nickname: words(),
  formerLast: words(),
  organization: words(),
  orgKind: words(),
  /** Month * 32 + day, 0 for none; the year apart, 0 where it is not known. */
  birthday: small(),
  birthYear: small(),
});

/** Flags of a supporter beside the bits of `WISHES`: in the trash, and emptied out of it or gone. */
export const FLAG = { trashed: 4, erased: 8 } as const;

/** How a gift is marked: bits of `marks`. */
export const MARKS = { receipted: 1, thanked: 2, tribute: 4, pledge: 8, recurring: 16 } as const;

/** Where money went: of a gift split over several places, 0 in fund, campaign and appeal. */
const placed = () => ({
  day: days(),
  cents: cents(),
  fund: ids(),
  campaign: ids(),
  appeal: ids(),
  /** The place of its payment method in `METHOD_CODES`. */
  method: bytes(),
  gift: ids(),
});

/** A gift or a part of one; `gift` is its id. */
const given = () => ({ ...placed(), source: ids(), batch: ids(), marks: bytes() });

/** A way that something reaches somebody: used from a day to a day, and not once it is bad. */
const way = () => ({ label: words(), preferred: bytes(), from: days(), to: days(), bad: days() });

/** Everything of which a supporter may have many. */
export const lists = () => ({
  /** In the order of their days. */
  gifts: new Ragged(given()),
  /** Parts of the gifts that are split; the parts of a gift stand together. */
  splits: new Ragged(given()),
  /** Recognition of a part of somebody else's gift: `of` is the amount of the part, `donor` its legal donor. */
  credits: new Ragged({ ...placed(), part: bytes(), of: cents(), donor: ids(), kind: words() }),
  tags: new Ragged({ tag: ids(), source: words() }),
  groups: new Ragged({ group: ids() }),
  wishes: new Ragged({ kind: words(), day: days(), source: words() }),
  emails: new Ragged({ address: words(), ...way() }),
  phones: new Ragged({ number: words(), ...way() }),
  addresses: new Ragged({
    ...{ street: words(), city: words(), region: words(), postal: words(), country: words() },
    ...{ ...way(), seasonFrom: words(), seasonTo: words() },
  }),
  /** Both ends of each tie; `role` is what the other is: the kind of tie * 2, and 1 more for its second word. */
  ties: new Ragged({ role: ids(), other: ids(), from: days(), to: days(), says: words(), id: ids() }),
  /** `text` is what they say, plain; a note about several stands with each. */
  notes: new Ragged({ day: days(), kind: words(), author: ids(), text: words(), id: ids() }),
  tasks: new Ragged({ day: days(), done: days(), owner: ids(), title: words(), id: ids() }),
  pledges: new Ragged({
    ...{ day: days(), cents: cents(), kind: words(), stage: words(), fund: ids(), campaign: ids(), appeal: ids() },
    /** What is still to be paid, once it is promised. */
    ...{ open: cents(), id: ids() },
  }),
  /** What was promised for a day, and how much of it is still open. */
  installments: new Ragged({ day: days(), cents: cents(), open: cents() }),
  /** `cents` is the newest amount agreed; `failing` where the last charge failed. */
  recurring: new Ragged({ day: days(), cents: cents(), every: words(), until: days(), failing: bytes() }),
  receipts: new Ragged({ day: days(), cents: cents(), voided: bytes() }),
  /**
   * What was sent, or should have been: `subject` is the mailing; `back` counts what reached them of e-mails to segments
   * from the latest (1) back, 0 for the rest.
   */
  sendings: new Ragged({
    ...{ day: days(), kind: words(), subject: ids(), outcome: words(), channel: words() },
    ...{ opened: days(), back: ids(), id: ids() },
  }),
  /** The change sets that touched the record and still stand; `intake` is the file that it came from. */
  changes: new Ragged({ day: days(), kind: words(), by: ids(), intake: ids() }),
});

export type Lists = ReturnType<typeof lists>;
export type ListName = keyof Lists;
const DECLARED = lists();
export const LIST_NAMES = Object.keys(DECLARED) as ListName[];
/** One row of a list. */
export type ListRow<L extends ListName> = RowFor<Lists[L]['columns']>;
export type PersonRow = RowFor<ReturnType<typeof personColumns>>;

/** A row of a list of which some is known: the rest is nothing, no day, no word. */
export function rowWith<L extends ListName>(name: L, known: Partial<ListRow<L>>): ListRow<L> {
  const nothing = ({ values, words }: Column): string | number =>
    words ? '' : values instanceof Int32Array ? NO_DAY : 0;
  const columns: Columns = DECLARED[name].columns;
  const empty = Object.fromEntries(Object.entries(columns).map(([column, one]) => [column, nothing(one)]));
  return { ...empty, ...known } as ListRow<L>;
}
