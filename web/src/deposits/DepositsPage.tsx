import { useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { isBanked, PAYMENT_METHODS } from '@tallystick/core/gifts';
import { typedMoney } from '@tallystick/core/money';
import { counted } from '@tallystick/core/words';
import { balanceBatch, depositSlip, listBatches, listDeposits, makeDeposit } from '@tallystick/contract/deposits';
import type { Batch, Deposit as DepositRow } from '@tallystick/contract/deposits';
import { GiftAreaNav } from '../gifts/index.ts';
import { call, linkTo } from '../ui/api.ts';
import { Checkbox } from '../ui/checks.tsx';
import { Button, Empty, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import {
  AmountField,
  DayField,
  EntryDialog,
  orNone,
  readInto,
  said,
  TextField,
  typedAmount,
  typedCount,
  typedDay,
  useEntry,
} from '../ui/form/index.ts';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { More } from '../ui/More.tsx';
import { usePagesOf } from '../ui/usePages.ts';
import { useWrite } from '../ui/useWrite.ts';

const TONES = { open: 'look', balanced: 'settled', posted: 'plain' } as const;
const SOURCES = { hand: 'by hand', sheet: 'entry sheet', intake: 'intake', portal: 'portal', till: 'till' };

const toBank = (batches: readonly Batch[]): number =>
  batches
    .flatMap((batch) => batch.byMethod)
    .filter((sum) => isBanked(sum.method))
    .reduce((total, sum) => total + sum.cents - sum.feeCents, 0);
const depositable = (batch: Batch): boolean => batch.state === 'balanced' && !batch.changed;

/** What came in and is not at the bank yet, and what was taken there. */
export default function DepositsPage() {
  const { money, date, count } = useFormats();
  const mayEnter = useMay(balanceBatch);
  const mayDeposit = useMay(makeDeposit);
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [balancing, setBalancing] = useState<Batch | null>(null);
  const [depositing, setDepositing] = useState(false);
  const batches = usePagesOf(listBatches, { query: { limit: 1000 } });
  const deposits = usePagesOf(listDeposits, { query: { limit: 50 } });
  const open = useWrite((batch: Batch) =>
    call(balanceBatch, { params: { id: batch.id }, body: { version: batch.version, open: true } }),
  );
  if (batches.error) return <Trouble error={batches.error} />;
  const items = batches.rows;
  const balanced = items.filter(depositable);
  const ticked = balanced.filter((batch) => chosen.includes(batch.id));
  /** What a deposit would gather: the ticked ones, or where none is, all that are balanced. */
  const ready = ticked.length > 0 ? ticked : balanced;
  const methods = (sums: Batch['byMethod']): string =>
    sums.map((sum) => `${PAYMENT_METHODS[sum.method]} ${money(sum.cents)}`).join(', ');
  const batchColumns: Column<Batch>[] = [
    {
      ...{ id: 'batch', title: 'Batch', width: 290, by: (batch) => batch.number },
      cell: (batch) => (
        <span className="flex items-center gap-2">
          {depositable(batch) && mayDeposit && (
            <Checkbox
              label={<span className="sr-only">Deposit {batch.number}</span>}
              checked={chosen.includes(batch.id)}
              onChange={(on) => setChosen((old) => (on ? [...old, batch.id] : old.filter((id) => id !== batch.id)))}
            />
          )}
          <Link className="truncate text-slate hover:underline" to={`/gifts?batch=${batch.id}`}>
            {batch.number} {batch.name}
          </Link>
        </span>
      ),
    },
    wordsOf('from', 'From', 120, (one) => SOURCES[one.source]),
    { id: 'opened', title: 'Opened', width: 116, by: (one) => one.openedOn, cell: (one) => date(one.openedOn) },
    figures('gifts', 'Gifts', 64, (one) => one.count, count),
    figures('amount', 'Amount', 116, (one) => one.cents, money),
    { ...{ id: 'methods', title: 'By payment method', width: 220, grow: true }, cell: (one) => methods(one.byMethod) },
    figures('expected', 'Expected', 110, (one) => one.expectedCents, money),
    {
      ...{ id: 'state', title: 'State', width: 160, by: (one) => (one.changed ? 'changed' : one.state) },
      cell: (batch) => (
        <span title={batch.reason}>
          {batch.changed ? (
            <StateWord tone="wrong">changed since balanced</StateWord>
          ) : (
            <StateWord tone={TONES[batch.state]}>{batch.state}</StateWord>
          )}
          {batch.reason && <span className="ml-1 text-[13px] text-faded">{batch.reason}</span>}
        </span>
      ),
    },
    {
      ...{ id: 'acts', title: '', width: 120 },
      cell: (batch) =>
        mayEnter && (batch.state === 'open' || batch.changed) ? (
          <Button
            look="quiet"
            className="h-7 px-2"
            aria-label={`Balance ${batch.number}`}
            onClick={() => setBalancing(batch)}
          >
            Balance
          </Button>
        ) : mayEnter && batch.state === 'balanced' ? (
          <Button
            look="quiet"
            className="h-7 px-2"
            aria-label={`Open again ${batch.number}`}
            onClick={() => open.mutate(batch)}
          >
            Open again
          </Button>
        ) : null,
    },
  ];
  const depositColumns: Column<DepositRow>[] = [
    {
      ...{ id: 'deposit', title: 'Deposit', width: 220, by: (one) => one.number },
      cell: (one) => `${one.number} ${one.name}`,
    },
    { id: 'date', title: 'Date', width: 116, by: (one) => one.date, cell: (one) => date(one.date) },
    {
      ...{ id: 'batches', title: 'Batches', width: 160 },
      cell: (one) =>
        one.batches.map((batch, place) => (
          <span key={batch.id}>
            {place > 0 && ', '}
            <Link className="text-slate hover:underline" title={batch.name} to={`/gifts?batch=${batch.id}`}>
              {batch.number}
            </Link>
          </span>
        )),
    },
    figures('gifts', 'Gifts', 70, (one) => one.count, count),
    figures('bank', 'To the bank', 124, (one) => one.bankCents, money),
    { id: 'methods', title: 'By payment method', width: 260, grow: true, cell: (one) => methods(one.byMethod) },
    wordsOf('by', 'Made by', 140, (one) => one.by),
    {
      ...{ id: 'slip', title: 'Slip', width: 90 },
      cell: (one) => (
        <a
          className="text-slate hover:underline"
          aria-label={`Slip of ${one.number}`}
          href={linkTo(depositSlip, { id: one.id })}
          target="_blank"
          rel="noreferrer"
        >
          Slip
        </a>
      ),
    },
  ];
  const sum = (list: readonly { cents: number }[]): number => list.reduce((total, one) => total + one.cents, 0);
  return (
    <>
      <GiftAreaNav />
      <Heading
        title="Batches and deposits"
        facts={`${counted(batches.total, 'batch', 'batches')} not deposited${items.length < batches.total ? '' : `, ${money(sum(items))}`}`}
      >
        {mayDeposit && (
          <Button look="main" disabled={ready.length === 0} onClick={() => setDepositing(true)}>
            {ready.length === 0
              ? 'Deposit balanced batches'
              : `Deposit ${ticked.length === 0 ? 'all ' : ''}${counted(ready.length, 'batch', 'batches')}, ${money(toBank(ready))}`}
          </Button>
        )}
      </Heading>
      <div className="overflow-auto">
        <h2 className="px-5 pt-3 pb-1 text-lg">Not deposited yet</h2>
        {items.length === 0 && !batches.isPending ? (
          <Empty title="No batch waits">
            Gifts land in batches as they are recorded, posted from sheets, brought in or charged.
          </Empty>
        ) : (
          <ShortTable name="batches" label="Batches" columns={batchColumns} rows={items} total={batches.total} />
        )}
        <More list={batches} step={1000} />
        <h2 className="px-5 pt-5 pb-1 text-lg">Deposits</h2>
        {deposits.first && deposits.total === 0 ? (
          <Empty title="No deposit yet">Tick balanced batches above and deposit them; the slip is a PDF.</Empty>
        ) : (
          <ShortTable
            name="deposits"
            label="Deposits"
            columns={depositColumns}
            rows={deposits.rows}
            total={deposits.total}
          />
        )}
        <More list={deposits} step={50} />
      </div>
      {balancing && <Balance batch={balancing} onClose={() => setBalancing(null)} />}
      {depositing && (
        <Deposit
          batches={ready}
          onClose={() => {
            setDepositing(false);
            setChosen([]);
          }}
        />
      )}
    </>
  );
}

function Balance({ batch, onClose }: { batch: Batch; onClose: () => void }) {
  const { money, gifts } = useFormats();
  const [differs, setDiffers] = useState(false);
  const entry = useEntry({
    schema: readInto(
      z
        .object({
          expectedCount: orNone(typedCount('The number of gifts is a whole number.'), null),
          expectedCents: orNone(typedAmount, null),
          reason: z.string(),
        })
        .transform((typed) => ({ ...typed, version: batch.version })),
      balanceBatch.body,
    ),
    initial: {
      expectedCount: batch.expectedCount === null ? '' : String(batch.expectedCount),
      expectedCents: batch.expectedCents === null ? '' : typedMoney(batch.expectedCents),
      reason: '',
    },
    send: (body) => call(balanceBatch, { params: { id: batch.id }, body }),
    say: () => `${batch.number} is balanced`,
    then: onClose,
    refused: (error) => {
      if (error.code !== 'not-balanced') return null;
      setDiffers(true);
      return error.message;
    },
  });
  return (
    <EntryDialog entry={entry} onClose={onClose} title={`Balance ${batch.number} ${batch.name}`} word="Balanced">
      <p>
        In it: {gifts(batch.count)}, {money(batch.cents)}. What does your own count say?
      </p>
      <div className="grid grid-cols-2 gap-3">
        <TextField entry={entry} name="expectedCount" label="Number of gifts" autoFocus />
        <AmountField entry={entry} name="expectedCents" label="Amount" />
        {differs && <TextField entry={entry} name="reason" label="Why it differs" className="col-span-2" autoFocus />}
      </div>
    </EntryDialog>
  );
}

function Deposit({ batches, onClose }: { batches: readonly Batch[]; onClose: () => void }) {
  const { organization } = useHere();
  const entry = useEntry({
    schema: readInto(
      z
        .object({ name: said('Give it a name.'), date: typedDay })
        .transform((typed) => ({ ...typed, batchIds: batches.map((batch) => batch.id) })),
      makeDeposit.body,
    ),
    initial: { name: 'Deposit', date: organization.today as string },
    send: (body) => call(makeDeposit, { body }),
    say: () => 'Deposited; the slip is in the list',
    then: onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`Deposit ${counted(batches.length, 'batch', 'batches')}`}
      word="Deposit"
    >
      <p className="text-faded">{batches.map((batch) => batch.number).join(', ')}</p>
      <div className="grid grid-cols-[1fr_10rem] gap-3">
        <TextField entry={entry} name="name" label="Name" autoFocus />
        <DayField entry={entry} name="date" label="Date" />
      </div>
    </EntryDialog>
  );
}
