import { zodResolver } from '@hookform/resolvers/zod';
import { Plus, Trash2 } from 'lucide-react';
import { useFieldArray, useForm } from 'react-hook-form';
import type { Control, FieldErrors, UseFormRegister } from 'react-hook-form';
import { SUPPORTER_KINDS, SupporterDraft } from '@tallystick/contract/supporters';
import type { Supporter, SupporterDraftInput } from '@tallystick/contract/supporters';
import { Refused } from '../ui/api.ts';
import { Button, Checkbox, Field, IconButton, Input, Select } from '../ui/controls.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { useSaveSupporter } from './api.ts';

type Draft = SupporterDraftInput & { tagText: string };

const KIND_NAMES = { person: 'Person', household: 'Household', organization: 'Organization' } as const;

function draftOf(supporter: Supporter | null): Draft {
  if (!supporter)
    return {
      kind: 'person',
      first: '',
      last: '',
      organization: '',
      emails: [],
      phones: [],
      addresses: [],
      tags: [],
      tagText: '',
    };
  const { kind, prefix, first, middle, last, suffix, organization, noEmail, deceased, phones, addresses, tags } =
    supporter;
  const emails = supporter.emails.map(({ bouncedOn: _bounced, ...email }) => email);
  return {
    kind,
    prefix,
    first,
    middle,
    last,
    suffix,
    organization,
    noEmail,
    deceased,
    emails,
    phones,
    addresses,
    tags,
    tagText: tags.join(', '),
  };
}

/** Adding or editing a supporter, in a dialog. */
export function SupporterDialog(props: {
  open: boolean;
  supporter: Supporter | null;
  /** Where typing begins. */
  begin?: 'name' | 'tags';
  onClose: () => void;
  onDone: (id: number) => void;
}) {
  return (
    <Dialog
      open={props.open}
      onClose={props.onClose}
      title={props.supporter ? `Edit ${props.supporter.name}` : 'Add a supporter'}
      wide
    >
      <SupporterForm {...props} />
    </Dialog>
  );
}

function SupporterForm({
  supporter,
  begin = 'name',
  onClose,
  onDone,
}: {
  supporter: Supporter | null;
  begin?: 'name' | 'tags';
  onClose: () => void;
  onDone: (id: number) => void;
}) {
  const form = useForm<Draft>({
    defaultValues: draftOf(supporter),
    resolver: zodResolver(SupporterDraft.loose()) as never,
  });
  const save = useSaveSupporter(supporter, onDone);
  const { register, control, formState, watch, handleSubmit } = form;
  const person = watch('kind') === 'person';
  const submit = handleSubmit((draft) => {
    const { tagText, ...rest } = { ...draft, tagText: form.getValues('tagText') };
    save.mutate({
      ...rest,
      tags: tagText
        .split(',')
        .map((tag) => tag.trim())
        .filter(Boolean),
    });
  });
  const text = (
    name: 'prefix' | 'first' | 'middle' | 'last' | 'suffix' | 'organization',
    label: string,
    className?: string,
    autoFocus = false,
  ) => (
    <Field label={label} error={formState.errors[name]?.message} {...(className ? { className } : {})}>
      {(attributes) => <Input {...attributes} autoFocus={autoFocus} {...register(name)} />}
    </Field>
  );
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-4">
      <div className="grid grid-cols-12 gap-3">
        <Field label="Kind" className="col-span-3">
          {(attributes) => (
            <Select {...attributes} {...register('kind')}>
              {SUPPORTER_KINDS.map((kind) => (
                <option key={kind} value={kind}>
                  {KIND_NAMES[kind]}
                </option>
              ))}
            </Select>
          )}
        </Field>
        {person ? (
          <>
            {text('prefix', 'Prefix', 'col-span-2')}
            {text('first', 'First name', 'col-span-3', begin === 'name')}
            {text('middle', 'Middle', 'col-span-2')}
            <div className="col-span-2" />
            {text('last', 'Last name', 'col-span-5')}
            {text('suffix', 'Suffix', 'col-span-2')}
          </>
        ) : (
          text('organization', 'Name', 'col-span-9', begin === 'name')
        )}
      </div>
      <Ways
        control={control}
        register={register}
        errors={formState.errors}
        name="emails"
        title="E-mail"
        fields={[['address', 'Address', 'flex-1']]}
        blank={{ address: '', label: 'home', preferred: false }}
      />
      <Ways
        control={control}
        register={register}
        errors={formState.errors}
        name="phones"
        title="Telephone"
        fields={[['number', 'Number', 'flex-1']]}
        blank={{ number: '', label: 'home', preferred: false }}
      />
      <Ways
        control={control}
        register={register}
        errors={formState.errors}
        name="addresses"
        title="Address"
        fields={[
          ['street', 'Street', 'flex-1'],
          ['city', 'City', 'w-36'],
          ['region', 'State', 'w-16'],
          ['postal', 'ZIP', 'w-24'],
        ]}
        blank={{ street: '', city: '', region: '', postal: '', country: '', label: 'home', preferred: false }}
      />
      <Field label="Tags" hint="Separated by commas; a new one is made when you save.">
        {(attributes) => <Input {...attributes} autoFocus={begin === 'tags'} {...register('tagText')} />}
      </Field>
      <fieldset className="flex gap-6">
        <legend className="mb-1 text-[13px] text-faded">Wishes</legend>
        <Checkbox label="Wants no e-mail" {...register('noEmail')} />
        {person && <Checkbox label="Deceased" {...register('deceased')} />}
      </fieldset>
      {save.isError && (
        <p role="alert" className="rounded border border-madder px-3 py-2 text-madder">
          ▲ {save.error.message}
          {save.error instanceof Refused &&
            save.error.code === 'stale' &&
            ' Close and open the form again to start from the newest; what you typed is still here to copy.'}
        </p>
      )}
      <div className="flex justify-end gap-2 border-t border-rule pt-3">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" type="submit" disabled={save.isPending}>
          {supporter ? 'Save' : 'Add supporter'}
        </Button>
      </div>
    </form>
  );
}

type WayName = 'emails' | 'phones' | 'addresses';

/** The ways of one kind to reach a supporter: any number, each with its label, one of them preferred. */
function Ways(props: {
  control: Control<Draft>;
  register: UseFormRegister<Draft>;
  errors: FieldErrors<Draft>;
  name: WayName;
  title: string;
  fields: readonly (readonly [string, string, string])[];
  blank: Record<string, string | boolean>;
}) {
  const { control, register, name, title } = props;
  const list = useFieldArray({ control, name, keyName: 'key' });
  const errors = props.errors[name] as Record<number, Record<string, { message?: string }>> | undefined;
  return (
    <fieldset>
      <legend className="text-[13px] text-faded">{title}</legend>
      {list.fields.map((entry, index) => (
        <div key={entry.key} className="mt-1 flex items-start gap-2">
          {props.fields.map(([field, label, width]) => {
            const message = errors?.[index]?.[field]?.message;
            return (
              <div key={field} className={width}>
                <Input
                  aria-label={`${title} ${index + 1}: ${label}`}
                  placeholder={label}
                  aria-invalid={message !== undefined}
                  {...register(`${name}.${index}.${field}` as never)}
                />
                {message && (
                  <p role="alert" className="text-[13px] text-madder">
                    {message}
                  </p>
                )}
              </div>
            );
          })}
          <div className="w-24">
            <Input
              aria-label={`${title} ${index + 1}: label`}
              list="way-labels"
              {...register(`${name}.${index}.label`)}
            />
          </div>
          <div className="flex h-8 items-center">
            <Checkbox label="Preferred" {...register(`${name}.${index}.preferred`)} />
            <IconButton label={`Remove ${title.toLowerCase()} ${index + 1}`} onClick={() => list.remove(index)}>
              <Trash2 size={14} />
            </IconButton>
          </div>
        </div>
      ))}
      <Button look="quiet" className="mt-0.5 -ml-2" onClick={() => list.append(props.blank as never)}>
        <Plus size={14} /> Add {title.toLowerCase()}
      </Button>
      <datalist id="way-labels">
        <option value="home" />
        <option value="work" />
        <option value="other" />
      </datalist>
    </fieldset>
  );
}
