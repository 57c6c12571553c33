import type { DataSource } from 'typeorm';
import { fieldsWith } from '@tallystick/core/catalogue';
import type { OwnField, FIELDS } from '@tallystick/core/catalogue';
import { displayName } from '@tallystick/core/names';
import { readMark, readSorts, writeMark } from '@tallystick/core/lists';
import type { NameParts } from '@tallystick/core/names';
import { cellTypeOf, STANDING, standingAs, standingName } from '@tallystick/core/segments';
import type { Cell, Shown } from '@tallystick/core/segments';
import { WISHES, wishesOf } from '@tallystick/core/wishes';
import type { Asked } from '@tallystick/contract/segments';
import type { ListFilter, SupporterRow } from '@tallystick/contract/supporters';
import { PLAIN_LIST } from '../facts/index.ts';
import type { FactsThread, Questions, GivingView, ListedView, ListSums } from '../facts/index.ts';
import type { FindThread } from '../find/index.ts';
import { badCursor, decodeCursor, decodeId, encodeCursor } from '../platform/cursor.ts';
import { CELL_KINDS } from '../platform/csv.ts';
import type { CellKind, TableFile } from '../platform/csv.ts';
import { eachChunk, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import { othersTurn } from '../platform/turns.ts';
import type { Settings } from '../settings/index.ts';
import { conditionsOf, everyoneIn } from './filter.ts';
import { supporterNumber } from '@tallystick/core/supporters';
import type { Addressed, Addressing } from './addressing.ts';
import { namesOf } from './views.ts';

/** So many supporters are read for a file while those before them are put in it. */
const EXPORTED_AT_ONCE = 1_000;

interface ListQuery extends ListFilter {
  sort: string;
  groupBy?: string | undefined;
  columns?: string | undefined;
  limit: number;
  cursor?: string | undefined;
}

/** Who an act is about: rows picked one by one, or a whole list but for some. */
export type Selection =
  | { kind: 'ids'; ids: readonly number[] }
  | { kind: 'list'; filter: ListFilter; except: readonly number[] }
  | { kind: 'asked'; asked: Asked; except: readonly number[] };

/** Lists of supporters: sorted and grouped in memory, their rows read from the database. */
export class SupporterLists {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly settings: Settings,
    private readonly facts: FactsThread,
    private readonly questions: Questions,
    private readonly finder: FindThread,
    private readonly addressing: Addressing,
  ) {
    this.sql = sqlOn(source);
  }

  async list(query: ListQuery) {
    if (query.q?.trim()) return this.listFound(query, query.q);
    const [calendar, asked, own, formats] = await Promise.all([
      this.settings.calendar(),
      conditionsOf(this.questions, query),
      ASKS_FIELDS.test(`${query.sort} ${query.groupBy ?? ''} ${query.columns ?? ''}`) ? this.questions.own() : [],
      this.settings.formats(),
    ]);
    const added = columnsAsked(query, own);
    const [mark] = decodeCursor(query.cursor, 1) ?? [];
    const after = mark === undefined ? null : readMark(String(mark));
    const sorts = readSorts(query.sort).map(({ by, down }) => ({ by: standing(by, own), down }));
    if (mark !== undefined && after?.keys.length !== sorts.length) throw badCursor();
    const found = await this.facts.ask({
      ...{ ...PLAIN_LIST, group: null, setting: { calendar, own }, ...asked, formats },
      ...{
        kind: query.kind ?? null,
        trashed: query.trashed === 'yes',
        columns: [...SUMMED.map((name) => STANDING[name]), ...added],
      },
      ...{ sorts, after, limit: query.limit, figures: true },
      groupBy: query.groupBy === undefined ? null : standing(query.groupBy, own),
    });
    const cells = found.cells.map((row) => row.slice(SUMMED.length));
    const items = await this.read([...found.ids], found.given, cells);
    const end = found.at + found.ids.length;
    return {
      items,
      next: end < found.total && found.end ? encodeCursor([writeMark(found.end)]) : null,
      ...{ total: found.total, sum: summed(found.sums), at: found.at, alike: 0 },
      groups: found.groups.map(({ key, count, sum }) => ({ key: String(key), count, sum: summed(sum) })),
    };
  }

  private async listFound(query: ListQuery, text: string) {
    const from = decodeId(query.cursor) ?? 0;
    const narrowed = query.segment !== undefined || query.tag !== undefined || query.group !== undefined;
    const found = narrowed
      ? await this.everyone(query).then(({ ids, alike }) => ({
          ids: ids.slice(from, from + query.limit),
          total: ids.length,
          alike,
        }))
      : await this.finder.ask({ ask: 'find', text, kind: query.kind, from, limit: query.limit });
    const end = from + found.ids.length;
    const columns = columnsAsked(query, await this.questions.own());
    const items = await this.rowsFor(found.ids, columns);
    return {
      items,
      next: end < found.total ? encodeCursor([end]) : null,
      total: found.total,
      // What was typed finds people, not money: the sum is of the page, as the tray's is.
      sum: sumOf(items.map((row) => row.giving)),
      at: from,
      alike: found.alike,
      groups: [],
    };
  }

  private everyone(filter: ListFilter) {
    const { facts, questions, finder, settings } = this;
    return everyoneIn(filter, { facts, questions, finder, settings });
  }

  /** The ids that a selection stands for now. */
  async selected(selection: Selection): Promise<number[]> {
    if (selection.kind === 'ids') return [...new Set(selection.ids)];
    const except = new Set(selection.except);
    const found =
      selection.kind === 'list'
        ? (await this.everyone(selection.filter)).ids
        : [...(await this.questions.members(await this.questions.asked(selection.asked)))];
    return found.filter((id) => !except.has(id));
  }

  /** Rows for lists with what columns show beside, in the order of the ids; ids that are gone are left out. */
  async rowsFor(ids: readonly number[], columns: readonly Shown[] = []): Promise<SupporterRow[]> {
    const [calendar, own, formats] = await Promise.all([
      this.settings.calendar(),
      columns.length > 0 ? this.questions.own() : [],
      this.settings.formats(),
    ]);
    const found = await this.facts.ask({
      ...{ ...PLAIN_LIST, setting: { calendar, own }, formats, columns },
      ...{ only: ids, limit: ids.length, figures: true },
    });
    return this.read([...found.ids], found.given, found.cells);
  }

  private async read(
    ids: readonly number[],
    given: readonly ListedView[],
    cells: readonly (readonly Cell[])[],
  ): Promise<SupporterRow[]> {
    if (ids.length === 0) return [];
    const tags = await this.tagsNamed(given);
    return ids.flatMap((id, index) => {
      const known = given[index];
      if (!known) return [];
      const { name, kind, email, phone, address } = known;
      return {
        ...{ id, number: supporterNumber(id), name, kind, email, phone },
        ...{ street: address?.street ?? '', city: address?.city ?? '', region: address?.region ?? '' },
        ...{ postal: address?.postal ?? '', country: address?.country ?? '' },
        wishes: wishesOf(known.flags),
        tags: tags.filter((tag) => known.tags.includes(tag.id)).map((tag) => tag.name),
        giving: known.giving,
        cells: [...(cells[index] ?? [])],
      };
    });
  }

  /** The tags of some by their names, in their order. */
  private tagsNamed(given: readonly ListedView[]): Promise<{ id: number; name: string }[]> | [] {
    const ids = [...new Set(given.flatMap(({ tags }) => tags))];
    return ids.length === 0 ? [] : this.sql.rows('SELECT id, name FROM tag WHERE id IN (?) ORDER BY name', [ids]);
  }

  /** Everything that lists know of the supporters, as a table for a file. */
  async exported(ids: readonly number[]): Promise<TableFile> {
    const fields = [...fieldsWith(await this.questions.own())].filter(([name]) => !IN_COLUMNS.has(name));
    const shows = fields.map(([name]) => standingAs(standingName(name)) ?? STANDING.name);
    const rows: TableFile['rows'] = [];
    const read = async (slice: number[]) => {
      const [names, forms, shown] = await Promise.all([
        this.sql.rows<NameParts & { id: number; nickname: string; household_id: number | null }>(
          'SELECT * FROM supporter WHERE id IN (?)',
          [slice],
        ),
        this.addressing.of(slice),
        this.rowsFor(slice, shows),
      ]);
      const homes = await namesOf(this.sql, [...new Set(names.flatMap((row) => row.household_id ?? []))]);
      return { names, forms, shown, homes };
    };
    await eachChunk(ids, EXPORTED_AT_ONCE, read, async ({ names, forms, shown, homes }) => {
      const nameOf = new Map(names.map((row) => [row.id, row]));
      const homeOf = new Map(homes.map((row) => [row.id, displayName(row)]));
      for (const row of shown) {
        const name = nameOf.get(row.id);
        const form = forms.get(row.id)?.forms;
        if (!name || !form) continue;
        const household = homeOf.get(name.household_id ?? 0) ?? '';
        rows.push([...COLUMNS.map(({ of }) => of({ row, name, household, form })), ...row.cells]);
      }
      await othersTurn();
    });
    const more = fields.map(([, { label, type }]) => ({ heading: label, kind: CELL_KINDS[cellTypeOf(type)] }));
    return { columns: [...COLUMNS.map(({ heading, kind }) => ({ heading, kind })), ...more], rows };
  }
}

const ASKS_FIELDS = /field:/;
/** What a list shows, or is sorted or put together by, from the name that addresses have for it. */
function standing(by: string, own: readonly OwnField[]): Shown {
  const shown = standingAs(by);
  if (shown?.kind === 'field' && !fieldsWith(own).has(shown.field))
    throw new Problem(400, 'invalid', 'The field of a column, or to sort or group by, does not exist.');
  return shown ?? STANDING.name;
}
const columnsAsked = ({ columns }: ListQuery, own: readonly OwnField[]): Shown[] =>
  (columns?.split(',') ?? []).map((name) => standing(name, own));

const SUMMED = ['lifetime', 'thisYear', 'lastYear', 'count'] as const;
const summed = ([lifetime, thisYear, lastYear, count]: ListSums) => ({
  ...{ lifetime: lifetime ?? 0, thisYear: thisYear ?? 0, lastYear: lastYear ?? 0, count: count ?? 0 },
});

function sumOf(given: readonly Pick<GivingView, 'lifetime' | 'thisYear' | 'lastYear' | 'count'>[]) {
  const sum = { lifetime: 0, thisYear: 0, lastYear: 0, count: 0 };
  for (const one of given) for (const name of SUMMED) sum[name] += one[name];
  return sum;
}

interface Exported {
  row: SupporterRow;
  name: NameParts & { nickname: string };
  household: string;
  form: Addressed['forms'];
}
type ExportColumn = TableFile['columns'][number] & { of(one: Exported): string | number | null };
const column = (kind: CellKind, heading: string, of: ExportColumn['of']): ExportColumn => ({ kind, heading, of });
const word = (heading: string, of: ExportColumn['of']): ExportColumn => column('text', heading, of);

const COLUMNS: readonly ExportColumn[] = [
  word('Number', ({ row }) => row.number),
  word('Name', ({ row }) => row.name),
  word('Kind', ({ row }) => row.kind),
  word('Prefix', ({ name }) => name.prefix),
  word('First name', ({ name }) => name.first),
  word('Middle name', ({ name }) => name.middle),
  word('Last name', ({ name }) => name.last),
  word('Suffix', ({ name }) => name.suffix),
  word('Nickname', ({ name }) => name.nickname),
  word('Organization', ({ name }) => (name.kind === 'organization' ? name.organization : '')),
  word('Household', ({ name, household }) => (name.kind === 'household' ? name.organization : household)),
  word('Addressee', ({ form }) => form.addresseeFormal.text),
  word('Salutation', ({ form }) => form.salutationInformal.text),
  word('E-mail', ({ row }) => row.email),
  word('Telephone', ({ row }) => row.phone),
  word('Street', ({ row }) => row.street),
  word('City', ({ row }) => row.city),
  word('State', ({ row }) => row.region),
  word('ZIP', ({ row }) => row.postal),
  word('Country', ({ row }) => row.country),
  word('Tags', ({ row }) => row.tags.join('; ')),
  word('Wishes', ({ row }) => row.wishes.map((wish) => WISHES[wish].word).join('; ')),
  column('money', 'Total given', ({ row }) => row.giving.lifetime),
  column('money', 'This fiscal year', ({ row }) => row.giving.thisYear),
  column('money', 'Last fiscal year', ({ row }) => row.giving.lastYear),
  column('count', 'Gifts', ({ row }) => row.giving.count),
  column('money', 'Largest gift', ({ row }) => row.giving.largest),
  column('day', 'First gift', ({ row }) => row.giving.first),
  column('day', 'Last gift', ({ row }) => row.giving.last),
];

/** Fields of the catalogue that the columns above have already. */
const IN_COLUMNS: ReadonlySet<string> = new Set<keyof typeof FIELDS>([
  ...(['number', 'name', 'kind', 'title', 'first', 'middle', 'last', 'suffix', 'nickname'] as const),
  ...(['organization', 'town', 'state', 'postal'] as const),
]);
