import { addressOn, wayOn } from '@tallystick/core/contact';
import { addDays } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { tieKey } from '@tallystick/core/intake';
import type { ChangeAct, KeptRecord } from '@tallystick/core/intake';
import { displayName, sortName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import type { Actor } from '../platform/changes.ts';
import { chunks, eachChunk } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { AnyTable } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import { SupporterFieldTable } from '../settings/index.ts';
import { asTheyWere, rowsAt } from '../platform/known.ts';
import { NoteTable } from './notes.ts';
import { addTags, takeTags, WAYS } from './record.ts';
import { isKept } from './kept-tags.ts';
import { bringHome, bringTies } from './brought-ties.ts';
import { RelationTable } from './relations.ts';
import { GroupMemberTable, GroupTable, KnownAsTable, SupporterTable, WishTable } from './supporter.entity.ts';
import type { KnownAsRecord, SupporterRecord, WishRecord } from './supporter.entity.ts';
import { nameColumns, namesOf } from './views.ts';
import { bySupporter, storedOf, WAY_TABLES } from './ways.ts';
import type { AsThen } from './ways.ts';

/* What outside data brings to many records at once: how those are, and what is written to them. */

/** What a row brings to a record. */
export interface Brought {
  supporterId: number;
  act: ChangeAct;
}

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
export type KeptPart = (typeof KEPT_PARTS)[number];

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
    return { rows, ways, wishes, own, tags, ties, outside, homes };
  };
  await eachChunk(ids, 2000, read, ({ rows, ways, wishes, own, tags, ties, outside, homes }) => {
    for (const row of rows) {
      const { prefix, first, middle, last, suffix, nickname, former_last: formerLast } = row;
      const has = ways.get(row.id);
      found.set(row.id, {
        names: { prefix, first, middle, last, suffix, nickname, formerLast },
        person: row.kind === 'person',
        birthday: row.birthday,
        emails: bestFirst(has?.emails ?? [], (some) => wayOn(some, today)),
        phones: bestFirst(has?.phones ?? [], (some) => wayOn(some, today)),
        addresses: bestFirst(has?.addresses ?? [], (some) => addressOn(some, today)),
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

/** Who is called so where files come from: by a number there, or as a row names them of whom a person chose. */
export async function knownAs(sql: Sql, source: string, names: readonly string[]) {
  const found: { id: number; called: string }[] = [];
  for (const slice of chunks(names, 2000))
    found.push(
      // known_as_called (source, called)
      ...(await sql.rows<{ id: number; called: string }>(
        'SELECT supporter_id AS id, called FROM known_as WHERE source = ? AND called IN (?)',
        [source, slice],
      )),
    );
  return found;
}

/** As `knownAs`, by whatever source. */
export const knownAnywhere = (sql: Sql, names: readonly string[]): Promise<{ id: number; called: string }[]> =>
  sql.rows(
    `SELECT supporter_id AS id, called FROM known_as WHERE called IN (?) AND called NOT LIKE '=%'`, // known_as_name (called)
    [names],
  );

/** Remembers what supporters are called where a file comes from; what is known already stays. */
export async function rememberAs(
  tx: Transaction,
  source: string,
  names: readonly { supporterId: number; called: string }[],
): Promise<void> {
  const wanted = new Map(names.map((one) => [`${one.supporterId} ${one.called}`, one]));
  const before = await knownAs(tx.sql, source, [...new Set(names.map(({ called }) => called))]);
  for (const { id, called } of before) wanted.delete(`${id} ${called}`);
  await tx.insertAll(
    KnownAsTable,
    [...wanted.values()].map(({ supporterId, called }) => ({ supporter_id: supporterId, source, called })),
  );
}

/** Ways with the one that is used first, each with whether it could be. */
function bestFirst<T extends { id: number }>(
  all: readonly T[],
  on: (some: readonly T[]) => T | null,
): (T & { usable: boolean })[] {
  const best = on(all);
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

/** Writes what a file brings to records, in its order. `source` is where wishes are said to come from, `from` where numbers are. */
export async function bringChanges(
  tx: Transaction,
  actor: Actor,
  brought: readonly Brought[],
  { today, source, from }: { today: IsoDate; source: string; from: string },
): Promise<void> {
  const of = <D extends ChangeAct['do']>(wanted: D) =>
    brought.flatMap(({ supporterId, act }) =>
      act.do === wanted ? [{ supporterId, act: act as Extract<ChangeAct, { do: D }> }] : [],
    );
  await bringNames(tx, [...of('name'), ...of('birthday')]);
  const yesterday = addDays(today, -1);
  await bringWays(
    tx,
    WAYS.email,
    of('email').map(({ supporterId, act: { address, label, preferred } }) => ({
      ...{ supporterId, preferred, row: { address, label } },
    })),
  );
  await bringWays(
    tx,
    WAYS.phone,
    of('phone').map(({ supporterId, act: { number, label, preferred } }) => ({
      ...{ supporterId, preferred, row: { number, label } },
    })),
  );
  const moved = of('address');
  for (const { act } of of('mend')) await tx.update(WAYS.address, act.address, { ...act.parts });
  for (const [reason, ids] of grouped(of('returned').map(({ act }) => [act.reason, act.address])))
    await tx.rewrite(WAYS.address, ids, { bad_on: today, bad_reason: reason });
  const ends = moved.flatMap(({ act: { ends: id, from } }): [string, number][] =>
    id === null ? [] : [[from === null ? yesterday : addDays(from, -1), id]],
  );
  for (const [last, ids] of grouped(ends)) await tx.rewrite(WAYS.address, ids, { valid_to: last, preferred: 0 });
  await bringWays(
    tx,
    WAYS.address,
    moved.map(({ supporterId, act: { address, preferred, from } }) => ({
      ...{ supporterId, preferred, row: { ...address, valid_from: from } },
    })),
  );
  await bringWishes(tx, actor, [...of('wish'), ...of('no-wish')], { today, source });
  await bringOwn(tx, of('own'));
  const tags = of('tags');
  await takeTags(
    tx,
    tags.flatMap(({ supporterId, act }) => act.off.map((tag) => ({ supporterId, tag }))),
  );
  await addTags(
    tx,
    tags.flatMap(({ supporterId, act }) => act.on.map((tag) => ({ supporterId, tag }))),
    'intake',
  );
  await rememberAs(
    tx,
    from,
    of('outside').map(({ supporterId, act: { called } }) => ({ supporterId, called })),
  );
  await bringTies(tx, [...of('spouse'), ...of('second'), ...of('employer')]);
  await bringHome(tx, of('household'));
  const firm = { role: '', note: '', since: null, until: null };
  await tx.insertAll(
    RelationTable,
    of('tie').map(({ supporterId, act: { kind, first, other } }) => ({
      ...{ supporter_id: first ? supporterId : other, other_id: first ? other : supporterId, kind_id: kind, ...firm },
    })),
  );
}

/** Ids by what is written to them alike. */
function grouped(pairs: readonly (readonly [alike: string, id: number])[]): Map<string, number[]> {
  const groups = new Map<string, number[]>();
  for (const [alike, id] of pairs) {
    const same = groups.get(alike);
    if (same) same.push(id);
    else groups.set(alike, [id]);
  }
  return groups;
}

async function bringNames(
  tx: Transaction,
  changes: readonly { supporterId: number; act: Extract<ChangeAct, { do: 'name' | 'birthday' }> }[],
): Promise<void> {
  const patches = new Map<number, Record<string, string>>();
  for (const { supporterId, act } of changes) {
    const column = act.do === 'birthday' ? 'birthday' : act.column === 'formerLast' ? 'former_last' : act.column;
    patches.set(supporterId, { ...patches.get(supporterId), [column]: act.value });
  }
  const rows = await tx.lock(SupporterTable, [...patches.keys()]);
  for (const [id, patch] of patches) {
    const row = rows.get(id);
    if (row) await tx.update(SupporterTable, id, { ...patch, sort_name: sortName({ ...row, ...patch }) });
  }
}

async function bringWays(
  tx: Transaction,
  table: AnyTable,
  ways: readonly { supporterId: number; preferred: boolean; row: Readonly<Record<string, string | null>> }[],
): Promise<void> {
  const over = [...new Set(ways.filter(({ preferred }) => preferred).map(({ supporterId }) => supporterId))];
  for (const slice of chunks(over, 2000)) {
    const before = await tx.sql.rows<{ id: number }>(
      `SELECT id FROM ${table.name} WHERE supporter_id IN (?) AND preferred = 1`,
      [slice],
    );
    await tx.rewrite(
      table,
      before.map(({ id }) => id),
      { preferred: 0 },
    );
  }
  // Of several that would be used, the one that comes last in the file is.
  const last = new Map(ways.flatMap((way, at) => (way.preferred ? [[way.supporterId, at] as const] : [])));
  await tx.insertRows(
    table,
    ways.map(({ supporterId, preferred, row }, at) => ({
      ...{ supporter_id: supporterId, preferred: preferred && last.get(supporterId) === at ? 1 : 0 },
      ...row,
    })),
  );
}

async function bringWishes(
  tx: Transaction,
  actor: Actor,
  changes: readonly { supporterId: number; act: Extract<ChangeAct, { do: 'wish' | 'no-wish' }> }[],
  { today, source }: { today: IsoDate; source: string },
): Promise<void> {
  if (changes.length === 0) return;
  const key = (supporterId: number, kind: string): string => `${supporterId}:${kind}`;
  const had = new Map<string, WishRecord>();
  for (const slice of chunks([...new Set(changes.map(({ supporterId }) => supporterId))], 2000))
    for (const wish of await tx.sql.rows<WishRecord>('SELECT * FROM wish WHERE supporter_id IN (?) FOR UPDATE', [
      slice,
    ]))
      had.set(key(wish.supporter_id, wish.kind), wish);
  const wanted = new Map(changes.map((one) => [key(one.supporterId, one.act.kind), one]));
  const fresh = [];
  for (const [at, { supporterId, act }] of wanted) {
    const before = had.get(at);
    if (act.do === 'no-wish') {
      if (before) await tx.removeAll(WishTable, [before.id]);
    } else if (before) await tx.update(WishTable, before.id, { happened_on: act.happenedOn, set_by: actor.name });
    else
      fresh.push({
        ...{ supporter_id: supporterId, kind: act.kind, since: today, source: source.slice(0, 120) },
        ...{ set_by: actor.name, happened_on: act.happenedOn },
      });
  }
  await tx.insertAll(WishTable, fresh);
}

async function bringOwn(
  tx: Transaction,
  changes: readonly { supporterId: number; act: Extract<ChangeAct, { do: 'own' }> }[],
): Promise<void> {
  const key = (supporterId: number, field: number): string => `${supporterId}:${field}`;
  const wanted = new Map(changes.map((one) => [key(one.supporterId, one.act.field), one]));
  const had = new Map<string, number>();
  for (const slice of chunks([...new Set(changes.map(({ supporterId }) => supporterId))], 2000))
    for (const row of await tx.sql.rows<{ id: number; supporter_id: number; field_id: number }>(
      'SELECT id, supporter_id, field_id FROM supporter_field WHERE supporter_id IN (?)',
      [slice],
    ))
      had.set(key(row.supporter_id, row.field_id), row.id);
  const emptied: number[] = [];
  for (const [at, { act }] of wanted) {
    const before = had.get(at);
    if (before === undefined) continue;
    if (act.value === '') emptied.push(before);
    else await tx.update(SupporterFieldTable, before, { value: act.value });
  }
  await tx.removeAll(SupporterFieldTable, emptied);
  await tx.insertAll(
    SupporterFieldTable,
    [...wanted].flatMap(([at, { supporterId, act }]) =>
      had.has(at) || act.value === '' ? [] : [{ supporter_id: supporterId, field_id: act.field, value: act.value }],
    ),
  );
}

/** Puts supporters into groups by name, making those that there are not; who is in one already stays. */
export async function addToGroups(
  tx: Transaction,
  wanted: readonly { supporterId: number; group: string }[],
): Promise<void> {
  const ids = new Map<string, number>();
  for (const { group } of wanted) {
    const name = group.toLowerCase();
    if (ids.has(name)) continue;
    const [known] = await tx.sql.rows<{ id: number }>('SELECT id FROM people_group WHERE name = ?', [group]);
    ids.set(name, known?.id ?? (await tx.insert(GroupTable, { name: group, about: '' })));
  }
  const pairs = new Map(
    wanted.map(({ supporterId, group }) => {
      const id = ids.get(group.toLowerCase()) ?? 0;
      return [`${supporterId}:${id}`, { supporter_id: supporterId, group_id: id }];
    }),
  );
  for (const slice of chunks([...pairs.values()])) {
    const has = await tx.sql.rows<{ supporter_id: number; group_id: number }>(
      'SELECT supporter_id, group_id FROM group_member WHERE supporter_id IN (?)',
      [slice.map((pair) => pair.supporter_id)],
    );
    const known = new Set(has.map((pair) => `${pair.supporter_id}:${pair.group_id}`));
    await tx.insertAll(
      GroupMemberTable,
      slice.filter((pair) => !known.has(`${pair.supporter_id}:${pair.group_id}`)),
    );
  }
}

/** Writes notes of plain text on records. */
export async function addNotes(
  tx: Transaction,
  actor: Actor,
  notes: readonly { supporterId: number; text: string; kind?: 'note' | 'call'; date?: IsoDate }[],
  today: IsoDate,
): Promise<void> {
  await tx.insertAll(
    NoteTable,
    notes.map(({ supporterId, text, kind = 'note', date = today }) => ({
      ...{ supporter_id: supporterId, kind, date, pinned: 0 },
      body: JSON.stringify({ type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] }),
      ...{ author: actor.name, author_id: actor.userId },
    })),
  );
}
