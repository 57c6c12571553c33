import type { DataSource } from 'typeorm';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { network, relationFault, roleOfOther } from '@tallystick/core/relations';
import type { RelationKind } from '@tallystick/core/relations';
import * as contract from '@tallystick/contract/relations';
import type { Actor, Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { notFound, Problem, nameTaken } from '../platform/problem.ts';
import { day, flag, maybe, ref, renames, table, text, setUp } from '../platform/tables.ts';
import type { MergeOf } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import { lockSupporter, nameOf, refused } from './record.ts';
import type { RowOf } from '../platform/tables.ts';
import { named } from '@tallystick/core/history';
import { supporterNumber } from '@tallystick/core/supporters';
import { counted } from '@tallystick/core/words';
import type { SupporterKind } from '@tallystick/core/supporters';
import { nameColumns, namesOf } from './views.ts';

export const RelationKindTable = table('relation_kind', setUp('supporters', 'Kind of tie'), {
  name: text(60),
  back: text(60),
  from_kinds: text(60),
  to_kinds: text(60),
  lineal: flag,
  code: maybe(text(20)),
});
type KindRecord = RowOf<typeof RelationKindTable>;
export const RelationTable = table(
  'relation',
  {
    ...{
      area: 'supporters',
      owner: 'supporter_id',
      also: 'other_id',
      topics: ['ties'],
      erasing: 'remove',
      merging: 'move',
      undo: 'rows',
    },
    mergeOthers: mergeTies,
    called(row, telling) {
      const someone = (column: string): string => named('supporter')(row[column] ?? null, telling);
      return `Tie (${named('relation_kind')(row['kind_id'] ?? null, telling)}) of ${someone('supporter_id')} and ${someone('other_id')}`;
    },
    eraseOthers: (sql, erased) =>
      sql.run('DELETE FROM relation WHERE other_id IN (?)', [erased.map((one) => one.id)]).then(() => undefined),
  },
  {
    supporter_id: ref,
    other_id: ref,
    kind_id: ref,
    role: text(80).says('Title'),
    note: text(500).says('Note on the tie'),
    since: maybe(day).says('Tied since'),
    until: maybe(day).says('Tied until'),
  },
);
type RelationRecord = RowOf<typeof RelationTable>;

/**
 * The ties of two records that become one: none to themselves, and one where both were tied alike to the same other.
 * That one holds since the earlier day, with what either says of it.
 */
async function mergeTies(merge: MergeOf): Promise<void> {
  await renames('relation', 'other_id')(merge);
  const { tx, into } = merge;
  const ties = await tx.sql.rows<RelationRecord & { mutual: number }>(
    // relation_supporter (supporter_id), relation_other (other_id)
    `SELECT r.*, k.name = k.back AS mutual FROM relation r JOIN relation_kind k ON k.id = r.kind_id
     WHERE r.supporter_id = ? OR r.other_id = ? ORDER BY r.id`,
    [into, into],
  );
  const first = new Map<string, RelationRecord>();
  const gone: number[] = [];
  for (const tie of ties) {
    const side = tie.mutual === 1 || tie.supporter_id === into ? 'from' : 'to';
    const other = tie.supporter_id === into ? tie.other_id : tie.supporter_id;
    const key = [tie.kind_id, side, other, tie.until].join('|');
    const same = first.get(key);
    if (other === into) gone.push(tie.id);
    else if (!same) first.set(key, tie);
    else {
      gone.push(tie.id);
      const since = [same.since, tie.since].filter((day) => day !== null).sort()[0] ?? null;
      const note = [...new Set([same.note, tie.note])].filter(Boolean).join('; ').slice(0, 500);
      await tx.rewrite(RelationTable, [same.id], { since, note, role: same.role || tie.role });
    }
  }
  await tx.removeAll(RelationTable, gone);
}

interface Details {
  title: string;
  note: string;
  since: string | null;
  until: string | null;
}
const rowOf = ({ title, note, since, until }: Details) => ({ role: title, note, since, until });
const listed = (kinds: string): SupporterKind[] => kinds.split(',').filter(Boolean) as SupporterKind[];
const kindOf = (row: KindRecord): RelationKind => ({
  id: row.id,
  name: row.name,
  back: row.back,
  from: listed(row.from_kinds),
  to: listed(row.to_kinds),
  lineal: row.lineal === 1,
});
/** Every kind of tie. */
export const tieKinds = async (sql: Sql): Promise<RelationKind[]> =>
  (await sql.rows<KindRecord>('SELECT * FROM relation_kind ORDER BY name')).map(kindOf);

/** The open ties between some supporters: the first is the `name` of the second. */
export const tiesAmong = (sql: Sql, ids: readonly number[]): Promise<{ from: number; to: number; name: string }[]> =>
  sql.rows(
    // relation_supporter (supporter_id)
    `SELECT r.supporter_id AS \`from\`, r.other_id AS \`to\`, k.name FROM relation r JOIN relation_kind k ON k.id = r.kind_id
     WHERE r.supporter_id IN (?) AND r.other_id IN (?) AND r.until IS NULL ORDER BY r.id`,
    [ids, ids],
  );

const MOST_IN_PICTURE = 40;
const RINGS = 2;

/** Ties between supporters: one row each, so that both directions are always the same tie. */
export class Relations {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  async kinds() {
    const rows = await this.sql.rows<KindRecord & { used: number }>(
      'SELECT k.*, (SELECT COUNT(*) FROM relation r WHERE r.kind_id = k.id) AS used FROM relation_kind k ORDER BY k.name',
    );
    return rows.map((row) => ({
      ...kindOf(row),
      from: listed(row.from_kinds),
      to: listed(row.to_kinds),
      used: row.used,
    }));
  }

  async addKind(actor: Actor, draft: { name: string; back: string; from: string[]; to: string[]; lineal: boolean }) {
    return this.changes.write(
      actor,
      { kind: 'edit', summary: `Added the tie ${draft.name} / ${draft.back}` },
      async (tx) => {
        const known = await tx.sql.rows('SELECT id FROM relation_kind WHERE name = ? AND back = ?', [
          draft.name,
          draft.back,
        ]);
        if (known.length > 0) throw nameTaken('name', `There is a tie ${draft.name} already.`);
        const { name, back, from, to, lineal } = draft;
        const row = {
          name,
          back,
          from_kinds: from.join(','),
          to_kinds: to.join(','),
          lineal: lineal ? 1 : 0,
          code: null,
        };
        return { id: await tx.insert(RelationKindTable, row) };
      },
    );
  }

  async removeKind(actor: Actor, id: number) {
    const kind = (await this.kinds()).find((one) => one.id === id);
    if (!kind) throw notFound('This kind of tie');
    if (kind.used > 0)
      throw new Problem(
        409,
        'in-use',
        `${kind.used} ties are of the kind ${kind.name} / ${kind.back}; change or delete those first.`,
      );
    return this.changes.write(actor, { kind: 'edit', summary: `Deleted the tie ${kind.name} / ${kind.back}` }, (tx) =>
      tx.removeAll(RelationKindTable, [id]),
    );
  }

  async of(supporterId: number) {
    const rows = await this.sql.rows<
      RelationRecord &
        NameParts & { other: number; first_end: number; name: string; back: string; other_kind: SupporterKind }
    >(
      // relation_from (supporter_id), relation_to (other_id)
      ['supporter_id', 'other_id']
        .map(
          (
            mine,
            place,
          ) => `SELECT r.id, r.version, r.role, r.note, r.since, r.until, r.kind_id, ${place === 0 ? 1 : 0} AS first_end,
            k.name, k.back, s.id AS other, ${nameColumns('s', 'other_kind')}
            FROM relation r JOIN relation_kind k ON k.id = r.kind_id
            JOIN supporter s ON s.id = r.${place === 0 ? 'other_id' : 'supporter_id'} AND s.state = 'active' WHERE r.${mine} = ?`,
        )
        .join(' UNION ALL '),
      [supporterId, supporterId],
    );
    const { today } = await this.settings.calendar();
    const ended = (row: RelationRecord): boolean => row.until !== null && row.until < today;
    return rows
      .sort((a, b) => Number(ended(a)) - Number(ended(b)) || a.id - b.id)
      .map((row) => ({
        id: row.id,
        version: row.version,
        kindId: row.kind_id,
        first: row.first_end === 1,
        role: roleOfOther(row, row.first_end === 1),
        title: row.role,
        note: row.note,
        since: row.since,
        until: row.until,
        other: {
          id: row.other,
          number: supporterNumber(row.other),
          kind: row.other_kind,
          name: displayName({ ...row, kind: row.other_kind }),
        },
      }));
  }

  /** A supporter's surroundings: two rings of ties and households, placed for a picture. */
  async network(center: number) {
    const ties = new Map<string, { fromId: number; toId: number; word: string; until: string | null }>();
    let ids = [center];
    const seen = new Set(ids);
    for (let ring = 0; ring < RINGS && ids.length > 0; ring++) {
      const found = await this.sql.rows<{ fromId: number; toId: number; word: string; until: string | null }>(
        `SELECT r.supporter_id AS fromId, r.other_id AS toId, k.name AS word, r.until FROM relation r JOIN relation_kind k ON k.id = r.kind_id
         WHERE r.supporter_id IN (?) OR r.other_id IN (?)
         UNION SELECT id, household_id, 'member', NULL FROM supporter WHERE household_id IS NOT NULL AND (id IN (?) OR household_id IN (?)) LIMIT 400`,
        [ids, ids, ids, ids],
      );
      for (const tie of found) ties.set(`${tie.fromId} ${tie.toId} ${tie.word}`, tie);
      ids = [...new Set(found.flatMap((tie) => [tie.fromId, tie.toId]))].filter((id) => !seen.has(id));
      for (const id of ids) seen.add(id);
    }
    const { today } = await this.settings.calendar();
    const named = new Map(
      (
        await this.sql.rows<NameParts & { id: number }>(
          `SELECT * FROM supporter WHERE id IN (?) AND state = 'active'`,
          [[...seen]],
        )
      ).map((row) => [row.id, row]),
    );
    if (!named.has(center)) throw notFound(`Supporter ${supporterNumber(center)}`);
    const alive = [...ties.values()].filter((tie) => named.has(tie.fromId) && named.has(tie.toId));
    const nodes = network(center, alive, MOST_IN_PICTURE).flatMap((node) => {
      const row = named.get(node.id);
      return row ? [{ ...node, number: supporterNumber(node.id), name: displayName(row), kind: row.kind }] : [];
    });
    const placed = new Set(nodes.map((node) => node.id));
    return {
      nodes,
      ties: alive
        .filter((tie) => placed.has(tie.fromId) && placed.has(tie.toId))
        .map(({ until, ...tie }) => ({ ...tie, ended: until !== null && until < today })),
    };
  }

  async add(actor: Actor, draft: { fromId: number; toId: number; kindId: number } & Details) {
    const words = { summary: 'Tied two supporters' };
    return this.changes.write(actor, { kind: 'edit', summary: () => words.summary }, async (tx) => {
      const [from, to] = await bothEnds(tx, draft.fromId, draft.toId);
      const row = await one<KindRecord>(tx.sql, 'SELECT * FROM relation_kind WHERE id = ?', [draft.kindId]);
      if (!row) throw refused('kindId', 'There is no such kind of tie.');
      const kind = kindOf(row);
      const known = await tx.sql.rows<{ id: number; kindId: number; fromId: number; toId: number }>(
        `SELECT id, kind_id AS kindId, supporter_id AS fromId, other_id AS toId FROM relation WHERE kind_id = ?
         AND (? = 1 OR supporter_id IN (?) OR other_id IN (?)) AND (until IS NULL OR until >= ?)`,
        [kind.id, kind.lineal ? 1 : 0, [from.id, to.id], [from.id, to.id], tx.at.slice(0, 10)],
      );
      const fault = relationFault(kind, from, to, known);
      if (fault !== null) throw refused('toId', fault);
      words.summary = `${from.name} is the ${kind.name} of ${to.name}`;
      return {
        id: await tx.insert(RelationTable, {
          supporter_id: from.id,
          other_id: to.id,
          kind_id: kind.id,
          ...rowOf(draft),
        }),
      };
    });
  }

  async change(actor: Actor, id: number, draft: { version: number } & Details) {
    return this.changes.write(
      actor,
      { kind: 'edit', summary: draft.until ? 'Ended a tie' : 'Changed a tie' },
      async (tx) => {
        await tx.expect(RelationTable, id, draft.version, 'This tie');
        await tx.update(RelationTable, id, rowOf(draft));
      },
    );
  }

  async remove(actor: Actor, id: number) {
    return this.changes.write(actor, { kind: 'edit', summary: 'Deleted a tie' }, async (tx) => {
      if (!(await tx.lock(RelationTable, [id])).has(id)) throw notFound('This tie');
      await tx.removeAll(RelationTable, [id]);
    });
  }

  /** Ends or deletes many ties; those that are gone, or ended before, are passed over. */
  async act(actor: Actor, ids: readonly number[], act: contract.TieAct) {
    const words = { changed: 0 };
    const summary = (): string => `${act.do === 'end' ? 'Ended' : 'Deleted'} ${counted(words.changed, 'tie')}`;
    return this.changes.write(actor, { kind: 'bulk', summary }, async (tx) => {
      const rows = [...(await tx.lock(RelationTable, [...new Set(ids)])).values()];
      if (act.do === 'end') {
        const open = rows.filter(({ until }) => until === null || until > act.on);
        words.changed = await endTies(tx, open, act.on);
      } else {
        await tx.removeAll(
          RelationTable,
          rows.map(({ id }) => id),
        );
        words.changed = rows.length;
      }
      return { changed: words.changed };
    });
  }
}

/** Ends ties on a day; one that begins later ends as it begins. Answers for how many that was another day. */
async function endTies(tx: Transaction, ties: readonly { id: number; since: string | null }[], until: string) {
  const begun = ({ since }: { since: string | null }): boolean => since === null || since <= until;
  let ended = await tx.updateAll(
    RelationTable,
    ties.filter(begun).map(({ id }) => id),
    { until },
  );
  for (const tie of ties) if (!begun(tie)) ended += await tx.updateAll(RelationTable, [tie.id], { until: tie.since });
  return ended;
}

/** What ties of many with one other are made, or ended, by: the other is their `role`, the kind of tie * 2, and 1 more for its second word. */
interface ManyTies {
  role: number;
  otherId: number;
  put: boolean;
  /** From which day they are tied, or until which. */
  on: string | null;
}

/**
 * Ties many to one other, or ends such ties; who is tied so already, or is not, is passed over. Answers how many
 * differed. Throws where one of them cannot be tied so.
 */
export async function tieMany(tx: Transaction, ids: readonly number[], { role, otherId, put, on }: ManyTies) {
  const row = await one<KindRecord>(tx.sql, 'SELECT * FROM relation_kind WHERE id = ?', [Math.floor(role / 2)]);
  if (!row) throw refused('role', 'There is no such kind of tie.');
  const [kind, otherFirst] = [kindOf(row), role % 2 === 0];
  const locked = await lockSupporter(tx, otherId, `Supporter ${supporterNumber(otherId)}`);
  const other = { id: otherId, kind: locked['kind'] as SupporterKind, name: nameOf(locked) };
  const today = tx.at.slice(0, 10);
  // relation_from (supporter_id), relation_to (other_id)
  const known = await tx.sql.rows<{ id: number; kindId: number; fromId: number; toId: number; since: string | null }>(
    `SELECT id, kind_id AS kindId, supporter_id AS fromId, other_id AS toId, since FROM relation WHERE kind_id = ?
     AND (? = 1 OR supporter_id = ? OR other_id = ?) AND (until IS NULL OR until >= ?)`,
    [kind.id, kind.lineal ? 1 : 0, otherId, otherId, today],
  );
  const symmetric = kind.name === kind.back;
  const tied = new Map<number, (typeof known)[number][]>();
  for (const tie of known) {
    const theirs = tie.fromId === otherId ? tie.toId : tie.toId === otherId ? tie.fromId : null;
    if (theirs !== null && (symmetric || (tie.fromId === otherId) === otherFirst))
      tied.set(theirs, [...(tied.get(theirs) ?? []), tie]);
  }
  if (!put) {
    const until = on ?? today;
    await endTies(
      tx,
      ids.flatMap((id) => tied.get(id) ?? []),
      until,
    );
    return new Set(ids.filter((id) => tied.has(id))).size;
  }
  const fresh = ids.filter((id) => !tied.has(id) && id !== otherId);
  const people = new Map((await namesOf(tx.sql, fresh)).map((one) => [one.id, one]));
  const ties = fresh.flatMap((id) => {
    const person = people.get(id);
    if (!person) return [];
    const them = { id, kind: person.kind, name: displayName(person) };
    const [from, to] = otherFirst ? [other, them] : [them, other];
    const fault = relationFault(kind, from, to, known);
    if (fault !== null) throw refused('otherId', fault);
    known.push({ id: 0, kindId: kind.id, fromId: from.id, toId: to.id, since: on });
    return { supporter_id: from.id, other_id: to.id, kind_id: kind.id, role: '', note: '', since: on, until: null };
  });
  await tx.insertAll(RelationTable, ties);
  return ties.length;
}

const spouseKind = async (sql: Sql): Promise<number> =>
  (await one<{ id: number }>(sql, `SELECT id FROM relation_kind WHERE code = 'spouse'`))?.id ?? 0;

/** The names of the organizations that somebody is the contact of, by ties that are open. */
export const contactOf = async (sql: Sql, id: number): Promise<string[]> =>
  (
    await sql.rows<{ name: string }>(
      // relation_from (supporter_id)
      `SELECT s.organization AS name FROM relation r JOIN relation_kind k ON k.id = r.kind_id AND k.code = 'contact'
       JOIN supporter s ON s.id = r.other_id AND s.state = 'active' WHERE r.supporter_id = ? AND r.until IS NULL ORDER BY r.id`,
      [id],
    )
  ).map(({ name }) => name);

/** Whose spouse somebody is, by ties that are open. */
export const spousesOf = async (sql: Sql, id: number): Promise<number[]> =>
  (
    await sql.rows<{ id: number }>(
      // relation_from (supporter_id), relation_to (other_id)
      `SELECT IF(r.supporter_id = ?, r.other_id, r.supporter_id) AS id FROM relation r
       WHERE r.kind_id = ? AND r.until IS NULL AND (r.supporter_id = ? OR r.other_id = ?) ORDER BY r.id`,
      [id, await spouseKind(sql), id, id],
    )
  ).map((row) => row.id);

/** Ties two people as spouses since a day, where it is known; answers whether they were not tied so. */
export const tieSpouses = async (tx: Transaction, person: number, other: number, on: string | null): Promise<boolean> =>
  (await tieMany(tx, [person], { role: (await spouseKind(tx.sql)) * 2, otherId: other, put: true, on })) > 0;

/** Ends the open ties as spouses between some people and others; answers how many. */
export async function endSpouses(
  tx: Transaction,
  people: readonly number[],
  others: readonly number[],
  until: string,
): Promise<number> {
  if (people.length === 0 || others.length === 0) return 0;
  const ties = await tx.sql.rows<{ id: number; since: string | null }>(
    // relation_from (supporter_id), relation_to (other_id)
    `SELECT id, since FROM relation WHERE kind_id = ? AND until IS NULL
     AND (supporter_id IN (?) AND other_id IN (?) OR other_id IN (?) AND supporter_id IN (?))`,
    [await spouseKind(tx.sql), people, others, people, others],
  );
  return endTies(tx, ties, until);
}

async function bothEnds(tx: Transaction, fromId: number, toId: number) {
  const ends: { id: number; kind: SupporterKind; name: string }[] = [];
  // In the order of ids, so that two that tie the same pair do not wait for each other.
  for (const id of [fromId, toId].sort((a, b) => a - b)) {
    const row = await lockSupporter(tx, id, `Supporter ${supporterNumber(id)}`);
    ends.push({ id, kind: row['kind'] as SupporterKind, name: nameOf(row) });
  }
  const [a, b] = ends;
  if (!a || !b) throw notFound('This supporter');
  return fromId <= toId ? ([a, b] as const) : ([b, a] as const);
}

export function serveRelations(http: Http, relations: Relations): void {
  http.on(contract.listRelationKinds, async () => ({ items: await relations.kinds() }));
  http.on(contract.createRelationKind, async ({ actor, body }) => {
    const { revision, result } = await relations.addKind(actor, body);
    return { revision, ...result };
  });
  http.on(contract.deleteRelationKind, ({ actor, params }) => relations.removeKind(actor, params.id));
  http.on(contract.listRelations, async ({ params }) => ({ items: await relations.of(params.id) }));
  http.on(contract.getNetwork, ({ params }) => relations.network(params.id));
  http.on(contract.createRelation, async ({ actor, body }) => {
    const { revision, result } = await relations.add(actor, body);
    return { revision, ...result };
  });
  http.on(contract.updateRelation, ({ actor, params, body }) => relations.change(actor, params.id, body));
  http.on(contract.deleteRelation, ({ actor, params }) => relations.remove(actor, params.id));
  http.on(contract.actOnTies, async ({ actor, body }) => {
    const { revision, result } = await relations.act(actor, body.ids, body.act);
    return { revision, ...result };
  });
}
