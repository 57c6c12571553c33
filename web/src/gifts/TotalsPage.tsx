import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import type { Window } from '@tallystick/core/dates';
import { CREDIT_CHOICES, TOTAL_BY } from '@tallystick/core/totals';
import type { CreditChoice, TotalBy } from '@tallystick/core/totals';
import { giftTotals } from '@tallystick/contract/gifts';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask } from '../ui/api.ts';
import { BarChart } from '../ui/charts/BarChart.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { codedOption, optionsOf } from '../ui/choice/index.tsx';
import { Heading, Trouble } from '../ui/controls.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import type { Filter } from '../ui/filters/Filters.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats } from '../ui/organization.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { GiftAreaNav } from './GiftAreaNav.tsx';

const WINDOWS: Record<string, { word: string; window: Window }> = {
  ever: { word: 'Ever', window: { kind: 'ever' } },
  this: { word: 'This fiscal year', window: { kind: 'fiscal-year', ago: 0 } },
  last: { word: 'Last fiscal year', window: { kind: 'fiscal-year', ago: 1 } },
  year: { word: 'The last 365 days', window: { kind: 'last-days', days: 365 } },
};

type Row = ResponseOf<typeof giftTotals>['rows'][number] & { id: number };

/** Giving added up at the moment it is asked for, for any window and filter, by whose giving counts. */
export default function TotalsPage() {
  const url = useListUrl();
  const { money, shortMoney, count, date, gifts } = useFormats();
  const choices = useChoices();
  const from = url.get('from');
  const to = url.get('to');
  const custom = url.get('window') === 'between';
  const window: Window = custom
    ? { kind: 'between', from: from || '1900-01-01', to: to || '2999-12-31' }
    : ((WINDOWS[url.get('window')] ?? WINDOWS['ever'])?.window ?? { kind: 'ever' });
  const id = (name: string): number | null => (url.get(name) === '' ? null : Number(url.get(name)));
  const by = (url.get('by') || 'year') as TotalBy;
  const who = id('who');
  /** What was known on a day is known of legal donors, everyone or one of them. */
  const past = url.get('asOf') !== '';
  const asked = {
    window,
    fundId: id('fund'),
    campaignId: id('campaign'),
    appealId: id('appeal'),
    method: url.get('method') === '' ? null : (url.get('method') as PaymentMethod),
    credit: past ? 'legal' : ((url.get('credit') || 'legal') as CreditChoice),
    by,
    supporterId: who,
    household: !past && url.get('home') === '1',
    segmentId: who === null && !past ? id('segment') : null,
    asOf: url.get('asOf') || null,
  };
  const { data, error } = useQuery({ ...ask(giftTotals, { body: asked }), placeholderData: keepPreviousData });
  const rows = data?.rows ?? [];
  const { total } = data ?? {};
  const columns: Column<Row>[] = [
    {
      ...wordsOf('name', TOTAL_BY[by], 300, (row) => row.name),
      ...{
        by: (row) => (by === 'year' || by === 'month' ? row.key : row.name),
        grow: true,
        footer: by === 'nothing' ? undefined : 'In all',
      },
    },
    { ...figures('amount', 'Amount', 170, (row) => row.cents, money), footer: total && money(total.cents) },
    { ...figures('gifts', 'Gifts', 120, (row) => row.gifts, count), footer: total && count(total.gifts) },
    { ...figures('donors', 'Supporters', 130, (row) => row.donors, count), footer: total && count(total.donors) },
    figures('average', 'Average gift', 170, (row) => Math.round(row.cents / Math.max(1, row.gifts)), money),
  ];
  const places = (list: Parameters<typeof codedOption>[0][]) => list.map((one) => codedOption(one));
  const filters: Filter[] = [
    {
      ...{ kind: 'choice', label: 'Laid out', name: 'by', usual: 'year', always: true },
      options: Object.entries(TOTAL_BY).map(([value, word]) => ({
        value,
        label: value === 'nothing' ? word : `by ${word.toLowerCase()}`,
      })),
    },
    {
      ...{ kind: 'choice', label: 'When', name: 'window', usual: 'ever', always: true },
      options: [
        ...Object.entries(WINDOWS).map(([value, one]) => ({ value, label: one.word })),
        { value: 'between', label: 'Between two days' },
      ],
    },
    ...(custom ? [{ kind: 'span', label: 'Days', from: 'from', to: 'to', always: true } as const] : []),
    ...(past
      ? []
      : [
          {
            ...({ kind: 'choice', label: 'Whose giving counts', name: 'credit', usual: 'legal' } as const),
            options: optionsOf(CREDIT_CHOICES),
          },
        ]),
    { kind: 'choice', label: 'Fund', name: 'fund', options: places(choices.funds) },
    { kind: 'choice', label: 'Campaign', name: 'campaign', options: places(choices.campaigns) },
    { kind: 'choice', label: 'Appeal', name: 'appeal', options: places(choices.appeals) },
    { kind: 'choice', label: 'Paid by', name: 'method', options: optionsOf(PAYMENT_METHODS) },
    ...(who === null && !past
      ? [
          {
            ...({ kind: 'choice', label: 'Segment', name: 'segment' } as const),
            options: choices.segments.map((one) => ({ value: one.id, label: one.name })),
          },
        ]
      : []),
    { kind: 'day', label: 'As known on', name: 'asOf' },
  ];
  return (
    <>
      <GiftAreaNav />
      <Heading
        title="Totals"
        facts={
          data
            ? `${money(data.total.cents)}, ${gifts(data.total.gifts)} of ${count(data.total.donors)} supporters${asked.asOf ? `, as known on ${date(asked.asOf)}` : ''}`
            : 'Adding up …'
        }
      />
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-5 py-2">
        <Filters url={url} filters={filters} />
        <div className="w-64">
          <SupporterPicker
            label="Of one supporter"
            value={who === null ? null : { id: who, name: url.get('name') }}
            onPick={(picked) => url.set({ who: picked ? String(picked.id) : null, name: picked?.name ?? null })}
          />
        </div>
        {who !== null && !past && (
          <Checkbox
            label="with their household"
            checked={asked.household}
            onChange={(on) => url.set({ home: on ? '1' : null })}
          />
        )}
        {past && <span className="text-faded">of legal donors, as recorded by the end of that day</span>}
      </div>
      {error ? (
        <Trouble error={error} />
      ) : (
        <div className="overflow-auto">
          {(by === 'year' || by === 'month') && rows.length > 1 && (
            <div className="px-5 pt-3">
              <BarChart
                label="Totals"
                of={TOTAL_BY[by]}
                height={160}
                show={money}
                short={shortMoney}
                bars={rows
                  .slice(-24)
                  .map((row) => ({
                    key: row.key,
                    name: row.name.replace(/^20/, ''),
                    value: row.cents,
                    says: `${row.name}: ${money(row.cents)} in ${gifts(row.gifts)}`,
                  }))}
              />
            </div>
          )}
          <ShortTable
            name={`totals by ${by}`}
            label="Totals"
            columns={columns}
            rows={rows.map((row, id) => ({ ...row, id }))}
          />
        </div>
      )}
    </>
  );
}
