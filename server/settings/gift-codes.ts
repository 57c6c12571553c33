import { withArticle } from '@tallystick/core/names';
import { GIFT_CODES } from '@tallystick/contract/setup';
import type { GiftCodeDraft, GiftCodeKind } from '@tallystick/contract/setup';
import type { DataSource } from 'typeorm';
import type { Actor, Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem, nameTaken } from '../platform/problem.ts';
import { cents, day, flag, maybe, ref, table, text, setUp } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { RowOf, AnyTable } from '../platform/tables.ts';

const choice = {
  code: text(30),
  name: text(120),
  closed: flag,
  starts_on: maybe(day),
  ends_on: maybe(day),
  goal_cents: maybe(cents),
};
export const FundTable = table('fund', setUp('settings', 'Fund'), choice);
export const CampaignTable = table('campaign', setUp('settings', 'Campaign'), choice);
export const AppealTable = table('appeal', setUp('settings', 'Appeal'), { ...choice, campaign_id: maybe(ref) });
export const SourceTable = table('source_code', setUp('settings', 'Source code'), { ...choice, appeal_id: maybe(ref) });
export type ChoiceRow = RowOf<typeof FundTable>;

/** What other areas read gift codes by in their SQL: selects to stand where a table would, which MariaDB merges. */
export const FUNDS = '(SELECT id, name FROM fund)';
export const CAMPAIGNS = '(SELECT id, name FROM campaign)';
export const APPEALS = '(SELECT id, name FROM appeal)';
export const SOURCES = '(SELECT id, code FROM source_code)';

/** Where each kind of place is kept, what it hangs on, and the tables that name it. */
const KEPT: Record<GiftCodeKind, { table: AnyTable; parent: string | null; column: string; used: readonly string[] }> =
  {
    funds: { table: FundTable, parent: null, column: 'fund_id', used: ['gift', 'gift_split', 'pledge', 'account'] },
    campaigns: {
      table: CampaignTable,
      parent: null,
      column: 'campaign_id',
      used: ['gift', 'gift_split', 'pledge', 'appeal'],
    },
    appeals: {
      table: AppealTable,
      parent: 'campaign_id',
      column: 'appeal_id',
      used: ['gift', 'gift_split', 'pledge', 'mailing', 'source_code'],
    },
    sources: { table: SourceTable, parent: 'appeal_id', column: 'source_code_id', used: ['gift'] },
  };

/** Funds, campaigns, appeals and source codes, as they are set up. */
export class GiftCodes {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
  ) {
    this.sql = sqlOn(source);
  }

  /**
   * Each with the gifts that name it, and what of them counts toward its goal: those of its days. Parts of split gifts
   * count by their own place.
   */
  async list(kind: GiftCodeKind) {
    const { table, parent, column } = KEPT[kind];
    const split =
      kind === 'sources'
        ? ''
        : `UNION ALL SELECT x.${column}, x.gift_id, x.cents, w.date FROM gift_split x JOIN gift w ON w.id = x.gift_id
           WHERE x.${column} IS NOT NULL`;
    type Listed = ChoiceRow & { parent_id: number | null; gifts: number; given: number | null; toward: number | null };
    const rows = await this.sql.rows<Listed>(
      `SELECT p.*, ${parent === null ? 'NULL' : `p.${parent}`} AS parent_id, COUNT(DISTINCT g.gift_id) AS gifts,
         SUM(g.cents) AS given,
         SUM(IF(g.date >= COALESCE(p.starts_on, g.date) AND g.date <= COALESCE(p.ends_on, g.date), g.cents, 0)) AS toward
       FROM ${table.name} p LEFT JOIN (SELECT ${column}, id AS gift_id, cents, date FROM gift
         WHERE ${column} IS NOT NULL ${kind === 'sources' ? '' : 'AND split = 0'} ${split}) g ON g.${column} = p.id
       GROUP BY p.id ORDER BY p.closed, p.name`,
    );
    return rows.map((row) => ({
      ...choiceView(row),
      parentId: row.parent_id,
      gifts: row.gifts,
      cents: Number(row.given ?? 0),
      towardGoalCents: Number(row.toward ?? 0),
    }));
  }

  add(actor: Actor, kind: GiftCodeKind, draft: GiftCodeDraft) {
    const { table } = KEPT[kind];
    return this.changes.write(
      actor,
      { kind: 'edit', summary: `Added the ${GIFT_CODES[kind]} ${draft.name}` },
      async (tx) => {
        await this.mayBe(tx, kind, 0, draft);
        const [id = 0] = await tx.insertRows(table, [rowOf(kind, draft)]);
        return { id };
      },
    );
  }

  change(actor: Actor, kind: GiftCodeKind, id: number, draft: GiftCodeDraft & { version: number }) {
    const { table } = KEPT[kind];
    const summary = `Changed the ${GIFT_CODES[kind]} ${draft.name}`;
    return this.changes.write(actor, { kind: 'edit', summary }, async (tx) => {
      await tx.expectRow(table, id, draft.version, `The ${GIFT_CODES[kind]} ${draft.name}`);
      await this.mayBe(tx, kind, id, draft);
      await tx.rewrite(table, [id], rowOf(kind, draft));
    });
  }

  private async mayBe(tx: Transaction, kind: GiftCodeKind, id: number, draft: GiftCodeDraft): Promise<void> {
    const { table } = KEPT[kind];
    const taken = await tx.sql.rows(`SELECT id FROM ${table.name} WHERE code = ? AND id <> ?`, [draft.code, id]);
    if (taken.length > 0)
      throw nameTaken('code', `There is ${withArticle(GIFT_CODES[kind])} with the code ${draft.code} already.`);
    if (draft.startsOn !== null && draft.endsOn !== null && draft.endsOn < draft.startsOn)
      throw fault('endsOn', 'It would end before it begins.');
    const parent = kind === 'appeals' ? 'campaign' : kind === 'sources' ? 'appeal' : null;
    if (parent === null || draft.parentId === null) return;
    const found = await tx.sql.rows(`SELECT id FROM ${parent} WHERE id = ?`, [draft.parentId]);
    if (found.length === 0) throw fault('parentId', `There is no such ${parent}.`);
  }

  /** Deletes what nothing names; what is in use is refused with the figures, since its gifts would lose where they went. */
  remove(actor: Actor, kind: GiftCodeKind, id: number) {
    const { table, column, used } = KEPT[kind];
    let name = '';
    const summary = () => `Deleted the ${GIFT_CODES[kind]} ${name}`;
    return this.changes.write(actor, { kind: 'edit', summary }, async (tx) => {
      const row = (await tx.lockRows(table, [id])).get(id);
      if (!row) throw notFound(`This ${GIFT_CODES[kind]}`);
      name = String(row['name']);
      const counts: string[] = [];
      for (const user of used) {
        const found = await one<{ many: number }>(tx.sql, `SELECT COUNT(*) AS many FROM ${user} WHERE ${column} = ?`, [
          id,
        ]);
        const many = found?.many ?? 0;
        const word = user === 'gift_split' ? 'part of a split gift' : user.replace(/_/g, ' ');
        if (many > 0) counts.push(`${many} × ${word}`);
      }
      if (counts.length > 0)
        throw new Problem(
          409,
          'in-use',
          `“${name}” is in use (${counts.join(', ')}) and stays. Close it, and it is not offered any more.`,
        );
      await tx.removeAll(table, [id]);
    });
  }
}

export const choiceView = (row: ChoiceRow) => ({
  id: row.id,
  version: row.version,
  code: row.code,
  name: row.name,
  closed: row.closed === 1,
  startsOn: row.starts_on,
  endsOn: row.ends_on,
  goalCents: row.goal_cents,
});

function rowOf(kind: GiftCodeKind, draft: GiftCodeDraft) {
  const { parent } = KEPT[kind];
  return {
    code: draft.code,
    name: draft.name,
    closed: draft.closed ? 1 : 0,
    starts_on: draft.startsOn,
    ends_on: draft.endsOn,
    goal_cents: draft.goalCents,
    ...(parent === null ? {} : { [parent]: draft.parentId }),
  };
}

const fault = (field: string, message: string): Problem =>
  new Problem(400, 'invalid', message, { fields: { [field]: message } });

/** Refuses (400, with the field) what does not exist or is closed; null is nothing chosen. */
export async function refuseClosed(
  tx: Transaction,
  chosen: Partial<Record<'fund' | 'campaign' | 'appeal' | 'source_code', number | null>>,
): Promise<void> {
  for (const [table, id] of Object.entries(chosen)) {
    if (id === null) continue;
    const row = await one<{ name: string; closed: number }>(tx.sql, `SELECT name, closed FROM ${table} WHERE id = ?`, [
      id,
    ]);
    const word = table.replace('_', ' ');
    const field = table === 'source_code' ? 'sourceId' : `${table}Id`;
    if (!row) throw fault(field, `There is no such ${word}.`);
    if (row.closed === 1) throw fault(field, `The ${word} “${row.name}” is closed; choose an open one.`);
  }
}
