import { addDays } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import type { ChangeAct } from '@tallystick/core/intake';
import { sortName } from '@tallystick/core/names';
import type { Actor } from '../platform/changes.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { AnyTable } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import { SupporterFieldTable } from '../settings/index.ts';
import { NoteTable } from './notes.ts';
import { addTags, takeTags, WAYS } from './record.ts';
import { bringHome, bringTies } from './brought-ties.ts';
import { RelationTable } from './relations.ts';
import { GroupMemberTable, GroupTable, KnownAsTable, SupporterTable, WishTable } from './supporter.entity.ts';
import type { WishRecord } from './supporter.entity.ts';

/* What outside data brings to many records at once: how those are, and what is written to them. */

/** What a row brings to a record. */
export interface Brought {
  supporterId: number;
  act: ChangeAct;
}

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

type Moving = { supporterId: number; act: Extract<ChangeAct, { do: 'address' }> };

/** Who moves where: whoever moves along with another only once, and not where a row of their own says where they live. */
function movers(all: readonly Moving[]): Moving[] {
  const known = new Set(all.flatMap(({ supporterId, act }) => (act.whose === undefined ? [supporterId] : [])));
  return all.flatMap(({ supporterId, act }) => {
    if (act.whose === undefined) return [{ supporterId, act }];
    if (known.has(act.whose)) return [];
    known.add(act.whose);
    return [{ supporterId: act.whose, act }];
  });
}

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
  const moved = movers(of('address'));
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
