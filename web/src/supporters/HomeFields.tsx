import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useFieldArray } from 'react-hook-form';
import { Radio, Radios } from '../ui/checks.tsx';
import { Button, Field, IconButton, Input } from '../ui/controls.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useSupporter } from './api.ts';
import type { DraftForm } from './draft.ts';

/** The people of a household, or the household of a person. */
export function HomeFields({ form, errors }: { form: DraftForm; errors: Record<string, string> }) {
  const kind = form.watch('kind');
  if (kind === 'household') return <Members form={form} error={errors['members']} />;
  return kind === 'person' ? <HouseholdOf form={form} error={errors['householdId']} /> : null;
}

function HouseholdOf({ form, error }: { form: DraftForm; error: string | undefined }) {
  const chosen = form.watch('householdId');
  const id = chosen === null || chosen === undefined ? null : Number(chosen);
  const { data } = useSupporter(id ?? 0, id !== null);
  const [picked, setPicked] = useState<Picked | null>(null);
  const shown = picked?.id === id ? picked : id !== null && data ? { id, name: data.name } : null;
  return (
    <Field label="Household" error={error} hint="Emptied, they leave their household." className="w-96">
      {(attributes) => (
        <SupporterPicker
          {...attributes}
          key={shown?.name ?? ''}
          kind="household"
          value={shown}
          onPick={(next) => {
            setPicked(next);
            form.setValue('householdId', next?.id ?? null, { shouldDirty: true });
          }}
        />
      )}
    </Field>
  );
}

function Members({ form, error }: { form: DraftForm; error: string | undefined }) {
  const list = useFieldArray({ control: form.control, name: 'members', keyName: 'key' });
  const [name, setName] = useState('');
  const add = (member: { id: number | null; name: string }): void =>
    list.append({ ...member, primary: list.fields.length === 0 });
  const makePrimary = (at: number): void =>
    list.fields.forEach((_, place) => form.setValue(`members.${place}.primary`, place === at, { shouldDirty: true }));
  const primary = list.fields.findIndex((_, place) => form.watch(`members.${place}.primary`) === true);
  return (
    <fieldset>
      <legend className="text-[13px] text-faded">Members</legend>
      <Radios aria-label="Primary member" value={String(primary)} onValueChange={(at) => makePrimary(Number(at))}>
        {list.fields.map((member, place) => (
          <div key={member.key} className="flex items-center gap-3 py-0.5">
            <MemberName
              id={member.id === null || member.id === undefined ? null : Number(member.id)}
              name={member.name ?? ''}
            />
            <Radio value={String(place)}>primary</Radio>
            <IconButton label={`Take member ${place + 1} out`} onClick={() => list.remove(place)}>
              <Trash2 size={14} />
            </IconButton>
          </div>
        ))}
      </Radios>
      <div className="mt-1 flex items-end gap-2">
        <Field label="Someone on record" className="w-72">
          {(attributes) => (
            <SupporterPicker
              key={list.fields.length}
              {...attributes}
              kind="person"
              value={null}
              onPick={(picked) => picked && add(picked)}
            />
          )}
        </Field>
        <Field label="Or new people, by their names" className="w-72">
          {(attributes) => (
            <Input
              {...attributes}
              placeholder="Mr. John and Dr. Jane Smith"
              value={name}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' || name.trim() === '') return;
                event.preventDefault();
                add({ id: null, name: name.trim() });
                setName('');
              }}
            />
          )}
        </Field>
        <Button
          disabled={name.trim() === ''}
          onClick={() => {
            add({ id: null, name: name.trim() });
            setName('');
          }}
        >
          Add to the household
        </Button>
      </div>
      {error && (
        <p role="alert" className="text-[13px] text-madder">
          {error}
        </p>
      )}
    </fieldset>
  );
}

function MemberName({ id, name }: { id: number | null; name: string }) {
  const { data } = useSupporter(id ?? 0, id !== null && name === '');
  return (
    <span className="w-72 truncate font-serif">
      {name || data?.name || '…'} {id === null && <span className="font-sans text-[13px] text-faded">new</span>}
    </span>
  );
}
