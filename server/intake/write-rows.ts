import type { Row } from '@tallystick/core/changes';
import type { IsoDate } from '@tallystick/core/dates';
import { called, namedIn } from '@tallystick/core/intake';
import type { ChangeAct, DraftGift, DraftPledge, DraftRecurring, DraftRow, NamedMember } from '@tallystick/core/intake';
import { displayName, sortName } from '@tallystick/core/names';
import { insertGifts } from '../gifts/index.ts';
import { makePledge, payPledge } from '../pledges/index.ts';
import { storeRecurring } from '../recurring/index.ts';
import type { NewGift } from '../gifts/index.ts';
import type { Actor } from '../platform/changes.ts';
import { chunks } from '../platform/db.ts';
import type { Transaction } from '../platform/transaction.ts';
import {
  addNotes,
  addTags,
  addToGroups,
  AddressTable,
  bringChanges,
  EmailTable,
  PhoneTable,
  rememberAs,
  SupporterTable,
} from '../supporters/index.ts';
import type { JudgedRow } from './fates.ts';
import { giftsIn } from './reading.ts';
import { SupporterFieldTable } from '../settings/index.ts';

/** Who brings what file in, and on which day; `progress` is told how many rows are done. */
interface Bringing {
  actor: Actor;
  today: IsoDate;
  file: string;
  /** Where the file comes from, empty where nobody said; and the rows whose supporters a person chose. */
  source: string;
  chosen: (row: JudgedRow) => boolean;
  progress: (done: number) => Promise<void>;
}

/** The gifts of so many rows are made ready at once: of all of them they would take much room. */
const GIFTS_AT_ONCE = 10_000;

/** Writes the good rows table by table: new supporters, what comes to those who are here, tags, notes, and every gift. */
export async function writeRows(
  tx: Transaction,
  all: readonly JudgedRow[],
  good: readonly JudgedRow[],
  books: Parameters<typeof giftOf>[2],
  { actor, today, file, source, chosen, progress }: Bringing,
): Promise<void> {
  const fresh = good.filter((row) => row.match?.kind === 'new');
  const made = await insertSupporters(
    tx,
    fresh.map(({ line }) => line.draft),
  );
  const madeAt = new Map(fresh.map(({ line }, index) => [line, made[index] ?? 0]));
  const ownerOf = (row: JudgedRow): number => {
    if (row.match?.kind === 'known') return row.match.id;
    const first = row.match?.kind === 'earlier' ? all[row.match.row] : row;
    return (first && madeAt.get(first.line)) ?? 0;
  };
  await progress(Math.floor((all.length * 2) / 3));
  const each = <T>(of: (row: JudgedRow) => readonly T[]) =>
    good.flatMap((row) => of(row).map((one) => ({ supporterId: ownerOf(row), one })));
  const named = namedIn(fresh.map(({ line }) => line));
  /** What is brought of a row; whom it names besides its supporter may be the supporter of another. */
  const actsOf = (row: JudgedRow): ChangeAct[] =>
    row.changes.flatMap(({ act }) => {
      if (act === null) return [];
      if ((act.do !== 'spouse' && act.do !== 'second') || act.to !== null) return [act];
      const other = named(row.line, act.member);
      return [{ ...act, to: (other && madeAt.get(other)) ?? null }];
    });
  await bringChanges(
    tx,
    actor,
    each(actsOf).map(({ supporterId, one: act }) => ({ supporterId, act })),
    { today, source: `intake of ${file}`, from: source },
  );
  // The next file from there knows whom a person chose.
  if (source !== '')
    await rememberAs(
      tx,
      source,
      each((row) => (chosen(row) && row.line.brings.outside === '' ? called(row.line.draft) : [])).map(
        ({ supporterId, one }) => ({ supporterId, called: one }),
      ),
    );
  await addTags(
    tx,
    // Of a list that comes back only what was changed in it is brought, and that is among its changes.
    each(({ line: { brings } }) => (brings.back ? [] : brings.tags)).map(({ supporterId, one: tag }) => ({
      supporterId,
      tag,
    })),
    'intake',
  );
  await addToGroups(
    tx,
    each(({ line: { brings } }) => brings.groups).map(({ supporterId, one: group }) => ({ supporterId, group })),
  );
  await addNotes(
    tx,
    actor,
    [
      ...each(({ line: { brings } }) => brings.remarks).map(({ supporterId, one: text }) => ({ supporterId, text })),
      ...each(({ line: { brings } }) => (brings.call ? [brings.call] : [])).map(({ supporterId, one }) => ({
        ...{ supporterId, kind: 'call' as const, ...one },
      })),
    ],
    today,
  );
  const promised = await makePromises(
    tx,
    each(({ changes }) => changes.flatMap(({ act }) => act ?? [])),
    books.currency,
  );
  for (const some of chunks(good, GIFTS_AT_ONCE)) {
    const gifts = some.flatMap((row) =>
      giftsIn(row.line).map((gift, nth) => {
        const keeps = row.changes.flatMap(({ act }) =>
          act?.do === 'keeps' && act.keeps.nth === nth ? [act.keeps] : [],
        );
        return { supporterId: ownerOf(row), gift, keeps: keeps[0] ?? null };
      }),
    );
    const ids = await insertGifts(
      tx,
      gifts.map(({ gift, supporterId, keeps }) => ({
        ...giftOf(gift, supporterId, books),
        recurringId: keeps && 'recurring' in keeps ? promised.idOf(keeps.recurring) : null,
      })),
    );
    for (const [at, { gift, supporterId, keeps }] of gifts.entries())
      if (keeps && 'pledge' in keeps)
        await payPledge(
          tx,
          { id: ids[at] ?? 0, supporterId, cents: gift.cents, date: gift.date },
          {
            pledgeId: promised.idOf(keeps.pledge.id ?? keeps.pledge.made),
            installments: [],
            over: 'beyond',
            byOther: false,
          },
        );
  }
  await progress(all.length);
}

/** Stores the pledges and recurring gifts that rows make; says the ids of those, and of what was here before. */
async function makePromises(
  tx: Transaction,
  acts: readonly { supporterId: number; one: ChangeAct }[],
  currency: string,
): Promise<{ idOf: (promise: number | DraftPledge | DraftRecurring | null) => number }> {
  const ids = new Map<DraftPledge | DraftRecurring, number>();
  for (const { supporterId, one } of acts) {
    if (one.do === 'pledge') {
      const { cents, pledgedOn, fundId, count, every, first } = one.pledge;
      const plan = { kind: 'count' as const, count, schedule: { start: first, every, lastDay: false } };
      const whose = { supporterId, kind: 'pledge', stage: 'promised' } as const;
      const rest = { campaignId: null, appealId: null, note: '', appliedOn: null, askedCents: null, forGiftId: null };
      ids.set(one.pledge, await makePledge(tx, { ...whose, cents, pledgedOn, fundId, plan, ...rest }, currency));
    }
    if (one.do === 'recurring') {
      const { cents, every, from, fundId, method } = one.recurring;
      const plan = { supporterId, cents, schedule: { start: from, every, lastDay: false }, until: null, method };
      const parts = [{ weight: 1, fundId, campaignId: null, appealId: null }];
      ids.set(one.recurring, await storeRecurring(tx, { ...plan, parts, card: '', cardLabel: '', note: '' }, currency));
    }
  }
  return { idOf: (promise) => (typeof promise === 'number' ? promise : ((promise && ids.get(promise)) ?? 0)) };
}

/** A gift of a row with whom it belongs to, as it is stored. */
export function giftOf(
  { fundId, campaignId, appealId, cents, kind: _kind, ...gift }: DraftGift,
  supporterId: number,
  books: { currency: string; batchId: number; intakeId?: number; bookedOn: (date: string) => string },
): NewGift {
  return {
    ...gift,
    supporterId,
    cents,
    currency: books.currency,
    batchId: books.batchId,
    intakeId: books.intakeId ?? null,
    parts: [{ cents, fundId, campaignId, appealId }],
    bookedOn: books.bookedOn(gift.date),
    // A file says what was given in kind in its note.
    details: gift.method === 'in_kind' ? { kind: 'in_kind', description: gift.note, estimateBy: 'us' } : null,
  };
}

const nameOf = (draft: DraftRow) => {
  if (displayName(draft.name) !== '' || draft.email === null) return draft.name;
  return { ...draft.name, last: draft.email.split('@')[0] ?? '' };
};

const personOf = ({ name, nickname, formerLast }: NamedMember): Row => ({
  ...name,
  ...{ nickname, former_last: formerLast, sort_name: sortName(name) },
});

/** Stores who lives in the new households; the first that is named is the primary. */
async function insertMembers(tx: Transaction, drafts: readonly DraftRow[], ids: readonly number[]): Promise<void> {
  const members = drafts.flatMap((draft, index) => draft.members.map((member) => ({ member, home: ids[index] ?? 0 })));
  const made = await tx.insertAll(
    SupporterTable,
    members.map(({ member, home }) => ({ ...personOf(member), household_id: home })),
  );
  const primaries = new Map<number, number>();
  for (const [index, { home }] of members.entries()) if (!primaries.has(home)) primaries.set(home, made[index] ?? 0);
  for (const [home, primary] of primaries) await tx.update(SupporterTable, home, { primary_id: primary });
}

/** Stores new supporters with the contact details and fields of their drafts; answers their ids in the same order. */
export async function insertSupporters(tx: Transaction, drafts: readonly DraftRow[]): Promise<number[]> {
  const ids = await tx.insertAll(
    SupporterTable,
    drafts.map((draft) => personOf({ ...draft, name: nameOf(draft) })),
  );
  await insertMembers(tx, drafts, ids);
  const rows = (wanted: (draft: DraftRow) => boolean, row: (draft: DraftRow) => Row): Row[] =>
    drafts.flatMap((draft, index) =>
      wanted(draft) ? [{ supporter_id: ids[index] ?? 0, preferred: 1, ...row(draft) }] : [],
    );
  await tx.insertAll(
    EmailTable,
    rows(
      (draft) => draft.email !== null,
      ({ email, labels }) => ({ address: email, label: labels?.email ?? 'home' }),
    ),
  );
  await tx.insertAll(
    PhoneTable,
    rows(
      (draft) => draft.phone !== '',
      ({ phone, labels }) => ({ number: phone, label: labels?.phone ?? 'home' }),
    ),
  );
  await tx.insertAll(
    AddressTable,
    rows(
      (draft) => draft.street + draft.city + draft.region + draft.postal !== '',
      ({ street, city, region, postal, country, labels }) => ({
        ...{ street, city, region, postal, country, label: labels?.street ?? 'home' },
      }),
    ),
  );
  await tx.insertAll(
    SupporterFieldTable,
    drafts.flatMap((draft, index) =>
      draft.own.map(([field, value]) => ({ supporter_id: ids[index] ?? 0, field_id: field, value })),
    ),
  );
  return ids;
}
