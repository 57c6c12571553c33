import { Plus } from 'lucide-react';
import { useDeferredValue, useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Selection } from '@tallystick/contract/acts';
import { createSupporter, listSupporters } from '@tallystick/contract/supporters';
import type { ListFilter, SupporterRow } from '@tallystick/contract/supporters';
import type { Field } from '@tallystick/core/catalogue';
import { cellTypeOf, standingName } from '@tallystick/core/segments';
import { call } from '../ui/api.ts';
import { groupTitle } from '../ui/table/cells.ts';
import { NO_CHOICE } from '../ui/table/columns.ts';
import type { ColumnChoice, GroupHeading } from '../ui/table/columns.ts';
import { Button, Empty } from '../ui/controls.tsx';
import { FindInput } from '../ui/FindInput.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import type { Filter } from '../ui/filters/Filters.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useKnownFields } from '../ui/useKnownFields.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import type { Place } from '../ui/usePages.ts';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useStored } from '../ui/useStored.ts';
import { ViewsMenu } from '../ui/ViewsMenu.tsx';
import { ActsBar } from './ActsBar.tsx';
import { supporterColumns } from './columns.tsx';
import { SupporterRecord } from './Record.tsx';
import { SupporterDialog } from './SupporterForm.tsx';
import { useYears } from './useYears.ts';
import { EmptyTrash } from './EmptyTrash.tsx';
import type { SupporterKind } from '@tallystick/core/supporters';
import { KIND_NAMES, SUPPORTER_KINDS } from '@tallystick/core/supporters';

type Page = Awaited<ReturnType<typeof readPage>>;
const idOf = (row: SupporterRow): number => row.id;
const centsOf = (row: SupporterRow): number => row.giving.lifetime;

const readPage = (
  query: ListFilter & Place & { sort: string; groupBy?: string; columns?: string },
  signal: AbortSignal,
) => call(listSupporters, { query, signal });

/** What a supporters' list shows, from its address. */
function useSupporterFilter() {
  const url = useListUrl();
  const q = useDeferredValue(url.get('q'));
  const number = (name: string) => (url.get(name) ? { [name]: Number(url.get(name)) } : {});
  const filter: ListFilter = {
    trashed: url.get('trashed') === 'yes' ? 'yes' : 'no',
    ...(q ? { q } : {}),
    ...(url.get('kind') ? { kind: url.get('kind') as SupporterKind } : {}),
    ...number('segment'),
    ...number('tag'),
    ...number('group'),
  };
  return { url, q, filter, sort: url.get('sort') || 'name', groupBy: q ? '' : url.get('by') };
}

export default function SupportersPage() {
  const { url, q, filter, sort, groupBy } = useSupporterFilter();
  const navigate = useNavigate();
  const formats = useFormats();
  const mayEnter = useMay(createSupporter);
  const trashed = filter.trashed === 'yes';
  const fields = useKnownFields();
  const [choice, setChoice] = useStored<ColumnChoice>('columns:supporters', NO_CHOICE);
  // Of the fields that there are those that are shown, so that one that is no more is not asked for.
  const asked = useMemo(
    () => [...fields.keys()].map(standingName).filter((name) => choice.shown.includes(name)),
    [fields, choice.shown],
  );
  const list = usePages<SupporterRow, Page>(['supporters', filter, sort, groupBy, asked], (place, signal) =>
    readPage(
      {
        ...{ ...filter, ...place, sort },
        ...(groupBy ? { groupBy } : {}),
        ...(asked.length > 0 ? { columns: asked.join(',') } : {}),
      },
      signal,
    ),
  );
  const sum = list.first?.sum;
  const ids = useMemo(() => list.rows.map(idOf), [list.rows]);
  const years = useYears(ids, choice.shown.includes('tally'));
  const columns = useMemo(
    () => supporterColumns(formats, formats.counted(list.total, 'supporter'), fields, asked, sum ?? {}, years),
    [formats, list.total, fields, asked, sum, years],
  );
  const { selection, chosen, count, everyone, except, clear } = useRowSelection('supporter', list.rows, idOf, centsOf, {
    whole: { count: list.total, cents: sum?.lifetime ?? 0 },
  });
  const selected: Selection = everyone ? { kind: 'list', filter, except } : { kind: 'ids', ids: chosen.map(idOf) };
  const filters = useSupporterFilters(fields);
  const groups = useGroupHeadings(list.first?.groups ?? [], groupBy, fields);

  const alike = list.first?.alike ?? 0;
  const found = q
    ? `found for “${q}”${alike > 0 ? `, ${alike} of them only like it` : ''}`
    : trashed
      ? 'in the trash'
      : 'on record';
  return (
    <ListPage
      title={trashed ? 'Trash' : 'Supporters'}
      facts={`${formats.count(list.total)} ${found}`}
      acts={
        <>
          <Link className="text-slate hover:underline" to="/supporters/tags">
            Tags and groups
          </Link>
          <Link className="mr-2 text-slate hover:underline" to={trashed ? '/supporters' : '/supporters?trashed=yes'}>
            {trashed ? 'Back to supporters' : 'Trash'}
          </Link>
          {trashed && <EmptyTrash />}
          {mayEnter && !trashed && (
            <Button look="main" onClick={() => url.set({ add: '1' })}>
              <Plus size={15} /> Add supporter
            </Button>
          )}
        </>
      }
      name="supporters"
      label="Supporters"
      columns={columns}
      list={list}
      groups={groups}
      sort={q ? '' : sort}
      selection={selection}
      choice={choice}
      onChoice={setChoice}
      hrefOf={(id) => `/supporters/${id}${url.get('section') ? `?section=${url.get('section')}` : ''}`}
      peek={(id) => <SupporterRecord id={id} />}
      filters={
        count > 0 ? (
          <ActsBar selection={selected} count={count} trashed={trashed} onDone={clear} />
        ) : (
          <Filters url={url} filters={filters}>
            <FindInput
              className="h-7 w-52"
              label="Find supporters"
              placeholder="Name, number, e-mail …"
              value={url.get('q')}
              onChange={(q) => url.set({ q })}
            />
          </Filters>
        )
      }
      tools={count === 0 && <ViewsMenu list="supporters" choice={choice} onChoice={setChoice} />}
      empty={<NobodyHere q={q} trashed={trashed} />}
    >
      <SupporterDialog
        open={url.get('add') === '1'}
        supporter={null}
        onClose={() => url.set({ add: null })}
        onDone={(id) => void navigate(`/supporters/${id}`)}
      />
    </ListPage>
  );
}

/** What the list of supporters can be narrowed by, and put together by. */
function useSupporterFilters(fields: ReadonlyMap<string, Field>): Filter[] {
  const { tags, groups, segments } = useChoices();
  const named = (list: readonly { id: number; name: string }[]) =>
    list.map((one) => ({ value: one.id, label: one.name }));
  return [
    {
      ...{ kind: 'choice', label: 'Kind', name: 'kind' },
      options: KIND_NAMES.map((kind) => ({ value: kind, label: SUPPORTER_KINDS[kind].many })),
    },
    { kind: 'choice', label: 'Segment', name: 'segment', options: named(segments), remember: 'segment', always: true },
    { kind: 'choice', label: 'Tag', name: 'tag', options: named(tags), remember: 'tag' },
    { kind: 'choice', label: 'Group', name: 'group', options: named(groups) },
    {
      ...{ kind: 'choice', label: 'Put together', name: 'by' },
      options: [
        { value: 'kind', label: 'by kind' },
        { value: 'state', label: 'by state' },
        { value: 'town', label: 'by town' },
        { value: 'lastYear', label: 'by giving last year' },
        ...[...fields]
          .filter(([name]) => !['name', 'number', 'kind', 'state', 'town'].includes(name))
          .map(([name, { label }]) => ({ value: standingName(name), label: `by ${label.toLowerCase()}` })),
      ],
    },
  ];
}

const NONE_OF: Readonly<Record<string, string>> = { state: 'No state on record', town: 'No town on record' };
function useGroupHeadings(groups: Page['groups'], groupBy: string, fields: ReadonlyMap<string, Field>): GroupHeading[] {
  const formats = useFormats();
  return useMemo(() => {
    const { money } = formats;
    const field = [...fields].find(([name]) => standingName(name) === groupBy)?.[1];
    const holds = field ? cellTypeOf(field.type) : groupBy === 'lastYear' ? 'money' : 'text';
    return groups.map(({ key, count, sum }) => ({
      ...{ key, count },
      subtotals: {
        ...{ lifetime: money(sum.lifetime), thisYear: money(sum.thisYear), lastYear: money(sum.lastYear) },
        count: sum.count.toLocaleString(),
      },
      title:
        (key === '' ? NONE_OF[groupBy] : null) ??
        groupTitle(holds, groupBy === 'kind' ? key.replace(/^./, (letter) => letter.toUpperCase()) : key, formats),
    }));
  }, [groups, groupBy, fields, formats]);
}

function NobodyHere({ q, trashed }: { q: string; trashed: boolean }) {
  if (trashed)
    return (
      <Empty title="The trash is empty">Records that are deleted wait here until an administrator empties it.</Empty>
    );
  if (!q)
    return (
      <Empty title="No supporters here">
        Add the first, bring in a file of people under Intake, or change what is chosen above.
      </Empty>
    );
  return (
    <Empty title={`Nobody found for “${q}”`}>
      The beginnings of words are enough, in any order: names, nicknames, former names, a number, an e-mail, a street,
      the last digits of a telephone.
    </Empty>
  );
}
