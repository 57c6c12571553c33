import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { parseAmount, typedMoney } from '@tallystick/core/money';
import type { SheetColumn } from '@tallystick/core/sheets';
import { counted } from '@tallystick/core/words';
import { openSheet, postSheet, printSheet, setSheet } from '@tallystick/contract/sheets';
import type { Sheet } from '@tallystick/contract/sheets';
import { GiftAreaNav } from '../gifts/index.ts';
import { call, linkTo } from '../ui/api.ts';
import { Button, Field, Heading, Input, Opening, StateWord } from '../ui/controls.tsx';
import { EntryDialog, said, TextField, useEntry } from '../ui/form/index.ts';
import { useFormats, useMayTouch } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useWrite } from '../ui/useWrite.ts';
import { Grid } from './Grid.tsx';
import type { GridWays } from './Grid.tsx';
import { useHeadings } from './headings.ts';
import { LayoutDialog } from './LayoutDialog.tsx';
import { fieldsOf, sheetQuery, useSheet } from './useSheet.ts';
import type { Checked, RowRemarks } from './useSheet.ts';

const NO_REMARKS: ReadonlyMap<string, RowRemarks> = new Map();

export default function SheetPage() {
  const { id } = useParams();
  const { data, error } = useQuery({ ...sheetQuery(Number(id)), staleTime: Infinity, refetchOnMount: 'always' });
  if (!data) return <Opening error={error} />;
  // Begun anew when its layout changes or it is posted, so that nothing typed is ever mixed up with what was read.
  return <OpenSheet key={`${data.id}.${data.version}`} sheet={data} />;
}

function OpenSheet({ sheet }: { sheet: Sheet }) {
  const { money, gifts } = useFormats();
  const typing = useSheet(sheet);
  const { headingOf, choicesOf } = useHeadings();
  const grid = useRef<GridWays>(null);
  const [posting, setPosting] = useState(false);
  const [laying, setLaying] = useState(false);
  const columns = fieldsOf({ columns: sheet.columns as SheetColumn[] }).shown;
  const posted = sheet.state === 'posted';
  const mayType = useMayTouch(setSheet)(sheet.ownerId);
  const change = useWrite((draft: Partial<Pick<Sheet, 'columns' | 'expectedCount' | 'expectedCents'>>) =>
    call(setSheet, {
      params: { id: sheet.id },
      body: {
        version: sheet.version,
        name: sheet.name,
        columns: sheet.columns,
        expectedCount: sheet.expectedCount,
        expectedCents: sheet.expectedCents,
        ...draft,
      },
    }),
  );
  const relay = (columns: SheetColumn[]): void => void typing.settle().then(() => change.mutate({ columns }));
  const summary = typing.checked?.summary;
  const begin = async (): Promise<void> => {
    await typing.settle();
    const { summary: found, rows } = await typing.check();
    if (found.wrong === 0 && found.gifts > 0) return setPosting(true);
    if (found.wrong === 0) return void toast.warning('There is no gift in the sheet yet.');
    const bad = rows.find((row) => row.problems.length > 0);
    const [problem] = bad?.problems ?? [];
    if (!problem) return;
    const place = typing.rows.findIndex((row) => row.key === bad?.key);
    const at = columns.findIndex((column) => column.field === problem.field);
    grid.current?.goTo({ row: place, column: Math.max(0, at) });
    toast.error(`Nothing is posted yet: ${counted(found.wrong, 'row')} to mend. Row ${place + 1}: ${problem.reason}`);
  };
  const keptWords = { kept: 'All kept', keeping: 'Keeping …', away: 'Kept on this machine; the server is away' };
  return (
    <>
      <GiftAreaNav />
      <Heading
        title={sheet.name}
        facts={
          posted ? (
            <StateWord tone="settled">posted</StateWord>
          ) : (
            <>
              {!mayType && (
                <StateWord tone="plain">{sheet.owner}’s; they or a development officer type in it</StateWord>
              )}{' '}
              {summary ? `${gifts(summary.gifts)}, ${money(summary.cents)}` : 'Looking it over …'}
              <span className="ml-3 text-[13px]" role="status">
                {!mayType ? null : typing.kept === 'away' ? (
                  <StateWord tone="look">{keptWords.away}</StateWord>
                ) : (
                  keptWords[typing.kept]
                )}
              </span>
            </>
          )
        }
      >
        <a
          className="mr-1 text-slate hover:underline"
          href={linkTo(printSheet, { id: sheet.id })}
          target="_blank"
          rel="noreferrer"
        >
          Print
        </a>
        {!posted && mayType && (
          <>
            <Button onClick={() => setLaying(true)}>Layout</Button>
            <Button busy={typing.checking} onClick={() => void typing.settle().then(() => typing.check())}>
              Check
            </Button>
            <Button look="main" disabled={!summary || summary.gifts === 0} onClick={() => void begin()}>
              Post {summary ? `${gifts(summary.gifts)}` : ''}
            </Button>
          </>
        )}
      </Heading>
      {posted && <AfterPosting sheet={sheet} />}
      <Grid
        ref={grid}
        rows={typing.rows}
        columns={columns}
        headingOf={headingOf}
        people={typing.people}
        own={typing.own}
        remarks={posted ? NO_REMARKS : typing.remarks}
        choicesOf={choicesOf}
        readOnly={posted || !mayType}
        onPost={() => void begin()}
        onChange={typing.change}
        onLookup={typing.lookup}
        onWidth={(field, width) =>
          relay((sheet.columns as SheetColumn[]).map((one) => (one.field === field ? { ...one, width } : one)))
        }
      />
      {typing.checked && !posted && mayType && (
        <Summary
          sheet={sheet}
          checked={typing.checked}
          onControl={(control) => void typing.settle().then(() => change.mutate(control))}
        />
      )}
      {posting && typing.checked && (
        <PostDialog sheet={sheet} checked={typing.checked} onClose={() => setPosting(false)} />
      )}
      {laying && (
        <LayoutDialog
          title="Layout of this sheet"
          columns={sheet.columns as SheetColumn[]}
          use="Use for this sheet"
          onUse={(next) => {
            setLaying(false);
            relay(next);
          }}
          onClose={() => setLaying(false)}
        />
      )}
    </>
  );
}

/** What the sheet comes to, beside what was expected of it. */
function Summary(props: {
  sheet: Sheet;
  checked: Checked;
  onControl: (control: { expectedCount: number | null; expectedCents: number | null }) => void;
}) {
  const { sheet, onControl } = props;
  const { summary, difference } = props.checked;
  const { money, count } = useFormats();
  const { funds } = useChoices();
  const [many, setMany] = useState(sheet.expectedCount === null ? '' : String(sheet.expectedCount));
  const [amount, setAmount] = useState(sheet.expectedCents === null ? '' : typedMoney(sheet.expectedCents));
  const keep = (): void => {
    const cents = amount.trim() === '' ? null : parseAmount(amount);
    if (cents && !cents.ok) return;
    const expectedCount = /^\d+$/.test(many.trim()) ? Number(many) : null;
    const expectedCents = cents?.cents ?? null;
    if (expectedCount !== sheet.expectedCount || expectedCents !== sheet.expectedCents)
      onControl({ expectedCount, expectedCents });
  };
  const off = [
    difference.count !== null && difference.count !== 0
      ? `${counted(Math.abs(difference.count), 'gift')} ${difference.count > 0 ? 'too many' : 'missing'}`
      : '',
    difference.cents !== null && difference.cents !== 0
      ? `${money(Math.abs(difference.cents))} ${difference.cents > 0 ? 'too much' : 'missing'}`
      : '',
  ].filter(Boolean);
  const figures: [string, string][] = [
    ['New supporters', count(summary.new)],
    ['Known', count(summary.known)],
    ['Gifts', count(summary.gifts)],
    ['Amount', money(summary.cents)],
  ];
  return (
    <aside
      aria-label="Summary"
      className="flex flex-wrap items-start gap-x-5 gap-y-1 border-t border-rule bg-paper px-5 py-2"
    >
      {figures.map(([name, value]) => (
        <div key={name}>
          <div className="text-[12px] text-faded">{name}</div>
          <div className="font-serif text-lg leading-tight">{value}</div>
        </div>
      ))}
      {summary.wrong > 0 && (
        <div className="pt-3">
          <StateWord tone="wrong">{counted(summary.wrong, 'row')} to mend</StateWord>
        </div>
      )}
      <List
        title="By fund"
        lines={summary.byFund.map(
          (one) => [funds.find((fund) => fund.id === one.fundId)?.name ?? '', one.cents] as const,
        )}
      />
      <List
        title="By payment method"
        lines={summary.byMethod.map((one) => [PAYMENT_METHODS[one.method], one.cents] as const)}
      />
      <div className="ml-auto grid grid-cols-[6rem_7rem] gap-x-2">
        <Field label="Expected gifts" className="w-24">
          {(attributes) => (
            <Input
              {...attributes}
              className="text-right"
              value={many}
              onChange={(event) => setMany(event.target.value)}
              onBlur={keep}
            />
          )}
        </Field>
        <Field label="Expected amount" className="w-28">
          {(attributes) => (
            <Input
              {...attributes}
              className="text-right"
              value={amount}
              onChange={(event) => setAmount(event.target.value)}
              onBlur={keep}
            />
          )}
        </Field>
        <div className="col-span-2 mt-0.5 text-right text-[13px]">
          {sheet.expectedCount === null && sheet.expectedCents === null ? (
            <StateWord tone="plain">no control totals</StateWord>
          ) : off.length > 0 ? (
            <StateWord tone="look">{off.join(', ')}</StateWord>
          ) : (
            <StateWord tone="settled">balances</StateWord>
          )}
        </div>
      </div>
    </aside>
  );
}

function List({ title, lines }: { title: string; lines: readonly (readonly [string, number])[] }) {
  const { money } = useFormats();
  if (lines.length === 0) return null;
  return (
    <div className="max-h-16 overflow-auto">
      <div className="text-[12px] text-faded">{title}</div>
      {lines.map(([name, cents], place) => (
        <div key={place} className="flex justify-between gap-4 text-[13px]">
          <span>{name}</span>
          <span className="tabular-nums">{money(cents)}</span>
        </div>
      ))}
    </div>
  );
}

function PostDialog({ sheet, checked, onClose }: { sheet: Sheet; checked: Checked; onClose: () => void }) {
  const { money, count, gifts } = useFormats();
  const { summary, difference } = checked;
  const [key] = useState(() => crypto.randomUUID());
  const entry = useEntry({
    schema: z.object({ reason: difference.balanced ? z.string() : said('Say why it differs.') }),
    initial: { reason: '' },
    send: (body) => call(postSheet, { params: { id: sheet.id }, body, key }),
    say: (done) => `Posted ${gifts(done.gifts)}, ${money(done.cents)}`,
    then: onClose,
  });
  return (
    <EntryDialog entry={entry} onClose={onClose} title={`Post ${sheet.name}`} word={`Post ${gifts(summary.gifts)}`}>
      <p>
        {gifts(summary.gifts)}, {money(summary.cents)}, from {count(summary.known)} known and {count(summary.new)} new
        supporters. All of it or nothing; Undo takes it back while no receipt was issued.
      </p>
      {!difference.balanced && (
        <TextField
          entry={entry}
          name="reason"
          label="It differs from the control totals. Why?"
          hint={[
            difference.count ? `${difference.count > 0 ? '+' : ''}${difference.count} gifts` : '',
            difference.cents ? `${difference.cents > 0 ? '+' : '−'}${money(Math.abs(difference.cents))}` : '',
          ]
            .filter(Boolean)
            .join(', ')}
          autoFocus
        />
      )}
    </EntryDialog>
  );
}

/** What may come next once a sheet is posted. */
function AfterPosting({ sheet }: { sheet: Sheet }) {
  const navigate = useNavigate();
  const another = useWrite(
    () =>
      call(openSheet, {
        body: { name: `${sheet.name}, next`, columns: sheet.columns, expectedCount: null, expectedCents: null },
      }),
    { then: (made) => void navigate(`/gifts/sheets/${made.id}`) },
  );
  return (
    <p className="flex items-center gap-4 border-b border-rule bg-straw px-5 py-2 text-straw-ink">
      Posted into batch B-{sheet.batchId}. What next?
      <Button autoFocus onClick={() => another.mutate(undefined)}>
        Another sheet
      </Button>
      <Link className="underline" to={`/thanks?batch=${sheet.batchId ?? ''}`}>
        Thank these
      </Link>
      <Link className="underline" to={`/gifts?batch=${sheet.batchId ?? ''}`}>
        See these
      </Link>
    </p>
  );
}
