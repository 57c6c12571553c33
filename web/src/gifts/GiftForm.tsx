import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { z } from 'zod';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { listFields } from '@tallystick/contract/fields';
import { editGift, giftHints, recordGift } from '@tallystick/contract/gifts';
import { ask, call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { FieldInput } from '../ui/FieldInput.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { EntryActions, EntryForm, readInto, useEntry, useFundFirst } from '../ui/form/index.ts';
import { NO_CODING, CodingSelects, unusedFund } from '../ui/CodingSelects.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { useOddDay } from '../ui/useOddDay.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { openGiftDialog } from './asking.ts';
import type { GiftBegin } from './asking.ts';
import { asksFee, draftOf, freshGift, typedGift } from './draft.ts';
import type { TypedGift } from './draft.ts';
import * as sections from './GiftSections.tsx';
import { typed as asTyped } from '@tallystick/core/fields';

/** What the last gift went to is offered for the next one. */
const lastChoice: Partial<TypedGift> = {};

const MORE = ['split', 'benefit', 'credits', 'tribute', 'match'] as const;
type More = (typeof MORE)[number];
const MORE_WORDS: Record<More, string> = {
  split: 'Split',
  benefit: 'Goods or services',
  credits: 'Soft credits',
  tribute: 'Tribute',
  match: 'Match',
};

export default function GiftForm({ begin, onClose }: { begin: GiftBegin; onClose: () => void }) {
  const { organization } = useHere();
  const { money } = useFormats();
  const { funds, sources } = useChoices();
  const { gift } = begin;
  const [initial] = useState<TypedGift>(() =>
    gift
      ? typedGift(gift)
      : { ...freshGift(organization.today), ...lastChoice, who: begin.who, ...(begin.typed ?? {}) },
  );
  const [question, setQuestion] = useState<'same-cheque' | 'overpayment' | null>(null);
  const oddDay = useOddDay(() => entry.go({ another: false }), gift?.date);
  const key = useRef(crypto.randomUUID());
  const fields = useQuery(ask(listFields));
  const entry = useEntry({
    schema,
    initial,
    keep: gift || begin.typed ? undefined : `gift ${begin.who?.id ?? ''}`,
    at: { fields: 'own' },
    ask: ({ date }) => {
      setQuestion(null);
      return oddDay.faultAt('date', date);
    },
    send: async (draft, { another }: { another: boolean }) => {
      const { pays, match: matched, recurringId, ...money_ } = draft;
      if (gift) {
        await call(editGift, { params: { id: gift.id }, body: { ...money_, version: gift.version } });
        return { number: gift.number, cents: draft.cents, another: false };
      }
      const made = await call(recordGift, { key: key.current, body: { ...money_, pays, match: matched, recurringId } });
      return { number: made.number, cents: draft.cents, another };
    },
    say: (made): string => `${made.number}: ${money(made.cents)} from ${typed.who?.name ?? ''}`,
    then: ({ another }) => {
      const { fundId, campaignId, appealId, sourceId, method, date } = typed;
      if (!gift) Object.assign(lastChoice, { fundId, campaignId, appealId, sourceId, method, date });
      if (!another) return onClose();
      openGiftDialog(null);
      key.current = crypto.randomUUID();
      entry.anew({ ...freshGift(organization.today), ...lastChoice });
    },
    refused: (error) => {
      if (error.code !== 'same-cheque' && error.code !== 'overpayment') return null;
      setQuestion(error.code);
      key.current = crypto.randomUUID();
      return error.message;
    },
  });
  const { typed, fault } = entry;
  useFundFirst(entry, 'fundId');
  const supporterId = typed.who?.id;
  const hints = useQuery({
    ...ask(giftHints, { query: { supporterId: supporterId ?? 0 } }),
    enabled: supporterId !== undefined,
  });
  /** What was asked about no longer holds once something else is typed. */
  const change = (part: Partial<TypedGift>): void => {
    setQuestion(null);
    oddDay.forget();
    entry.put({ ...('who' in part || 'cheque' in part ? { sameChequeSeen: false } : {}), ...part });
    entry.form.clearErrors(['supporterId', 'cents'] as never);
  };
  /** Why the money of the gift stays as it is here; what is said about it can still be changed. */
  const settled = gift?.settled ?? '';
  const set = (name: keyof TypedGift) => (event: { target: { value: string } }) =>
    change({ [name]: event.target.value });
  /** Answers a question; the answer holds when the next one is asked. */
  const answer = (seen: Partial<TypedGift>): void => {
    change(seen);
    entry.go({ another: false });
  };
  const asked = question !== null || oddDay.asking;
  const shown: Record<More, boolean> = {
    split: typed.parts.length > 0,
    benefit: typed.benefit !== null,
    credits: typed.credits.length > 0,
    tribute: typed.tribute !== null,
    match: typed.match !== null,
  };
  const begins: Record<More, () => void> = {
    split: () => {
      const { fundId, campaignId, appealId } = typed;
      change({
        parts: [
          { fundId, campaignId, appealId, amount: '' },
          { ...NO_CODING, fundId: unusedFund(funds, [fundId]), amount: '' },
        ],
      });
    },
    benefit: () => change({ benefit: { amount: '', what: '' } }),
    credits: () => change({ credits: [{ who: null, kind: 'spouse', amount: '' }] }),
    tribute: () =>
      change({ tribute: { kind: 'honour', name: '', of: null, notifyWho: null, notify: '', withAmount: false } }),
    match: () => {
      const employer = hints.data?.people.find((one) => one.as === 'employer');
      change({ match: { by: employer ?? null, amount: '' } });
    },
  };
  const props = { typed, change, fault };
  const offered = MORE.filter(
    (more) =>
      !shown[more] && !(gift && more === 'match') && !(settled !== '' && (more === 'split' || more === 'benefit')),
  );
  const own = fields.data?.items.filter((field) => field.about === 'gift') ?? [];
  return (
    <EntryForm entry={entry} how={{ another: false }} className="space-y-2.5">
      {settled !== '' && (
        <p className="text-faded">
          {settled} Donor, amount, date, payment method, fund and what was received for it are corrected, not changed;
          the rest can be changed here.
        </p>
      )}
      <fieldset disabled={settled !== ''} className="grid grid-cols-[1fr_9rem_9rem] gap-3">
        <Field label="From" name="supporterId" error={fault('supporterId')}>
          {(attributes) => (
            <SupporterPicker
              {...attributes}
              value={typed.who}
              onPick={(who) => change({ who, pledgeId: '', installments: [], recurringId: '' })}
              autoFocus={typed.who === null}
            />
          )}
        </Field>
        <Field label={typed.method === 'in_kind' ? 'Worth' : 'Amount'} name="cents" error={fault('cents')}>
          {(attributes) => (
            <Input
              {...attributes}
              inputMode="decimal"
              autoFocus={typed.who !== null}
              className="text-right font-serif text-lg"
              placeholder={typed.method === 'stock' ? 'shares × price' : '0.00'}
              disabled={typed.method === 'stock'}
              value={typed.method === 'stock' ? '' : typed.amount}
              onChange={set('amount')}
            />
          )}
        </Field>
        <Field label="Date" name="date" error={fault('date')}>
          {(attributes) => <DateField {...attributes} value={typed.date} onChange={(date) => change({ date })} />}
        </Field>
      </fieldset>
      <div className="grid grid-cols-3 gap-3">
        <Field label="Payment method" name="method" error={fault('method')}>
          {(attributes) => (
            <Choice
              {...attributes}
              disabled={settled !== ''}
              value={typed.method}
              onChange={(method) => change({ method: method as TypedGift['method'] })}
              options={Object.entries(PAYMENT_METHODS).map(([code, name]) => ({ value: code, label: name }))}
            />
          )}
        </Field>
        {typed.method === 'cheque' ? (
          <Field label="Check number" name="cheque" error={fault('cheque')}>
            {(attributes) => <Input {...attributes} value={typed.cheque} onChange={set('cheque')} />}
          </Field>
        ) : asksFee(typed) ? null : (
          <div />
        )}
        {asksFee(typed) && (
          <Field label="Processor fee" name="feeCents" error={fault('feeCents')}>
            {(attributes) => (
              <Input
                {...attributes}
                inputMode="decimal"
                className="text-right"
                disabled={gift?.deposited === true}
                value={typed.fee}
                onChange={set('fee')}
              />
            )}
          </Field>
        )}
        <Field label="Source code" name="sourceId" error={fault('sourceId')}>
          {(attributes) => (
            <Choice
              {...attributes}
              value={typed.sourceId}
              onChange={(picked) => {
                const source = sources.find((one) => String(one.id) === picked);
                change({ sourceId: picked, ...(source?.appealId ? { appealId: String(source.appealId) } : {}) });
              }}
              options={[
                { value: '', label: 'None' },
                ...sources
                  .filter((one) => !one.closed || String(one.id) === typed.sourceId)
                  .map((one) => ({ value: one.id, label: `${one.code} ${one.name}` })),
              ]}
            />
          )}
        </Field>
        {!shown.split && (
          <fieldset disabled={settled !== ''} className="contents">
            <CodingSelects value={typed} onChange={change} faultOf={fault} />
          </fieldset>
        )}
      </div>
      {typed.method === 'stock' && <sections.StockSection {...props} settled={settled !== ''} />}
      <fieldset disabled={settled !== ''} className="space-y-2.5 empty:hidden">
        {typed.method === 'in_kind' && <sections.InKindSection {...props} />}
        {shown.split && <sections.SplitSection {...props} />}
        {shown.benefit && <sections.BenefitSection {...props} />}
      </fieldset>
      {!gift && hints.data && hints.data.pledges.length > 0 && <sections.PledgeSection {...props} hints={hints.data} />}
      {!gift && hints.data && hints.data.recurring.length > 0 && (
        <Choice
          aria-label="Payment of a recurring gift"
          value={typed.recurringId}
          onChange={(recurringId) => change({ recurringId })}
          options={[
            { value: '', label: 'No payment of a recurring gift' },
            ...hints.data.recurring.map((one) => ({
              value: one.id,
              label: `A payment of ${one.number}, ${money(one.cents)} each time`,
            })),
          ]}
        />
      )}
      {shown.credits && <sections.CreditSection {...props} hints={hints.data} />}
      {shown.tribute && <sections.TributeSection {...props} />}
      {shown.match && <sections.MatchSection {...props} />}
      <div className="grid grid-cols-3 gap-3">
        <Field label="Note" className="col-span-3">
          {(attributes) => <Input {...attributes} value={typed.note} onChange={set('note')} />}
        </Field>
        {own.map((field) => (
          <Field key={field.id} label={field.name} name={`fields.${field.id}`} error={fault(`fields.${field.id}`)}>
            {({ id, 'aria-invalid': invalid }) => (
              <FieldInput
                id={id}
                invalid={invalid}
                field={field}
                value={typed.own[field.id] ?? asTyped('')}
                onChange={(value) => change({ own: { ...typed.own, [field.id]: value } })}
              />
            )}
          </Field>
        ))}
      </div>
      <div className="flex flex-wrap items-center gap-1 text-faded">
        More about it:
        {offered.map((more) => (
          <Button key={more} look="quiet" className="h-7 px-2" onClick={begins[more]}>
            {MORE_WORDS[more]}
          </Button>
        ))}
      </div>
      <EntryActions entry={entry} word={asked ? null : gift ? 'Save' : 'Record gift'}>
        {question === 'same-cheque' && (
          <Button onClick={() => answer({ sameChequeSeen: true })}>Record it anyway</Button>
        )}
        {oddDay.answer}
        {question === 'overpayment' && (
          <>
            <Button onClick={() => answer({ over: 'beyond' })}>Keep the rest as a gift</Button>
            <Button onClick={() => answer({ over: 'raise' })}>Raise the pledge</Button>
          </>
        )}
        {!gift && !asked && (
          <Button busy={entry.busy} onClick={() => entry.go({ another: true })}>
            Record, then another
          </Button>
        )}
      </EntryActions>
    </EntryForm>
  );
}

/** What is typed of a gift, read by the rules of its form. */
const schema = readInto(
  z.custom<TypedGift>().transform((typed, context) => {
    const read = draftOf(typed);
    if (read.ok) return read.draft;
    for (const [name, message] of Object.entries(read.problems))
      context.addIssue({ code: 'custom', path: name.split('.'), message });
    return z.NEVER;
  }),
  recordGift.body,
);
