import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import {
  issueReceipts,
  listLetters,
  listUnthanked,
  MOST_RECEIPTS,
  printFile,
  proofReceipts,
} from '@tallystick/contract/thanks';
import type { ThanksRow } from '@tallystick/contract/thanks';
import { GiftView, giftColumns } from '../gifts/index.ts';
import { ask, call, callFile, keyOf, linkTo, messageOf } from '../ui/api.ts';
import type { Column } from '../ui/table/columns.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, StateWord } from '../ui/controls.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages, useReadTo } from '../ui/usePages.ts';
import { IssueDialog } from './IssueDialog.tsx';

const idOf = (gift: { id: number }): number => gift.id;
const centsOf = (gift: { cents: number }): number => gift.cents;

export default function ThanksPage() {
  const batch = useListUrl().get('batch');
  return <Thanks key={batch} batchId={batch === '' ? null : Number(batch)} />;
}

const AT_ONCE = 500;

/** Gifts that wait for thanks; those of a batch are all selected to begin with. */
function Thanks({ batchId }: { batchId: number | null }) {
  const url = useListUrl();
  const formats = useFormats();
  const mayIssue = useMay(issueReceipts);
  const batch = batchId === null ? {} : { batchId };
  const list = usePages(keyOf(listUnthanked, { query: batch }), (place, signal) =>
    call(listUnthanked, { query: { ...batch, ...place, limit: AT_ONCE }, signal }),
  );
  const letters = useQuery(ask(listLetters));
  const [letter, setLetter] = useState<number | null>(null);
  const letterId =
    letter ?? letters.data?.items.find((one) => /receipt/i.test(one.name))?.id ?? letters.data?.items[0]?.id ?? 0;
  const key = useRef(crypto.randomUUID());
  const { count = 0, cents = 0 } = list.first?.sum ?? {};
  const columns = useMemo((): Column<ThanksRow>[] => {
    const shared = giftColumns<ThanksRow>(formats, { count: formats.gifts(count), cents })
      .filter((column) => column.id !== 'thanked')
      .map(({ sort: _sort, ...column }) => column);
    const channel: Column<ThanksRow> = {
      id: 'channel',
      title: 'Receipt goes',
      width: 290,
      cell: (gift) =>
        gift.channel === 'email' ? (
          `by e-mail to ${gift.address}`
        ) : gift.channel === 'held' ? (
          <StateWord tone="look">held back: {gift.because}</StateWord>
        ) : (
          <StateWord tone={gift.look ? 'wrong' : 'plain'}>by post: {gift.because}</StateWord>
        ),
    };
    return [...shared.slice(0, 4), channel, ...shared.slice(4)];
  }, [formats, count, cents]);
  const {
    selection,
    chosen: selected,
    everyone,
    clear,
  } = useRowSelection('gift', list.rows, idOf, centsOf, { begin: batchId === null ? 'none' : 'all' });
  // All of a batch are receipted only when all of it is here.
  const wanted = everyone ? Math.min(count, MOST_RECEIPTS) : 0;
  const isRead = useReadTo(list, wanted);
  const chosen = selected.slice(0, MOST_RECEIPTS);

  const [asking, setAsking] = useState(false);
  const body = { letterId, giftIds: chosen.map((gift) => gift.id) };
  const proof = useMutation({
    mutationFn: () => callFile(proofReceipts, { body }),
    onSuccess: (pdf) => void window.open(URL.createObjectURL(pdf), '_blank'),
    onError: (error) => toast.error(messageOf(error)),
  });
  const issue = useMutation({
    mutationFn: (giftIds: number[]) => call(issueReceipts, { body: { letterId, giftIds }, key: key.current }),
    onSuccess: (made) => {
      key.current = crypto.randomUUID();
      setAsking(false);
      clear();
      const numbers = made.first === made.last ? made.first : `${made.first} to ${made.last}`;
      toast.success(`Issued ${numbers}: ${made.emailed} by e-mail, ${made.printed} to print`, {
        duration: 12_000,
        ...(made.printed > 0
          ? {
              action: {
                label: 'Open print file',
                onClick: () => void window.open(linkTo(printFile, { id: made.runId })),
              },
            }
          : {}),
      });
    },
    onError: (error) => toast.error(messageOf(error), { duration: 12_000 }),
  });
  const many = isRead ? chosen.length : 0;
  return (
    <ListPage
      title="Thanks"
      facts={`${formats.gifts(count)} not yet acknowledged, ${formats.money(cents)}`}
      acts={
        <>
          <Link className="text-slate hover:underline" to="/thanks/issued">
            Issued
          </Link>
          <Link className="mr-2 text-slate hover:underline" to="/thanks/letters">
            Letters
          </Link>
          <Choice
            aria-label="Letter"
            className="w-auto min-w-56"
            value={letterId}
            onChange={(picked) => setLetter(Number(picked))}
            options={letters.data?.items.map((one) => ({ value: one.id, label: one.name })) ?? []}
          />
          <Button disabled={many === 0} busy={proof.isPending} onClick={() => proof.mutate()}>
            Proof
          </Button>
          {mayIssue && (
            <Button look="main" disabled={many === 0} onClick={() => setAsking(true)}>
              {many === 0 ? 'Issue receipts' : `Issue ${formats.counted(many, 'receipt')}`}
            </Button>
          )}
        </>
      }
      name="thanks"
      label="Gifts not yet acknowledged"
      columns={columns}
      list={list}
      selection={selection}
      filters={
        <>
          {batchId !== null && (
            <Filters
              url={url}
              filters={[{ kind: 'given', label: 'Batch', names: ['batch'], says: `Only batch B-${batchId}` }]}
            />
          )}
          <span className="text-faded">
            {!everyone || selection.state !== 'all'
              ? 'Select gifts, look at a proof, then issue. A proof changes nothing and takes no number.'
              : !isRead
                ? `Reading ${formats.count(list.rows.length)} of ${formats.counted(wanted, 'gift')} …`
                : wanted < count
                  ? `The first ${formats.count(wanted)} are selected, as many as are issued at once.`
                  : 'All selected. A proof changes nothing and takes no number.'}
          </span>
        </>
      }
      hrefOf={(id) => `/gifts/${id}`}
      peek={(id) => <GiftView id={id} />}
      empty={
        <Empty title="Everyone is thanked">A gift recorded or brought in waits here until its receipt is issued.</Empty>
      }
    >
      {asking && (
        <IssueDialog
          gifts={chosen}
          busy={issue.isPending}
          onIssue={(gifts) => issue.mutate(gifts.map((gift) => gift.id))}
          onClose={() => setAsking(false)}
        />
      )}
    </ListPage>
  );
}
