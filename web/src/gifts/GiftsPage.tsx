import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { useQuery } from '@tanstack/react-query';
import { listFields } from '@tallystick/contract/fields';
import { exportGifts, listGifts, recordGift } from '@tallystick/contract/gifts';
import type { facetGifts } from '@tallystick/contract/gifts';
import type { QueryInputOf } from '@tallystick/contract/endpoint';
import { ask, call, keyOf, linkTo } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Heading, Trouble } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { PeekLayout } from '../ui/PeekLayout.tsx';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';
import { giftColumns } from './columns.tsx';
import { Facets } from './Facets.tsx';
import { GiftAreaNav } from './GiftAreaNav.tsx';
import { openGiftDialog } from './GiftDialog.tsx';
import { GiftView } from './GiftView.tsx';

type Sort = 'date' | '-date' | 'amount' | '-amount';

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
const ELSEWHERE = ['batch', 'source', 'recurring', 'atLeast', 'atMost'];

const idOf = (gift: { id: number }): number => gift.id;
const centsOf = (gift: { cents: number }): number => gift.cents;

export default function GiftsPage() {
  const url = useListUrl();
  const formats = useFormats();
  const mayEnter = useMay(recordGift);
  const sort = (url.get('sort') || '-date') as Sort;
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
  const amountShown =
    url.get('atLeast') !== '' && url.get('atLeast') === url.get('atMost')
      ? `Of ${formats.money(Number(url.get('atLeast')))} each`
      : null;
  const list = usePages(keyOf(listGifts, { query: { sort, ...filter } }), (cursor, signal) =>
    call(listGifts, { query: { sort, limit: 200, ...filter, ...(cursor ? { cursor } : {}) }, signal }),
  );
  const own = useQuery(ask(listFields));
  const { count = 0, cents = 0 } = list.first?.sum ?? {};
  const columns = useMemo(
    () => giftColumns(formats, { count: formats.gifts(count), cents }, own.data?.items),
    [formats, count, cents, own.data],
  );
  const { selection } = useRowSelection('gift', list.rows, idOf, centsOf);

  if (list.error && list.rows.length === 0) return <Trouble error={list.error} />;
  return (
    <>
      <GiftAreaNav />
      <Heading
        title="Gifts"
        facts={
          list.isPending
            ? 'Counting …'
            : `${formats.gifts(count)}, ${formats.money(cents)}${['fund', 'campaign', 'appeal'].some((name) => url.get(name)) ? ' to what is chosen' : ''}`
        }
      >
        <a className="mr-2 text-slate hover:underline" href={linkTo(exportGifts, {}, filter)} download>
          Export CSV
        </a>
        {mayEnter && (
          <Button look="main" onClick={() => openGiftDialog(null)}>
            <Plus size={15} /> Record a gift
          </Button>
        )}
      </Heading>
      <PeekLayout
        ids={list.rows.map((gift) => gift.id)}
        openId={url.peek}
        onOpen={(id) => url.set({ peek: id === null ? null : String(id) })}
        hrefOf={(id) => `/gifts/${id}`}
        peek={(id) => <GiftView id={id} />}
        list={
          <div className="flex min-h-0 flex-1">
            {url.peek === null && (
              <Facets filter={filter} chosen={(by) => url.get(by)} onChoose={(by, key) => url.set({ [by]: key })} />
            )}
            <div className="flex min-h-0 min-w-0 flex-1 flex-col">
              <DataTable
                name="gifts"
                label="Gifts"
                columns={columns}
                rows={list.rows}
                idOf={(gift) => gift.id}
                total={list.total}
                sort={sort}
                onSort={(next) => url.set({ sort: next })}
                onMore={list.onMore}
                openId={url.peek}
                onPeek={(gift) => url.set({ peek: String(gift.id) })}
                hrefOf={(gift) => `/gifts/${gift.id}`}
                selection={selection}
                loading={list.isPending}
                toolbar={
                  <>
                    <Choice
                      className="w-auto min-w-44"
                      aria-label="Kind of gift"
                      value={url.get('kind')}
                      onChange={(picked) => url.set({ kind: picked })}
                      options={[
                        { value: '', label: 'All kinds' },
                        ...Object.entries(KINDS).map(([kind, name]) => ({ value: kind, label: name })),
                      ]}
                    />
                    <Choice
                      className="w-auto min-w-40"
                      aria-label="Thanked"
                      value={url.get('thanked')}
                      onChange={(picked) => url.set({ thanked: picked })}
                      options={[
                        { value: '', label: 'Thanked or not' },
                        { value: 'no', label: 'Not thanked yet' },
                        { value: 'yes', label: 'Thanked' },
                      ]}
                    />
                    <DateField
                      settled
                      className="w-36"
                      aria-label="From date"
                      value={url.get('from')}
                      onChange={(day) => url.set({ from: day })}
                    />
                    <DateField
                      settled
                      className="w-36"
                      aria-label="To date"
                      value={url.get('to')}
                      onChange={(day) => url.set({ to: day })}
                    />
                    {ELSEWHERE.some((name) => url.get(name)) && (
                      <Button
                        look="quiet"
                        onClick={() => url.set(Object.fromEntries(ELSEWHERE.map((name) => [name, null])))}
                      >
                        {amountShown ?? 'Of one batch, source or recurring gift'}: show all
                      </Button>
                    )}
                  </>
                }
                empty={<Empty title="No gifts here">Press g to record one, or change what is filtered above.</Empty>}
              />
            </div>
          </div>
        }
      />
    </>
  );
}
