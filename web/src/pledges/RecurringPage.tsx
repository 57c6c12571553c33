import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { chargeDue, listRecurring, makeRecurring } from '@tallystick/contract/pledges';
import type { RecurringRow } from '@tallystick/contract/pledges';
import { GiftAreaNav } from '../gifts/index.ts';
import { ask, call } from '../ui/api.ts';
import { Bars } from '../ui/Bars.tsx';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import type { Column } from '../ui/table/columns.ts';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { PeekLayout } from '../ui/PeekLayout.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWidth } from '../ui/useWidth.ts';
import { useWrite } from '../ui/useWrite.ts';
import { RecurringDialog } from './RecurringDialog.tsx';
import { RECURRING_TONES, RecurringView } from './RecurringView.tsx';

const SHOWS = {
  all: 'All',
  active: 'Active',
  failing: 'Failing or to call',
  due: 'Due within a week',
  ended: 'Ended',
} as const;
const nothing = (): void => undefined;

/** Recurring gifts: those that need a call first, and what the next year should bring. */
export default function RecurringPage() {
  const url = useListUrl();
  const { money, date, count, gifts } = useFormats();
  const { organization } = useHere();
  const mayEnter = useMay(makeRecurring);
  const mayCharge = useMay(chargeDue);
  const adding = url.get('add') === '1';
  const setAdding = (open: boolean): void => url.set({ add: open ? '1' : null });
  const [box, width] = useWidth();
  const show = (url.get('show') || 'all') as keyof typeof SHOWS;
  const { data, error, isPending } = useQuery({
    ...ask(listRecurring, { query: { show } }),
    placeholderData: (old) => old,
  });
  const charge = useWrite(() => call(chargeDue), {
    say: (done) => (done.due === 0 ? 'Nothing is due to be charged' : `Charging ${done.due}; see the tray`),
  });
  const sum = data?.sum;
  const columns = useMemo(
    (): Column<RecurringRow>[] => [
      {
        id: 'who',
        title: 'From',
        width: 220,
        footer: `${count(sum?.count ?? 0)} recurring gifts`,
        cell: (row) => (
          <Link to={`/supporters/${row.supporterId}`} tabIndex={-1} className="font-serif text-[15px] hover:underline">
            {row.supporterName}
          </Link>
        ),
      },
      { id: 'amount', title: 'Each time', width: 110, align: 'right', cell: (row) => money(row.cents) },
      { id: 'often', title: 'How often', width: 190, cell: (row) => row.schedule },
      {
        id: 'state',
        title: 'State',
        width: 110,
        cell: (row) => <StateWord tone={RECURRING_TONES[row.state]}>{row.state}</StateWord>,
      },
      { id: 'why', title: 'Why', width: 200, cell: (row) => row.reason },
      {
        id: 'next',
        title: 'Next',
        width: 120,
        align: 'right',
        cell: (row) =>
          row.next &&
          (row.next.due < organization.today && row.method !== 'card' ? (
            <StateWord tone="look">{date(row.next.due)}</StateWord>
          ) : (
            date(row.next.due)
          )),
      },
      {
        id: 'year',
        title: 'Twelve months',
        width: 130,
        align: 'right',
        footer: money(sum?.yearCents ?? 0),
        cell: (row) => money(row.yearCents),
      },
      { id: 'fund', title: 'Fund', width: 200, cell: (row) => row.fund },
      { id: 'by', title: 'Paid by', width: 120, cell: (row) => row.cardLabel || row.method },
      { id: 'number', title: 'Number', width: 80, cell: (row) => <span className="text-faded">{row.number}</span> },
    ],
    [money, date, count, sum, organization.today],
  );
  if (error && !data) return <Trouble error={error} />;
  const rows = data?.items ?? [];
  return (
    <>
      <GiftAreaNav />
      <Heading
        title="Recurring gifts"
        facts={
          sum ? `${count(sum.count)} shown, ${money(sum.yearCents)} expected in the next twelve months` : 'Counting …'
        }
      >
        {mayCharge && (
          <Button disabled={charge.isPending} onClick={() => charge.mutate(undefined)}>
            Charge what is due
          </Button>
        )}
        {mayEnter && (
          <Button look="main" onClick={() => setAdding(true)}>
            <Plus size={15} /> Record a recurring gift
          </Button>
        )}
      </Heading>
      <div ref={box} className="border-b border-rule px-5 pt-2">
        {width > 60 && data && (
          <Bars
            label="Expected by month"
            width={width - 40}
            bars={data.months.map((month) => ({
              key: month.month,
              name: new Date(`${month.month}-15`).toLocaleDateString(organization.locale, {
                month: 'short',
                year: '2-digit',
              }),
              value: month.cents,
              says: `${month.month}: ${money(month.cents)} in ${gifts(month.gifts)}`,
            }))}
          />
        )}
      </div>
      <PeekLayout
        ids={rows.map((row) => row.id)}
        openId={url.peek}
        onOpen={(id) => url.set({ peek: id === null ? null : String(id) })}
        hrefOf={(id) => `/gifts/recurring?peek=${id}`}
        peek={(id) => <RecurringView id={id} />}
        list={
          <DataTable
            name="recurring"
            label="Recurring gifts"
            columns={columns}
            rows={rows}
            idOf={(row) => row.id}
            total={rows.length}
            sort=""
            onSort={nothing}
            onMore={nothing}
            openId={url.peek}
            onPeek={(row) => url.set({ peek: String(row.id) })}
            hrefOf={(row) => `/gifts/recurring?peek=${row.id}`}
            loading={isPending}
            toolbar={
              <Choice
                className="w-auto min-w-44"
                aria-label="Which"
                value={show}
                onChange={(picked) => url.set({ show: picked })}
                options={Object.entries(SHOWS).map(([name, word]) => ({ value: name, label: word }))}
              />
            }
            empty={<Empty title="No recurring gift here">One recorded here is charged or expected on its dates.</Empty>}
          />
        }
      />
      {adding && (
        <RecurringDialog
          onClose={() => setAdding(false)}
          onMade={(id) => {
            url.set({ add: null, peek: String(id), show: null });
          }}
        />
      )}
    </>
  );
}
