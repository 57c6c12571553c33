import { useEffect } from 'react';
import type { ReactNode } from 'react';
import { get } from 'react-hook-form';
import type { FieldPath, FieldValues } from 'react-hook-form';
import { CodingSelects, useFirstFund } from '../CodingSelects.tsx';
import type { Coding } from '../CodingSelects.tsx';
import { Choice } from '../choice/index.tsx';
import type { Option } from '../choice/index.tsx';
import { Checkbox } from '../checks.tsx';
import { Field, Input, TextArea } from '../controls.tsx';
import { DateField } from '../dates/DateField.tsx';
import { SupporterPicker } from '../SupporterPicker.tsx';
import type { Picked } from '../SupporterPicker.tsx';
import type { Entry } from './useEntry.ts';

/** The fields of a form by name, each holding what is typed of one kind. */
type Named<Typed, Kind> = { [Name in keyof Typed]-?: Typed[Name] extends Kind ? Name : never }[keyof Typed] & string;

interface Shared<Typed extends FieldValues, Kind> {
  entry: Pick<Entry<Typed>, 'typed' | 'put' | 'fault'>;
  name: Named<Typed, Kind>;
  label: string;
  className?: string;
  hint?: ReactNode;
  disabled?: boolean | undefined;
  autoFocus?: boolean;
  placeholder?: string;
}

/** What each field shares: its frame with the fault, its value, and how it is typed into. */
function Framed<Typed extends FieldValues, Kind>(
  props: Shared<Typed, Kind> & {
    children: (given: {
      attributes: { id: string; 'aria-invalid': boolean; 'aria-describedby': string } & Partial<{
        disabled: boolean;
        autoFocus: boolean;
        placeholder: string;
      }>;
      value: Kind;
      set: (value: Kind) => void;
    }) => ReactNode;
  },
) {
  const { entry, name, label, className, hint, disabled, autoFocus, placeholder } = props;
  return (
    <Field name={name} label={label} className={className} hint={hint} error={entry.fault(name)}>
      {(attributes) =>
        props.children({
          attributes: {
            ...attributes,
            ...(disabled === undefined ? {} : { disabled }),
            ...(autoFocus === undefined ? {} : { autoFocus }),
            ...(placeholder === undefined ? {} : { placeholder }),
          },
          value: entry.typed[name] as Kind,
          set: (value) => entry.put({ [name]: value } as unknown as Partial<Typed>),
        })
      }
    </Field>
  );
}

export function TextField<Typed extends FieldValues>(
  props: Shared<Typed, string> & { type?: string; autoComplete?: string; boxClass?: string },
) {
  const { type, autoComplete, boxClass, ...shared } = props;
  return (
    <Framed {...shared}>
      {({ attributes, value, set }) => (
        <Input
          {...attributes}
          {...(type === undefined ? {} : { type })}
          {...(autoComplete === undefined ? {} : { autoComplete })}
          className={boxClass}
          value={value}
          onChange={(event) => set(event.target.value)}
        />
      )}
    </Framed>
  );
}

/** A box for a password that is chosen, with what makes a good one. */
export function NewPasswordField<Typed extends FieldValues>(props: Shared<Typed, string>) {
  return (
    <TextField
      {...props}
      type="password"
      autoComplete="new-password"
      hint="At least 12 characters; three or four words are a good one."
    />
  );
}

export function LongField<Typed extends FieldValues>(props: Shared<Typed, string> & { rows: number }) {
  const { rows, ...shared } = props;
  return (
    <Framed {...shared}>
      {({ attributes, value, set }) => (
        <TextArea {...attributes} rows={rows} value={value} onChange={(event) => set(event.target.value)} />
      )}
    </Framed>
  );
}

/** An amount of money; `main` is the one that the form is about. */
export function AmountField<Typed extends FieldValues>(props: Shared<Typed, string> & { main?: boolean }) {
  const { main = false, ...shared } = props;
  return (
    <Framed placeholder={main ? '0.00' : ''} {...shared}>
      {({ attributes, value, set }) => (
        <Input
          {...attributes}
          inputMode="decimal"
          className={main ? 'text-right font-serif text-lg' : 'text-right'}
          value={value}
          onChange={(event) => set(event.target.value)}
        />
      )}
    </Framed>
  );
}

export function DayField<Typed extends FieldValues>(props: Shared<Typed, string>) {
  return (
    <Framed {...props}>
      {({ attributes, value, set }) => <DateField {...attributes} value={value} onChange={set} />}
    </Framed>
  );
}

export function ChoiceField<Typed extends FieldValues>(
  props: Shared<Typed, string> & { options: readonly Option[]; remember?: string; onAdd?: (text: string) => void },
) {
  const { options, remember, onAdd, ...shared } = props;
  return (
    <Framed {...shared}>
      {({ attributes, value, set }) => (
        <Choice {...attributes} options={options} remember={remember} onAdd={onAdd} value={value} onChange={set} />
      )}
    </Framed>
  );
}

export function WhoField<Typed extends FieldValues>(props: Shared<Typed, Picked | null>) {
  return (
    <Framed {...props}>
      {({ attributes, value, set }) => <SupporterPicker {...attributes} value={value} onPick={set} />}
    </Framed>
  );
}

export function TickField<Typed extends FieldValues>(props: Shared<Typed, boolean>) {
  const { entry, name, label } = props;
  return (
    <Checkbox
      label={label}
      disabled={props.disabled}
      checked={entry.typed[name] as boolean}
      onChange={(on) => entry.put({ [name]: on } as unknown as Partial<Typed>)}
    />
  );
}

/** Fund, campaign and appeal. */
export function CodingFields<Typed extends FieldValues & Coding>(props: { entry: Entry<Typed> }) {
  const { entry } = props;
  const { fundId, campaignId, appealId } = entry.typed;
  useFundFirst(entry, 'fundId' as FieldPath<Typed>);
  return (
    <CodingSelects
      value={{ fundId, campaignId, appealId }}
      onChange={(coding) => entry.put(coding as Partial<Typed>)}
      faultOf={entry.fault}
    />
  );
}

/** The fund that is offered first, in a field where none is chosen; it counts as nothing typed. */
export function useFundFirst<Typed extends FieldValues>(
  { typed, form }: Pick<Entry<Typed>, 'typed' | 'form'>,
  name: FieldPath<Typed>,
): void {
  const first = useFirstFund();
  const empty = get(typed, name) === '';
  useEffect(() => {
    if (empty && first !== '') form.setValue(name, first as never);
  }, [empty, first, form, name]);
}
