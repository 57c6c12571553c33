import { useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { isBanked, PAYMENT_METHODS } from '@tallystick/core/gifts';
import { typedMoney } from '@tallystick/core/money';
import { counted } from '@tallystick/core/words';
import { balanceBatch, depositSlip, listBatches, listDeposits, makeDeposit } from '@tallystick/contract/deposits';
import type { Batch } from '@tallystick/contract/deposits';
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
import { ListTable } from '../ui/ListTable.tsx';
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
          <ListTable
            label="Batches"
            headings={['', 'Batch', 'From', 'Opened', 'Gifts', 'Amount', 'By payment method', 'Expected', 'State', '']}
            rightAligned={[4, 5, 7, 9]}
            rows={items.map((batch) => ({
              id: batch.id,
              cells: [
                depositable(batch) && mayDeposit ? (
                  <Checkbox
                    label={<span className="sr-only">Deposit {batch.number}</span>}
                    checked={chosen.includes(batch.id)}
                    onChange={(on) =>
                      setChosen((old) => (on ? [...old, batch.id] : old.filter((id) => id !== batch.id)))
                    }
                  />
                ) : null,
                <Link
                  key="name"
                  className="whitespace-nowrap text-slate hover:underline"
                  to={`/gifts?batch=${batch.id}`}
                >
                  {batch.number} {batch.name}
                </Link>,
                <span key="from" className="whitespace-nowrap">
                  {SOURCES[batch.source]}
                </span>,
                <span key="opened" className="whitespace-nowrap">
                  {date(batch.openedOn)}
                </span>,
                count(batch.count),
                money(batch.cents),
                <span key="methods" className="text-[13px] text-faded">
                  {methods(batch.byMethod)}
                </span>,
                batch.expectedCents === null ? '' : money(batch.expectedCents),
                <span key="state" title={batch.reason}>
                  {batch.changed ? (
                    <StateWord tone="wrong">changed since balanced</StateWord>
                  ) : (
                    <StateWord tone={TONES[batch.state]}>{batch.state}</StateWord>
                  )}
                  {batch.reason && <span className="ml-1 text-[13px] text-faded">{batch.reason}</span>}
                </span>,
                mayEnter && (batch.state === 'open' || batch.changed) ? (
                  <Button look="quiet" className="h-7 px-2" onClick={() => setBalancing(batch)}>
                    Balance
                  </Button>
                ) : mayEnter && batch.state === 'balanced' ? (
                  <Button look="quiet" className="h-7 px-2" onClick={() => open.mutate(batch)}>
                    Open again
                  </Button>
                ) : null,
              ],
            }))}
          />
        )}
        <More list={batches} step={1000} />
        <h2 className="px-5 pt-5 pb-1 text-lg">Deposits</h2>
        {deposits.first && deposits.total === 0 ? (
          <Empty title="No deposit yet">Tick balanced batches above and deposit them; the slip is a PDF.</Empty>
        ) : (
          <ListTable
            label="Deposits"
            headings={['Deposit', 'Date', 'Batches', 'Gifts', 'To the bank', 'By payment method', 'Made by', '']}
            rightAligned={[3, 4, 7]}
            rows={deposits.rows.map((deposit) => ({
              id: deposit.id,
              cells: [
                `${deposit.number} ${deposit.name}`,
                date(deposit.date),
                <span key="batches">
                  {deposit.batches.map((batch, place) => (
                    <span key={batch.id}>
                      {place > 0 && ', '}
                      <Link className="text-slate hover:underline" title={batch.name} to={`/gifts?batch=${batch.id}`}>
                        {batch.number}
                      </Link>
                    </span>
                  ))}
                </span>,
                count(deposit.count),
                money(deposit.bankCents),
                <span key="methods" className="text-[13px] text-faded">
                  {methods(deposit.byMethod)}
                </span>,
                deposit.by,
                <a
                  key="slip"
                  className="text-slate hover:underline"
                  href={linkTo(depositSlip, { id: deposit.id })}
                  target="_blank"
                  rel="noreferrer"
                >
                  Slip
                </a>,
              ],
            }))}
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
