import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { listGifts } from '@tallystick/contract/gifts';
import { listPledges, listRecurring } from '@tallystick/contract/pledges';
import { PLEDGE_KINDS } from '@tallystick/core/pledges';
import { counted } from '@tallystick/core/words';
import { listSupporterDeliveries } from '@tallystick/contract/supporters';
import type { Supporter } from '@tallystick/contract/supporters';
import { receiptPdf } from '@tallystick/contract/thanks';
import { ask, call, keyOf, linkTo } from '../ui/api.ts';
import { More } from '../ui/More.tsx';
import { usePages, usePagesOf } from '../ui/usePages.ts';
import { Empty, StateWord, Trouble } from '../ui/controls.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { DeliveryState } from '../ui/DeliveryState.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import type { ResponseOf } from '@tallystick/contract/endpoint';

type Gift = ResponseOf<typeof listGifts>['items'][number];
type Sent = ResponseOf<typeof listSupporterDeliveries>['items'][number];

export function GivenGifts({ supporter }: { supporter: Supporter }) {
  const { money, date } = useFormats();
  const shared = supporter.kind === 'household' && supporter.members.length > 0;
  const query = shared ? { householdId: supporter.id } : { supporterId: supporter.id };
  const list = usePages(keyOf(listGifts, { query }), (place, signal) =>
    call(listGifts, { query: { ...query, ...place }, signal }),
  );
  const { first: data } = list;
  const columns: Column<Gift>[] = [
    {
      ...{ id: 'date', title: 'Date', width: 134, by: (gift) => gift.date },
      cell: (gift) => (
        <Link className="text-slate hover:underline" to={`/gifts/${gift.id}`}>
          {date(gift.date)}
        </Link>
      ),
      footer: counted(data?.sum.count ?? 0, 'gift'),
    },
    { ...figures('amount', 'Amount', 104, (gift) => gift.cents, money), footer: money(data?.sum.cents ?? 0) },
    {
      ...{ id: 'thanked', title: 'Thanked', width: 140, by: (gift) => gift.acknowledgedOn },
      cell: (gift) => <Thanked gift={gift} />,
    },
    ...(shared ? [wordsOf<Gift>('from', 'From', 150, (gift) => gift.supporterName)] : []),
    { ...wordsOf('fund', 'Fund', 130, (gift) => gift.fund), grow: true },
    wordsOf('appeal', 'Appeal', 130, (gift) => gift.appeal),
  ];
  if (list.error && !data) return <Trouble error={list.error} />;
  if (data && list.total === 0)
    return (
      <>
        <Promises supporter={supporter} />
        <Empty title="No gift yet">A gift recorded here cuts the first notch.</Empty>
      </>
    );
  return (
    <>
      <Promises supporter={supporter} />
      <div className="-mx-5">
        <ShortTable
          name={shared ? 'given by a household' : 'given'}
          label="Gifts"
          columns={columns}
          rows={list.rows}
          total={list.total}
        />
      </div>
      <More list={list} />
    </>
  );
}

function Thanked({ gift }: { gift: Gift }) {
  const { date } = useFormats();
  if (gift.receiptId !== null)
    return (
      <a
        className="text-slate hover:underline"
        href={linkTo(receiptPdf, { id: gift.receiptId })}
        target="_blank"
        rel="noreferrer"
      >
        {gift.receiptNumber}
      </a>
    );
  if (gift.acknowledgedOn === null) return <StateWord tone="look">not yet</StateWord>;
  return <StateWord tone="settled">{date(gift.acknowledgedOn)}</StateWord>;
}

/** What the supporter promised: pledges and recurring gifts, a line each. */
function Promises({ supporter }: { supporter: Supporter }) {
  const { money, date } = useFormats();
  const pledges = useQuery(ask(listPledges, { query: { supporterId: supporter.id, show: 'all' } }));
  const recurring = useQuery(ask(listRecurring, { query: { supporterId: supporter.id } }));
  const promised = pledges.data?.items ?? [];
  const repeated = recurring.data?.items ?? [];
  if (promised.length + repeated.length === 0) return null;
  return (
    <ul aria-label="Promised" className="mb-3">
      {promised.map((pledge) => (
        <li key={pledge.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1">
          <Link className="text-slate hover:underline" to={`/gifts/pledges/${pledge.id}`}>
            {PLEDGE_KINDS[pledge.kind]} {pledge.number}
          </Link>
          {money(pledge.standing.pledged)}
          <span className="text-faded">
            {money(pledge.standing.paid)} paid, {money(pledge.standing.balance)} open
            {pledge.standing.next && `, next due ${date(pledge.standing.next.due)}`}
          </span>
          {pledge.standing.overdue > 0 && <StateWord tone="wrong">{money(pledge.standing.overdue)} overdue</StateWord>}
        </li>
      ))}
      {repeated.map((gift) => (
        <li key={gift.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1">
          <Link className="text-slate hover:underline" to={`/gifts/recurring/${gift.id}`}>
            Recurring {gift.number}
          </Link>
          {money(gift.cents)} {gift.schedule}
          <span className="text-faded">
            {gift.state}
            {gift.next && `, next ${date(gift.next.due)}`}
          </span>
        </li>
      ))}
    </ul>
  );
}

interface WayLine {
  key: string;
  what: string;
  value: string;
  notes: string[];
  bad: string | null;
  badReason: string;
  used: boolean;
}

/** Every way to reach a supporter with its dates; what is used today stands out, what is over is faded. */
export function Contact({ supporter }: { supporter: Supporter }) {
  const { date } = useFormats();
  const { organization } = useHere();
  type Any = Supporter['emails'][number] | Supporter['phones'][number] | Supporter['addresses'][number];
  const line = (kind: string, way: Any, value: string, used: boolean, season = ''): WayLine => ({
    key: `${kind}${way.id}`,
    what: `${kind}, ${way.label}`,
    value,
    notes: [
      way.preferred ? 'preferred' : '',
      season,
      way.validFrom ? `from ${date(way.validFrom)}` : '',
      way.validTo ? `until ${date(way.validTo)}` : '',
    ].filter(Boolean),
    bad: way.badOn,
    badReason: way.badReason,
    used: used && (way.validTo === null || way.validTo >= organization.today),
  });
  const { reach } = supporter;
  const lines: WayLine[] = [
    ...supporter.emails.map((way) => line('E-mail', way, way.address, way.address === reach.email)),
    ...supporter.phones.map((way) => line('Telephone', way, way.number, way.number === reach.phone)),
    ...supporter.addresses.map((way) =>
      line(
        'Address',
        way,
        [way.street.replace('\n', ', '), way.city, [way.region, way.postal].filter(Boolean).join(' '), way.country]
          .filter(Boolean)
          .join(', '),
        way.id === reach.addressId,
        way.seasonFrom && way.seasonTo ? `each year from ${way.seasonFrom} to ${way.seasonTo}` : '',
      ),
    ),
  ];
  if (lines.length === 0)
    return <Empty title="No way to reach them yet">Edit the record to add an e-mail, a telephone or an address.</Empty>;
  return (
    <dl className="grid grid-cols-[7.5rem_1fr] gap-y-1.5 @xl:grid-cols-[10rem_1fr]">
      {lines.map((way) => (
        <div key={way.key} className="contents">
          <dt className="text-faded">{way.what}</dt>
          <dd className={`min-w-0 [overflow-wrap:anywhere] ${way.used ? '' : 'text-faded'}`}>
            {way.value}{' '}
            {way.notes.length > 0 && <span className="text-[13px] text-faded">({way.notes.join(', ')})</span>}{' '}
            {way.used && <StateWord tone="settled">used today</StateWord>}{' '}
            {way.bad && (
              <StateWord tone="look">
                {way.badReason || 'undeliverable'} since {date(way.bad)}
              </StateWord>
            )}
          </dd>
        </div>
      ))}
    </dl>
  );
}

export function Correspondence({ id }: { id: number }) {
  const { moment } = useFormats();
  const list = usePagesOf(listSupporterDeliveries, { params: { id } });
  const columns: Column<Sent>[] = [
    { id: 'when', title: 'When', width: 190, by: (item) => item.at, cell: (item) => moment(item.at) },
    {
      ...{ id: 'what', title: 'What', width: 220, grow: true, by: (item) => item.subject },
      cell: (item) =>
        item.receiptId !== null ? (
          <a
            className="text-slate hover:underline"
            href={linkTo(receiptPdf, { id: item.receiptId })}
            target="_blank"
            rel="noreferrer"
          >
            {item.subject}
          </a>
        ) : item.sourceKind === 'mailing' ? (
          <Link className="text-slate hover:underline" to={`/outreach/${item.sourceId}`}>
            {item.subject}
          </Link>
        ) : (
          item.subject
        ),
    },
    wordsOf('to', 'To', 180, (item) => (item.channel === 'print' ? 'by post' : item.address)),
    {
      ...{ id: 'became', title: 'Became', width: 180, by: (item) => item.state },
      cell: (item) => (
        <span title={item.detail}>
          <DeliveryState state={item.state} opened={item.openedAt} />{' '}
          <span className="text-[13px] text-faded">{item.detail}</span>
        </span>
      ),
    },
  ];
  if (list.error) return <Trouble error={list.error} />;
  if (list.first && list.total === 0)
    return <Empty title="Nothing sent yet">E-mails, letters and receipts to this supporter are listed here.</Empty>;
  return (
    <>
      <div className="-mx-5">
        <ShortTable
          name="correspondence"
          label="Correspondence"
          columns={columns}
          rows={list.rows}
          total={list.total}
        />
      </div>
      <More list={list} />
    </>
  );
}
