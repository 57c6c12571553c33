import { useQuery } from '@tanstack/react-query';
import { Columns3 } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { listedIn } from '@tallystick/core/catalogue';
import { ROW_KIND_NAMES, rowWords, withRows } from '@tallystick/core/segments';
import type { View as KnownView } from '@tallystick/core/segments';
import type { Selection } from '@tallystick/contract/acts';
import { NARROWEST, tableOfSegment, WIDEST } from '@tallystick/contract/segments';
import type { Asked, View } from '@tallystick/contract/segments';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { listTasks } from '@tallystick/contract/notes';
import { SendingsBar } from '../outreach/index.ts';
import { PledgesBar } from '../pledges/index.ts';
import { ActsBar, NotesBar, SupporterRecord, TasksBar, TiesBar } from '../supporters/index.ts';
import { ask, call, keyOf } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, IconButton, Trouble } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import type { Formats } from '../ui/organization.tsx';
import { PeekLayout } from '../ui/PeekLayout.tsx';
import { cellShown, groupTitle } from '../ui/table/cells.ts';
import type { Column, GroupHeading } from '../ui/table/columns.ts';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { choiceOf, sortOf, sorts, withChoice, withSort } from './columns.ts';
import { ColumnsDialog } from './ColumnsDialog.tsx';
import { FileMenu, whom } from './FileMenu.tsx';
import { WhereEditor } from './WhereEditor.tsx';

type Page = ResponseOf<typeof tableOfSegment>;
type Row = Page['items'][number];
const NONE: Page['columns'] = [];

/** So many rows of a list are acted on at once. */
const MOST_AT_ONCE = 5_000;

/** What can be done to the rows themselves, where they are no supporters. */
const ROWS_BARS: Partial<Record<string, (props: { ids: readonly number[]; onDone: () => void }) => React.ReactNode>> = {
  ...{ tasks: TasksBar, notes: NotesBar, ties: TiesBar, pledges: PledgesBar, sendings: SendingsBar },
};

/** The rows of a segment as its view says, with what can be done to those selected. */
export function SegmentTable(props: {
  asked: Asked;
  view: View;
  onView: (view: View) => void;
  tools?: React.ReactNode;
}) {
  const { asked, view, onView } = props;
  const url = useListUrl();
  const formats = useFormats();
  const { counted } = formats;
  const [choosing, setChoosing] = useState(false);
  const [ofPeople, setOfPeople] = useState(false);
  const body = { ...asked, view };
  const list = usePages<Row, Page>(keyOf(tableOfSegment, { body }), (place, signal) =>
    call(tableOfSegment, { body: { ...body, ...place }, signal }),
  );
  const known = list.first?.columns ?? NONE;
  const sums = list.first?.sums;
  const columns = useMemo(
    () => columnsOf(view, known, sums ?? [], list.total, formats),
    [view, known, sums, list.total, formats],
  );
  const money = known.findIndex(({ type }, at) => type === 'money' && sums?.[at] != null);
  const centsOf = money < 0 ? null : (row: Row): number => Number(row.cells[money] ?? 0);
  const single = listedIn(view.rows) === null && view.rows !== 'household';
  const { selection, chosen, count, everyone, except, clear } = useRowSelection(
    rowWords(view.rows).one,
    list.rows,
    rowId,
    centsOf,
    { whole: { count: single ? list.total : Math.min(list.total, MOST_AT_ONCE), cents: sums?.[money] ?? 0 } },
  );
  const RowsBar = ROWS_BARS[view.rows];
  // All of a list are meant, and not only those that were looked at: the rest is fetched.
  const missing = everyone && !single ? Math.min(list.total, MOST_AT_ONCE) - list.rows.length : 0;
  const things = chosen.slice(0, MOST_AT_ONCE).flatMap(({ thing }) => thing ?? []);
  const { onMore } = list;
  useEffect(() => {
    if (missing > 0) onMore();
  }, [missing, onMore]);
  const people = [...new Set(chosen.slice(0, single ? undefined : MOST_AT_ONCE).map(({ supporterId }) => supporterId))];
  const selected: Selection =
    everyone && single ? { kind: 'asked', asked: whom(asked, view), except } : { kind: 'ids', ids: people };
  const groups = useMemo((): GroupHeading[] => {
    const at = view.columns.findIndex(({ id }) => id === view.groupBy);
    return (list.first?.groups ?? []).map((group) => ({
      ...{ key: group.key, count: group.count, title: groupTitle(known[at]?.type ?? null, group.key, formats) },
      subtotals: Object.fromEntries(
        group.sums.flatMap((sum, place) => {
          const column = known[place];
          return column && sum !== null ? [[column.id, cellShown(column.type, sum, formats)]] : [];
        }),
      ),
    }));
  }, [list.first, view, known, formats]);
  const peeked = list.rows.find(({ id }) => id === url.peek)?.supporterId ?? null;
  if (list.error && list.rows.length === 0) return <Trouble error={list.error} />;
  return (
    <>
      <PeekLayout
        ids={list.rows.map(rowId)}
        openId={url.peek}
        onOpen={(id) => url.set({ peek: id === null ? null : String(id) })}
        hrefOf={(id) => `/supporters/${list.rows.find((row) => row.id === id)?.supporterId ?? ''}`}
        peek={() => (peeked === null ? null : <SupporterRecord id={peeked} />)}
        list={
          <DataTable
            name="segment"
            label={`The segment: one row for each ${rowWords(view.rows).one}`}
            columns={columns}
            rows={list.rows}
            idOf={rowId}
            total={list.total}
            onMore={list.onMore}
            sort={sortOf(view)}
            onSort={(sort) => onView(withSort(view, sort))}
            choice={choiceOf(view)}
            onChoice={(next) => onView(withChoice(view, next(choiceOf(view)), NARROWEST, WIDEST))}
            groups={groups}
            selection={selection}
            openId={url.peek}
            onPeek={(row) => url.set({ peek: String(row.id) })}
            hrefOf={(row) => `/supporters/${row.supporterId}`}
            loading={list.isPending}
            toolbar={
              count > 0 ? (
                <div className="flex flex-wrap items-center gap-x-3">
                  {missing > 0 && <span className="text-faded">Fetching the rest of them …</span>}
                  {missing <= 0 && RowsBar && <RowsBar ids={things} onDone={clear} />}
                  {missing <= 0 && RowsBar && !ofPeople && (
                    <Button look="quiet" className="px-2" onClick={() => setOfPeople(true)}>
                      Their {counted(people.length, 'supporter')} …
                    </Button>
                  )}
                  {missing <= 0 && (!RowsBar || ofPeople) && (
                    <ActsBar
                      selection={selected}
                      count={single ? count : people.length}
                      trashed={false}
                      onDone={clear}
                    />
                  )}
                  {everyone && !single && list.total > MOST_AT_ONCE && (
                    <span className="text-faded">
                      the first {formats.count(MOST_AT_ONCE)} of {formats.count(list.total)}
                    </span>
                  )}
                </div>
              ) : (
                <RowsOf
                  view={view}
                  onView={onView}
                  known={known}
                  total={list.total}
                  without={list.first?.without ?? 0}
                />
              )
            }
            tools={
              count === 0 && (
                <>
                  {props.tools}
                  <FileMenu asked={asked} view={view} onView={onView} total={list.total} single={single} />
                </>
              )
            }
            menu={
              <IconButton label="Choose columns" onClick={() => setChoosing(true)}>
                <Columns3 size={16} />
              </IconButton>
            }
            empty={<Empty title="Nobody matches">Take a condition away, or ask above why someone is not in.</Empty>}
          />
        }
      />
      {choosing && (
        <ColumnsDialog
          view={view}
          onChange={onView}
          words={new Map(known.map(({ id, words }) => [id, words]))}
          onClose={() => setChoosing(false)}
        />
      )}
    </>
  );
}

const rowId = (row: Row): number => row.id;

function columnsOf(
  view: View,
  known: Page['columns'],
  sums: Page['sums'],
  total: number,
  formats: Formats,
): Column<Row>[] {
  return view.columns.map((column): Column<Row> => {
    const { id, title, width, shows } = column;
    const place = known.findIndex((one) => one.id === id);
    const { words, type } = known[place] ?? { words: '', type: null };
    const isName = shows.kind === 'field' && shows.field === 'name';
    const sum = sums[place];
    const footer = sum != null ? cellShown(type, sum, formats) : isName ? rowsCounted(view, total, formats) : undefined;
    return {
      ...{
        id,
        title: title || words,
        width,
        ...(sorts(column) ? { sort: id } : {}),
        ...(footer === undefined ? {} : { footer }),
      },
      ...(type === null || type === 'text' ? {} : { align: 'right' as const }),
      cell: (row) => {
        const cell = cellShown(type, row.cells[place], formats);
        if (!isName) return cell;
        return (
          <Link to={`/supporters/${row.supporterId}`} tabIndex={-1} className="font-serif text-[15px] hover:underline">
            {cell}
          </Link>
        );
      },
    };
  });
}

const rowsCounted = ({ rows }: View, total: number, { counted }: Formats): string =>
  counted(total, rowWords(rows).one, rowWords(rows).many);

/** What there is one row for each of, and what puts rows together. */
function RowsOf(props: {
  view: View;
  onView: (view: View) => void;
  known: Page['columns'];
  total: number;
  without: number;
}) {
  const { view, onView, known, without } = props;
  const listed = listedIn(view.rows);
  const formats = useFormats();
  const titled = view.columns
    .filter(sorts)
    .map(({ id, title }) => ({ value: id, label: title || (known.find((one) => one.id === id)?.words ?? '') }));
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-faded">One row for each</span>
      <Choice
        aria-label="One row for each"
        className="w-auto min-w-32"
        value={view.rows}
        onChange={(rows) => onView(withRows(view as KnownView, rows as View['rows']) as View)}
        options={ROW_KIND_NAMES.map((rows) => ({ value: rows, label: rowWords(rows).one }))}
      />
      {listed && (
        <WhereEditor known={listed.parts} where={view.where} onChange={(where) => onView({ ...view, where })} />
      )}
      <span className="text-faded">together by</span>
      <Choice
        aria-label="Rows together by"
        className="w-auto min-w-28"
        value={view.groupBy ?? ''}
        onChange={(groupBy) => onView({ ...view, groupBy: groupBy === '' ? null : groupBy })}
        options={[{ value: '', label: 'nothing' }, ...titled]}
      />
      <span className="text-faded" data-testid="row-count">
        {rowsCounted(view, props.total, formats)}
        {without > 0 &&
          `; ${formats.counted(without, 'supporter')} of another kind ${without === 1 ? 'matches and has' : 'match and have'} no row`}
        {view.rows === 'tasks' && <AboutNobody />}
      </span>
    </div>
  );
}

/** Tasks about no supporter have no row in any segment: how many there are, and the way to them. */
function AboutNobody() {
  const { counted } = useFormats();
  const { data } = useQuery(ask(listTasks, { query: { about: 'nobody', limit: 1 } }));
  if (!data || data.total === 0) return null;
  return (
    <>
      {'; '}
      <Link to="/tasks?about=nobody" className="text-slate underline">
        {counted(data.total, 'open task')} about nobody
      </Link>
      {' beside them'}
    </>
  );
}
