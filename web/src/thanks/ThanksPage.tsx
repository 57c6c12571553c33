import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { issueReceipts, listLetters, listUnthanked, printFile, proofReceipts } from '@tallystick/contract/thanks';
import type { ThanksRow } from '@tallystick/contract/thanks';
import { GiftView, giftColumns } from '../gifts/index.ts';
import { ask, call, callFile, keyOf, linkTo, messageOf } from '../ui/api.ts';
import type { Column } from '../ui/table/columns.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import { DataTable } from '../ui/table/DataTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { PeekLayout } from '../ui/PeekLayout.tsx';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePages } from '../ui/usePages.ts';

const idOf = (gift: { id: number }): number => gift.id;
const centsOf = (gift: { cents: number }): number => gift.cents;

export default function ThanksPage() {
  const batch = useListUrl().get('batch');
  return <Thanks key={batch} batchId={batch === '' ? null : Number(batch)} />;
}

/** Gifts that wait for thanks; those of a batch are all selected to begin with. */
function Thanks({ batchId }: { batchId: number | null }) {
  const url = useListUrl();
  const formats = useFormats();
  const mayIssue = useMay(issueReceipts);
  const batch = batchId === null ? {} : { batchId };
  const list = usePages(keyOf(listUnthanked, { query: batch }), (cursor, signal) =>
    call(listUnthanked, { query: { limit: 500, ...batch, ...(cursor ? { cursor } : {}) }, signal }),
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
  const { selection, chosen, clear } = useRowSelection('gift', list.rows, idOf, centsOf, {
    begin: batchId === null ? 'none' : 'all',
  });

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
  if (list.error && list.rows.length === 0) return <Trouble error={list.error} />;
  const many = chosen.length;
  const looked = chosen.filter((gift) => gift.look);
  const word = many === 1 ? 'receipt' : 'receipts';
  return (
    <>
      <Heading
        title="Thanks"
        facts={list.isPending ? 'Counting …' : `${formats.gifts(count)} not yet acknowledged, ${formats.money(cents)}`}
      >
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
        <Button disabled={many === 0 || proof.isPending} onClick={() => proof.mutate()}>
          Proof
        </Button>
        {mayIssue && (
          <Button
            look="main"
            disabled={many === 0 || issue.isPending}
            onClick={() => (looked.length > 0 ? setAsking(true) : issue.mutate(body.giftIds))}
          >
            {many === 0 ? 'Issue receipts' : `Issue ${formats.count(many)} ${word}`}
          </Button>
        )}
      </Heading>
      {asking && (
        <LookFirst
          gifts={looked}
          many={many}
          pending={issue.isPending}
          onIssue={(all) => issue.mutate(chosen.filter((gift) => all || !gift.look).map((gift) => gift.id))}
          onClose={() => setAsking(false)}
        />
      )}
      <PeekLayout
        ids={list.rows.map((gift) => gift.id)}
        openId={url.peek}
        onOpen={(id) => url.set({ peek: id === null ? null : String(id) })}
        hrefOf={(id) => `/gifts/${id}`}
        peek={(id) => <GiftView id={id} />}
        list={
          <DataTable
            name="thanks"
            label="Gifts not yet acknowledged"
            columns={columns}
            rows={list.rows}
            idOf={(gift) => gift.id}
            total={list.total}
            onMore={list.onMore}
            openId={url.peek}
            onPeek={(gift) => url.set({ peek: String(gift.id) })}
            hrefOf={(gift) => `/gifts/${gift.id}`}
            selection={selection}
            loading={list.isPending}
            toolbar={
              <span className="text-faded">
                {batchId !== null && (
                  <>
                    Only batch B-{batchId}, all selected.{' '}
                    <Link className="text-slate hover:underline" to="/thanks">
                      Show everyone to thank
                    </Link>
                    .{' '}
                  </>
                )}
                Select gifts, look at a proof, then issue. A proof changes nothing and takes no number.
              </span>
            }
            empty={
              <Empty title="Everyone is thanked">
                A gift recorded or brought in waits here until its receipt is issued.
              </Empty>
            }
          />
        }
      />
    </>
  );
}

/** Receipts that would be printed though the post cannot bring them, or nobody is there to open them. */
function LookFirst(props: {
  gifts: readonly ThanksRow[];
  many: number;
  pending: boolean;
  onIssue: (all: boolean) => void;
  onClose: () => void;
}) {
  const { gifts, many, pending, onIssue } = props;
  const { count, money } = useFormats();
  const rest = many - gifts.length;
  return (
    <Dialog
      open
      onClose={props.onClose}
      title={`Look at ${count(gifts.length)} of ${count(many)} first`}
      about="They would be printed, though what stands beside them speaks against it. A number once taken stays taken."
    >
      <ul aria-label="To look at" className="max-h-72 overflow-auto border border-rule bg-sheet">
        {gifts.map((gift) => (
          <li key={gift.id} className="flex gap-3 border-b border-rule px-3 py-1 last:border-0">
            <Link className="font-serif text-slate hover:underline" to={`/supporters/${gift.supporterId}`}>
              {gift.supporterName}
            </Link>
            <span className="tabular-nums">{money(gift.cents)}</span>
            <span className="ml-auto text-faded">{gift.because}</span>
          </li>
        ))}
      </ul>
      <DialogActions>
        <Button disabled={pending} onClick={() => onIssue(true)}>
          Issue all {count(many)}
        </Button>
        <Button look="main" disabled={pending || rest === 0} onClick={() => onIssue(false)}>
          Leave them out, issue {count(rest)}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
