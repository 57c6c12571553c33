import { addressOn, wayOn } from '@tallystick/core/contact';
import type { IsoDate } from '@tallystick/core/dates';
import { tieKey } from '@tallystick/core/intake';
import type { KeptRecord } from '@tallystick/core/intake';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { chunks, eachChunk } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { asTheyWere, rowsAt } from '../platform/known.ts';
import { isKept } from './kept-tags.ts';
import type { KnownAsRecord, SupporterRecord, WishRecord } from './supporter.entity.ts';
import { nameColumns, namesOf } from './views.ts';
import { bySupporter, storedOf, WAY_TABLES } from './ways.ts';
import type { AsThen } from './ways.ts';

/* Records as rows of a file, or of a list that comes back, are held against them. */

/** The supporters of some whose records were written after a revision. */
export async function writtenSince(sql: Sql, ids: readonly number[], revision: number): Promise<Set<number>> {
  const found = new Set<number>();
  for (const slice of chunks(ids, 2000))
    // change_row_supporter (supporter_id, revision)
    for (const { id } of await sql.rows<{ id: number }>(
      `SELECT DISTINCT supporter_id AS id FROM change_row WHERE supporter_id IN (?) AND revision > ? AND table_name IN (?)`,
      [slice, revision, PARTS_OF_RECORDS],
    ))
      found.add(id);
  return found;
}
const PARTS_OF_RECORDS = ['supporter', 'email', 'phone', 'address', 'wish', 'supporter_field', 'supporter_tag'];

/** The parts of a record that a row may be held against, besides its names. */
export const KEPT_PARTS = [...WAY_TABLES, 'wishes', 'own', 'tags', 'ties', 'household', 'outside'] as const;
/** `sharers` are asked for only where all of a home move. */
export type KeptPart = (typeof KEPT_PARTS)[number] | 'sharers';

/**
 * The records of supporters as rows of a file are held against them on a day; those that there are not are missing. As
 * they were at a revision, where one is given: but for their ties and numbers elsewhere, which are those of today. Parts
 * that are not asked for are empty. `source` is where their numbers elsewhere are of.
 */
export async function keptRecords(
  sql: Sql,
  ids: readonly number[],
  today: IsoDate,
  source = '',
  revision: number | null = null,
  parts: readonly KeptPart[] = KEPT_PARTS,
): Promise<Map<number, KeptRecord>> {
  const none = <R>(): ReadonlyMap<number, R[]> => new Map<number, R[]>();
  const ifAsked = <R>(part: KeptPart, read: () => Promise<ReadonlyMap<number, R[]>>) =>
    parts.includes(part) ? read() : Promise.resolve(none<R>());
  const found = new Map<number, KeptRecord>();
  const asThen: AsThen = async (name, now, of) =>
    revision === null ? now : asTheyWere(now, await rowsAt(sql, { name }, revision, { of }));
  const of = async <R extends { id: number }>(table: string, slice: readonly number[]): Promise<readonly R[]> =>
    asThen(table, await sql.rows<R>(`SELECT * FROM ${table} WHERE supporter_id IN (?)`, [slice]), slice);
  const read = async (slice: readonly number[]) => {
    const [rows, ways, wishes, own, tags, ties, outside] = await Promise.all([
      sql
        .rows<SupporterRecord>('SELECT * FROM supporter WHERE id IN (?)', [slice])
        .then((now) => asThen('supporter', now, slice)),
      storedOf(
        ...([sql, slice, asThen] as const),
        WAY_TABLES.filter((table) => parts.includes(table)),
      ),
      ifAsked('wishes', () => of<WishRecord>('wish', slice).then(bySupporter)),
      ifAsked('own', () => of<OwnValue>('supporter_field', slice).then(bySupporter)),
      ifAsked('tags', async () => bySupporter(await tagsNamed(sql, await of<TagOfRecord>('supporter_tag', slice)))),
      ifAsked('ties', () => tiesOf(sql, slice, today).then(byEnd)),
      source === '' ? none<KnownAsRecord>() : ifAsked('outside', () => calledOf(sql, slice, source).then(bySupporter)),
    ]);
    const homes = parts.includes('household') ? await homesOf(sql, rows) : new Map<number, string>();
    const sharers = parts.includes('sharers') ? await sharersOf(sql, rows, today) : new Map<number, Sharer[]>();
    return { rows, ways, wishes, own, tags, ties, outside, homes, sharers };
  };
  await eachChunk(ids, 2000, read, ({ rows, ways, wishes, own, tags, ties, outside, homes, sharers }) => {
    for (const row of rows) {
      const { prefix, first, middle, last, suffix, nickname, former_last: formerLast } = row;
      const has = ways.get(row.id);
      found.set(row.id, {
        names: { prefix, first, middle, last, suffix, nickname, formerLast },
        person: row.kind === 'person',
        birthday: row.birthday,
        emails: bestFirst(has?.emails ?? [], (some) => wayOn(some, today)),
        phones: bestFirst(has?.phones ?? [], (some) => wayOn(some, today)),
        addresses: bestFirst(has?.addresses ?? [], (some) => addressOn(some, today)).map((one) => ({
          ...one,
          seasonal: one.seasonFrom !== null,
        })),
        sharers: (sharers.get(homeOf(row)) ?? []).filter(({ id }) => id !== row.id),
        wishes: new Map((wishes.get(row.id) ?? []).map((wish) => [wish.kind, wish.happened_on])),
        own: new Map((own.get(row.id) ?? []).map(({ field_id: field, value }) => [field, value])),
        tags: (tags.get(row.id) ?? []).map(({ name, source }) => ({ name, standing: isKept(source) })),
        ...tiedTo(ties.get(row.id) ?? []),
        // What was promised is known elsewhere.
        ...{ pledges: [], recurring: [] },
        household: homes.get(row.household_id ?? 0) ?? '',
        outside: new Set((outside.get(row.id) ?? []).map(({ called }) => called)),
      });
    }
  });
  return found;
}

type TagOfRecord = { id: number; supporter_id: number; tag_id: number; source: string };

/** Tags of records with what they are called today; what is no tag any more is left out. */
async function tagsNamed(sql: Sql, all: readonly TagOfRecord[]): Promise<(TagOfRecord & { name: string })[]> {
  const ids = [...new Set(all.map(({ tag_id: tag }) => tag))];
  if (ids.length === 0) return [];
  const rows = await sql.rows<{ id: number; name: string }>('SELECT id, name FROM tag WHERE id IN (?)', [ids]);
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  return all.flatMap((one) => {
    const name = names.get(one.tag_id);
    return name === undefined ? [] : [{ ...one, name }];
  });
}

type Sharer = KeptRecord['sharers'][number];
/** The home that somebody lives in, or that a record is; 0 for none. */
const homeOf = ({ id, kind, household_id: home }: Pick<SupporterRecord, 'id' | 'kind' | 'household_id'>): number =>
  kind === 'household' ? id : (home ?? 0);

/** Who lives in the homes of some, and those homes themselves, with the address that is used for each on a day; by home. */
async function sharersOf(sql: Sql, some: readonly SupporterRecord[], today: IsoDate): Promise<Map<number, Sharer[]>> {
  const homes = [...new Set(some.map(homeOf))].filter((home) => home > 0);
  const found = new Map<number, Sharer[]>();
  if (homes.length === 0) return found;
  const rows = await sql.rows<SupporterRecord>(
    `SELECT s.* FROM supporter s WHERE (s.household_id IN (?) OR s.id IN (?)) AND s.state = 'active'
     AND NOT EXISTS (SELECT 1 FROM wish w WHERE w.supporter_id = s.id AND w.kind = 'deceased') ORDER BY s.id`,
    [homes, homes],
  );
  const ways = await storedOf(
    sql,
    rows.map(({ id }) => id),
    undefined,
    ['address'],
  );
  for (const row of rows) {
    const standing = (ways.get(row.id)?.addresses ?? []).filter(({ seasonFrom }) => seasonFrom === null);
    const used = addressOn(standing, today);
    if (!used) continue;
    const one = { id: row.id, called: `${displayName(row)} ${supporterNumber(row.id)}`, at: used };
    found.set(homeOf(row), [...(found.get(homeOf(row)) ?? []), one]);
  }
  return found;
}

/** What the homes of people are called. */
async function homesOf(sql: Sql, people: readonly SupporterRecord[]): Promise<Map<number, string>> {
  const ids = [...new Set(people.flatMap(({ household_id: home }) => home ?? []))];
  if (ids.length === 0) return new Map();
  return new Map((await namesOf(sql, ids)).map((row) => [row.id, displayName(row)]));
}

interface OwnValue {
  id: number;
  supporter_id: number;
  field_id: number;
  value: string;
}

/** What supporters are called where files come from. */
const calledOf = (sql: Sql, ids: readonly number[], source: string): Promise<KnownAsRecord[]> =>
  // known_as_supporter (supporter_id)
  sql.rows<KnownAsRecord>(`SELECT * FROM known_as WHERE supporter_id IN (?) AND source = ? AND called NOT LIKE '= %'`, [
    ids,
    source,
  ]);

/** Ways with the one that is used first, each with whether it could be. */
function bestFirst<T extends { id: number }>(
  all: readonly T[],
  on: (some: readonly T[]) => T | null,
): (T & { usable: boolean })[] {
  const best = on(all);
  if (all.length < 2) return all.map((one) => ({ ...one, usable: best !== null }));
  return all
    .map((one) => ({ ...one, usable: on([one]) !== null }))
    .sort((a, b) => Number(b.id === best?.id) - Number(a.id === best?.id));
}

/** Ties as rows of a file are held against them; an employer stands first in its tie. */
const tiedTo = (ties: readonly TiedName[]): Pick<KeptRecord, 'spouses' | 'employers' | 'tied' | 'ties'> => ({
  spouses: ties.filter(({ code }) => code === 'spouse').map(displayName),
  employers: ties.filter(({ code, first_end: first }) => code === 'employer' && first === 0).map(displayName),
  tied: ties.flatMap((tie) => {
    const one = { kind: tie.kind_id, first: tie.first_end === 1, name: displayName(tie) };
    return tie.even === 1 ? [one, { ...one, first: !one.first }] : [one];
  }),
  ties: new Set(
    ties.flatMap(({ kind_id: kind, first_end: first, other, even }) => [
      tieKey({ kind, first: first === 1, other }),
      // Of spouses and friends either may stand first.
      ...(even === 1 ? [tieKey({ kind, first: first === 0, other })] : []),
    ]),
  ),
});

const byEnd = (ties: readonly TiedName[]): Map<number, TiedName[]> =>
  bySupporter(ties.map((tie) => ({ ...tie, supporter_id: tie.of })));

type TiedName = NameParts & {
  of: number;
  code: string | null;
  kind_id: number;
  first_end: number;
  even: number;
  other: number;
};

/** The ties of supporters, as they are on a day. */
const tiesOf = (sql: Sql, ids: readonly number[], today: IsoDate): Promise<TiedName[]> =>
  // relation_from (supporter_id), relation_to (other_id)
  sql.rows<TiedName>(
    ['supporter_id', 'other_id']
      .map(
        (mine, at) => `SELECT r.${mine} AS of, k.code, k.id AS kind_id, ${at === 0 ? 1 : 0} AS first_end,
            k.name = k.back AS even, s.id AS other,
            ${nameColumns('s')} FROM relation r JOIN relation_kind k ON k.id = r.kind_id
          JOIN supporter s ON s.id = r.${at === 0 ? 'other_id' : 'supporter_id'} AND s.state = 'active'
          WHERE r.${mine} IN (?) AND (r.until IS NULL OR r.until > ?)`,
      )
      .join(' UNION ALL '),
    [ids, today, ids, today],
  );
