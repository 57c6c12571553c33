import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { z } from 'zod';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { ACCOUNTS_FOR, NO_ACCOUNT } from '@tallystick/core/ledger';
import type { AccountRule, AccountsFor } from '@tallystick/core/ledger';
import { counted } from '@tallystick/core/words';
import { closePeriod, exportLedger, getLedger, listAccounts, setAccounts } from '@tallystick/contract/deposits';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { GiftAreaNav } from '../gifts/index.ts';
import { ask, call, linkTo } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Heading, IconButton, Input, StateWord, Trouble } from '../ui/controls.tsx';
import { SpanField } from '../ui/dates/SpanField.tsx';
import { DayField, EntryDialog, typedDay, useEntry } from '../ui/form/index.ts';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useListUrl } from '../ui/useListUrl.ts';

type Line = ResponseOf<typeof getLedger>['lines'][number] & { id: number };

/** What was booked, as the bookkeeper takes it over; the accounts; and closing what is over. */
export default function LedgerPage() {
  const url = useListUrl();
  const { organization } = useHere();
  const { money, date } = useFormats();
  const mayExport = useMay(exportLedger);
  const mayAdmin = useMay(closePeriod);
  const [doing, setDoing] = useState<'accounts' | 'close' | null>(null);
  const from = url.get('from') || `${organization.today.slice(0, 7)}-01`;
  const to = url.get('to') || organization.today;
  const { data, error } = useQuery({ ...ask(getLedger, { query: { from, to } }), placeholderData: keepPreviousData });
  const amount = (cents: number): string => (cents > 0 ? money(cents) : '');
  const columns: Column<Line>[] = [
    { id: 'date', title: 'Date', width: 130, by: (line) => line.date, cell: (line) => date(line.date) },
    { ...wordsOf('account', 'Account', 260, (line) => line.account), grow: true },
    wordsOf('fund', 'Fund', 260, (line) => line.fund),
    { ...figures('debit', 'Debit', 150, (line) => line.debit, amount), footer: data && money(data.debit) },
    { ...figures('credit', 'Credit', 150, (line) => line.credit, amount), footer: data && money(data.credit) },
  ];
  if (error) return <Trouble error={error} />;
  const missing = data?.lines.some((line) => line.account === NO_ACCOUNT.debit || line.account === NO_ACCOUNT.credit);
  return (
    <>
      <GiftAreaNav />
      <Heading
        title="Ledger"
        facts={
          data
            ? `${counted(data.lines.length, 'line')}, debits ${money(data.debit)}, credits ${money(data.credit)}; books ${data.closedThrough ? `closed through ${date(data.closedThrough)}` : 'open'}`
            : 'Adding up …'
        }
      >
        {mayAdmin && <Button onClick={() => setDoing('close')}>Close a period</Button>}
        {mayAdmin && <Button onClick={() => setDoing('accounts')}>Accounts</Button>}
        {mayExport && (
          <a
            className="inline-flex h-8 items-center rounded border border-slate bg-slate px-3 text-sm font-medium text-on-slate"
            href={linkTo(exportLedger, {}, { from, to })}
            download
          >
            Export CSV
          </a>
        )}
      </Heading>
      <div className="flex items-center gap-2 px-5 py-2">
        <SpanField label="When" prefix="Booked:" value={{ from, to }} onChange={(span) => url.set({ ...span })} />
        {missing && (
          <StateWord tone="look">Some lines have no account yet; an administrator sets them under Accounts</StateWord>
        )}
        {data && data.notBooked.length > 0 && (
          <span className="text-faded">
            Not in the ledger, since no account is set for it:{' '}
            {data.notBooked.map((what) => ACCOUNTS_FOR[what].word.toLowerCase()).join(', ')}
          </span>
        )}
      </div>
      {data?.lines.length === 0 ? (
        <Empty title="Nothing was booked in these days">Choose other days above.</Empty>
      ) : (
        <div className="min-h-0 overflow-auto border-t border-rule">
          <ShortTable
            name="ledger"
            label="Ledger"
            columns={columns}
            rows={(data?.lines ?? []).map((line, id) => ({ ...line, id }))}
          />
        </div>
      )}
      {doing === 'accounts' && <Accounts onClose={() => setDoing(null)} />}
      {doing === 'close' && <Close through={data?.closedThrough ?? null} onClose={() => setDoing(null)} />}
    </>
  );
}

const FRESH: AccountRule = { what: 'gift', fundId: null, method: null, debit: '', credit: '' };

function Accounts({ onClose }: { onClose: () => void }) {
  const { data } = useQuery(ask(listAccounts));
  if (!data) return null;
  return <AccountRules first={data.items.length > 0 ? data.items : [FRESH]} onClose={onClose} />;
}

const COLUMNS = 'grid-cols-[9.5rem_1fr_8rem_1.1fr_1.1fr_1.75rem]';

function AccountRules({ first, onClose }: { first: readonly AccountRule[]; onClose: () => void }) {
  const { funds } = useChoices();
  const entry = useEntry({
    schema: z.object({ rules: z.custom<readonly AccountRule[]>() }),
    initial: { rules: first },
    send: ({ rules }) => call(setAccounts, { body: { items: [...rules] } }),
    say: () => 'The accounts are set; the ledger shows them at once',
    then: onClose,
  });
  const { rules } = entry.typed;
  const put = (place: number, rule: Partial<AccountRule>): void =>
    entry.put({ rules: rules.map((one, index) => (index === place ? { ...one, ...rule } : one)) });
  return (
    <EntryDialog entry={entry} onClose={onClose} title="Accounts" size="wide" word="Set accounts">
      <p className="mb-2 text-faded">
        Each side of a gift is booked to the closest row that names it: fund and method, then fund, then method, then
        all. Pledges, sales of stock and processor fees are in the ledger once a row is set for them.
      </p>
      <div className={`grid ${COLUMNS} gap-2 text-[13px] text-faded`}>
        <span>For</span>
        <span>Fund</span>
        <span>Paid by</span>
        <span>Debit</span>
        <span>Credit</span>
      </div>
      {rules.map((rule, place) => (
        <div key={place} className={`mb-1.5 grid ${COLUMNS} gap-2`}>
          <Choice
            aria-label={`For, row ${place + 1}`}
            value={rule.what}
            onChange={(picked) => {
              const what = picked as AccountsFor;
              put(place, {
                what,
                ...(what === 'gift' ? {} : { method: null }),
                ...(ACCOUNTS_FOR[what].credit === '' ? { credit: '' } : {}),
              });
            }}
            options={Object.entries(ACCOUNTS_FOR).map(([what, { word }]) => ({ value: what, label: word }))}
          />
          <Choice
            aria-label={`Fund, row ${place + 1}`}
            value={rule.fundId ?? ''}
            onChange={(picked) => put(place, { fundId: picked === '' ? null : Number(picked) })}
            options={[{ value: '', label: 'Any fund' }, ...funds.map((fund) => ({ value: fund.id, label: fund.name }))]}
          />
          <Choice
            aria-label={`Paid by, row ${place + 1}`}
            disabled={rule.what !== 'gift'}
            value={rule.method ?? ''}
            onChange={(picked) => put(place, { method: picked === '' ? null : (picked as PaymentMethod) })}
            options={[
              { value: '', label: 'Any method' },
              ...Object.entries(PAYMENT_METHODS).map(([method, word]) => ({ value: method, label: word })),
            ]}
          />
          <Input
            aria-label={`Debit, row ${place + 1}`}
            placeholder={ACCOUNTS_FOR[rule.what].debit}
            value={rule.debit}
            onChange={(event) => put(place, { debit: event.target.value })}
          />
          <Input
            aria-label={`Credit, row ${place + 1}`}
            placeholder={ACCOUNTS_FOR[rule.what].credit}
            disabled={ACCOUNTS_FOR[rule.what].credit === ''}
            value={rule.credit}
            onChange={(event) => put(place, { credit: event.target.value })}
          />
          <IconButton
            label={`Remove row ${place + 1}`}
            onClick={() => entry.put({ rules: rules.filter((_, index) => index !== place) })}
          >
            <X size={14} />
          </IconButton>
        </div>
      ))}
      <Button look="quiet" onClick={() => entry.put({ rules: [...rules, FRESH] })}>
        Another row
      </Button>
    </EntryDialog>
  );
}

function Close({ through, onClose }: { through: string | null; onClose: () => void }) {
  const { date } = useFormats();
  const entry = useEntry({
    schema: z.object({ through: typedDay }),
    initial: { through: through ?? '' },
    send: (body, open: boolean) => call(closePeriod, { body: open ? { through: null } : body }),
    say: () => 'Done; what is recorded or corrected later stands in the open period',
    then: onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      how={false}
      onClose={onClose}
      title="Close the books"
      word="Close"
      answers={
        through && (
          <Button busy={entry.busy} onClick={() => entry.go(true)}>
            Open all again (now {date(through)})
          </Button>
        )
      }
    >
      <p className="text-faded">
        Gifts dated in a closed period and corrections made later are booked on the first open day. Their own dates
        stay.
      </p>
      <DayField entry={entry} name="through" label="Closed through" className="w-40" />
    </EntryDialog>
  );
}
