import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { useQuery } from '@tanstack/react-query';
import { listFields } from '@tallystick/contract/fields';
import { exportGifts, listGifts, recordGift } from '@tallystick/contract/gifts';
import type { facetGifts } from '@tallystick/contract/gifts';
import type { QueryInputOf } from '@tallystick/contract/endpoint';
import { ask, call, keyOf, linkTo } from '../ui/api.ts';
import { codedOption, optionsOf } from '../ui/choice/index.tsx';
import { Button, Empty } from '../ui/controls.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import type { Filter } from '../ui/filters/Filters.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useChoices } from '../ui/useChoices.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { giftColumns } from './columns.tsx';
import { Facets } from './Facets.tsx';
import { GiftAreaNav } from './GiftAreaNav.tsx';
import { openGiftDialog } from './asking.ts';
import { GiftView } from './GiftView.tsx';

const KINDS = {
  split: 'Split',
  credited: 'With soft credits',
  tribute: 'Tributes',
  benefit: 'With goods or services',
  pledge: 'Pledge payments',
  match: 'Matching gifts',
  corrected: 'Corrected',
  receipt: 'Receipt to be voided',
};
const GIVEN: Record<string, string> = { batch: 'batch', recurring: 'recurring gift' };

const idOf = (gift: { id: number }): number => gift.id;
const centsOf = (gift: { cents: number }): number => gift.cents;

export default function GiftsPage() {
  const url = useListUrl();
  const formats = useFormats();
  const mayEnter = useMay(recordGift);
  const sort = url.get('sort') || '-date';
  const number = (name: string, as: string) => (url.get(name) ? { [as]: Number(url.get(name)) } : {});
  const word = (name: string) => (url.get(name) ? { [name]: url.get(name) } : {});
  const filter: QueryInputOf<typeof facetGifts> = {
    ...number('fund', 'fundId'),
    ...number('campaign', 'campaignId'),
    ...number('appeal', 'appealId'),
    ...number('source', 'sourceId'),
    ...number('batch', 'batchId'),
    ...number('recurring', 'recurringId'),
    ...number('atLeast', 'atLeast'),
    ...number('atMost', 'atMost'),
    ...word('method'),
    ...word('thanked'),
    ...word('kind'),
    ...word('from'),
    ...word('to'),
  };
  const choices = useChoices();
  const list = usePages(keyOf(listGifts, { query: { sort, ...filter } }), (place, signal) =>
    call(listGifts, { query: { sort, ...filter, ...place }, signal }),
  );
  const own = useQuery(ask(listFields));
  const { count = 0, cents = 0 } = list.first?.sum ?? {};
  const columns = useMemo(
    () => giftColumns(formats, { count: formats.gifts(count), cents }, own.data?.items),
    [formats, count, cents, own.data],
  );
  const { selection } = useRowSelection('gift', list.rows, idOf, centsOf, { whole: { count, cents } });

  const given = ['batch', 'recurring'].find((name) => url.get(name) !== '');
  const amounts = ['atLeast', 'atMost'].map((name) => url.get(name));
  const filters: Filter[] = [
    { kind: 'span', label: 'When', from: 'from', to: 'to', always: true },
    { kind: 'choice', label: 'Kind of gift', name: 'kind', options: optionsOf(KINDS) },
    { ...{ kind: 'choice', label: 'Thanked', name: 'thanked' }, options: optionsOf({ no: 'not yet', yes: 'yes' }) },
    { kind: 'choice', label: 'Fund', name: 'fund', options: choices.funds.map((one) => codedOption(one)) },
    { kind: 'choice', label: 'Campaign', name: 'campaign', options: choices.campaigns.map((one) => codedOption(one)) },
    { kind: 'choice', label: 'Appeal', name: 'appeal', options: choices.appeals.map((one) => codedOption(one)) },
    {
      ...{ kind: 'choice', label: 'Source code', name: 'source' },
      options: choices.sources.map((one) => ({ value: one.id, label: `${one.code} ${one.name}`, closed: one.closed })),
    },
    { kind: 'choice', label: 'Paid by', name: 'method', options: optionsOf(PAYMENT_METHODS) },
    {
      kind: 'given',
      label: 'Of one',
      names: ['batch', 'recurring'],
      says: given ? `Of one ${GIVEN[given] ?? ''}` : '',
    },
    {
      ...{ kind: 'given', label: 'Amount', names: ['atLeast', 'atMost'] },
      says:
        amounts[0] === amounts[1]
          ? `Of ${formats.money(Number(amounts[0]))} each`
          : `From ${formats.money(Number(amounts[0]))} to ${formats.money(Number(amounts[1]))}`,
    },
  ];
  return (
    <ListPage
      nav={<GiftAreaNav />}
      title="Gifts"
      facts={`${formats.gifts(count)}, ${formats.money(cents)}${['fund', 'campaign', 'appeal'].some((name) => url.get(name)) ? ' to what is chosen' : ''}`}
      acts={
        <>
          <a className="mr-2 text-slate hover:underline" href={linkTo(exportGifts, {}, filter)} download>
            Export CSV
          </a>
          {mayEnter && (
            <Button look="main" onClick={() => openGiftDialog(null)}>
              <Plus size={15} /> Record a gift
            </Button>
          )}
        </>
      }
      side={<Facets filter={filter} chosen={(by) => url.get(by)} onChoose={(by, key) => url.set({ [by]: key })} />}
      name="gifts"
      label="Gifts"
      columns={columns}
      list={list}
      sort={sort}
      selection={selection}
      filters={<Filters url={url} filters={filters} />}
      hrefOf={(id) => `/gifts/${id}`}
      peek={(id) => <GiftView id={id} />}
      empty={<Empty title="No gifts here">Press g to record one, or change what is filtered above.</Empty>}
    />
  );
}
