import type { DataSource } from 'typeorm';
import { describeChange, FIELD_KIND } from '@tallystick/core/history';
import type { Names, Telling, Topic } from '@tallystick/core/history';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { isUndoable, mayUndo, parsed } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import { decodeId, encodeCursor } from '../platform/cursor.ts';
import { sqlOn } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import { fieldKinds, formatsIn } from '../settings/index.ts';
import type { TableRule } from '../platform/tables.ts';
import { declaredTables, tableNamed } from '../platform/tables.ts';
import * as contract from '@tallystick/contract/changes';
import { area } from '../area.ts';
import type { Actor } from '../platform/changes.ts';
import type { Role } from '@tallystick/contract/endpoint';

interface StoredLine {
  revision: number;
  at: string;
  actor: string;
  user_id: number | null;
  least: Role;
  kind: string;
  summary: string;
  undone_by: number | null;
  table_name: string;
  row_id: number;
  before_json: string | null;
  after_json: string | null;
}

const named = (which: (rule: TableRule) => boolean): string[] =>
  declaredTables()
    .filter(({ rule }) => which(rule))
    .map(({ name }) => name);

/** Tables whose rows are named by more than a column `name`. */
const OWN_NAMES = ['supporter', 'relation_kind'];

/** The history of records, in words, from the change sets. */
export class History {
  private readonly sql: Sql;

  constructor(source: DataSource) {
    this.sql = sqlOn(source);
  }

  /** What happened to a record, newest first; only of some kinds, or by someone, where that is asked. */
  async ofSupporter(
    id: number,
    page: { limit: number; cursor?: string | undefined; about?: Topic | undefined; by?: string | undefined },
    actor: Actor | null = null,
  ) {
    const { about } = page;
    const tables = about ? named((rule) => rule.topics.includes(about)) : null;
    const filters = page.by ? ['JOIN change_set c ON c.revision = r.revision'] : [];
    const narrowed = `${tables ? 'AND r.table_name IN (?)' : ''} ${page.by ? 'AND c.actor = ?' : ''}`;
    const params: Param[] = [...(tables ? [tables] : []), ...(page.by ? [page.by] : [])];
    const before = decodeId(page.cursor) ?? Number.MAX_SAFE_INTEGER;
    // What happened to those that were merged into it is its history too.
    const ids = [id, ...(await this.mergedInto(id))];
    // change_row_supporter (supporter_id, revision), change_row_other (other_id, revision), change_set_user
    const newest = (column: string): string =>
      `(SELECT DISTINCT r.revision FROM change_row r ${filters.join(' ')} WHERE r.${column} IN (?) AND r.revision < ? ${narrowed}
        ORDER BY r.revision DESC LIMIT ?)`;
    const once: Param[] = [ids, before, ...params, page.limit + 1];
    const revisions = await this.sql.rows<{ revision: number }>(
      `${newest('supporter_id')} UNION ${newest('other_id')} ORDER BY revision DESC LIMIT ?`,
      [...once, ...once, page.limit + 1],
    );
    const shown = revisions.slice(0, page.limit).map((row) => row.revision);
    const last = shown.at(-1);
    return {
      items: await this.sets(ids, shown, actor),
      next: revisions.length > page.limit && last !== undefined ? encodeCursor([last]) : null,
    };
  }

  private async mergedInto(id: number): Promise<number[]> {
    // supporter_merged (merged_into)
    const rows = await this.sql.rows<{ id: number }>('SELECT id FROM supporter WHERE merged_into = ?', [id]);
    return rows.map((row) => row.id);
  }

  /** The sentences of the newest `sets` change sets that wrote a record itself (not its gifts or mail). */
  async changesSince(supporterId: number, sets: number): Promise<string[]> {
    const revisions = await this.sql.rows<{ revision: number }>(
      // change_row_supporter (supporter_id, revision), change_row_other (other_id, revision)
      `SELECT DISTINCT revision FROM change_row WHERE supporter_id = ? AND table_name IN (?)
       UNION SELECT DISTINCT r.revision FROM change_row r JOIN change_set s USING (revision) WHERE r.other_id = ? AND s.kind = 'merge'
       ORDER BY revision DESC LIMIT ?`,
      [supporterId, named((rule) => Boolean(rule.partOfRecord)), supporterId, Math.max(1, Math.min(sets, 20))],
    );
    const items = await this.sets(
      [supporterId],
      revisions.map((row) => row.revision),
      null,
    );
    // What came by a merge is told by its sentence; the rows that moved read as before.
    return items.flatMap(({ kind, lines, summary, by }) =>
      [...(kind === 'merge' ? [summary] : []), ...lines].map((line) => `${line} (${by})`),
    );
  }

  private async sets(ids: readonly number[], revisions: readonly number[], actor: Actor | null) {
    if (revisions.length === 0) return [];
    const lines = await this.sql.rows<StoredLine>(
      `SELECT s.revision, s.at, s.actor, s.user_id, s.least, s.kind, s.summary, s.undone_by, r.table_name, r.row_id, r.before_json, r.after_json
         FROM change_row r JOIN change_set s USING (revision) WHERE r.revision IN (?) AND (r.supporter_id IN (?) OR r.other_id IN (?))
         ORDER BY r.revision DESC, r.seq`,
      [revisions, ids, ids],
    );
    const telling: Telling = { ...(await this.names(supportersIn(lines))), formats: await formatsIn(this.sql) };
    return revisions.flatMap((revision) => {
      const mine = lines.filter((line) => line.revision === revision);
      const [first] = mine;
      if (!first) return [];
      return {
        revision,
        at: instant(first.at),
        by: first.actor,
        kind: first.kind,
        summary: first.summary,
        undoneBy: first.undone_by,
        undoable: actor !== null && isUndoable(first) && mayUndo(actor, first),
        lines: mine.flatMap((line) =>
          describeChange(
            {
              table: line.table_name,
              id: line.row_id,
              before: parsed(line.before_json),
              after: parsed(line.after_json),
            },
            tableNamed(line.table_name).words,
            telling,
          ),
        ),
      };
    });
  }

  /** Names for the ids in rows; of supporters only those asked for. */
  private async names(ids: readonly number[]): Promise<Names> {
    // Whatever a column of a declared table names has a name of its own; supporters have theirs in parts.
    const shows = declaredTables().flatMap(({ words }) => [...words.columns.values()].map(({ show }) => show.names));
    const tables = [...new Set(shows)].flatMap((name) => (name && !OWN_NAMES.includes(name) ? [name] : []));
    const [rows, ties, kinds, supporters] = await Promise.all([
      this.sql.rows<{ kind: string; id: number; name: string }>(
        tables.map((name) => `SELECT '${name}' AS kind, id, name FROM ${name}`).join(' UNION ALL '),
      ),
      this.sql.rows<{ id: number; name: string; back: string }>('SELECT id, name, back FROM relation_kind'),
      fieldKinds(this.sql),
      ids.length === 0
        ? []
        : this.sql.rows<NameParts & { id: number }>('SELECT * FROM supporter WHERE id IN (?)', [ids]),
    ]);
    const byKey = new Map(rows.map((row) => [`${row.kind}:${row.id}`, row.name]));
    for (const tie of ties)
      byKey.set(`relation_kind:${tie.id}`, tie.name === tie.back ? tie.name : `${tie.name} / ${tie.back}`);
    for (const { id, kind } of kinds) byKey.set(`${FIELD_KIND}:${id}`, kind);
    for (const row of supporters) byKey.set(`supporter:${row.id}`, displayName(row));
    return { of: (table, id) => byKey.get(`${table}:${id}`) ?? null };
  }
}

/** The supporters that rows name beside their own: households, primaries, both ends of ties. */
function supportersIn(lines: readonly StoredLine[]): number[] {
  const ids = new Set<number>();
  for (const line of lines)
    for (const json of [line.before_json, line.after_json])
      for (const [, id] of json?.matchAll(/"(?:household_id|primary_id|other_id|supporter_id)":(\d+)/g) ?? [])
        ids.add(Number(id));
  return [...ids];
}

/** Histories of records, and all changes with Undo. */
export const historyArea = area('history', ({ source, changes, http }) => {
  http.on(contract.listChanges, async ({ query, actor }) => {
    const before = decodeId(query.cursor);
    const items = await changes.list(before, query.limit, query.mine === 'yes' ? actor.userId : null, actor);
    const last = items.at(-1);
    return { items, next: last && items.length === query.limit ? encodeCursor([last.revision]) : null };
  });
  http.on(contract.undoChange, ({ params, actor, body }) => changes.undo(actor, params.revision, body.keepLater));
  return { history: new History(source) };
});
