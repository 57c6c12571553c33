import type { ReactNode } from 'react';
import { Heading, Trouble } from './controls.tsx';
import { PeekLayout } from './PeekLayout.tsx';
import { DataTable } from './table/DataTable.tsx';
import type { DataTableProps } from './table/DataTable.tsx';
import { useListUrl } from './useListUrl.ts';

/** What a list is read from: its rows so far, how many there are, and the way to more. */
export interface ListRead<Row> {
  rows: readonly Row[];
  total: number;
  onMore?: () => void;
  isPending: boolean;
  error: unknown;
}

/** A list that comes whole, without pages. */
export const wholeList = <Row,>(query: {
  data: { items: readonly Row[] } | undefined;
  isPending: boolean;
  error: unknown;
}): ListRead<Row> => ({
  ...{ rows: query.data?.items ?? NOTHING, total: query.data?.items.length ?? 0 },
  ...{ isPending: query.isPending, error: query.error },
});
const NOTHING: readonly never[] = [];

const rowId = (row: { id: number }): number => row.id;

/**
 * The frame of a page that is a list: the heading line with its facts and main act, what the list is narrowed by, the
 * table, and the peek beside it. Where it stands (its order, its filters, what is peeked at) is in the address.
 */
export function ListPage<Row extends { id: number }>(
  props: Pick<
    DataTableProps<Row>,
    | 'name'
    | 'label'
    | 'columns'
    | 'selection'
    | 'groups'
    | 'choice'
    | 'onChoice'
    | 'sort'
    | 'onSort'
    | 'tools'
    | 'empty'
  > & {
    /** The area's own ways, above the heading. */
    nav?: ReactNode;
    title: string;
    /** What the list comes to; 'Counting …' stands there until it is read. */
    facts: ReactNode;
    /** The acts of the page, the main one last. */
    acts?: ReactNode;
    /** Between the heading and the list. */
    above?: ReactNode;
    /** At the left of the table while nothing is peeked at. */
    side?: ReactNode;
    /** What the list is narrowed by, or what is done with what is selected. */
    filters?: ReactNode;
    list: ListRead<Row>;
    hrefOf?: (id: number) => string;
    peek?: (id: number) => ReactNode;
    /** Dialogs. */
    children?: ReactNode;
  },
) {
  const url = useListUrl();
  const { nav, title, facts, acts, above, side, filters, list, hrefOf, peek, children, ...table } = props;
  if (list.error && list.rows.length === 0) return <Trouble error={list.error} />;
  const onPeek = (id: number | null): void => url.set({ peek: id === null ? null : String(id) });
  const rows = (
    <DataTable
      {...(table.sort === undefined ? {} : { onSort: (sort: string) => url.set({ sort }) })}
      {...table}
      rows={list.rows}
      idOf={rowId}
      total={list.total}
      {...(list.onMore ? { onMore: list.onMore } : {})}
      loading={list.isPending}
      toolbar={filters}
      openId={url.peek}
      {...(peek ? { onPeek: (row: Row) => onPeek(row.id) } : {})}
      {...(hrefOf ? { hrefOf: (row: Row) => hrefOf(row.id) } : {})}
    />
  );
  return (
    <>
      {nav}
      <Heading title={title} facts={list.isPending ? 'Counting …' : facts}>
        {acts}
      </Heading>
      {above}
      {peek ? (
        <PeekLayout
          ids={list.rows.map(rowId)}
          openId={url.peek}
          onOpen={onPeek}
          hrefOf={hrefOf}
          peek={peek}
          list={
            <div className="flex min-h-0 flex-1">
              {url.peek === null && side}
              {rows}
            </div>
          }
        />
      ) : (
        rows
      )}
      {children}
    </>
  );
}
