import { emailRemark } from '@tallystick/core/names';
import { Plus, SlidersHorizontal, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { useFieldArray } from 'react-hook-form';
import { BAD_REASONS, WAY_LABELS } from '@tallystick/core/contact';
import { Checkbox } from '../ui/checks.tsx';
import { Choice, optionsOfNames } from '../ui/choice/index.tsx';
import { Button, IconButton, Input } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import type { DraftForm } from './draft.ts';
import type { Noticed } from './useNotice.ts';

type WayName = 'emails' | 'phones' | 'addresses';
const KINDS: Record<WayName, { title: string; fields: readonly (readonly [string, string, string])[] }> = {
  emails: { title: 'E-mail', fields: [['address', 'Address', 'flex-1']] },
  phones: { title: 'Telephone', fields: [['number', 'Number', 'flex-1']] },
  addresses: {
    title: 'Address',
    fields: [
      ['street', 'Street', 'flex-1'],
      ['city', 'City', 'w-32'],
      ['region', 'State', 'w-14'],
      ['postal', 'ZIP', 'w-24'],
      ['country', 'Country', 'w-20'],
    ],
  },
};
const COMMON = { label: 'home', preferred: false, validFrom: null, validTo: null, badOn: null, badReason: '' };
const BLANK: Record<WayName, object> = {
  emails: { address: '', ...COMMON },
  phones: { number: '', ...COMMON },
  addresses: { street: '', city: '', region: '', postal: '', country: '', seasonFrom: null, seasonTo: null, ...COMMON },
};

/** The ways of one kind to reach a supporter: any number, each with its label, one of them preferred. */
export function Ways({ form, name, notice }: { form: DraftForm; name: WayName; notice?: Noticed | undefined }) {
  const { title, fields } = KINDS[name];
  const list = useFieldArray({ control: form.control, name, keyName: 'key' });
  const [open, setOpen] = useState<string | null>(null);
  const errors = form.formState.errors[name] as Record<number, Record<string, { message?: string }>> | undefined;
  const prefer = (at: number, on: boolean): void => {
    list.fields.forEach((_, place) =>
      form.setValue(`${name}.${place}.preferred`, on && place === at, { shouldDirty: true }),
    );
  };
  return (
    <fieldset>
      <legend className="text-[13px] text-faded">{title}</legend>
      {list.fields.map((entry, index) => (
        <div key={entry.key} className="mt-1">
          <div className="flex items-start gap-2">
            {fields.map(([field, label, width]) => (
              <div key={field} className={width}>
                <Input
                  aria-label={`${title} ${index + 1}: ${label}`}
                  placeholder={label}
                  aria-invalid={errors?.[index]?.[field] !== undefined}
                  {...form.register(`${name}.${index}.${field}` as never)}
                />
                <Fault message={errors?.[index]?.[field]?.message} />
              </div>
            ))}
            <div className="w-28">
              <OwnWords
                form={form}
                at={`${name}.${index}.label`}
                label={`${title} ${index + 1}: label`}
                words={WAY_LABELS}
              />
            </div>
            <div className="flex h-8 items-center">
              <Checkbox
                label="Preferred"
                checked={form.watch(`${name}.${index}.preferred`) === true}
                onChange={(on) => prefer(index, on)}
              />
              <IconButton
                label={`Dates and state of ${title.toLowerCase()} ${index + 1}`}
                aria-expanded={open === entry.key}
                onClick={() => setOpen(open === entry.key ? null : entry.key)}
              >
                <SlidersHorizontal size={14} />
              </IconButton>
              <IconButton label={`Remove ${title.toLowerCase()} ${index + 1}`} onClick={() => list.remove(index)}>
                <Trash2 size={14} />
              </IconButton>
            </div>
          </div>
          <Suggested form={form} name={name} index={index} notice={notice} />
          {open === entry.key && <WayDetails form={form} name={name} index={index} errors={errors?.[index]} />}
        </div>
      ))}
      <Button look="quiet" className="mt-0.5 -ml-2" onClick={() => list.append(BLANK[name] as never)}>
        <Plus size={14} /> Add {title.toLowerCase()}
      </Button>
    </fieldset>
  );
}

function Fault({ message }: { message: string | undefined }) {
  if (!message) return null;
  return (
    <p role="alert" className="text-[13px] text-madder">
      {message}
    </p>
  );
}

/** A better way to write it, offered and never taken by itself. */
function Suggested(props: { form: DraftForm; name: WayName; index: number; notice: Noticed | undefined }) {
  const { form, name, index, notice } = props;
  if (name === 'phones') {
    const found = notice?.phones.find((one) => one.index === index);
    if (!found || (found.text === form.getValues(`phones.${index}.number`) && found.remark === '')) return null;
    return (
      <p className="flex items-center gap-2 text-[13px] text-faded">
        {found.remark && <span>◆ {found.remark}</span>}
        {found.text !== form.getValues(`phones.${index}.number`) && (
          <Button
            look="quiet"
            className="h-6 px-1"
            onClick={() => form.setValue(`phones.${index}.number`, found.text, { shouldDirty: true })}
          >
            Write it {found.text}
          </Button>
        )}
      </p>
    );
  }
  if (name === 'emails') {
    const remark = emailRemark(form.watch(`emails.${index}.address`) ?? '');
    return remark === null ? null : <p className="text-[13px] text-faded">◆ {remark}</p>;
  }
  const found = name === 'addresses' ? notice?.addresses.find((one) => one.index === index) : undefined;
  if (!found) return null;
  const { street, city, region, postal } = found.address;
  const take = (): void => {
    for (const [part, value] of Object.entries(found.address))
      // It was asked for a moment ago: what was typed since then is not emptied by it.
      if (value !== '') form.setValue(`addresses.${index}.${part as 'street'}`, value, { shouldDirty: true });
  };
  return (
    <p className="flex items-center gap-2 text-[13px] text-faded">
      <Button look="quiet" className="h-6 px-1" onClick={take}>
        Write it {[street, city, [region, postal].filter(Boolean).join(' ')].filter(Boolean).join(', ')}
      </Button>
      ({found.why.join(', ')})
    </p>
  );
}

/** From when to when a way holds, its season, and whether anything arrives there. */
function WayDetails(props: {
  form: DraftForm;
  name: WayName;
  index: number;
  errors: Record<string, { message?: string }> | undefined;
}) {
  const { form, name, index, errors } = props;
  const { title } = KINDS[name];
  const told = (label: string): string => `${title} ${index + 1}: ${label}`;
  const day = (part: 'validFrom' | 'validTo' | 'badOn', label: string): ReactNode => (
    <label className="flex items-center gap-1.5">
      {label}
      <DateField
        className="w-36"
        aria-label={told(label)}
        aria-invalid={errors?.[part] !== undefined}
        value={form.watch(`${name}.${index}.${part}`) ?? ''}
        onChange={(value) => form.setValue(`${name}.${index}.${part}`, value || null, { shouldDirty: true })}
      />
    </label>
  );
  const season = (part: 'seasonFrom' | 'seasonTo', label: string, placeholder: string): ReactNode => (
    <label className="flex items-center gap-1.5">
      {label}
      <Input
        className="w-20"
        aria-label={told(label)}
        placeholder={placeholder}
        {...form.register(`addresses.${index}.${part}`, { setValueAs: (value: string | null) => value || null })}
      />
    </label>
  );
  return (
    <div className="my-1 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-2 border-rule pl-3 text-[13px] text-faded">
      {day('validFrom', 'valid from')}
      {day('validTo', 'until')}
      {name === 'addresses' && (
        <>
          {season('seasonFrom', 'each year from', '11-15')}
          {season('seasonTo', 'to', '04-15')}
        </>
      )}
      {day('badOn', 'undeliverable since')}
      <label className="flex items-center gap-1.5">
        because
        <span className="w-36">
          <OwnWords
            form={form}
            at={`${name}.${index}.badReason`}
            label={told('because')}
            words={BAD_REASONS}
            optional
          />
        </span>
      </label>
      <Fault
        message={errors?.['seasonFrom']?.message ?? errors?.['seasonTo']?.message ?? errors?.['validTo']?.message}
      />
    </div>
  );
}

/** One of the usual words, or one's own. */
function OwnWords(props: {
  form: DraftForm;
  at: `${WayName}.${number}.${'label' | 'badReason'}`;
  label: string;
  words: readonly string[];
  optional?: boolean;
}) {
  const { form, at, words, optional = false } = props;
  const value = form.watch(at) ?? '';
  const put = (word: string): void => form.setValue(at, word, { shouldDirty: true });
  const own = value === '' || words.includes(value) ? [] : [value];
  return (
    <Choice
      aria-label={props.label}
      placeholder="none"
      options={[...optionsOfNames([...words, ...own]), ...(optional ? [{ value: '', label: 'none' }] : [])]}
      value={value}
      onChange={put}
      onAdd={put}
    />
  );
}
