import type { DataSource } from 'typeorm';
import { formatDate } from '@tallystick/core/dates';
import { agreeInMore, ALIKE, asKnown, reasonsOf } from '@tallystick/core/duplicates';
import { typedField } from '@tallystick/core/fields';
import { comparableOf } from '@tallystick/core/intake';
import { formatMoney } from '@tallystick/core/money';
import { displayName, fold } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { checkSheet, controlDifference, layoutFault, MOST_ROWS, summaryOf } from '@tallystick/core/sheets';
import type { CheckedRow, SheetColumn, SheetLayout, SheetRow } from '@tallystick/core/sheets';
import { leastFor } from '@tallystick/contract/rights';
import { has, requireOwn } from '../platform/rights.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { chunks, one, sqlOn, sqlWithin } from '../platform/db.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { cents, day, long, maybe, ref, table, text, whole, outside, setUp } from '../platform/tables.ts';
import { fieldsIn, fieldValuesOf } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import type { RowOf } from '../platform/tables.ts';
import { eraseSheetRows } from './erase.ts';
import {
  comparedOf,
  ledTo,
  nameColumns,
  namesByEmail,
  namesBySorting,
  namesOf,
  NO_WAYS,
  PEOPLE,
  waysOf,
} from '../supporters/index.ts';
import { chequesOf, lastGiftOf } from '../gifts/index.ts';
import { standingRevision } from '../platform/changes.ts';
import type { Alike, Named } from '../supporters/index.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    sheet: true;
  }
}

export const SheetLayoutTable = table('sheet_layout', setUp('sheets', 'Sheet layout'), {
  name: text(80),
  columns: long,
});
type LayoutRecord = RowOf<typeof SheetLayoutTable>;

export const SheetTable = table('sheet', setUp('sheets', 'Sheet'), {
  name: text(120),
  owner_id: maybe(ref),
  owner: text(120),
  opened_on: day,
  columns: long,
  state: text<'open' | 'posted'>(8),
  expected_count: maybe(whole),
  expected_cents: maybe(cents),
  batch_id: maybe(ref),
});
export type SheetRecord = RowOf<typeof SheetTable>;
outside('sheet_row', 'what is typed, kept as it is typed; posting is the change', eraseSheetRows);

export interface SheetHeadDraft {
  name: string;
  columns: readonly SheetColumn[];
  expectedCount: number | null;
  expectedCents: number | null;
}
type StoredRow = Omit<SheetRow, 'key'>;

/**
 * Entry sheets: what is typed is kept row by row as it is typed, which is bookkeeping and no change of records;
 * posting is the one write.
 */
export class Sheets {
  readonly sql: Sql;

  constructor(
    private readonly source: DataSource,
    readonly changes: Changes,
    readonly settings: Settings,
    private readonly likeness: Alike,
  ) {
    this.sql = sqlOn(source);
  }

  async layouts() {
    const rows = await this.sql.rows<LayoutRecord>('SELECT * FROM sheet_layout ORDER BY name');
    return rows.map(({ id, version, name, columns }) => ({ id, version, name, columns: columnsOf(columns) }));
  }

  saveLayout(actor: Actor, name: string, layout: SheetLayout) {
    refuseBad(layout);
    return this.changes.write(actor, { kind: 'edit', summary: `Kept the sheet layout ${name}` }, async (tx) => {
      const columns = JSON.stringify(layout.columns);
      const had = await one<{ id: number }>(tx.sql, 'SELECT id FROM sheet_layout WHERE name = ?', [name]);
      if (!had) return { id: await tx.insert(SheetLayoutTable, { name, columns }) };
      await tx.update(SheetLayoutTable, had.id, { columns });
      return { id: had.id };
    });
  }

  deleteLayout(actor: Actor, id: number) {
    return this.changes.write(actor, { kind: 'edit', summary: 'Deleted a sheet layout' }, (tx) =>
      tx.removeAll(SheetLayoutTable, [id]),
    );
  }

  async list(asked: Asked) {
    const page = await pageOf<SheetRecord & { many: number }>(
      this.sql,
      {
        select: `SELECT s.*, (SELECT COUNT(*) FROM sheet_row r WHERE r.sheet_id = s.id) AS many FROM sheet s WHERE TRUE`,
        order: [
          { sql: 's.state', as: 'state' }, // sheet_state (state, id)
          { sql: 's.id', as: 'id', down: true },
        ],
      },
      asked,
    );
    return { ...page, items: page.items.map((row) => headView(row, row.many)) };
  }

  async open(actor: Actor, draft: SheetHeadDraft) {
    refuseBad(draft);
    const { today } = await this.settings.calendar();
    return this.changes.write(actor, { kind: 'edit', summary: `Began the sheet ${draft.name}` }, async (tx) => ({
      id: await tx.insert(SheetTable, {
        name: draft.name,
        owner_id: actor.userId,
        owner: actor.name,
        opened_on: today,
        columns: JSON.stringify(draft.columns),
        state: 'open',
        expected_count: draft.expectedCount,
        expected_cents: draft.expectedCents,
        batch_id: null,
      }),
    }));
  }

  set(actor: Actor, id: number, draft: SheetHeadDraft & { version: number }) {
    refuseBad(draft);
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the sheet ${draft.name}` }, async (tx) => {
      const sheet = await tx.expect(SheetTable, id, draft.version, 'This sheet');
      requireOwn(actor, 'sheets.change', sheet.owner_id, 'This sheet');
      if (sheet['state'] !== 'open') throw posted();
      await tx.update(SheetTable, id, {
        name: draft.name,
        columns: JSON.stringify(draft.columns),
        expected_count: draft.expectedCount,
        expected_cents: draft.expectedCents,
      });
    });
  }

  /** Throws a sheet away; its rows go with it, so this is refused for one that is posted. */
  remove(actor: Actor, id: number) {
    return this.changes.write(actor, { kind: 'load', summary: 'Threw a sheet away' }, async (tx) => {
      const sheet = (await tx.lock(SheetTable, [id])).get(id);
      if (!sheet) throw notFound('This sheet');
      requireOwn(actor, 'sheets.delete', sheet.owner_id, 'This sheet');
      if (sheet['state'] !== 'open') throw posted();
      await tx.removeAll(SheetTable, [id]);
    });
  }

  async record(id: number, sql: Sql = this.sql): Promise<SheetRecord> {
    const row = await one<SheetRecord>(sql, 'SELECT * FROM sheet WHERE id = ?', [id]);
    if (!row) throw notFound('This sheet');
    return row;
  }

  async rows(id: number, sql: Sql = this.sql): Promise<SheetRow[]> {
    const rows = await sql.rows<{ row_key: string; content: string }>(
      'SELECT row_key, content FROM sheet_row WHERE sheet_id = ? ORDER BY place, row_key', // sheet_row_place
      [id],
    );
    const typed = rows.map(({ row_key, content }): SheetRow => {
      const row: StoredRow = JSON.parse(content);
      return { key: row_key, ...row };
    });
    // Who was merged into another since they were typed is that one.
    const led = await ledTo(
      sql,
      typed.flatMap((row) => row.supporterId ?? []),
    );
    return led.size === 0
      ? typed
      : typed.map((row) => ({ ...row, supporterId: led.get(row.supporterId ?? 0) ?? row.supporterId }));
  }

  async get(id: number) {
    const sheet = await this.record(id);
    const lines = await this.rows(id);
    return {
      ...headView(sheet, lines.length),
      columns: columnsOf(sheet.columns),
      lines: lines.map((line) => ({ ...line, change: [...line.change] })),
      people: await this.people([...new Set(lines.flatMap((line) => line.supporterId ?? []))]),
      revision: await standingRevision(this.sql, 'sheet', SheetTable, id),
    };
  }

  /** Who the rows name: enough to be sure that it is the right one, and what the columns show of them. */
  async people(ids: readonly number[]) {
    const people: { id: number; name: string; cells: Record<string, string>; lastGift: string }[] = [];
    const [own, formats] = await Promise.all([fieldsIn(this.sql, 'supporter'), this.settings.formats()]);
    for (const slice of chunks(ids)) {
      const { today } = await this.settings.calendar();
      const [rows, ways, values] = await Promise.all([
        this.sql.rows<NameParts & { id: number; date: string | null; cents: number | null }>(
          `SELECT s.id, ${nameColumns('s')}, g.date, g.cents FROM ${PEOPLE} s LEFT JOIN ${lastGiftOf('s.id')}
           WHERE s.id IN (?)`,
          [slice],
        ),
        waysOf(this.sql, slice, today),
        fieldValuesOf(this.sql, slice),
      ]);
      for (const row of rows) {
        const cells: Record<string, string> = { wholeName: displayName(row), organization: row.organization };
        const { email, phone, address } = ways.get(row.id) ?? NO_WAYS;
        cells['email'] = email?.address ?? '';
        cells['phone'] = phone?.number ?? '';
        for (const field of ['street', 'city', 'region', 'postal'] as const) cells[field] = address?.[field] ?? '';
        for (const kept of values.get(row.id) ?? []) {
          const field = own.find((one) => one.id === kept.field);
          if (field) cells[`field:${field.id}`] = typedField(field, kept.value);
        }
        const lastGift =
          row.date === null || row.cents === null
            ? 'no gift yet'
            : `${formatMoney(row.cents, formats)} on ${formatDate(row.date, formats)}`;
        people.push({ id: row.id, name: displayName(row), cells, lastGift });
      }
    }
    return people;
  }

  /**
   * Keeps rows as they are typed, in the place of what they were. A posted sheet takes none. Rows that change the
   * details of somebody known ask for the right to change records.
   */
  async type(
    actor: Actor,
    id: number,
    rows: readonly (SheetRow & { place: number })[],
    removed: readonly string[],
  ): Promise<{ rows: number }> {
    if (!has(actor, leastFor('supporters.change')) && rows.some((row) => row.change.length > 0))
      throw new Problem(
        403,
        'not-allowed',
        'Your role does not change the details of supporters who are known. Leave them as they are, or ask a development officer.',
      );
    // The sheet's row is shared until the end: a posting, which locks it, takes in all of these rows or none.
    const runner = this.source.createQueryRunner();
    try {
      await runner.startTransaction('READ COMMITTED');
      const many = await this.keep(actor, sqlWithin(runner), id, rows, removed);
      await runner.commitTransaction();
      return { rows: many };
    } catch (error) {
      await runner.rollbackTransaction().catch(() => undefined);
      throw error;
    } finally {
      await runner.release();
    }
  }

  private async keep(
    actor: Actor,
    sql: Sql,
    id: number,
    rows: readonly (SheetRow & { place: number })[],
    removed: readonly string[],
  ): Promise<number> {
    const sheet = await one<{ state: string; owner_id: number | null }>(
      sql,
      'SELECT state, owner_id FROM sheet WHERE id = ? LOCK IN SHARE MODE',
      [id],
    );
    if (!sheet) throw notFound('This sheet');
    requireOwn(actor, 'sheets.change', sheet.owner_id, 'This sheet');
    if (sheet.state !== 'open') throw posted();
    for (const slice of chunks(removed))
      await sql.run('DELETE FROM sheet_row WHERE sheet_id = ? AND row_key IN (?)', [id, slice]);
    for (const slice of chunks(rows))
      await sql.run(
        'INSERT INTO sheet_row (sheet_id, row_key, place, content) VALUES ? ON DUPLICATE KEY UPDATE place = VALUES(place), content = VALUES(content)',
        [slice.map(({ key, place, ...row }) => [id, key, place, JSON.stringify(row)])],
      );
    const count = await one<{ many: number }>(sql, 'SELECT COUNT(*) AS many FROM sheet_row WHERE sheet_id = ?', [id]);
    const many = count?.many ?? 0;
    if (many > MOST_ROWS)
      throw new Problem(400, 'too-many-rows', `A sheet takes ${MOST_ROWS} rows; begin another for the rest.`);
    return many;
  }

  /** Every row looked over, inside the transaction of a posting or by itself. */
  async checked(id: number, sql: Sql = this.sql): Promise<{ sheet: SheetRecord; checked: CheckedRow[] }> {
    const sheet = await this.record(id, sql);
    const rows = await this.rows(id, sql);
    const { funds, campaigns, appeals } = await this.settings.choices();
    const { today } = await this.settings.calendar();
    const { country, currency } = await this.settings.organization();
    const [own, ownOfGifts] = await Promise.all([fieldsIn(sql, 'supporter'), fieldsIn(sql, 'gift')]);
    const [fund] = funds.filter((one) => !one.closed).sort((a, b) => a.id - b.id);
    if (!fund) throw new Problem(400, 'no-fund', 'There is no open fund to put gifts in; add one first.');
    const ids = [...new Set(rows.flatMap((row) => row.supporterId ?? []))];
    const known = new Map<number, { name: string; trashed: boolean }>();
    for (const row of await namesOf(sql, ids))
      if (row.state !== 'erased') known.set(row.id, { name: displayName(row), trashed: row.state === 'trash' });
    const cheques = new Set((await chequesOf(sql, ids)).map((row) => `${row.supporterId}|${row.cheque}`));
    const checked = checkSheet({ columns: columnsOf(sheet.columns) }, rows, {
      ...{
        decimal: '.',
        dateOrder: 'mdy',
        today,
        home: country,
        currency,
        fund,
        method: 'cheque',
        funds,
        campaigns,
        appeals,
        own,
        ownOfGifts,
      },
      known: (supporter) => known.get(supporter) ?? null,
      chequeUsed: (supporter, cheque) => cheques.has(`${supporter}|${cheque}`),
    });
    return { sheet, checked };
  }

  async check(id: number) {
    const { sheet, checked } = await this.checked(id);
    const alike = await this.alike(checked);
    const summary = summaryOf(checked);
    return {
      rows: checked.map(({ key, status, problems, warnings }) => ({
        key,
        status,
        problems,
        warnings,
        alike: alike.get(key) ?? [],
      })),
      summary,
      difference: differenceOf(sheet, summary),
    };
  }

  /** Supporters with the very name, e-mail or telephone of someone who is typed as new. */
  private async alike(checked: readonly CheckedRow[]) {
    const fresh = checked.filter((row) => row.status === 'new');
    const likes =
      (await this.likeness.soon(
        fresh.map(({ draft }) => asKnown(comparableOf(draft))),
        ALIKE,
      )) ?? [];
    const likely = await comparedOf(this.sql, [...new Set(likes.flat().map(({ id }) => id))]);
    const emails = fresh.flatMap((row) => row.draft.email ?? []);
    const lasts = fresh.flatMap((row) => row.draft.name.last || row.draft.name.organization || []);
    const found = new Map<string, { id: number; name: string; why: string }[]>();
    if (fresh.length === 0) return found;
    const byEmail = new Map<string, Named[]>();
    const byName = new Map<string, Named[]>();
    const put = (map: Map<string, Named[]>, key: string, row: Named) => map.set(key, [...(map.get(key) ?? []), row]);
    const nameKey = (name: NameParts): string => fold([name.organization, name.first, name.last].join('|'));
    for (const row of await namesByEmail(this.sql, [...new Set(emails)])) put(byEmail, row.address, row);
    for (const row of await namesBySorting(this.sql, [...new Set(lasts.map(fold))])) put(byName, nameKey(row), row);
    for (const [at, row] of fresh.entries()) {
      const asked = asKnown(comparableOf(row.draft));
      const list = [
        ...(byEmail.get(row.draft.email ?? '') ?? []).map((one) => ({ one, why: 'the same e-mail' })),
        ...(byName.get(nameKey(row.draft.name)) ?? []).map((one) => ({ one, why: 'the same name' })),
      ];
      const unique = new Map(list.map(({ one, why }) => [one.id, { id: one.id, name: displayName(one), why }]));
      for (const { id } of likes[at] ?? []) {
        const one = likely.find((each) => each.id === id && each.state === 'active');
        if (one && !unique.has(id) && agreeInMore(asked, asKnown(one)))
          unique.set(id, { id, name: one.name, why: reasonsOf(asked, asKnown(one)).join('; ') });
      }
      if (unique.size > 0) found.set(row.key, [...unique.values()].slice(0, 5));
    }
    return found;
  }
}

export const columnsOf = (json: string): SheetColumn[] => {
  const columns: SheetColumn[] = JSON.parse(json);
  return columns;
};

export const differenceOf = (sheet: SheetRecord, summary: { gifts: number; cents: number }) =>
  controlDifference(
    { count: sheet.expected_count, cents: sheet.expected_cents },
    { count: summary.gifts, cents: summary.cents },
  );

export const posted = (): Problem =>
  new Problem(409, 'posted', 'This sheet was posted; undo the posting to change it.');

function refuseBad(layout: SheetLayout): void {
  const fault = layoutFault(layout);
  if (fault !== null) throw new Problem(400, 'invalid', fault, { fields: { columns: fault } });
}

const headView = (row: SheetRecord, rows: number) => ({
  id: row.id,
  version: row.version,
  name: row.name,
  owner: row.owner,
  ownerId: row.owner_id,
  openedOn: row.opened_on,
  state: row.state,
  expectedCount: row.expected_count,
  expectedCents: row.expected_cents,
  batchId: row.batch_id,
  rows,
});
