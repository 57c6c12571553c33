import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { PLEDGE_KINDS, PLEDGE_STAGES } from '@tallystick/core/pledges';
import { listPledges, listReminders, makePledge } from '@tallystick/contract/pledges';
import type { PledgeRow } from '@tallystick/contract/pledges';
import { GiftAreaNav } from '../gifts/index.ts';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, call, keyOf } from '../ui/api.ts';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { Button, Empty, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import type { Column } from '../ui/table/columns.ts';
import { figures } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { PledgeDialog } from './PledgeDialog.tsx';
import { PledgeView } from './PledgeView.tsx';

const SHOWS = {
  open: 'With a balance',
  overdue: 'Overdue',
  due: 'Due within 30 days',
  paid: 'Settled',
  all: 'All',
} as const;
type Show = keyof typeof SHOWS;
/** What is promised, by what is due. */
export default function PledgesPage() {
  const url = useListUrl();
  const { money, date, count } = useFormats();
  const mayEnter = useMay(makePledge);
  const adding = url.get('add') === '1';
  const setAdding = (open: boolean): void => url.set({ add: open ? '1' : null });
  const show = (url.get('show') || 'open') as Show;
  const sort = url.get('sort') || 'next';
  const reminding = url.get('reminders') === '1';
  const filter = {
    show,
    ...(url.get('kind') ? { kind: url.get('kind') as PledgeRow['kind'] } : {}),
    ...(url.get('at') ? { at: url.get('at') } : {}),
  };
  const list = usePages(keyOf(listPledges, { query: { sort, ...filter } }), (place, signal) =>
    call(listPledges, { query: { sort, ...filter, ...place }, signal }),
  );
  const sum = list.first?.sum;
  const columns = useMemo((): Column<PledgeRow>[] => {
    const amount = (
      id: string,
      title: string,
      of: (row: PledgeRow) => number,
      total: number | undefined,
      by?: string,
    ) => ({
      ...{ id, title, width: 118, align: 'right' as const, footer: total === undefined ? '' : money(total) },
      ...(by ? { sort: by } : {}),
      cell: (row: PledgeRow) => (of(row) === 0 ? '' : money(of(row))),
    });
    return [
      {
        id: 'who',
        title: 'By',
        width: 220,
        sort: 'name',
        footer: `${count(list.total)} pledges`,
        cell: (row) => (
          <Link to={`/supporters/${row.supporterId}`} tabIndex={-1} className="font-serif text-[15px] hover:underline">
            {row.supporterName}
          </Link>
        ),
      },
      {
        id: 'kind',
        title: 'Kind',
        width: 150,
        sort: 'kind',
        cell: (row) =>
          PLEDGE_KINDS[row.kind] + (row.kind === 'pledge' ? '' : `, ${PLEDGE_STAGES[row.stage].toLowerCase()}`),
      },
      { id: 'date', title: 'Promised', width: 126, align: 'right', sort: 'date', cell: (row) => date(row.pledgedOn) },
      amount('pledged', 'Pledged', (row) => row.standing.pledged, sum?.pledged, 'pledged'),
      amount('paid', 'Paid', (row) => row.standing.paid, sum?.paid, 'paid'),
      amount('off', 'Written off', (row) => row.standing.writtenOff, sum?.writtenOff),
      amount('balance', 'Balance', (row) => row.standing.balance, sum?.balance, 'balance'),
      {
        ...amount('overdue', 'Overdue', (row) => row.standing.overdue, sum?.overdue, 'overdue'),
        cell: (row) => row.standing.overdue > 0 && <StateWord tone="wrong">{money(row.standing.overdue)}</StateWord>,
      },
      {
        id: 'next',
        title: 'Next due',
        width: 126,
        align: 'right',
        sort: 'next',
        cell: (row) => date(row.standing.next?.due ?? null),
      },
      { id: 'fund', title: 'Fund', width: 170, sort: 'fund', cell: (row) => row.fund },
      { id: 'number', title: 'Number', width: 80, cell: (row) => <span className="text-faded">{row.number}</span> },
    ];
  }, [money, date, count, list.total, sum]);
  const acts = (
    <>
      <Button onClick={() => url.set({ reminders: reminding ? null : '1' })}>
        {reminding ? 'Show the pledges' : 'Reminders due'}
      </Button>
      {mayEnter && (
        <Button look="main" onClick={() => setAdding(true)}>
          <Plus size={15} /> Record a pledge
        </Button>
      )}
    </>
  );
  const dialog = adding && (
    <PledgeDialog
      onClose={() => setAdding(false)}
      onMade={(id) => {
        url.set({ add: null, peek: String(id), show: 'all' });
      }}
    />
  );
  const facts =
    sum &&
    `${count(list.total)} shown, ${money(sum.balance)} open, ${money(sum.overdue)} overdue${filter.at ? ` as of ${date(filter.at)}` : ''}`;
  if (reminding)
    return (
      <>
        <GiftAreaNav />
        <Heading title="Pledges" facts={facts}>
          {acts}
        </Heading>
        <Reminders />
        {dialog}
      </>
    );
  return (
    <ListPage
      nav={<GiftAreaNav />}
      title="Pledges"
      facts={facts}
      acts={acts}
      name="pledges"
      label="Pledges"
      columns={columns}
      list={list}
      sort={sort}
      hrefOf={(id) => `/gifts/pledges/${id}`}
      peek={(id) => <PledgeView id={id} />}
      filters={
        <Filters
          url={url}
          filters={[
            {
              ...{ kind: 'choice', label: 'Which pledges', name: 'show' },
              ...{ usual: 'open', always: true, options: optionsOf(SHOWS) },
            },
            { kind: 'choice', label: 'Kind', name: 'kind', options: optionsOf(PLEDGE_KINDS) },
            { kind: 'day', label: 'As of', name: 'at' },
          ]}
        />
      }
      empty={<Empty title="No pledge here">A promise recorded here shows what is still to come.</Empty>}
    >
      {dialog}
    </ListPage>
  );
}

type Reminder = ResponseOf<typeof listReminders>['items'][number] & { id: number };

/** Whom to remind: what is overdue, and what falls due soon. */
function Reminders() {
  const { money, date, counted } = useFormats();
  const [days, setDays] = useState(30);
  const { data, error } = useQuery({ ...ask(listReminders, { query: { days } }), placeholderData: (old) => old });
  const columns: Column<Reminder>[] = [
    {
      ...{ id: 'from', title: 'From', width: 280, grow: true, by: (item) => item.supporterName },
      cell: (item) => (
        <Link className="font-serif text-[15px] hover:underline" to={`/supporters/${item.supporterId}`}>
          {item.supporterName}
        </Link>
      ),
    },
    {
      ...{ id: 'pledge', title: 'Pledge', width: 120, by: (item) => item.number },
      cell: (item) => (
        <Link className="text-slate hover:underline" to={`/gifts/pledges/${item.pledgeId}`}>
          {item.number}
        </Link>
      ),
    },
    { id: 'due', title: 'Due', width: 130, align: 'right', by: (item) => item.due, cell: (item) => date(item.due) },
    figures('open', 'Open', 140, (item) => item.open, money),
    {
      ...{ id: 'late', title: 'Late', width: 160, by: (item) => item.daysLate },
      cell: (item) => item.daysLate > 0 && <StateWord tone="wrong">{counted(item.daysLate, 'day')} late</StateWord>,
    },
  ];
  if (error) return <Trouble error={error} />;
  return (
    <div className="overflow-auto">
      <p className="flex items-center gap-3 px-5 py-2">
        Overdue, and due within
        <Choice
          className="w-auto min-w-32"
          aria-label="Days ahead"
          value={days}
          onChange={(picked) => setDays(Number(picked))}
          options={[0, 7, 14, 30, 60, 90].map((many) => ({
            value: many,
            label: many === 0 ? 'today' : `${many} days`,
          }))}
        />
        {data &&
          `${counted(data.sum.count, 'installment')}, ${money(data.sum.cents)}, of that ${money(data.sum.overdueCents)} overdue`}
      </p>
      <ShortTable
        name="reminders"
        label="Reminders"
        columns={columns}
        rows={(data?.items ?? []).map((item, id) => ({ ...item, id }))}
      />
    </div>
  );
}
