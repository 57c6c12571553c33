import type { DataSource } from 'typeorm';
import { describeChange } from '@tallystick/core/history';
import type { Names } from '@tallystick/core/history';
import { isUndoable, parsed } from '../platform/changes.ts';
import { instant } from '../platform/clock.ts';
import { decodeCursor, encodeCursor } from '../platform/cursor.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';

interface StoredLine {
  revision: number;
  at: string;
  actor: string;
  kind: string;
  summary: string;
  undone_by: number | null;
  table_name: string;
  row_id: number;
  before_json: string | null;
  after_json: string | null;
}

/** The history of records, in words, from the change sets. */
export class History {
  private readonly sql: Sql;

  constructor(source: DataSource) {
    this.sql = sqlOn(source);
  }

  async ofSupporter(id: number, page: { limit: number; cursor?: string | undefined }) {
    const before = decodeCursor(page.cursor)?.id ?? Number.MAX_SAFE_INTEGER;
    // change_row_supporter (supporter_id, revision)
    const revisions = await this.sql.rows<{ revision: number }>(
      'SELECT DISTINCT revision FROM change_row WHERE supporter_id = ? AND revision < ? ORDER BY revision DESC LIMIT ?',
      [id, before, page.limit + 1],
    );
    const shown = revisions.slice(0, page.limit).map((row) => row.revision);
    const last = shown.at(-1);
    return {
      items: await this.sets(id, shown),
      next: revisions.length > page.limit && last !== undefined ? encodeCursor({ value: '', id: last }) : null,
    };
  }

  /** The sentences of the newest `sets` change sets that wrote a record itself (not its gifts or mail). */
  async changesSince(supporterId: number, sets: number): Promise<string[]> {
    const revisions = await this.sql.rows<{ revision: number }>(
      `SELECT DISTINCT revision FROM change_row WHERE supporter_id = ?
       AND table_name IN ('supporter', 'email', 'phone', 'address', 'supporter_tag') ORDER BY revision DESC LIMIT ?`,
      [supporterId, Math.max(1, Math.min(sets, 20))],
    );
    const items = await this.sets(
      supporterId,
      revisions.map((row) => row.revision),
    );
    return items.flatMap((item) => item.lines.map((line) => `${line} (${item.by})`));
  }

  private async sets(supporterId: number, revisions: readonly number[]) {
    if (revisions.length === 0) return [];
    const [lines, names] = await Promise.all([
      this.sql.rows<StoredLine>(
        `SELECT s.revision, s.at, s.actor, s.kind, s.summary, s.undone_by, r.table_name, r.row_id, r.before_json, r.after_json
         FROM change_row r JOIN change_set s USING (revision) WHERE r.supporter_id = ? AND r.revision IN (?) ORDER BY r.revision DESC, r.seq`,
        [supporterId, revisions],
      ),
      this.names(),
    ]);
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
        undoable: isUndoable(first),
        lines: mine.flatMap((line) =>
          describeChange(
            {
              table: line.table_name,
              id: line.row_id,
              before: parsed(line.before_json),
              after: parsed(line.after_json),
            },
            names,
          ),
        ),
      };
    });
  }

  private async names(): Promise<Names> {
    const tables = ['fund', 'campaign', 'appeal', 'tag', 'letter'] as const;
    const rows = await this.sql.rows<{ kind: string; id: number; name: string }>(
      tables.map((table) => `SELECT '${table}' AS kind, id, name FROM ${table}`).join(' UNION ALL '),
    );
    const byKey = new Map(rows.map((row) => [`${row.kind}:${row.id}`, row.name]));
    return { of: (table, id) => byKey.get(`${table}:${id}`) ?? null };
  }
}
