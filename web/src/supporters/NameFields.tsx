import { useEffect, useState } from 'react';
import type { RefObject } from 'react';
import { parseBirthday } from '@tallystick/core/dates';
import { readName } from '@tallystick/contract/acts';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { call, messageOf } from '../ui/api.ts';
import { Field, Input, StateWord } from '../ui/controls.tsx';
import type { DraftForm } from './draft.ts';

type Part = 'prefix' | 'first' | 'middle' | 'last' | 'suffix' | 'nickname' | 'formerLast' | 'organization' | 'birthday';

/** The parts of a name, or a whole name that is split as soon as one leaves it. */
export function NameFields(props: {
  form: DraftForm;
  autoFocus: boolean;
  errors: Record<string, string>;
  /** How the form has a name read that is typed and not left yet, before it is saved. */
  reading: RefObject<() => Promise<boolean>>;
}) {
  const { form } = props;
  const [whole, setWhole] = useState('');
  const [remarks, setRemarks] = useState<string[]>([]);
  const { errors } = form.formState;
  const text = (name: Part, label: string, className: string, autoFocus = false, hint?: string) => (
    <Field label={label} className={className} error={errors[name]?.message ?? props.errors[name]} hint={hint}>
      {(attributes) => <Input {...attributes} autoFocus={autoFocus} {...form.register(name)} />}
    </Field>
  );
  const split = async (): Promise<boolean> => {
    const typed = whole.trim();
    if (typed === '') return true;
    try {
      const read = await call(readName, { body: { text: typed } });
      const { aside: _aside, ...parts } = read.people[0] ?? { aside: '' };
      for (const [part, value] of Object.entries(parts))
        if (value !== '' || part !== 'formerLast')
          form.setValue(part as Part, value, { shouldDirty: true, shouldValidate: false });
      setWhole('');
      setRemarks(remarksOn(read));
      return true;
    } catch (error) {
      setRemarks([messageOf(error)]);
      return false;
    }
  };
  const { reading } = props;
  useEffect(() => {
    reading.current = split;
  });
  if (form.watch('kind') !== 'person')
    return (
      <div className="grid grid-cols-12 gap-3">{text('organization', 'Name', 'col-span-12', props.autoFocus)}</div>
    );
  return (
    <div className="grid grid-cols-12 gap-3">
      {text('prefix', 'Prefix', 'col-span-2')}
      {text('first', 'First name', 'col-span-3', props.autoFocus)}
      {text('middle', 'Middle', 'col-span-2')}
      {text('last', 'Last name', 'col-span-3')}
      {text('suffix', 'Suffix', 'col-span-2')}
      {text('nickname', 'Nickname', 'col-span-3')}
      {text('formerLast', 'Former last name', 'col-span-3')}
      <Field label="Birthday" className="col-span-2" error={errors.birthday?.message} hint="The year may be left out.">
        {(attributes) => (
          <Input
            {...attributes}
            placeholder="3/14 or 3/14/1961"
            {...form.register('birthday', {
              onBlur: (event: { target: HTMLInputElement }) => {
                const read = parseBirthday(event.target.value);
                if (read !== null) form.setValue('birthday', read);
              },
            })}
          />
        )}
      </Field>
      <Field label="Or a whole name" className="col-span-4" hint="Split when you leave it.">
        {(attributes) => (
          <Input
            {...attributes}
            placeholder="Dr. Ana de la Cruz, Jr."
            value={whole}
            onChange={(event) => setWhole(event.target.value)}
            onBlur={() => void split()}
          />
        )}
      </Field>
      {remarks.length > 0 && (
        <div role="status" className="col-span-12 flex flex-col gap-1 text-[13px]">
          {remarks.map((remark) => (
            <StateWord key={remark} tone="look">
              {remark}
            </StateWord>
          ))}
        </div>
      )}
    </div>
  );
}

/** What is to be looked at in a name that was read, in words. */
function remarksOn({ kind, people, unsure }: ResponseOf<typeof readName>): string[] {
  const remarks = people.flatMap(({ aside }) =>
    aside === '' ? [] : [`“${aside}” is left out: it is no part of the name.`],
  );
  if (kind === 'organization') remarks.push('This reads like an organization; choose that above if it is one.');
  else if (kind === 'household' && people.length > 1)
    remarks.push('Two people are named; the first is taken. Choose Household above to keep both.');
  if (unsure !== null) remarks.push(`Look at it: ${unsure}.`);
  return remarks;
}
