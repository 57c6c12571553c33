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

const TABLE =
  'w-full text-left [&_td]:border-b [&_td]:border-rule [&_td]:py-1 [&_td]:pr-4 [&_th]:border-b [&_th]:border-rule [&_th]:pr-4 [&_th]:text-[12.5px] [&_th]:font-medium [&_th]:text-faded';

/** So many gifts are listed at first: who gave for decades has hundreds. */
const AT_FIRST = 60;

export function GivenGifts({ supporter }: { supporter: Supporter }) {
  const { money, date } = useFormats();
  const shared = supporter.kind === 'household' && supporter.members.length > 0;
  const query = { ...(shared ? { householdId: supporter.id } : { supporterId: supporter.id }), limit: AT_FIRST };
  const list = usePages(keyOf(listGifts, { query }), (cursor, signal) =>
    call(listGifts, { query: { ...query, ...(cursor ? { cursor, limit: 500 } : {}) }, signal }),
  );
  const { first: data } = list;
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
      <table className={TABLE} aria-label="Gifts">
        <thead>
          <tr>
            <th>Date</th>
            <th className="text-right">Amount</th>
            {shared && <th>From</th>}
            <th>Fund</th>
            <th className="hidden @3xl:table-cell">Appeal</th>
            <th>Thanked</th>
          </tr>
        </thead>
        <tbody>
          {list.rows.map((gift) => (
            <tr key={gift.id}>
              <td className="whitespace-nowrap">
                <Link className="text-slate hover:underline" to={`/gifts/${gift.id}`}>
                  {date(gift.date)}
                </Link>
              </td>
              <td className="text-right">{money(gift.cents)}</td>
              {shared && <td>{gift.supporterName}</td>}
              <td>{gift.fund}</td>
              <td className="hidden @3xl:table-cell">{gift.appeal}</td>
              <td>
                {gift.receiptId !== null ? (
                  <a
                    className="text-slate hover:underline"
                    href={linkTo(receiptPdf, { id: gift.receiptId })}
                    target="_blank"
                    rel="noreferrer"
                  >
                    {gift.receiptNumber}
                  </a>
                ) : gift.acknowledgedOn !== null ? (
                  <StateWord tone="settled">{date(gift.acknowledgedOn)}</StateWord>
                ) : (
                  <StateWord tone="look">not yet</StateWord>
                )}
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="font-medium">
            <td>{counted(data?.sum.count ?? 0, 'gift')}</td>
            <td className="text-right">{money(data?.sum.cents ?? 0)}</td>
            <td colSpan={shared ? 3 : 2} />
            <td className="hidden @3xl:table-cell" />
          </tr>
        </tfoot>
      </table>
      <More list={list} step={500} />
    </>
  );
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
          <Link className="text-slate hover:underline" to={`/gifts/pledges?show=all&peek=${pledge.id}`}>
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
          <Link className="text-slate hover:underline" to={`/gifts/recurring?peek=${gift.id}`}>
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

const DELIVERY: Record<string, [string, 'settled' | 'wrong' | 'look' | 'plain']> = {
  queued: ['waiting to go', 'plain'],
  sending: ['going out', 'plain'],
  sent: ['reached', 'settled'],
  bounced: ['bounced', 'wrong'],
  failed: ['not reached', 'wrong'],
  unsure: ['not sure it arrived', 'look'],
  held: ['held back', 'look'],
  print: ['in the print file', 'settled'],
};

export function DeliveryState({ state }: { state: string }) {
  const [word, tone] = DELIVERY[state] ?? [state, 'plain'];
  return <StateWord tone={tone}>{word}</StateWord>;
}

export function Correspondence({ id }: { id: number }) {
  const { moment } = useFormats();
  const list = usePagesOf(listSupporterDeliveries, { params: { id } });
  if (list.error) return <Trouble error={list.error} />;
  if (list.first && list.total === 0)
    return <Empty title="Nothing sent yet">E-mails, letters and receipts to this supporter are listed here.</Empty>;
  return (
    <>
      <table className={TABLE} aria-label="Correspondence">
        <thead>
          <tr>
            <th>When</th>
            <th>What</th>
            <th>To</th>
            <th>Became</th>
          </tr>
        </thead>
        <tbody>
          {list.rows.map((item) => (
            <tr key={item.id}>
              <td className="whitespace-nowrap">{moment(item.at)}</td>
              <td>
                {item.receiptId !== null ? (
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
                )}
              </td>
              <td>{item.channel === 'print' ? 'by post' : item.address}</td>
              <td>
                <DeliveryState state={item.state} /> <span className="text-[13px] text-faded">{item.detail}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <More list={list} />
    </>
  );
}
