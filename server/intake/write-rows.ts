import type { Row } from '@tallystick/core/changes';
import type { DraftRow, NamedMember } from '@tallystick/core/intake';
import { displayName, sortName } from '@tallystick/core/names';
import { insertGifts } from '../gifts/index.ts';
import type { NewGift } from '../gifts/index.ts';
import type { Transaction } from '../platform/transaction.ts';
import { addTags, AddressTable, EmailTable, PhoneTable, SupporterTable } from '../supporters/index.ts';
import type { JudgedRow } from './judge.ts';
import { SupporterFieldTable } from '../settings/index.ts';

/** Writes the good rows table by table: new supporters, their contact details, tags, and every gift. */
export async function writeRows(
  tx: Transaction,
  all: readonly JudgedRow[],
  good: readonly JudgedRow[],
  books: Parameters<typeof giftOf>[2],
  progress: (done: number) => Promise<void>,
): Promise<void> {
  const fresh = good.filter((row) => row.match?.kind === 'new');
  const made = await insertSupporters(
    tx,
    fresh.map((row) => row.draft),
  );
  const madeAt = new Map(fresh.map((row, index) => [row, made[index] ?? 0]));
  const ownerOf = (row: JudgedRow): number => {
    if (row.match?.kind === 'known') return row.match.id;
    const first = row.match?.kind === 'earlier' ? all[row.match.row] : row;
    return (first && madeAt.get(first)) ?? 0;
  };
  await progress(Math.floor((all.length * 2) / 3));
  await addTags(
    tx,
    good.filter(({ draft }) => draft.tag !== '').map((row) => ({ supporterId: ownerOf(row), tag: row.draft.tag })),
    'intake',
  );
  const gifts = good.flatMap((row) => giftOf(row.draft, ownerOf(row), books) ?? []);
  await insertGifts(tx, gifts);
  await progress(all.length);
}

/** A row's draft with whom it belongs to, as a gift to be stored; null where the row brings none. */
export function giftOf(
  draft: DraftRow,
  supporterId: number,
  books: { currency: string; batchId: number; intakeId?: number; bookedOn: (date: string) => string },
): NewGift | null {
  if (!draft.gift) return null;
  const { fundId, campaignId, appealId, cents, ...gift } = draft.gift;
  return {
    ...gift,
    ...{ supporterId, cents, currency: books.currency, batchId: books.batchId, intakeId: books.intakeId ?? null },
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
      wanted(draft) ? [{ supporter_id: ids[index] ?? 0, label: 'home', preferred: 1, ...row(draft) }] : [],
    );
  await tx.insertAll(
    EmailTable,
    rows(
      (draft) => draft.email !== null,
      (draft) => ({ address: draft.email }),
    ),
  );
  await tx.insertAll(
    PhoneTable,
    rows(
      (draft) => draft.phone !== '',
      (draft) => ({ number: draft.phone }),
    ),
  );
  await tx.insertAll(
    AddressTable,
    rows(
      (draft) => draft.street + draft.city + draft.region + draft.postal !== '',
      ({ street, city, region, postal, country }) => ({ street, city, region, postal, country }),
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
