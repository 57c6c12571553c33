import { useState } from 'react';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { parseAmount, typedMoney } from '@tallystick/core/money';
import { MEASURES } from '@tallystick/core/segments';
import type { Measure } from '@tallystick/core/segments';
import { CREDIT_CHOICES } from '@tallystick/core/totals';
import type { CreditChoice } from '@tallystick/core/totals';
import type { Condition } from '@tallystick/contract/segments';
import { Choice, codedOption } from '../ui/choice/index.tsx';
import { Button, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { WindowSelect } from './WindowSelect.tsx';

type Of<K extends Condition['kind']> = Extract<Condition, { kind: K }>;
interface Editing<K extends Condition['kind']> {
  condition: Of<K>;
  onChange: (condition: Condition) => void;
}

/** Gave anything at all of what is asked about. */
export function GaveEditor({ condition, onChange }: Editing<'gave'>) {
  return (
    <>
      <GiftSelects condition={condition} onChange={onChange} />
      <WindowSelect window={condition.window} onChange={(window) => onChange({ ...condition, window })} />
    </>
  );
}

/** What was given comes to so much. */
export function TotalEditor({ condition, onChange }: Editing<'total'>) {
  return (
    <>
      <Between
        name="Amount"
        value={condition}
        onChange={({ atLeast, atMost }) => onChange({ ...condition, atLeast, atMost })}
      />
      <GiftSelects condition={condition} onChange={onChange} />
      <WindowSelect window={condition.window} onChange={(window) => onChange({ ...condition, window })} />
    </>
  );
}

/** A measure of the gifts that are asked about, and what it is to be. */
export function MeasureEditor({ condition, onChange }: Editing<'gifts'>) {
  const { measure, window, against, within, atLeast = null, atMost = null } = condition;
  const { type } = MEASURES[measure];
  const choose = (picked: string): void => {
    const next = picked as Measure;
    // What the figure is to be is of its own kind: a date is no amount.
    const { atLeast: _least, atMost: _most, within: _within, against: _against, ...rest } = condition;
    onChange({
      ...rest,
      measure: next,
      ...(MEASURES[next].type === 'date' ? { within: null } : { atLeast: null, atMost: null }),
      ...(next === 'change' ? { against: { kind: 'fiscal-year', ago: 1 } } : {}),
    });
  };
  return (
    <>
      <Choice
        aria-label="Measure"
        className="w-auto min-w-52"
        value={measure}
        onChange={choose}
        options={Object.entries(MEASURES).map(([name, { word }]) => ({ value: name, label: word }))}
      />
      <GiftSelects condition={condition} onChange={onChange} />
      <WindowSelect window={window} onChange={(next) => onChange({ ...condition, window: next })} />
      {measure === 'change' && (
        <>
          <span className="text-faded">against</span>
          <WindowSelect
            label="Against"
            window={against ?? window}
            onChange={(next) => onChange({ ...condition, against: next })}
          />
        </>
      )}
      {type === 'date' ? (
        <>
          <span className="text-faded">was</span>
          <WindowSelect
            label="When"
            window={within ?? { kind: 'ever' }}
            isNone={within == null}
            none="on any date"
            onNone={() => onChange({ ...condition, within: null })}
            onChange={(next) => onChange({ ...condition, within: next })}
          />
        </>
      ) : (
        <Between
          key={measure}
          name="Figure"
          says="is"
          number={type === 'number'}
          below={measure === 'change'}
          value={{ atLeast, atMost }}
          onChange={(bounds) => onChange({ ...condition, ...bounds })}
        />
      )}
    </>
  );
}

export function LastGiftEditor({ condition, onChange }: Editing<'last-gift'>) {
  return (
    <>
      <span>from</span>
      <DateField
        settled
        className="w-36"
        aria-label="Last gift from"
        value={condition.from ?? ''}
        onChange={(day) => onChange({ ...condition, from: day || null })}
      />
      <span>to</span>
      <DateField
        settled
        className="w-36"
        aria-label="Last gift to"
        value={condition.to ?? ''}
        onChange={(day) => onChange({ ...condition, to: day || null })}
      />
    </>
  );
}

/** Which gifts a condition is about; of a sum, whose giving counts too. */
function GiftSelects({
  condition,
  onChange,
}: {
  condition: Of<'gave' | 'total' | 'gifts'>;
  onChange: (condition: Condition) => void;
}) {
  const { funds, campaigns, appeals } = useChoices();
  const place = (
    name: 'fund' | 'campaign' | 'appeal',
    label: string,
    list: readonly { id: number; name: string; code: string; closed: boolean }[],
    any: string,
    word: string,
  ) => (
    <Choice
      aria-label={label}
      className="w-auto min-w-44"
      value={condition[name] ?? ''}
      onChange={(picked) => onChange({ ...condition, [name]: picked === '' ? null : Number(picked) })}
      options={[{ value: '', label: any }, ...list.map((one) => codedOption(one, `${word} ${one.name}`))]}
      remember={name}
    />
  );
  const credit = condition.kind === 'total' ? (condition.credit ?? 'legal') : 'legal';
  const each = condition.kind === 'gifts' ? condition.cents : undefined;
  const narrowed = [condition.campaign, condition.appeal, condition.method, each].some((one) => one != null);
  const [more, setMore] = useState(narrowed || credit !== 'legal');
  if (!more)
    return (
      <>
        {place('fund', 'Fund', funds, 'to any fund', 'to')}
        <Button look="quiet" className="h-7 px-2" onClick={() => setMore(true)}>
          Narrower
        </Button>
      </>
    );
  return (
    <>
      {place('fund', 'Fund', funds, 'to any fund', 'to')}
      {place('campaign', 'Campaign', campaigns, 'in any campaign', 'in')}
      {place('appeal', 'Appeal', appeals, 'for any appeal', 'for')}
      <Choice
        aria-label="Paid by"
        className="w-auto min-w-36"
        value={condition.method ?? ''}
        onChange={(picked) => onChange({ ...condition, method: picked === '' ? null : (picked as PaymentMethod) })}
        options={[
          { value: '', label: 'by anything' },
          ...Object.entries(PAYMENT_METHODS).map(([method, name]) => ({
            value: method,
            label: `by ${name.toLowerCase()}`,
          })),
        ]}
      />
      {condition.kind === 'gifts' && (
        <Between
          name="Each gift"
          says="each gift"
          value={each ?? { atLeast: null, atMost: null }}
          onChange={(cents) => onChange({ ...condition, cents })}
        />
      )}
      {condition.kind === 'total' && (
        <Choice
          aria-label="Whose giving counts"
          className="w-auto min-w-48"
          value={credit}
          onChange={(picked) => onChange({ ...condition, credit: picked as CreditChoice })}
          options={Object.entries(CREDIT_CHOICES).map(([choice, words]) => ({ value: choice, label: words }))}
        />
      )}
    </>
  );
}

interface Bounds {
  atLeast: number | null;
  atMost: number | null;
}

/** A figure between two bounds, of which either may be left open: money in cents, or a number. */
function Between(props: {
  name: string;
  says?: string;
  number?: boolean;
  /** Whether it may lie below zero. */
  below?: boolean;
  value: Bounds;
  onChange: (bounds: Bounds) => void;
}) {
  const { name, says, number = false, below = false, value, onChange } = props;
  const read = (text: string): number | null => {
    if (number) return /^\d{1,9}$/.test(text.trim()) ? Number(text) : null;
    const amount = parseAmount(text);
    return amount.ok && (below || amount.cents >= 0) ? amount.cents : null;
  };
  const bound = (which: keyof Bounds, word: string) => (
    <label className="flex items-center gap-1">
      {word}
      <Input
        className="w-24 text-right"
        inputMode={number ? 'numeric' : 'decimal'}
        aria-label={`${name} ${word}`}
        placeholder="any"
        defaultValue={value[which] === null ? '' : number ? value[which] : typedMoney(value[which])}
        onChange={(event) => onChange({ ...value, [which]: read(event.target.value) })}
      />
    </label>
  );
  return (
    <span className="flex items-center gap-2">
      {says && <span className="text-faded">{says}</span>}
      {bound('atLeast', 'at least')}
      {bound('atMost', 'at most')}
    </span>
  );
}
