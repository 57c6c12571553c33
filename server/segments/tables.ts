import { fieldsWith } from '@tallystick/core/catalogue';
import type { Type } from '@tallystick/core/catalogue';
import { readMark, writeMark } from '@tallystick/core/lists';
import { formatDate } from '@tallystick/core/dates';
import type { Formats } from '@tallystick/core/money';
import { describeShown, FIRST_VIEW, FOR_OFFICE, valueTypeOf } from '@tallystick/core/segments';
import type { Cell, Question, Shown, Wording } from '@tallystick/core/segments';
import { supporterNumber } from '@tallystick/core/supporters';
import type { View } from '@tallystick/contract/segments';
import { CHOICES_OF } from '@tallystick/contract/setup';
import { PLAIN_LIST } from '../facts/index.ts';
import type { FactsThread, ListQuestion, Names, Questions } from '../facts/index.ts';
import { badCursor, decodeCursor, encodeCursor } from '../platform/cursor.ts';
import { CELL_KINDS } from '../platform/csv.ts';
import type { TableFile } from '../platform/csv.ts';
import type { Settings } from '../settings/index.ts';
import type { HeldBack } from '../supporters/index.ts';
import type { ReachedOne, Reacher } from './reached.ts';

/** A table for a file, and who it leaves out. */
export interface Filed {
  table: TableFile;
  held: HeldBack[];
}

/** So many rows of a table are read at once for a file. */
const AT_ONCE = 20_000;

/** What matches, as a table: its rows, columns and order as a view says. */
export class Tables {
  constructor(
    private readonly settings: Settings,
    private readonly questions: Questions,
    private readonly facts: FactsThread,
    private readonly wording: () => Promise<Wording>,
  ) {}

  private reacher: Reacher = () => Promise.resolve(new Map());

  /** Says who knows how people are addressed and reached. */
  reachBy(reacher: Reacher): void {
    this.reacher = reacher;
  }

  /** A page of the table, with the words of its columns and what they come to. */
  async page(question: Question, view: View, { limit, cursor }: { limit: number; cursor?: string | undefined }) {
    const asked = await this.asked(question, view);
    const [mark] = decodeCursor(cursor, 1) ?? [];
    const after = mark === undefined ? null : readMark(String(mark));
    if (mark !== undefined && after?.keys.length !== asked.sorts.length) throw badCursor();
    const [found, wording] = await Promise.all([this.facts.ask({ ...asked, after, limit }), this.wording()]);
    const end = found.at + found.ids.length;
    const reached = view.columns.some(isReached) ? await this.reached(found.ids, view) : NOBODY;
    return {
      items: [...found.ids].map((supporterId, at) => ({
        ...{ id: found.own?.[at] ?? supporterId, supporterId, thing: found.things?.[at] ?? null },
        cells: filled(view, found.cells[at] ?? [], reached.get(supporterId)),
      })),
      next: end < found.total && found.end ? encodeCursor([writeMark(found.end)]) : null,
      ...{ total: found.total, sums: found.sums, without: found.without },
      columns: view.columns.map(({ id, shows }, at) => ({
        ...{ id, words: describeShown(shows as Shown, view.rows, wording), type: found.types[at] ?? null },
      })),
      groups: found.groups.map(({ key, count, sum }) => ({ key: String(key), count, sums: sum })),
    };
  }

  /** Whom the file of a table leaves out, each once. */
  async check(question: Question, view: View) {
    const found = await this.facts.ask({ ...(await this.asked(question, view)), columns: [], limit: null });
    const ids = [...new Set(found.ids)];
    const held = goesOut(view) ? heldIn(await this.reached(ids, view)) : [];
    return { asked: ids.length, held: held.length, some: held.slice(0, 200) };
  }

  /**
   * The whole table for a file: in front of each row the number of its supporter, where no column shows it. One that is
   * to reach them leaves out the rows of those whom it may not reach.
   */
  async file(question: Question, view: View, as: 'csv' | 'xlsx'): Promise<Filed> {
    const [asked, wording] = await Promise.all([this.asked(question, view), this.wording()]);
    const asks = goesOut(view) || view.columns.some(isReached);
    const held = new Map<number, HeldBack>();
    const numbered = view.columns.some(({ shows }) => shows.kind === 'field' && shows.field === 'number');
    const rows: TableFile['rows'] = [];
    let found = await this.facts.ask({ ...asked, limit: AT_ONCE });
    for (;;) {
      const reached = asks ? await this.reached(found.ids, view) : NOBODY;
      for (const one of heldIn(reached)) held.set(one.supporterId, one);
      for (const [at, id] of found.ids.entries())
        if (!held.has(id))
          rows.push([
            ...(numbered ? [] : [supporterNumber(id)]),
            ...filled(view, found.cells[at] ?? [], reached.get(id)),
          ]);
      if (found.at + found.ids.length >= found.total) break;
      found = await this.facts.ask({ ...asked, after: found.end, limit: AT_ONCE });
    }
    const { types } = found;
    const written = as === 'csv' && view.goes?.days === 'written';
    const columns = view.columns.map(({ title, shows }, at) => ({
      heading: title || describeShown(shows as Shown, view.rows, wording),
      kind: CELL_KINDS[types[at] ?? 'text'],
    }));
    const table = { columns: [...(numbered ? [] : [{ heading: 'Number', kind: 'text' as const }]), ...columns], rows };
    return { table: written ? withWrittenDays(table, asked.formats) : table, held: [...held.values()] };
  }

  /** How those of a table are addressed and reached, each asked for once. */
  private reached(ids: Iterable<number>, view: View): Promise<Map<number, ReachedOne>> {
    return this.reacher([...new Set(ids)], view.goes ?? FOR_OFFICE, view.rows === 'household');
  }

  /** A table as it is asked of facts; what sorts or groups by a column that there is not, or by how they are reached, is left out. */
  private async asked(question: Question, view: View): Promise<ListQuestion & { ask: 'list' }> {
    const { rows, where, columns, sorts, groupBy } = view;
    const shownBy = (id: string): Shown | null => {
      const column = columns.find((one) => one.id === id);
      return column && !isReached(column) ? (column.shows as Shown) : null;
    };
    const fields = fieldsWith(await this.questions.own());
    const [ready, formats, names] = await Promise.all([
      this.questions.ready(question),
      this.settings.formats(),
      this.names(columns.map(({ shows }) => valueTypeOf(shows as Shown, rows, fields))),
    ]);
    const by = sorts.flatMap(({ column, down }) => {
      const shown = shownBy(column);
      return shown ? [{ by: shown, down }] : [];
    });
    return {
      ...{ ...PLAIN_LIST, ...ready, formats, names, rows, where: where as ListQuestion['where'] },
      columns: columns.map(({ shows }) => shows as Shown),
      sorts: by.length > 0 ? by : PLAIN_LIST.sorts,
      groupBy: groupBy === null ? null : shownBy(groupBy),
    };
  }

  /** The names of all that columns may refer to. */
  private async names(types: readonly (Type | null)[]): Promise<Names> {
    const kinds = new Set(types.flatMap((type) => (type?.is === 'ref' ? [type.to] : [])));
    if (kinds.size === 0) return PLAIN_LIST.names;
    const { revision, choices } = await this.settings.choicesAsOf();
    const named = (list: readonly object[]) =>
      new Map(
        list.flatMap((one) => ('id' in one && 'name' in one ? [[Number(one.id), String(one.name)] as const] : [])),
      );
    return { revision, of: new Map([...kinds].map((kind) => [kind, named(choices[CHOICES_OF[kind]])])) };
  }
}

const NOBODY: ReadonlyMap<number, ReachedOne> = new Map();
const isReached = ({ shows }: View['columns'][number]): boolean => shows.kind === 'reached';
/** Whether what is made of a table is to reach those in it. */
const goesOut = ({ goes }: View): boolean => (goes ?? FOR_OFFICE).for !== 'office';

const heldIn = (reached: ReadonlyMap<number, ReachedOne>): HeldBack[] =>
  [...reached].flatMap(([supporterId, { name, held }]) =>
    held === null ? [] : [{ supporterId, number: supporterNumber(supporterId), name, reason: held }],
  );

/** The cells of a row, with those that only whoever addresses people knows. */
const filled = (view: View, cells: readonly Cell[], one: ReachedOne | undefined): Cell[] =>
  cells.map((cell, at) => {
    const shows = view.columns[at]?.shows;
    return shows?.kind === 'reached' ? one?.cells[shows.part] || null : cell;
  });

/** A table whose days are words, as the organization writes them. */
function withWrittenDays({ columns, rows }: TableFile, formats: Formats): TableFile {
  const days = columns.flatMap(({ kind }, at) => (kind === 'day' ? [at] : []));
  for (const row of rows) for (const at of days) if (row[at] != null) row[at] = formatDate(String(row[at]), formats);
  return { columns, rows };
}

/** How a segment is shown where its owner did not say. */
export const PLAIN_VIEW = FIRST_VIEW as View;
