import type { DraftRow } from '@tallystick/core/intake';
import { displayName, sortName } from '@tallystick/core/names';
import { chunks } from '../platform/db.ts';
import type { Transaction } from '../platform/transaction.ts';
import { tagIds } from '../supporters/index.ts';
import type { JudgedRow } from './judge.ts';

/** Writes the good rows table by table: new supporters, their contact details, tags, and every gift. */
export async function writeRows(
  tx: Transaction,
  all: readonly JudgedRow[],
  good: readonly JudgedRow[],
  currency: string,
  intakeId: number,
  progress: (done: number) => Promise<void>,
): Promise<void> {
  const fresh = good.filter((row) => row.match?.kind === 'new');
  const made = await tx.insertAll(
    'supporter',
    fresh.map(({ draft }) => ({ ...nameOf(draft), nickname: draft.nickname, sort_name: sortName(nameOf(draft)) })),
  );
  await progress(Math.floor(all.length / 3));
  const madeAt = new Map(fresh.map((row, index) => [row, made[index] ?? 0]));
  const ownerOf = (row: JudgedRow): number => {
    if (row.match?.kind === 'known') return row.match.id;
    const first = row.match?.kind === 'earlier' ? all[row.match.row] : row;
    return (first && madeAt.get(first)) ?? 0;
  };
  const way = (row: JudgedRow) => ({ supporter_id: ownerOf(row), label: 'home', preferred: 1 });
  await tx.insertAll(
    'email',
    fresh.filter(({ draft }) => draft.email !== null).map((row) => ({ ...way(row), address: row.draft.email })),
  );
  await tx.insertAll(
    'phone',
    fresh.filter(({ draft }) => draft.phone !== '').map((row) => ({ ...way(row), number: row.draft.phone })),
  );
  await tx.insertAll(
    'address',
    fresh
      .filter(({ draft }) => draft.street + draft.city + draft.region + draft.postal !== '')
      .map((row) => {
        const { street, city, region, postal, country } = row.draft;
        return { ...way(row), street, city, region, postal, country };
      }),
  );
  await tx.insertAll(
    'supporter_field',
    fresh.flatMap((row) =>
      row.draft.own.map(([field, value]) => ({ supporter_id: ownerOf(row), field_id: field, value })),
    ),
  );
  await progress(Math.floor((all.length * 2) / 3));
  await writeTags(
    tx,
    good.filter(({ draft }) => draft.tag !== '').map((row) => ({ supporterId: ownerOf(row), tag: row.draft.tag })),
  );
  await writeGifts(tx, good, ownerOf, { currency, intake_id: intakeId });
  await progress(all.length);
}

async function writeGifts(
  tx: Transaction,
  rows: readonly JudgedRow[],
  ownerOf: (row: JudgedRow) => number,
  shared: { currency: string; intake_id: number },
): Promise<void> {
  const given = rows.flatMap((row) => (row.draft.gift ? [{ gift: row.draft.gift, supporter_id: ownerOf(row) }] : []));
  const ids = await tx.insertAll(
    'gift',
    given.map(({ gift: { fundId, campaignId, appealId, own: _own, ...gift }, supporter_id }) => ({
      ...gift,
      ...shared,
      supporter_id,
      fund_id: fundId,
      campaign_id: campaignId,
      appeal_id: appealId,
      acknowledged_on: null,
    })),
  );
  await tx.insertAll(
    'gift_field',
    given.flatMap(({ gift, supporter_id }, index) =>
      gift.own.map(([field_id, value]) => ({ supporter_id, gift_id: ids[index] ?? 0, field_id, value })),
    ),
  );
}

const nameOf = (draft: DraftRow) => {
  if (displayName(draft.name) !== '' || draft.email === null) return draft.name;
  return { ...draft.name, last: draft.email.split('@')[0] ?? '' };
};

async function writeTags(tx: Transaction, wanted: readonly { supporterId: number; tag: string }[]): Promise<void> {
  const ids = await tagIds(
    tx,
    wanted.map(({ tag }) => tag),
  );
  const pairs = new Map(
    wanted.map(({ supporterId, tag }) => [
      `${supporterId}:${ids.get(tag) ?? 0}`,
      { supporter_id: supporterId, tag_id: ids.get(tag) ?? 0 },
    ]),
  );
  for (const slice of chunks([...pairs.values()])) {
    // supporter_tag_pair (supporter_id, tag_id)
    const has = await tx.sql.rows<{ supporter_id: number; tag_id: number }>(
      'SELECT supporter_id, tag_id FROM supporter_tag WHERE supporter_id IN (?)',
      [slice.map((pair) => pair.supporter_id)],
    );
    const known = new Set(has.map((pair) => `${pair.supporter_id}:${pair.tag_id}`));
    await tx.insertAll(
      'supporter_tag',
      slice
        .filter((pair) => !known.has(`${pair.supporter_id}:${pair.tag_id}`))
        .map((pair) => ({ ...pair, source: 'intake' })),
    );
  }
}
