import { LISTED, LISTED_NAMES, listedAs, listedIn } from '@tallystick/core/catalogue';
import type { Field, ListedName } from '@tallystick/core/catalogue';
import { measuresOf, PICKS, REACHED, REACHED_NAMES } from '@tallystick/core/segments';
import type { Measure, Picked, RowKind } from '@tallystick/core/segments';
import type { View } from '@tallystick/contract/segments';
import type { ColumnChoice } from '../ui/table/columns.ts';
import type { Option } from '../ui/choice/index.tsx';
import { freshRows, measureLabel } from './conditions.ts';

export type ViewColumn = View['columns'][number];
export type Shown = ViewColumn['shows'];
export type ShownAs<K extends Shown['kind']> = Extract<Shown, { kind: K }>;

/** Something that a column may show, with how the column begins. */
export interface Showable extends Option {
  begin: () => { shows: Shown; width: number };
}

const WIDE = 160;
const NARROW = 112;

/** A measure of a list, as a column begins to show it: of all its rows, until it is told more. */
export const freshMeasure = (of: ListedName, measure: Measure): ShownAs<'measure'> => {
  const { against } = freshRows(of, measure);
  return { kind: 'measure', of, where: [], measure, ...(against ? { against } : {}) };
};

/** Which of several values a column can show of a list: what its rows have nothing of is not offered. */
export function picksOf(of: ListedName): Picked[] {
  const { parts, dated, sum } = listedAs(of);
  const fits: Record<Picked, boolean> = {
    ...{ all: true, preferred: 'preferred' in parts, latest: dated, earliest: dated, largest: sum !== undefined },
  };
  return (Object.keys(PICKS) as Picked[]).filter((pick) => fits[pick]);
}

const REACHED_WORDS = 'used today mailing letter envelope label address dear greeting';

/** Everything that a column can show, found by any part of its name and the other words that people use for it. */
export function showable(fields: ReadonlyMap<string, Field>, rows: RowKind): Showable[] {
  const known = [...fields].map(([field, entry]): Showable => ({
    ...{ value: `field:${field}`, label: entry.label, also: entry.group, words: entry.also ?? '' },
    begin: () => ({ shows: { kind: 'field', field }, width: WIDE }),
  }));
  const lists = LISTED_NAMES.flatMap((of): Showable[] => {
    const { label, group, also = '', parts } = listedAs(of);
    const measures = measuresOf(LISTED[of]).map((measure): Showable => ({
      ...{
        value: `measure:${of}:${measure}`,
        label: measureLabel(of, measure),
        also: group,
        words: `${label} ${also}`,
      },
      begin: () => ({ shows: freshMeasure(of, measure), width: NARROW }),
    }));
    const values = Object.entries(parts).map(([part, entry]): Showable => ({
      value: `values:${of}:${part}`,
      label: entry.label === label ? label : `${label}: ${entry.label.toLowerCase()}`,
      ...{ also: group, words: `${also} ${entry.also ?? ''}` },
      begin: () => ({
        shows: { kind: 'values', of, where: [], part, pick: picksOf(of).includes('preferred') ? 'preferred' : 'all' },
        width: WIDE,
      }),
    }));
    return of === 'gifts' ? measures : [...measures, ...values];
  });
  const listed = listedIn(rows);
  const own = Object.entries(listed?.parts ?? {}).map(([part, entry]): Showable => ({
    ...{ value: `part:${part}`, label: `The ${listed?.one ?? ''}: ${entry.label.toLowerCase()}`, also: listed?.group },
    begin: () => ({ shows: { kind: 'part', part }, width: NARROW }),
  }));
  const [giving, others] = [
    lists.filter(({ also }) => also === 'Giving'),
    lists.filter(({ also }) => also !== 'Giving'),
  ];
  const reached = REACHED_NAMES.map((part): Showable => ({
    ...{ value: `reached:${part}`, label: REACHED[part], also: 'How they are reached', words: REACHED_WORDS },
    begin: () => ({ shows: { kind: 'reached', part }, width: part === 'post' ? 260 : WIDE }),
  }));
  return [...own, ...giving, ...known, ...reached, ...others];
}

/** Whether rows can be sorted and put together by a column. */
export const sorts = ({ shows }: ViewColumn): boolean => shows.kind !== 'reached';

/** A column of its own id among those of a view. */
export function withColumn(view: View, { shows, width }: Pick<ViewColumn, 'shows' | 'width'>): View {
  let next = view.columns.length + 1;
  while (view.columns.some(({ id }) => id === `c${next}`)) next++;
  return { ...view, columns: [...view.columns, { id: `c${next}`, title: '', width, shows }] };
}

/** A view without a column; what it sorted and put together goes with it. */
export const withoutColumn = (view: View, id: string): View => ({
  ...view,
  columns: view.columns.filter((one) => one.id !== id),
  sorts: view.sorts.filter(({ column }) => column !== id),
  groupBy: view.groupBy === id ? null : view.groupBy,
});

/** A view with a column one place to the left (-1) or to the right. */
export function withStep(view: View, id: string, by: -1 | 1): View {
  const at = view.columns.findIndex((one) => one.id === id);
  const [column, other] = [view.columns[at], view.columns[at + by]];
  if (!column || !other) return view;
  return {
    ...view,
    columns: view.columns.map((one, place) => (place === at ? other : place === at + by ? column : one)),
  };
}

/** What tables keep of columns, of a view and back. */
export const choiceOf = (view: View): ColumnChoice => ({
  ...{ order: view.columns.map(({ id }) => id), hidden: [], shown: [], names: {} },
  widths: Object.fromEntries(view.columns.map(({ id, width }) => [id, width])),
});
export function withChoice(view: View, { order, widths }: ColumnChoice, least: number, most: number): View {
  const place = (id: string): number => order.indexOf(id);
  const width = (column: ViewColumn): number =>
    Math.max(least, Math.min(most, Math.round(widths[column.id] ?? column.width)));
  const columns = view.columns.map((column) => ({ ...column, width: width(column) }));
  return { ...view, columns: columns.sort((a, b) => place(a.id) - place(b.id)) };
}

/** The order of a view as tables write it, `name,-c3`, and back. */
export const sortOf = ({ sorts }: View): string =>
  sorts.map(({ column, down }) => `${down ? '-' : ''}${column}`).join(',');
export const withSort = (view: View, sort: string): View => ({
  ...view,
  sorts: sort
    .split(',')
    .filter(Boolean)
    .map((one) => ({ column: one.replace(/^-/, ''), down: one.startsWith('-') })),
});
