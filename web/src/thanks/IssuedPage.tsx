import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { listReceipts, listRuns, printFile, receiptPdf, voidReceipt } from '@tallystick/contract/thanks';
import type { Receipt } from '@tallystick/contract/thanks';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { call, linkTo } from '../ui/api.ts';
import { Button, Empty, StateWord } from '../ui/controls.tsx';
import { FindInput } from '../ui/FindInput.tsx';
import { DeliveryState } from '../ui/DeliveryState.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import { EntryDialog, said, TextField, useEntry } from '../ui/form/index.ts';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { ResumeSending } from '../ui/ResumeSending.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { TabPanel, Tabs } from '../ui/tabs.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePagesOf } from '../ui/usePages.ts';

type IssueRun = ResponseOf<typeof listRuns>['items'][number];

const LISTS = { receipts: 'Receipts', issues: 'Issues' };

/** What was issued: every receipt by its number, and the issues that they went out with. */
export default function IssuedPage() {
  const url = useListUrl();
  const list = url.get('list') === 'issues' ? 'issues' : 'receipts';
  return (
    <Tabs
      label="What was issued"
      tabs={LISTS}
      value={list}
      onChange={(next) => url.set({ list: next === 'issues' ? next : null })}
    >
      <TabPanel value={list} className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
        {list === 'issues' ? <Issues /> : <Receipts />}
      </TabPanel>
    </Tabs>
  );
}

function Receipts() {
  const url = useListUrl();
  const { date, counted } = useFormats();
  const mayVoid = useMay(voidReceipt);
  const [voiding, setVoiding] = useState<Receipt | null>(null);
  const [number, state, run] = [url.get('number'), url.get('state'), url.get('run')];
  const list = usePagesOf(listReceipts, {
    query: { ...(number ? { number } : {}), ...(state ? { state } : {}), ...(run ? { runId: run } : {}) },
  });
  const columns = useMemo(
    (): Column<Receipt>[] => [
      {
        ...{ id: 'number', title: 'Number', width: 130 },
        cell: (receipt) => (
          <a
            className="text-slate hover:underline"
            href={linkTo(receiptPdf, { id: receipt.id })}
            target="_blank"
            rel="noreferrer"
          >
            {receipt.number}
          </a>
        ),
      },
      { id: 'on', title: 'Issued', width: 130, align: 'right', cell: (receipt) => date(receipt.issuedOn) },
      {
        ...{ id: 'from', title: 'Received from', width: 260, grow: true },
        cell: (receipt) => (
          <Link className="font-serif text-[15px] hover:underline" to={`/supporters/${receipt.supporterId}`}>
            {receipt.from}
          </Link>
        ),
      },
      {
        ...{ id: 'given', title: 'For', width: 190, align: 'right' },
        cell: (receipt) => (
          <Link className="text-slate hover:underline" to={`/gifts/${receipt.giftId}`}>
            {receipt.given}
          </Link>
        ),
      },
      {
        ...{ id: 'sent', title: 'Sent', width: 170 },
        cell: (receipt) => receipt.delivery !== '' && <DeliveryState state={receipt.delivery} />,
      },
      {
        ...{ id: 'state', title: 'State', width: 280 },
        cell: (receipt) =>
          receipt.voidedOn === null ? (
            <StateWord tone="settled">valid</StateWord>
          ) : (
            <span title={receipt.voidReason}>
              <StateWord tone="wrong">void {date(receipt.voidedOn)}</StateWord>{' '}
              <span className="text-faded">{receipt.voidReason}</span>
            </span>
          ),
      },
      {
        ...{ id: 'acts', title: '', width: 90 },
        cell: (receipt) =>
          mayVoid &&
          receipt.voidedOn === null && (
            <Button
              look="quiet"
              className="h-7 px-2"
              aria-label={`Void ${receipt.number}`}
              onClick={() => setVoiding(receipt)}
            >
              Void
            </Button>
          ),
      },
    ],
    [date, mayVoid],
  );
  const narrowed = number !== '' || state !== '' || run !== '';
  return (
    <ListPage
      title="Receipts issued"
      facts={`${counted(list.total, 'receipt')}; every number once, with no gaps`}
      name="receipts"
      label="Receipts"
      columns={columns}
      list={list}
      filters={
        <Filters
          url={url}
          filters={[
            {
              ...{ kind: 'choice', label: 'State', name: 'state', always: true },
              options: [
                { value: 'valid', label: 'Valid' },
                { value: 'void', label: 'Void' },
              ],
            },
          ]}
        >
          <FindInput
            className="h-7 w-44"
            label="Number begins with"
            placeholder="Number begins with …"
            value={number}
            takes={(typed) => typed.replace(/[^\d-]/g, '').slice(0, 20)}
            onChange={(next) => url.set({ number: next })}
          />
          {run !== '' && (
            <Button look="quiet" className="h-7" onClick={() => url.set({ run: null })}>
              Of one issue: show all
            </Button>
          )}
        </Filters>
      }
      empty={
        narrowed ? (
          <Empty title="No such receipt">Choose another state or number above.</Empty>
        ) : (
          <Empty title="None issued yet">Issue receipts under Thanks; each is listed here with its number.</Empty>
        )
      }
    >
      {voiding && <VoidDialog receipt={voiding} onClose={() => setVoiding(null)} />}
    </ListPage>
  );
}

/** Says what voiding does before it does it, and asks why. */
function VoidDialog({ receipt, onClose }: { receipt: Receipt; onClose: () => void }) {
  const entry = useEntry({
    schema: z.object({ reason: said('Say why it is void.') }),
    initial: { reason: '' },
    send: (body) => call(voidReceipt, { params: { id: receipt.id }, body }),
    say: (done) => `Receipt ${done.number} is void`,
    then: onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`Void receipt ${receipt.number}`}
      word={`Void ${receipt.number}`}
    >
      <p className="text-faded">
        The receipt of {receipt.from} for {receipt.given} keeps its number and its words and is marked as void. Its gift
        waits under Thanks for a new one, if anything is left of it.
      </p>
      <TextField entry={entry} name="reason" label="Why" autoFocus />
    </EntryDialog>
  );
}

function Issues() {
  const { moment, count, counted } = useFormats();
  const list = usePagesOf(listRuns);
  const columns = useMemo(
    (): Column<IssueRun>[] => [
      {
        ...{ id: 'numbers', title: 'Numbers', width: 224 },
        cell: (run) => (
          <Link className="font-serif text-[15px] hover:underline" to={`/thanks/issued?run=${run.id}`}>
            {run.first === run.last ? run.first : `${run.first} to ${run.last}`}
          </Link>
        ),
      },
      { id: 'at', title: 'When', width: 180, by: (run) => run.at, cell: (run) => moment(run.at) },
      wordsOf('by', 'By', 120, (run) => run.by),
      wordsOf('letter', 'Letter', 130, (run) => run.letter),
      figures('count', 'Receipts', 80, (run) => run.count, count),
      figures('reached', 'Reached', 80, (run) => run.reached, count),
      {
        ...{ id: 'waiting', title: 'Waiting', width: 186, align: 'right', by: (run) => run.waiting },
        cell: (run) => (
          <>
            {count(run.waiting)} {run.stopped && <ResumeSending kind="receipt" id={run.id} />}
          </>
        ),
      },
      {
        ...{ id: 'notReached', title: 'Not reached', width: 98, align: 'right', by: (run) => run.notReached },
        cell: (run) => (run.notReached > 0 ? <StateWord tone="wrong">{count(run.notReached)}</StateWord> : '–'),
      },
      {
        ...{ id: 'printed', title: 'By post', width: 126, align: 'right', by: (run) => run.printed },
        cell: (run) =>
          run.printed > 0 ? (
            <a
              className="text-slate hover:underline"
              target="_blank"
              rel="noreferrer"
              href={linkTo(printFile, { id: run.id })}
            >
              print file, {count(run.printed)}
            </a>
          ) : (
            '–'
          ),
      },
    ],
    [moment, count],
  );
  return (
    <ListPage
      title="Receipts issued"
      facts={counted(list.total, 'issue')}
      name="runs"
      label="Issues of receipts"
      columns={columns}
      list={list}
      empty={
        <Empty title="None issued yet">
          Issue receipts under Thanks; each issue is listed here with its numbers and its print file.
        </Empty>
      }
    />
  );
}
