import { fieldsWith } from '@tallystick/core/catalogue';
import type { Type } from '@tallystick/core/catalogue';
import { readMark, writeMark } from '@tallystick/core/lists';
import { describeShown, FIRST_VIEW, valueTypeOf } from '@tallystick/core/segments';
import type { CellType, Question, Shown, Wording } from '@tallystick/core/segments';
import { supporterNumber } from '@tallystick/core/supporters';
import type { View } from '@tallystick/contract/segments';
import { CHOICES_OF } from '@tallystick/contract/setup';
import { PLAIN_LIST } from '../facts/index.ts';
import type { FactsThread, ListQuestion, Names, Questions } from '../facts/index.ts';
import { badCursor, decodeCursor, encodeCursor } from '../platform/cursor.ts';
import type { CellKind, TableFile } from '../platform/csv.ts';
import type { Settings } from '../settings/index.ts';

/** So many rows of a table are read at once for a file. */
const AT_ONCE = 20_000;
const KINDS: Record<CellType, CellKind> = { text: 'text', money: 'money', number: 'count', date: 'day' };

/** What matches, as a table: its rows, columns and order as a view says. */
export class Tables {
  constructor(
    private readonly settings: Settings,
    private readonly questions: Questions,
    private readonly facts: FactsThread,
    private readonly wording: () => Promise<Wording>,
  ) {}

  /** A page of the table, with the words of its columns and what they come to. */
  async page(question: Question, view: View, { limit, cursor }: { limit: number; cursor?: string | undefined }) {
    const asked = await this.asked(question, view);
    const [mark] = decodeCursor(cursor, 1) ?? [];
    const after = mark === undefined ? null : readMark(String(mark));
    if (mark !== undefined && after?.keys.length !== asked.sorts.length) throw badCursor();
    const [found, wording] = await Promise.all([this.facts.ask({ ...asked, after, limit }), this.wording()]);
    const end = found.at + found.ids.length;
    return {
      items: [...found.ids].map((supporterId, at) => ({
        ...{ id: found.own?.[at] ?? supporterId, supporterId, cells: found.cells[at] ?? [] },
      })),
      next: end < found.total && found.end ? encodeCursor([writeMark(found.end)]) : null,
      ...{ total: found.total, sums: found.sums, without: found.without },
      columns: view.columns.map(({ id, shows }, at) => ({
        ...{ id, words: describeShown(shows as Shown, view.rows, wording), type: found.types[at] ?? null },
      })),
      groups: found.groups.map(({ key, count, sum }) => ({ key: String(key), count, sums: sum })),
    };
  }

  /** The whole table for a file: in front of each row the number of its supporter, where no column shows it. */
  async file(question: Question, view: View): Promise<TableFile> {
    const [asked, wording] = await Promise.all([this.asked(question, view), this.wording()]);
    const numbered = view.columns.some(({ shows }) => shows.kind === 'field' && shows.field === 'number');
    const rows: TableFile['rows'] = [];
    let found = await this.facts.ask({ ...asked, limit: AT_ONCE });
    for (;;) {
      for (const [at, id] of found.ids.entries())
        rows.push([...(numbered ? [] : [supporterNumber(id)]), ...(found.cells[at] ?? [])]);
      if (found.at + found.ids.length >= found.total) break;
      found = await this.facts.ask({ ...asked, after: found.end, limit: AT_ONCE });
    }
    const { types } = found;
    const columns = view.columns.map(({ title, shows }, at) => ({
      heading: title || describeShown(shows as Shown, view.rows, wording),
      kind: KINDS[types[at] ?? 'text'],
    }));
    return { columns: [...(numbered ? [] : [{ heading: 'Number', kind: 'text' as const }]), ...columns], rows };
  }

  /** A table as it is asked of facts; what sorts or groups by a column that there is not is left out. */
  private async asked(question: Question, view: View): Promise<ListQuestion & { ask: 'list' }> {
    const { rows, where, columns, sorts, groupBy } = view;
    const shownBy = (id: string): Shown | null => (columns.find((one) => one.id === id)?.shows as Shown) ?? null;
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

/** How a segment is shown where its owner did not say. */
export const PLAIN_VIEW = FIRST_VIEW as View;
