import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { CREDIT_KINDS, stockCents } from '@tallystick/core/gifts';
import type { CreditKind } from '@tallystick/core/gifts';
import type { giftHints } from '@tallystick/contract/gifts';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { Choice } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Button, Field, IconButton, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { Fault } from '../ui/form/index.ts';
import { useFormats } from '../ui/organization.tsx';
import { NO_CODING, CodingSelects, unusedFund } from '../ui/CodingSelects.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { creditKindOf } from './draft.ts';
import { useChoices } from '../ui/useChoices.ts';
import type { TypedGift } from './draft.ts';
import { Fold } from '../ui/Fold.tsx';

export type Hints = ResponseOf<typeof giftHints>;
export interface SectionProps {
  typed: TypedGift;
  change: (part: Partial<TypedGift>) => void;
  fault: (name: string) => string | undefined;
}

/** A part of the form that was asked for, with a cross that takes it away again. */
function Section(props: {
  title: string;
  onRemove?: () => void;
  name?: string;
  error?: string | undefined;
  children: ReactNode;
}) {
  return (
    <fieldset className="border-t border-rule pt-2">
      <legend className="sr-only">{props.title}</legend>
      <div className="mb-1 flex items-center justify-between">
        <span aria-hidden className="font-medium">
          {props.title}
        </span>
        {props.onRemove && (
          <IconButton label={`Without ${props.title.toLowerCase()}`} onClick={props.onRemove}>
            <X size={14} />
          </IconButton>
        )}
      </div>
      {props.children}
      <Fault {...(props.name === undefined ? {} : { name: props.name })}>{props.error}</Fault>
    </fieldset>
  );
}

const text =
  (change: SectionProps['change'], name: keyof TypedGift) =>
  (event: { target: { value: string } }): void =>
    change({ [name]: event.target.value });

/** Once the gift is settled only its sale can still be noted: that is often days later. */
export function StockSection({ typed, change, fault, settled }: SectionProps & { settled: boolean }) {
  const { money } = useFormats();
  const cents = stockCents(typed.shares, typed.meanPrice);
  const field = (name: 'symbol' | 'shares' | 'meanPrice' | 'fee' | 'proceeds', label: string) => (
    <Field label={label} name={name} error={fault(name)}>
      {(attributes) => (
        <Input
          {...attributes}
          disabled={settled && name !== 'fee' && name !== 'proceeds'}
          value={typed[name]}
          onChange={text(change, name)}
        />
      )}
    </Field>
  );
  return (
    <Section title="Stock" name="details.symbol" error={fault('details.symbol')}>
      <div className="grid grid-cols-3 gap-3">
        {field('symbol', 'Symbol')}
        {field('shares', 'Shares')}
        {field('meanPrice', 'Mean price that day')}
        <Field label="Sold on" name="soldOn" error={fault('soldOn')}>
          {(attributes) => (
            <DateField
              {...attributes}
              placeholder="not yet"
              value={typed.soldOn}
              onChange={(soldOn) => change({ soldOn })}
            />
          )}
        </Field>
        {field('proceeds', 'Sale brought')}
        {field('fee', 'Fees of the sale')}
      </div>
      <p className="mt-1 text-faded">
        {cents === null
          ? 'Worth the shares times the mean of the day’s high and low price.'
          : `The gift is worth ${money(cents)}, sold or not; fees do not lessen it.`}
      </p>
    </Section>
  );
}

export function InKindSection({ typed, change, fault }: SectionProps) {
  return (
    <Section title="What was given">
      <div className="grid grid-cols-[1fr_12rem] gap-3">
        <Field label="Description" name="details.description" error={fault('details.description') ?? fault('details')}>
          {(attributes) => <Input {...attributes} value={typed.description} onChange={text(change, 'description')} />}
        </Field>
        <Field label="The amount is">
          {(attributes) => (
            <Choice
              {...attributes}
              value={typed.estimateBy}
              onChange={(estimateBy) => change({ estimateBy: estimateBy as TypedGift['estimateBy'] })}
              options={[
                { value: 'donor', label: 'the donor’s estimate' },
                { value: 'us', label: 'our estimate' },
              ]}
            />
          )}
        </Field>
      </div>
      <p className="text-[13px] text-faded">The receipt names what was given and never its value.</p>
    </Section>
  );
}

export function SplitSection({ typed, change, fault }: SectionProps) {
  const { parts } = typed;
  const { funds } = useChoices();
  const put = (place: number, part: Partial<TypedGift['parts'][number]>): void =>
    change({ parts: parts.map((one, index) => (index === place ? { ...one, ...part } : one)) });
  return (
    <Section title="Split" onRemove={() => change({ parts: [] })} name="parts" error={fault('parts')}>
      <div className="space-y-1.5">
        {parts.map((part, place) => (
          <div key={place} className="grid grid-cols-[6.5rem_1fr_1fr_1fr_1.75rem] gap-2">
            <Input
              aria-label={`Amount or share, part ${place + 1}`}
              className="text-right"
              placeholder={place === 0 ? 'amount or %' : 'the rest'}
              value={part.amount}
              onChange={(event) => put(place, { amount: event.target.value })}
            />
            <CodingSelects value={part} onChange={(places) => put(place, places)} bare={`part ${place + 1}`} />
            <IconButton
              label={`Remove part ${place + 1}`}
              disabled={parts.length <= 2}
              onClick={() => change({ parts: parts.filter((_, index) => index !== place) })}
            >
              <X size={14} />
            </IconButton>
          </div>
        ))}
      </div>
      <p className="mt-1 flex items-center gap-3 text-[13px] text-faded">
        <Button
          look="quiet"
          className="h-7 px-2"
          onClick={() => {
            const taken = parts.map((part) => part.fundId);
            change({ parts: [...parts, { ...NO_CODING, fundId: unusedFund(funds, taken), amount: '' }] });
          }}
        >
          Another part
        </Button>
        An amount, a share such as 40%, or nothing in one part: it takes the rest.
      </p>
    </Section>
  );
}

export function BenefitSection({ typed, change, fault }: SectionProps) {
  const { benefit } = typed;
  if (!benefit) return null;
  const put = (part: Partial<typeof benefit>): void => change({ benefit: { ...benefit, ...part } });
  return (
    <Section
      title="Goods or services received"
      onRemove={() => change({ benefit: null })}
      name="benefit"
      error={fault('benefit')}
    >
      <div className="grid grid-cols-[8rem_1fr] gap-3">
        <Field label="Fair value" name="benefitCents" error={fault('benefitCents')}>
          {(attributes) => (
            <Input
              {...attributes}
              className="text-right"
              value={benefit.amount}
              onChange={(event) => put({ amount: event.target.value })}
            />
          )}
        </Field>
        <Field label="What they were">
          {(attributes) => (
            <Input
              {...attributes}
              placeholder="Dinner for two"
              value={benefit.what}
              onChange={(event) => put({ what: event.target.value })}
            />
          )}
        </Field>
      </div>
    </Section>
  );
}

export function CreditSection({ typed, change, fault, hints }: SectionProps & { hints: Hints | undefined }) {
  const { credits } = typed;
  const put = (place: number, credit: Partial<TypedGift['credits'][number]>): void =>
    change({ credits: credits.map((one, index) => (index === place ? { ...one, ...credit } : one)) });
  const offered = (hints?.people ?? []).filter(
    (one) => one.as !== 'employer' && !credits.some((credit) => credit.who?.id === one.id),
  );
  return (
    <Section title="Soft credits" onRemove={() => change({ credits: [] })} name="credits" error={fault('credits')}>
      <div className="space-y-1.5">
        {credits.map((credit, place) => (
          <div key={place} className="grid grid-cols-[1fr_10rem_7rem_1.75rem] gap-2">
            <SupporterPicker
              label={`Credited, line ${place + 1}`}
              value={credit.who}
              onPick={(who) => put(place, { who })}
            />
            <Choice
              aria-label={`As, line ${place + 1}`}
              value={credit.kind}
              onChange={(picked) => put(place, { kind: picked as CreditKind })}
              options={Object.entries(CREDIT_KINDS).map(([kind, word]) => ({ value: kind, label: word }))}
            />
            <Input
              aria-label={`Amount, line ${place + 1}`}
              className="text-right"
              placeholder="all of it"
              value={credit.amount}
              onChange={(event) => put(place, { amount: event.target.value })}
            />
            <IconButton
              label={`Remove line ${place + 1}`}
              onClick={() => change({ credits: credits.filter((_, index) => index !== place) })}
            >
              <X size={14} />
            </IconButton>
          </div>
        ))}
      </div>
      <div className="mt-1 flex flex-wrap gap-1">
        <Button
          look="quiet"
          className="h-7 px-2"
          onClick={() => change({ credits: [...credits, { who: null, kind: 'spouse', amount: '' }] })}
        >
          Someone else
        </Button>
        {offered.map((one) => (
          <Button
            key={`${one.as}${one.id}`}
            look="quiet"
            className="h-7 px-2"
            onClick={() =>
              change({
                credits: [
                  ...credits.filter((credit) => credit.who !== null),
                  { who: one, kind: creditKindOf(one.as), amount: '' },
                ],
              })
            }
          >
            {one.name}, {one.as}
          </Button>
        ))}
      </div>
    </Section>
  );
}

export function TributeSection({ typed, change, fault }: SectionProps) {
  const { tribute } = typed;
  if (!tribute) return null;
  const put = (part: Partial<typeof tribute>): void => change({ tribute: { ...tribute, ...part } });
  return (
    <Section title="Tribute" onRemove={() => change({ tribute: null })} name="tribute" error={fault('tribute')}>
      <div className="grid grid-cols-[9rem_1fr_1fr] gap-3">
        <Field label="The gift is">
          {(attributes) => (
            <Choice
              {...attributes}
              value={tribute.kind}
              onChange={(picked) => put({ kind: picked as 'honour' | 'memory' })}
              options={[
                { value: 'honour', label: 'in honor of' },
                { value: 'memory', label: 'in memory of' },
              ]}
            />
          )}
        </Field>
        <Field label="Name">
          {(attributes) => (
            <Input {...attributes} value={tribute.name} onChange={(event) => put({ name: event.target.value })} />
          )}
        </Field>
        <Field label="or someone on record">
          {({ id }) => <SupporterPicker id={id} value={tribute.of} onPick={(of) => put({ of })} />}
        </Field>
        <div className="self-center pt-4">
          <Checkbox label="Tell the amount" checked={tribute.withAmount} onChange={(on) => put({ withAmount: on })} />
        </div>
        <Field label="Notify, by name and address">
          {(attributes) => (
            <Input {...attributes} value={tribute.notify} onChange={(event) => put({ notify: event.target.value })} />
          )}
        </Field>
        <Field label="or someone on record">
          {({ id }) => <SupporterPicker id={id} value={tribute.notifyWho} onPick={(notifyWho) => put({ notifyWho })} />}
        </Field>
      </div>
    </Section>
  );
}

/** Which pledge the gift pays, and what of it. */
export function PledgeSection({ typed, change, fault, hints }: SectionProps & { hints: Hints }) {
  const { money, date } = useFormats();
  const pledge = hints.pledges.find((one) => String(one.id) === typed.pledgeId);
  return (
    <Section title="Pledge" name="pays" error={fault('pays')}>
      <Choice
        aria-label="Pays a pledge"
        value={typed.pledgeId}
        onChange={(picked) => {
          const chosen = hints.pledges.find((one) => String(one.id) === picked);
          change({
            pledgeId: picked,
            installments: [],
            over: 'ask',
            ...(chosen
              ? {
                  fundId: String(chosen.fundId),
                  campaignId: chosen.campaignId === null ? '' : String(chosen.campaignId),
                  appealId: chosen.appealId === null ? '' : String(chosen.appealId),
                }
              : {}),
          });
        }}
        options={[
          { value: '', label: 'Pays no pledge' },
          ...hints.pledges.map((one) => ({
            value: one.id,
            label: `Pays ${one.number}: ${one.fund}, ${money(one.balance)} open, next ${money(one.installments[0]?.open ?? 0)} due ${date(one.installments[0]?.due ?? null)}`,
          })),
        ]}
      />
      {pledge && pledge.installments.length > 1 && (
        <Fold
          className="mt-1"
          line={
            typed.installments.length === 0
              ? 'Goes to the oldest open installments'
              : `Goes to ${typed.installments.length} chosen`
          }
        >
          <div className="mt-1 grid max-h-40 grid-cols-2 gap-1 overflow-auto">
            {pledge.installments.map((one) => (
              <Checkbox
                key={one.id}
                label={`${date(one.due)}, ${money(one.open)}`}
                checked={typed.installments.includes(one.id)}
                onChange={(on) =>
                  change({
                    installments: on
                      ? [...typed.installments, one.id]
                      : typed.installments.filter((id) => id !== one.id),
                  })
                }
              />
            ))}
          </div>
        </Fold>
      )}
      {pledge && typed.over !== 'ask' && (
        <p className="mt-1 text-faded">
          {typed.over === 'beyond'
            ? 'What is over is kept as a gift beyond the pledge.'
            : 'What is over raises the pledge.'}
        </p>
      )}
    </Section>
  );
}

export function MatchSection({ typed, change, fault }: SectionProps) {
  const { match } = typed;
  if (!match) return null;
  const put = (part: Partial<typeof match>): void => change({ match: { ...match, ...part } });
  return (
    <Section title="Match by an employer" onRemove={() => change({ match: null })} name="match" error={fault('match')}>
      <div className="grid grid-cols-[1fr_8rem] gap-3">
        <Field label="Employer">
          {({ id }) => <SupporterPicker id={id} kind="organization" value={match.by} onPick={(by) => put({ by })} />}
        </Field>
        <Field label="Expected">
          {(attributes) => (
            <Input
              {...attributes}
              className="text-right"
              placeholder="the same"
              value={match.amount}
              onChange={(event) => put({ amount: event.target.value })}
            />
          )}
        </Field>
      </div>
    </Section>
  );
}
