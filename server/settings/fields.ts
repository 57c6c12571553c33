import type { DataSource } from 'typeorm';
import { FIELD_KINDS, manyOf, offList, readField, showField } from '@tallystick/core/fields';
import type { CustomField, FieldKind, Kept, Typed } from '@tallystick/core/fields';
import type { Formats } from '@tallystick/core/money';
import * as contract from '@tallystick/contract/fields';
import type { Actor, Changes } from '../platform/changes.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { notFound, Problem, nameTaken } from '../platform/problem.ts';
import { long, table, text, whole, ref, setUp } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Row, Value } from '@tallystick/core/changes';
import type { RowOf } from '../platform/tables.ts';
import type { Telling } from '@tallystick/core/history';
import { FIELD_KIND, named, plain } from '@tallystick/core/history';
import type { Show } from '@tallystick/core/history';
import { counted } from '@tallystick/core/words';

type About = 'supporter' | 'gift';
export const CustomFieldTable = table('custom_field', setUp('settings', 'Custom field'), {
  about: text<About>(10),
  name: text(80),
  kind: text<FieldKind>(8),
  choices: long,
  place: whole,
});
type FieldRecord = RowOf<typeof CustomFieldTable>;

/** A value as people read it, by the kind of its field. */
const shownAs =
  (field: Value): Show =>
  (value, telling) => {
    const kind = typeof field === 'number' ? telling.of(FIELD_KIND, field) : null;
    if (kind === null || typeof value !== 'string' || value === '' || !(kind in FIELD_KINDS))
      return plain(value, telling);
    return showField({ kind: kind as FieldKind }, value as Kept, telling.formats);
  };
const fieldId = ref.says('Field', named('custom_field'));
/** The rule of values of custom fields, but what erasing does to them. */
const values = {
  area: 'settings',
  owner: 'supporter_id',
  undo: 'rows',
  tells: ['field_id'],
  callsColumn: (row: Row, telling: Telling) =>
    typeof row['field_id'] === 'number'
      ? { word: named('custom_field')(row['field_id'], telling), show: shownAs(row['field_id']) }
      : null,
  called: (row: Row, telling: Telling) =>
    `${named('custom_field')(row['field_id'] ?? null, telling)} (${shownAs(row['field_id'] ?? null)(row['value'] ?? null, telling)})`,
} as const;
export const SupporterFieldTable = table(
  'supporter_field',
  {
    ...{ ...values, topics: ['record'], partOfRecord: true, erasing: 'remove' },
    merging: { once: (row) => String(row['field_id']), else: 'stays' },
  },
  { supporter_id: ref, field_id: fieldId, value: text<Kept>(1000).says('Value') },
);
export const GiftFieldTable = table(
  'gift_field',
  { ...values, topics: ['gifts'], erasing: { blank: {} }, merging: { with: 'gift', by: 'gift_id' } },
  { supporter_id: ref, gift_id: ref, field_id: fieldId, value: text<Kept>(1000).says('Value') },
);
const VALUES = { supporter: SupporterFieldTable, gift: GiftFieldTable } as const;

/** The kind of every custom field. */
export const fieldKinds = (sql: Sql): Promise<{ id: number; kind: FieldKind }[]> =>
  sql.rows('SELECT id, kind FROM custom_field');

/** What custom fields hold for each of the supporters. */
export async function fieldValuesOf(
  sql: Sql,
  supporterIds: readonly number[],
): Promise<Map<number, { field: number; value: Kept }[]>> {
  const found = new Map<number, { field: number; value: Kept }[]>();
  if (supporterIds.length === 0) return found;
  // supporter_field_pair (supporter_id, field_id)
  for (const { of, field, value } of await sql.rows<{ of: number; field: number; value: Kept }>(
    'SELECT supporter_id AS of, field_id AS field, value FROM supporter_field WHERE supporter_id IN (?)',
    [supporterIds],
  ))
    found.set(of, [...(found.get(of) ?? []), { field, value }]);
  return found;
}

/** A value of a field with choices that is, or holds, none of them; with the nearest choices, null where none is near. */
export interface OffList {
  id: number;
  supporterId: number;
  field: string;
  value: Kept;
  shown: string;
  near: { value: Kept; shown: string } | null;
}

/** Values of supporters' fields that are not among the choices of their field. */
export async function valuesOffList(sql: Sql, formats: Formats): Promise<OffList[]> {
  const found: OffList[] = [];
  for (const { id, name, kind, choices } of await fieldsIn(sql, 'supporter')) {
    if (kind !== 'one' && kind !== 'many') continue;
    // supporter_field_field (field_id): many have a value, and few values are different
    const values = await sql.rows<{ value: Kept }>(
      'SELECT MIN(value) AS value FROM supporter_field WHERE field_id = ? GROUP BY value COLLATE utf8mb4_bin',
      [id],
    );
    for (const { value } of values) {
      const off = offList({ kind, choices }, value);
      if (!off) continue;
      const rows = await sql.rows<{ id: number; supporterId: number }>(
        `SELECT v.id, v.supporter_id AS supporterId FROM supporter_field v WHERE v.field_id = ? AND v.value COLLATE utf8mb4_bin = ?`,
        [id, value],
      );
      for (const row of rows)
        found.push({
          ...{ ...row, field: name, value, shown: showField({ kind }, value, formats) },
          near: off.near === null ? null : { value: off.near, shown: showField({ kind }, off.near, formats) },
        });
    }
  }
  return found;
}

/** The fields that the organisation made for itself. */
export class Fields {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
  ) {
    this.sql = sqlOn(source);
  }

  async of(about: About): Promise<CustomField[]> {
    return fieldsIn(this.sql, about);
  }

  async list() {
    const rows = await this.sql.rows<FieldRecord & { used: number }>(
      `SELECT f.*, (SELECT COUNT(*) FROM supporter_field v WHERE v.field_id = f.id)
         + (SELECT COUNT(*) FROM gift_field v WHERE v.field_id = f.id) AS used
       FROM custom_field f ORDER BY f.about DESC, f.place, f.id`,
    );
    return rows.map(({ choices, place: _place, ...row }) => ({ ...row, choices: choicesOf(choices) }));
  }

  async add(actor: Actor, draft: { about: About; name: string; kind: FieldKind; choices: string[] }) {
    if ((draft.kind === 'one' || draft.kind === 'many') && draft.choices.length === 0)
      throw new Problem(400, 'invalid', 'A list to choose from has at least one choice.', {
        fields: { choices: 'A list to choose from has at least one choice.' },
      });
    return this.changes.write(actor, { kind: 'edit', summary: `Made the field ${draft.name}` }, async (tx) => {
      await refuseTaken(tx, draft.about, draft.name, 0);
      const { about, name, kind } = draft;
      const fields = await fieldsIn(tx.sql, about);
      const row = { about, name, kind, choices: JSON.stringify(draft.choices), place: fields.length };
      return { id: await tx.insert(CustomFieldTable, row) };
    });
  }

  async change(actor: Actor, id: number, draft: { version: number; name: string; choices: string[] }) {
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the field ${draft.name}` }, async (tx) => {
      const row = await tx.expect(CustomFieldTable, id, draft.version, 'This field');
      const about = row['about'] === 'gift' ? 'gift' : 'supporter';
      await refuseTaken(tx, about, draft.name, id);
      const gone = choicesOf(String(row['choices'])).filter((choice) => !draft.choices.includes(choice));
      if (gone.length > 0) {
        const used = await tx.sql.rows<{ value: string }>(
          `SELECT DISTINCT value FROM ${VALUES[about].name} WHERE field_id = ?`,
          [id],
        );
        const held = gone.find((choice) =>
          used.some(({ value }) => value === choice || manyOf(value).includes(choice)),
        );
        if (held !== undefined)
          throw new Problem(409, 'in-use', `Records have the choice “${held}”; change those first, then take it away.`);
      }
      await tx.update(CustomFieldTable, id, { name: draft.name, choices: JSON.stringify(draft.choices) });
    });
  }

  /** Deletes a field and its values. `values` is how many the person was told; another number refuses (409). */
  async remove(actor: Actor, id: number, values: number) {
    const field = (await this.list()).find((one) => one.id === id);
    if (!field) throw notFound('This field');
    return this.changes.write(actor, { kind: 'bulk', summary: `Deleted the field ${field.name}` }, async (tx) => {
      const table = VALUES[field.about];
      const rows = await tx.sql.rows<{ id: number }>(`SELECT id FROM ${table.name} WHERE field_id = ? FOR UPDATE`, [
        id,
      ]);
      if (rows.length !== values)
        throw new Problem(
          409,
          'in-use',
          `${counted(rows.length, 'record has', 'records have')} a value in ${field.name} and would lose it.`,
          { details: { values: rows.length } },
        );
      await tx.removeAll(
        table,
        rows.map((row) => row.id),
      );
      await tx.removeAll(CustomFieldTable, [id]);
    });
  }
}

/**
 * Gives a record, into which others were merged, the values that were decided on, by field: the one value, or of a
 * field of many all of them `together`, in the order of its choices.
 */
export async function joinFields(
  tx: Transaction,
  supporterId: number,
  decided: ReadonlyMap<number, { values: readonly string[]; together: boolean }>,
): Promise<void> {
  const fields = await fieldsIn(tx.sql, 'supporter');
  const rows = await tx.sql.rows<{ id: number; field_id: number }>(
    'SELECT id, field_id FROM supporter_field WHERE supporter_id = ?', // supporter_field_pair (supporter_id, field_id)
    [supporterId],
  );
  for (const { id, field_id: field } of rows) {
    const { values = [], together = false } = decided.get(field) ?? {};
    const chosen = new Set(values.flatMap((value): string[] => (together ? manyOf(value as Kept) : [value])));
    const choices = fields.find((one) => one.id === field)?.choices ?? [];
    const value = together
      ? JSON.stringify([
          ...choices.filter((choice) => chosen.has(choice)),
          ...[...chosen].filter((one) => !choices.includes(one)),
        ])
      : values[0];
    if (value !== undefined) await tx.update(SupporterFieldTable, id, { value: value as Kept });
  }
}

async function refuseTaken(tx: Transaction, about: About, name: string, id: number): Promise<void> {
  const taken = await tx.sql.rows('SELECT id FROM custom_field WHERE about = ? AND name = ? AND id <> ?', [
    about,
    name,
    id,
  ]);
  if (taken.length > 0) throw nameTaken('name', `There is a field ${name} already.`);
}

/** The custom fields of supporters or of gifts, or all of them. */
export async function fieldsIn(sql: Sql, about?: About): Promise<(CustomField & { about: About })[]> {
  const rows = await sql.rows<FieldRecord>(
    `SELECT * FROM custom_field ${about ? 'WHERE about = ?' : ''} ORDER BY place, id`,
    about ? [about] : [],
  );
  return rows.map(({ id, about: whose, name, kind, choices }) => ({
    ...{ id, about: whose, name, kind, choices: choicesOf(choices) },
  }));
}

const choicesOf = (json: string): string[] => {
  const choices: string[] = JSON.parse(json);
  return choices;
};

/** Reads values as typed, by field id, into kept ones; throws a 400 that names each field that cannot be read. */
export function readFields(
  fields: readonly CustomField[],
  written: Readonly<Record<string, Typed>>,
): Map<number, Kept> {
  const values = new Map<number, Kept>();
  const faults: Record<string, string> = {};
  for (const [id, text] of Object.entries(written)) {
    const field = fields.find((one) => one.id === Number(id));
    if (!field) {
      faults[`fields.${id}`] = 'This field no longer exists.';
      continue;
    }
    const read = readField(field, text);
    if (read.ok) values.set(field.id, read.value);
    else faults[`fields.${id}`] = read.reason;
  }
  const [first] = Object.values(faults);
  if (first !== undefined) throw new Problem(400, 'invalid', first, { fields: faults });
  return values;
}

/** Makes the values of a record's fields what is asked; an empty value is taken away, others not named stay. */
export async function syncFields(
  tx: Transaction,
  about: About,
  owner: { supporter_id: number; gift_id?: number },
  values: ReadonlyMap<number, Kept>,
): Promise<void> {
  const table = VALUES[about];
  const column = about === 'gift' ? 'gift_id' : 'supporter_id';
  const had = await tx.sql.rows<{ id: number; field_id: number }>(
    `SELECT id, field_id FROM ${table.name} WHERE ${column} = ? FOR UPDATE`,
    [owner[column] ?? 0],
  );
  for (const [field, value] of values) {
    const row = had.find((one) => one.field_id === field);
    if (row && value === '') await tx.removeAll(table, [row.id]);
    else if (row) await tx.rewrite(table, [row.id], { value });
    else if (value !== '') await tx.insertRows(table, [{ ...owner, field_id: field, value }]);
  }
}

export function serveFields(http: Http, fields: Fields): void {
  http.on(contract.listFields, async () => ({ items: await fields.list() }));
  http.on(contract.createField, async ({ actor, body }) => {
    const { revision, result } = await fields.add(actor, body);
    return { revision, ...result };
  });
  http.on(contract.updateField, async ({ actor, params, body }) => fields.change(actor, params.id, body));
  http.on(contract.deleteField, async ({ actor, params, query }) => fields.remove(actor, params.id, query.values ?? 0));
}
