import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useCallback, useDeferredValue, useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Selection } from '@tallystick/contract/acts';
import { listFields } from '@tallystick/contract/fields';
import { createSupporter, listSupporters } from '@tallystick/contract/supporters';
import type { ListFilter, SupporterRow } from '@tallystick/contract/supporters';
import { kept } from '@tallystick/core/fields';
import { ask, call } from '../ui/api.ts';
import { bandShown } from '../ui/table/bands.ts';
import { firstChoice } from '../ui/table/columns.ts';
import type { ColumnChoice, GroupHeading } from '../ui/table/columns.ts';
import { Button, Empty } from '../ui/controls.tsx';
import { FindInput } from '../ui/FindInput.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import type { Filter } from '../ui/filters/Filters.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useStored } from '../ui/useStored.ts';
import { ViewsMenu } from '../ui/ViewsMenu.tsx';
import { ActsBar } from './ActsBar.tsx';
import { supporterColumns } from './columns.tsx';
import { SupporterRecord } from './Record.tsx';
import { SupporterDialog } from './SupporterForm.tsx';
import type { YearGiven } from '../ui/charts/Miniature.tsx';
import { useYears } from './useYears.ts';
import { EmptyTrash } from './EmptyTrash.tsx';
import type { CustomField } from '@tallystick/core/fields';
import type { SupporterKind } from '@tallystick/core/supporters';
import { KIND_NAMES, SUPPORTER_KINDS } from '@tallystick/core/supporters';

type Page = Awaited<ReturnType<typeof readPage>>;
const NO_YEARS: ReadonlyMap<number, YearGiven[]> = new Map();
const idOf = (row: SupporterRow): number => row.id;
const centsOf = (row: SupporterRow): number => row.giving.lifetime;

const readPage = (query: ListFilter & { sort: string; groupBy?: string; cursor?: string }, signal: AbortSignal) =>
  call(listSupporters, { query: { ...query, limit: 200 }, signal });

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
  const list = usePages<SupporterRow, Page>(['supporters', filter, sort, groupBy], (cursor, signal) =>
    readPage({ ...filter, sort, ...(groupBy ? { groupBy } : {}), ...(cursor ? { cursor } : {}) }, signal),
  );
  const { data: fields } = useQuery(ask(listFields));
  const sum = list.first?.sum;
  const columnsWith = useCallback(
    (years: ReadonlyMap<number, YearGiven[]>) =>
      supporterColumns(formats, formats.counted(list.total, 'supporter'), fields?.items ?? [], sum ?? {}, years),
    [formats, list.total, fields, sum],
  );
  const [choice, setChoice] = useStored<ColumnChoice>('columns:supporters', firstChoice(columnsWith(NO_YEARS)));
  const ids = useMemo(() => list.rows.map(idOf), [list.rows]);
  const years = useYears(ids, !choice.hidden.includes('tally'));
  const columns = useMemo(() => columnsWith(years), [columnsWith, years]);
  const { selection, chosen, count, everyone, except, clear } = useRowSelection('supporter', list.rows, idOf, centsOf, {
    whole: { count: list.total, cents: sum?.lifetime ?? 0 },
  });
  const selected: Selection = everyone ? { kind: 'list', filter, except } : { kind: 'ids', ids: chosen.map(idOf) };
  const filters = useSupporterFilters(fields?.items ?? []);
  const groups = useGroupHeadings(list.first?.groups ?? [], groupBy, fields?.items ?? []);

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
function useSupporterFilters(fields: readonly CustomFieldOf[]): Filter[] {
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
        ...fields
          .filter((field) => field.about === 'supporter' && ['one', 'yesno', 'number', 'money'].includes(field.kind))
          .map((field) => ({ value: `field:${field.id}`, label: `by ${field.name.toLowerCase()}` })),
      ],
    },
  ];
}
type CustomFieldOf = { id: number; name: string; about: string; kind: string };

function useGroupHeadings(groups: Page['groups'], groupBy: string, fields: readonly CustomField[]): GroupHeading[] {
  const { money, field: show } = useFormats();
  return useMemo(() => {
    const own = fields.find((one) => `field:${one.id}` === groupBy);
    const none = { kind: '', state: 'No state on record', town: 'No town on record' }[groupBy] ?? 'Not filled in';
    return groups.map(({ key, count, sum }) => ({
      key,
      count,
      subtotals: {
        ...{ lifetime: money(sum.lifetime), thisYear: money(sum.thisYear), lastYear: money(sum.lastYear) },
        count: sum.count.toLocaleString(),
      },
      title:
        key === ''
          ? none
          : groupBy === 'lastYear'
            ? bandShown(Number(key), 100, money)
            : own?.kind === 'money' || own?.kind === 'number'
              ? bandShown(Number(key), own.kind === 'money' ? 100 : 1, (value) => show(own, kept(String(value))))
              : own
                ? show(own, kept(key))
                : key.replace(/^./, (letter) => letter.toUpperCase()),
    }));
  }, [groups, groupBy, fields, money, show]);
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
