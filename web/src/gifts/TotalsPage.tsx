import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import type { Window } from '@tallystick/core/dates';
import { CREDIT_CHOICES, TOTAL_BY } from '@tallystick/core/totals';
import type { CreditChoice, TotalBy } from '@tallystick/core/totals';
import { giftTotals } from '@tallystick/contract/gifts';
import { ask } from '../ui/api.ts';
import { Bars } from '../ui/Bars.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Choice } from '../ui/choice/index.tsx';
import { Heading, Trouble } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { useFormats } from '../ui/organization.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWidth } from '../ui/useWidth.ts';
import { GiftAreaNav } from './GiftAreaNav.tsx';

const WINDOWS: Record<string, { word: string; window: Window }> = {
  ever: { word: 'Ever', window: { kind: 'ever' } },
  this: { word: 'This fiscal year', window: { kind: 'fiscal-year', ago: 0 } },
  last: { word: 'Last fiscal year', window: { kind: 'fiscal-year', ago: 1 } },
  year: { word: 'The last 365 days', window: { kind: 'last-days', days: 365 } },
};

/** Giving added up at the moment it is asked for, for any window and filter, by whose giving counts. */
export default function TotalsPage() {
  const url = useListUrl();
  const { money, count, date, gifts } = useFormats();
  const choices = useChoices();
  const [box, width] = useWidth();
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
  const pick = (name: string, label: string, list: readonly (readonly [string, string])[], none: string | null) => (
    <Choice
      className="w-auto min-w-44"
      aria-label={label}
      value={url.get(name) || (name === 'by' ? by : '')}
      onChange={(picked) => url.set({ [name]: picked })}
      options={[
        ...(none !== null ? [{ value: '', label: none }] : []),
        ...list.map(([value, word]) => ({ value: value, label: word })),
      ]}
    />
  );
  const places = (list: readonly { id: number; name: string }[]) =>
    list.map((one) => [String(one.id), one.name] as const);
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
        {pick(
          'by',
          'Laid out by',
          Object.entries(TOTAL_BY).map(
            ([name, word]) => [name, name === 'nothing' ? word : `By ${word.toLowerCase()}`] as const,
          ),
          null,
        )}
        {pick(
          'window',
          'When',
          [
            ...Object.entries(WINDOWS)
              .filter(([name]) => name !== 'ever')
              .map(([name, one]) => [name, one.word] as const),
            ['between', 'Between two days'],
          ],
          'Ever',
        )}
        {custom && (
          <>
            <DateField
              settled
              className="w-36"
              aria-label="From"
              value={from}
              onChange={(day) => url.set({ from: day })}
            />
            <DateField settled className="w-36" aria-label="To" value={to} onChange={(day) => url.set({ to: day })} />
          </>
        )}
        {!past &&
          pick(
            'credit',
            'Whose giving counts',
            Object.entries(CREDIT_CHOICES).filter(([name]) => name !== 'legal'),
            CREDIT_CHOICES.legal,
          )}
        {pick('fund', 'Fund', places(choices.funds), 'All funds')}
        {pick('campaign', 'Campaign', places(choices.campaigns), 'All campaigns')}
        {pick('appeal', 'Appeal', places(choices.appeals), 'All appeals')}
        {pick('method', 'Paid by', Object.entries(PAYMENT_METHODS), 'Paid by anything')}
        {who === null && !past && pick('segment', 'Segment', places(choices.segments), 'Everyone')}
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
        <label className="flex items-center gap-2 text-faded">
          as known on
          <DateField settled className="w-36" value={url.get('asOf')} onChange={(day) => url.set({ asOf: day })} />
          {past && 'of legal donors, as recorded by the end of that day'}
        </label>
      </div>
      {error ? (
        <Trouble error={error} />
      ) : (
        <div className="overflow-auto">
          <div ref={box} className="px-5 pt-3">
            {width > 60 && (by === 'year' || by === 'month') && rows.length > 1 && (
              <Bars
                label="Totals"
                width={width - 40}
                height={120}
                bars={rows
                  .slice(-24)
                  .map((row) => ({
                    key: row.key,
                    name: row.name.replace(/^20/, ''),
                    value: row.cents,
                    says: `${row.name}: ${money(row.cents)}`,
                  }))}
              />
            )}
          </div>
          <ListTable
            label="Totals"
            headings={[TOTAL_BY[by], 'Amount', 'Gifts', 'Supporters', 'Average gift']}
            rightAligned={[1, 2, 3, 4]}
            rows={[
              ...rows.map((row, place) => ({
                id: place,
                cells: [
                  row.name,
                  money(row.cents),
                  count(row.gifts),
                  count(row.donors),
                  money(Math.round(row.cents / Math.max(1, row.gifts))),
                ],
              })),
              ...(data && by !== 'nothing'
                ? [
                    {
                      id: -1,
                      cells: [
                        <b key="all">In all</b>,
                        <b key="cents">{money(data.total.cents)}</b>,
                        count(data.total.gifts),
                        count(data.total.donors),
                        '',
                      ],
                    },
                  ]
                : []),
            ]}
          />
        </div>
      )}
    </>
  );
}
