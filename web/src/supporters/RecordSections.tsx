import { useMutation, useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { undoChange } from '@tallystick/contract/changes';
import { listGifts } from '@tallystick/contract/gifts';
import { listSupporterDeliveries, listSupporterHistory } from '@tallystick/contract/supporters';
import type { Supporter } from '@tallystick/contract/supporters';
import { receiptPdf } from '@tallystick/contract/thanks';
import { call, linkTo, messageOf, queries } from '../ui/api.ts';
import { Button, Empty, StateWord, Trouble } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';

const TABLE =
  'w-full text-left [&_td]:border-b [&_td]:border-rule [&_td]:py-1 [&_td]:pr-4 [&_th]:border-b [&_th]:border-rule [&_th]:pr-4 [&_th]:text-[12.5px] [&_th]:font-medium [&_th]:text-faded';

export function GivenGifts({ supporter }: { supporter: Supporter }) {
  const { money, date } = useFormats();
  const { data, error } = useQuery({
    queryKey: ['gifts', 'of', supporter.id],
    queryFn: ({ signal }) => call(listGifts, { query: { supporterId: supporter.id, limit: 500 }, signal }),
  });
  if (error) return <Trouble error={error} />;
  if (data?.items.length === 0) return <Empty title="No gift yet">A gift recorded here cuts the first notch.</Empty>;
  return (
    <table className={TABLE} aria-label="Gifts">
      <thead>
        <tr>
          <th>Date</th>
          <th className="text-right">Amount</th>
          <th>Fund</th>
          <th>Appeal</th>
          <th>Thanked</th>
        </tr>
      </thead>
      <tbody>
        {data?.items.map((gift) => (
          <tr key={gift.id}>
            <td className="whitespace-nowrap">
              <Link className="text-slate hover:underline" to={`/gifts/${gift.id}`}>
                {date(gift.date)}
              </Link>
            </td>
            <td className="text-right">{money(gift.cents)}</td>
            <td>{gift.fund}</td>
            <td>{gift.appeal}</td>
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
          <td>{data?.sum.count} gifts</td>
          <td className="text-right">{money(data?.sum.cents ?? 0)}</td>
          <td colSpan={3} />
        </tr>
      </tfoot>
    </table>
  );
}

export function Contact({ supporter }: { supporter: Supporter }) {
  const { date } = useFormats();
  const lines: { key: string; what: string; value: string; note: string; bounced: string | null }[] = [
    ...supporter.emails.map((way) => ({
      key: `e${way.id}`,
      what: `E-mail, ${way.label}`,
      value: way.address,
      note: way.preferred ? 'preferred' : '',
      bounced: way.bouncedOn,
    })),
    ...supporter.phones.map((way) => ({
      key: `p${way.id}`,
      what: `Telephone, ${way.label}`,
      value: way.number,
      note: way.preferred ? 'preferred' : '',
      bounced: null,
    })),
    ...supporter.addresses.map((way) => ({
      key: `a${way.id}`,
      what: `Address, ${way.label}`,
      value: [way.street, way.city, [way.region, way.postal].filter(Boolean).join(' '), way.country]
        .filter(Boolean)
        .join(', '),
      note: way.preferred ? 'preferred' : '',
      bounced: null,
    })),
  ];
  if (lines.length === 0)
    return <Empty title="No way to reach them yet">Edit the record to add an e-mail, a telephone or an address.</Empty>;
  return (
    <dl className="grid grid-cols-[10rem_1fr] gap-y-1.5">
      {lines.map((line) => (
        <div key={line.key} className="contents">
          <dt className="text-faded">{line.what}</dt>
          <dd>
            {line.value} {line.note && <span className="text-[13px] text-faded">({line.note})</span>}{' '}
            {line.bounced && <StateWord tone="look">bounced {date(line.bounced)}</StateWord>}
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
  const { data, error } = useQuery({
    queryKey: ['correspondence', id],
    queryFn: ({ signal }) => call(listSupporterDeliveries, { params: { id }, signal }),
  });
  if (error) return <Trouble error={error} />;
  if (data?.items.length === 0)
    return <Empty title="Nothing sent yet">E-mails, letters and receipts to this supporter are listed here.</Empty>;
  return (
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
        {data?.items.map((item) => (
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
              ) : item.mailingId !== null ? (
                <Link className="text-slate hover:underline" to={`/outreach/${item.mailingId}`}>
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
  );
}

export function RecordHistory({ id }: { id: number }) {
  const { moment } = useFormats();
  const mayUndo = useMay('officer');
  const { data, error } = useQuery({
    queryKey: ['history', id],
    queryFn: ({ signal }) => call(listSupporterHistory, { params: { id }, query: { limit: 100 }, signal }),
  });
  const undo = useMutation({
    mutationFn: (revision: number) => call(undoChange, { params: { revision } }),
    onSuccess: () => queries.invalidateQueries(),
    onError: (failed) => toast.error(messageOf(failed), { duration: 12_000 }),
  });
  if (error) return <Trouble error={error} />;
  return (
    <ol aria-label="History" className="space-y-2.5">
      {data?.items.map((item) => (
        <li key={item.revision} className="flex items-start gap-3 border-b border-rule pb-2">
          <div className="min-w-0 flex-1">
            <p className="text-[13px] text-faded">
              {moment(item.at)} · {item.by} · {item.summary}
              {item.undoneBy !== null && <em> (undone)</em>}
            </p>
            {item.lines.map((line, index) => (
              <p key={index}>{line}</p>
            ))}
          </div>
          {item.undoable && mayUndo && (
            <Button look="quiet" disabled={undo.isPending} onClick={() => undo.mutate(item.revision)}>
              Undo
            </Button>
          )}
        </li>
      ))}
    </ol>
  );
}
