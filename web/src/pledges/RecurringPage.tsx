import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { chargeDue, listRecurring, makeRecurring } from '@tallystick/contract/pledges';
import type { RecurringRow } from '@tallystick/contract/pledges';
import { GiftAreaNav } from '../gifts/index.ts';
import { ask, call } from '../ui/api.ts';
import { BarChart } from '../ui/charts/BarChart.tsx';
import { optionsOf } from '../ui/choice/index.tsx';
import { Button, Empty, StateWord } from '../ui/controls.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
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

/** Recurring gifts: those that need a call first, and what the next year should bring. */
export default function RecurringPage() {
  const url = useListUrl();
  const { money, shortMoney, date, count, gifts } = useFormats();
  const { organization } = useHere();
  const mayEnter = useMay(makeRecurring);
  const mayCharge = useMay(chargeDue);
  const adding = url.get('add') === '1';
  const setAdding = (open: boolean): void => url.set({ add: open ? '1' : null });
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
        by: (row) => row.supporterName,
        footer: `${count(sum?.count ?? 0)} recurring gifts`,
        cell: (row) => (
          <Link to={`/supporters/${row.supporterId}`} tabIndex={-1} className="font-serif text-[15px] hover:underline">
            {row.supporterName}
          </Link>
        ),
      },
      figures('amount', 'Each time', 110, (row) => row.cents, money),
      wordsOf('often', 'How often', 190, (row) => row.schedule),
      {
        id: 'state',
        title: 'State',
        width: 110,
        by: (row) => row.state,
        cell: (row) => <StateWord tone={RECURRING_TONES[row.state]}>{row.state}</StateWord>,
      },
      wordsOf('why', 'Why', 200, (row) => row.reason),
      {
        id: 'next',
        title: 'Next',
        width: 120,
        align: 'right',
        by: (row) => row.next?.due,
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
        by: (row) => row.yearCents,
        footer: money(sum?.yearCents ?? 0),
        cell: (row) => money(row.yearCents),
      },
      wordsOf('fund', 'Fund', 200, (row) => row.fund),
      wordsOf('by', 'Paid by', 120, (row) => row.cardLabel || row.method),
      { id: 'number', title: 'Number', width: 80, cell: (row) => <span className="text-faded">{row.number}</span> },
    ],
    [money, date, count, sum, organization.today],
  );
  const rows = data?.items ?? [];
  const monthName = (month: string): string =>
    new Date(`${month}-15`).toLocaleDateString(organization.locale, { month: 'short', year: '2-digit' });
  return (
    <ListPage
      nav={<GiftAreaNav />}
      title="Recurring gifts"
      facts={sum && `${count(sum.count)} shown, ${money(sum.yearCents)} expected in the next twelve months`}
      acts={
        <>
          {mayCharge && (
            <Button busy={charge.isPending} onClick={() => charge.mutate(undefined)}>
              Charge what is due
            </Button>
          )}
          {mayEnter && (
            <Button look="main" onClick={() => setAdding(true)}>
              <Plus size={15} /> Record a recurring gift
            </Button>
          )}
        </>
      }
      above={
        data && (
          <div className="border-b border-rule px-5 pt-2">
            <BarChart
              label="Expected by month"
              of="Month"
              show={money}
              short={shortMoney}
              bars={data.months.map((month) => ({
                key: month.month,
                name: monthName(month.month),
                value: month.cents,
                says: `${monthName(month.month)}: ${money(month.cents)} in ${gifts(month.gifts)}`,
              }))}
            />
          </div>
        )
      }
      name="recurring"
      label="Recurring gifts"
      columns={columns}
      list={{ rows, total: rows.length, isPending, error }}
      hrefOf={(id) => `/gifts/recurring/${id}`}
      peek={(id) => <RecurringView id={id} />}
      filters={
        <Filters
          url={url}
          filters={[
            {
              ...{ kind: 'choice', label: 'Which', name: 'show' },
              ...{ usual: 'all', always: true, options: optionsOf(SHOWS) },
            },
          ]}
        />
      }
      empty={<Empty title="No recurring gift here">One recorded here is charged or expected on its dates.</Empty>}
    >
      {adding && (
        <RecurringDialog
          onClose={() => setAdding(false)}
          onMade={(id) => {
            url.set({ add: null, peek: String(id), show: null });
          }}
        />
      )}
    </ListPage>
  );
}
