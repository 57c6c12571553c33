import type { DataSource } from 'typeorm';
import { showField, kept } from '@tallystick/core/fields';
import type { CustomField, Kept } from '@tallystick/core/fields';
import { displayName } from '@tallystick/core/names';
import { readMark, writeMark } from '@tallystick/core/lists';
import type { NameParts } from '@tallystick/core/names';
import { WISHES, wishesOf } from '@tallystick/core/wishes';
import type { ListFilter, SupporterRow } from '@tallystick/contract/supporters';
import type { FactsThread, FieldSort, GivenView, GivingView, ListGroupBy, ListSort } from '../facts/index.ts';
import type { FindThread } from '../find/index.ts';
import { badCursor, decodeCursor, encodeCursor } from '../platform/cursor.ts';
import { chunks, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import { fieldsIn } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { conditionsOf, everyoneIn } from './filter.ts';
import type { Formats } from '@tallystick/core/money';
import { typedMoney } from '@tallystick/core/money';
import { supporterNumber } from '@tallystick/core/supporters';
import { nameColumns } from './views.ts';
import { NO_WAYS, waysOf } from './ways.ts';

interface ListQuery extends ListFilter {
  sort: string;
  groupBy?: string | undefined;
  limit: number;
  cursor?: string | undefined;
}

/** Who an act is about: rows picked one by one, or a whole list but for some. */
export type Selection =
  { kind: 'ids'; ids: readonly number[] } | { kind: 'list'; filter: ListFilter; except: readonly number[] };

/** Lists of supporters: sorted and grouped in memory, their rows read from the database. */
export class SupporterLists {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly settings: Settings,
    private readonly facts: FactsThread,
    private readonly finder: FindThread,
  ) {
    this.sql = sqlOn(source);
  }

  async list(query: ListQuery) {
    if (query.q?.trim()) return this.listFound(query, query.q);
    const [calendar, conditions, fields] = await Promise.all([
      this.settings.calendar(),
      conditionsOf(this.sql, query),
      /field:/.test(`${query.sort}${query.groupBy ?? ''}`) ? fieldsIn(this.sql, 'supporter') : [],
    ]);
    const cursor = decodeCursor(query.cursor);
    const after = cursor === null ? null : readMark(cursor.value);
    if (cursor !== null && after === null) throw badCursor();
    const column = query.sort.replace(/^-/, '');
    const found = await this.facts.ask({
      ask: 'list',
      kind: query.kind ?? null,
      conditions,
      trashed: query.trashed === 'yes',
      sort: fieldSort(column, fields) ?? (column as ListSort),
      down: query.sort.startsWith('-'),
      groupBy:
        query.groupBy === undefined ? null : (fieldSort(query.groupBy, fields) ?? (query.groupBy as ListGroupBy)),
      after,
      limit: query.limit,
      calendar,
    });
    const items = await this.read([...found.ids], found.given);
    const end = found.at + found.ids.length;
    return {
      items,
      next: end < found.total && found.end ? encodeCursor({ value: writeMark(found.end), id: found.end.id }) : null,
      total: found.total,
      sum: found.sum,
      at: found.at,
      alike: 0,
      groups: found.groups.map((group) => ({ ...group, key: String(group.key) })),
    };
  }

  private async listFound(query: ListQuery, text: string) {
    const from = decodeCursor(query.cursor)?.id ?? 0;
    const narrowed = query.segment !== undefined || query.tag !== undefined || query.group !== undefined;
    const found = narrowed
      ? await this.everyone(query).then(({ ids, alike }) => ({
          ids: ids.slice(from, from + query.limit),
          total: ids.length,
          alike,
        }))
      : await this.finder.ask({ ask: 'find', text, kind: query.kind, from, limit: query.limit });
    const end = from + found.ids.length;
    const items = await this.rowsFor(found.ids);
    return {
      items,
      next: end < found.total ? encodeCursor({ value: '', id: end }) : null,
      total: found.total,
      // What was typed finds people, not money: the sum is of the page, as the tray's is.
      sum: sumOf(items.map((row) => row.giving)),
      at: from,
      alike: found.alike,
      groups: [],
    };
  }

  private everyone(filter: ListFilter) {
    return everyoneIn(filter, { sql: this.sql, facts: this.facts, finder: this.finder, settings: this.settings });
  }

  /** The ids that a selection stands for now. */
  async selected(selection: Selection): Promise<number[]> {
    if (selection.kind === 'ids') return [...new Set(selection.ids)];
    const except = new Set(selection.except);
    return (await this.everyone(selection.filter)).ids.filter((id) => !except.has(id));
  }

  /** Rows for lists, in the order of the ids; ids that are gone are left out. */
  async rowsFor(ids: readonly number[]): Promise<SupporterRow[]> {
    const calendar = await this.settings.calendar();
    return this.read(ids, this.facts.ask({ ask: 'giving', ids, calendar }));
  }

  private async read(ids: readonly number[], figures: GivenView[] | Promise<GivenView[]>): Promise<SupporterRow[]> {
    if (ids.length === 0) return [];
    const { today } = await this.settings.calendar();
    const [rows, given, ways] = await Promise.all([
      this.sql.rows<StoredRow>(ROWS_SQL, [ids]),
      figures,
      waysOf(this.sql, ids, today),
    ]);
    const byId = new Map(rows.map((row) => [row.id, row]));
    return ids.flatMap((id, index) => {
      const row = byId.get(id);
      const known = given[index];
      if (!row || !known) return [];
      const { email, phone, address } = ways.get(id) ?? NO_WAYS;
      const fields: Record<string, Kept> = row.fields === null ? {} : JSON.parse(row.fields);
      return {
        id,
        number: supporterNumber(id),
        name: displayName(row),
        kind: row.kind,
        email: email?.address ?? null,
        phone: phone?.number ?? null,
        street: address?.street ?? '',
        city: address?.city ?? '',
        region: address?.region ?? '',
        postal: address?.postal ?? '',
        wishes: wishesOf(known.flags),
        tags: row.tags?.split('\n') ?? [],
        fields,
        giving: known.giving,
      };
    });
  }

  /** The headings and rows of an export, amounts as `1234.50`, custom fields as people read them. */
  async exported(ids: readonly number[]): Promise<{ headings: string[]; rows: (string | number | null)[][] }> {
    const [fields, formats] = await Promise.all([fieldsIn(this.sql, 'supporter'), this.settings.formats()]);
    const rows: (string | number | null)[][] = [];
    for (const slice of chunks(ids)) {
      const names = await this.sql.rows<{ id: number } & Record<string, string>>(
        'SELECT id, prefix, first, last, organization FROM supporter WHERE id IN (?)',
        [slice],
      );
      const byId = new Map(names.map((row) => [row.id, row]));
      for (const row of await this.rowsFor(slice)) rows.push(exportRow(row, byId.get(row.id) ?? {}, fields, formats));
    }
    return { headings: [...EXPORT_HEADINGS, ...fields.map((field) => field.name)], rows };
  }
}

type StoredRow = NameParts & { id: number } & Record<'tags' | 'fields', string | null>;
// CONCAT makes it plain text, which the driver leaves alone.
// One statement for a page: supporter_tag_pair (supporter_id, tag_id), supporter_field_pair (supporter_id, field_id)
const ROWS_SQL = `SELECT s.id, ${nameColumns('s')},
  (SELECT GROUP_CONCAT(t.name ORDER BY t.name SEPARATOR '\n') FROM supporter_tag x JOIN tag t ON t.id = x.tag_id WHERE x.supporter_id = s.id) AS tags,
  (SELECT CONCAT(JSON_OBJECTAGG(v.field_id, v.value), '') FROM supporter_field v WHERE v.supporter_id = s.id) AS fields
  FROM supporter s WHERE s.id IN (?)`;

function fieldSort(column: string, fields: readonly CustomField[]): FieldSort | null {
  const id = /^field:(\d+)$/.exec(column)?.[1];
  if (id === undefined) return null;
  const field = fields.find((one) => one.id === Number(id));
  if (!field) throw new Problem(400, 'invalid', 'The custom field to sort or group by no longer exists.');
  return { field: field.id, kind: field.kind };
}

function sumOf(given: readonly Pick<GivingView, 'lifetime' | 'thisYear' | 'lastYear' | 'count'>[]) {
  const sum = { lifetime: 0, thisYear: 0, lastYear: 0, count: 0 };
  for (const one of given)
    for (const name of ['lifetime', 'thisYear', 'lastYear', 'count'] as const) sum[name] += one[name];
  return sum;
}

const EXPORT_HEADINGS = [
  'Number',
  'Name',
  'Kind',
  'Prefix',
  'First name',
  'Last name',
  'Organization',
  'E-mail',
  'Telephone',
  'Street',
  'City',
  'State',
  'ZIP',
  'Tags',
  'Wishes',
  'Total given',
  'This fiscal year',
  'Last fiscal year',
  'Gifts',
  'Largest gift',
  'First gift',
  'Last gift',
];

function exportRow(
  row: SupporterRow,
  name: Record<string, unknown>,
  fields: readonly CustomField[],
  formats: Formats,
): (string | number | null)[] {
  const part = (column: string): string => String(name[column] ?? '');
  const { giving } = row;
  return [
    ...[
      row.number,
      row.name,
      row.kind,
      part('prefix'),
      part('first'),
      part('last'),
      part('organization'),
      row.email,
      row.phone,
    ],
    ...[
      row.street,
      row.city,
      row.region,
      row.postal,
      row.tags.join('; '),
      row.wishes.map((wish) => WISHES[wish].word).join('; '),
    ],
    ...[
      typedMoney(giving.lifetime),
      typedMoney(giving.thisYear),
      typedMoney(giving.lastYear),
      giving.count,
      typedMoney(giving.largest),
    ],
    ...[giving.first, giving.last],
    ...fields.map((field) => showField(field, row.fields[field.id] ?? kept(''), formats)),
  ];
}
