import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { ReactNode } from 'react';
import { WISH_NAMES, WISHES } from '@tallystick/core/wishes';
import type { Wish } from '@tallystick/core/wishes';
import type { Act } from '@tallystick/contract/acts';
import { listFields } from '@tallystick/contract/fields';
import { NOTE_KINDS } from '@tallystick/contract/notes';
import { ask } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, Input, TextArea } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useHere } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { FieldInput } from '../ui/FieldInput.tsx';
import { ColleagueSelect } from './ColleagueSelect.tsx';
import { docOf } from './richText.tsx';
import { typed } from '@tallystick/core/fields';

export type Asked = 'tag' | 'group' | 'wish' | 'field' | 'note' | 'task';
const TITLES: Record<Asked, string> = {
  tag: 'Tag',
  group: 'Put into a group:',
  wish: 'Note a wish of',
  field: 'Fill in a field of',
  note: 'Write a note on',
  task: 'Set a task for',
};

/** Asks for the details of an act on many; what it takes away is offered beside what it gives. */
export function ActDialog(props: {
  asked: Asked;
  people: string;
  pending: boolean;
  onAct: (act: Act) => void;
  onClose: () => void;
}) {
  const form = { tag: TagForm, group: GroupForm, wish: WishForm, field: FieldForm, note: NoteForm, task: TaskForm }[
    props.asked
  ];
  const Form = form;
  return (
    <Dialog open onClose={props.onClose} title={`${TITLES[props.asked]} ${props.people}`}>
      <Form people={props.people} pending={props.pending} onAct={props.onAct} />
    </Dialog>
  );
}

interface FormProps {
  people: string;
  pending: boolean;
  onAct: (act: Act) => void;
}

/** The buttons that give and take away, and Enter for the first. */
function Buttons(props: {
  put: string;
  take?: string;
  disabled: boolean;
  onPut: () => void;
  onTake?: () => void;
  children: ReactNode;
}) {
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!props.disabled) props.onPut();
      }}
    >
      {props.children}
      <DialogActions>
        {props.take && props.onTake && (
          <Button disabled={props.disabled} onClick={props.onTake}>
            {props.take}
          </Button>
        )}
        <Button look="main" type="submit" disabled={props.disabled}>
          {props.put}
        </Button>
      </DialogActions>
    </form>
  );
}

function TagForm({ people, pending, onAct }: FormProps) {
  const { tags } = useChoices();
  const [name, setName] = useState('');
  const act = (put: boolean): void => onAct({ do: 'tag', name: name.trim(), put });
  return (
    <Buttons
      put={`Tag ${people}`}
      take={`Take it off ${people}`}
      disabled={pending || name.trim() === ''}
      onPut={() => act(true)}
      onTake={() => act(false)}
    >
      <Field label="Tag" hint="One that does not exist yet is made.">
        {(attributes) => (
          <Input
            {...attributes}
            autoFocus
            list="known-tags"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Field>
      <datalist id="known-tags">
        {tags.map((tag) => (
          <option key={tag.id} value={tag.name} />
        ))}
      </datalist>
    </Buttons>
  );
}

function GroupForm({ people, pending, onAct }: FormProps) {
  const { groups } = useChoices();
  const [chosen, setChosen] = useState<number | null>(null);
  const groupId = chosen ?? groups[0]?.id ?? 0;
  return (
    <Buttons
      put={`Put ${people} in`}
      take={`Take ${people} out`}
      disabled={pending || groupId === 0}
      onPut={() => onAct({ do: 'group', groupId, put: true })}
      onTake={() => onAct({ do: 'group', groupId, put: false })}
    >
      <Field
        label="Group"
        hint={groups.length === 0 ? 'There is no group yet; make one under Tags and groups.' : undefined}
      >
        {(attributes) => (
          <Choice
            {...attributes}
            autoFocus
            value={groupId}
            onChange={(picked) => setChosen(Number(picked))}
            options={groups.map((group) => ({ value: group.id, label: `${group.name} (${group.count})` }))}
          />
        )}
      </Field>
    </Buttons>
  );
}

function WishForm({ people, pending, onAct }: FormProps) {
  const [wish, setWish] = useState<Wish>('no_mail');
  const [source, setSource] = useState('');
  const act = (put: boolean): void => onAct({ do: 'wish', wish, put, source: source.trim() || 'by hand' });
  return (
    <Buttons
      put={`Note it for ${people}`}
      take={`Take it back for ${people}`}
      disabled={pending}
      onPut={() => act(true)}
      onTake={() => act(false)}
    >
      <Field label="Wish">
        {(attributes) => (
          <Choice
            {...attributes}
            autoFocus
            value={wish}
            onChange={(picked) => setWish(picked as Wish)}
            options={WISH_NAMES.map((name) => ({ value: name, label: WISHES[name].word }))}
          />
        )}
      </Field>
      <Field label="Where it comes from" hint="A reply card, a call, a letter.">
        {(attributes) => <Input {...attributes} value={source} onChange={(event) => setSource(event.target.value)} />}
      </Field>
    </Buttons>
  );
}

function FieldForm({ people, pending, onAct }: FormProps) {
  const { data } = useQuery(ask(listFields));
  const fields = (data?.items ?? []).filter((field) => field.about === 'supporter');
  const [chosen, setChosen] = useState<number | null>(null);
  const [value, setValue] = useState(typed(''));
  const field = fields.find((one) => one.id === chosen) ?? fields[0];
  if (!field)
    return <p className="text-faded">There is no custom field yet; an administrator makes them under Fields.</p>;
  return (
    <Buttons
      put={`Fill in for ${people}`}
      take={`Empty for ${people}`}
      disabled={pending}
      onPut={() => onAct({ do: 'field', fieldId: field.id, value })}
      onTake={() => onAct({ do: 'field', fieldId: field.id, value: typed('') })}
    >
      <Field label="Field">
        {(attributes) => (
          <Choice
            {...attributes}
            autoFocus
            value={field.id}
            onChange={(picked) => setChosen(Number(picked))}
            options={fields.map((one) => ({ value: one.id, label: one.name }))}
          />
        )}
      </Field>
      <Field label="Value">
        {({ id }) => <FieldInput key={field.id} id={id} field={field} value={value} onChange={setValue} />}
      </Field>
    </Buttons>
  );
}

function NoteForm({ people, pending, onAct }: FormProps) {
  const { organization } = useHere();
  const [kind, setKind] = useState<(typeof NOTE_KINDS)[number]>('note');
  const [date, setDate] = useState(organization.today);
  const [text, setText] = useState('');
  return (
    <Buttons
      put={`Write it on ${people}`}
      disabled={pending || text.trim() === ''}
      onPut={() => onAct({ do: 'note', kind, date, body: docOf(text) })}
    >
      <div className="grid grid-cols-2 gap-3">
        <Field label="Kind">
          {(attributes) => (
            <Choice
              {...attributes}
              value={kind}
              onChange={(picked) => setKind(picked as typeof kind)}
              options={NOTE_KINDS.map((one) => ({ value: one, label: one }))}
            />
          )}
        </Field>
        <Field label="Date">{(attributes) => <DateField {...attributes} value={date} onChange={setDate} />}</Field>
      </div>
      <Field label="Note">
        {(attributes) => (
          <TextArea {...attributes} autoFocus rows={4} value={text} onChange={(event) => setText(event.target.value)} />
        )}
      </Field>
    </Buttons>
  );
}

function TaskForm({ people, pending, onAct }: FormProps) {
  const { organization, user } = useHere();
  const [title, setTitle] = useState('');
  const [due, setDue] = useState(organization.today);
  const [ownerId, setOwnerId] = useState<number | null>(user.id);
  return (
    <Buttons
      put={`Set it for ${people}`}
      disabled={pending || title.trim() === ''}
      onPut={() => onAct({ do: 'task', title: title.trim(), due, ownerId })}
    >
      <Field label="What is to be done">
        {(attributes) => (
          <Input {...attributes} autoFocus value={title} onChange={(event) => setTitle(event.target.value)} />
        )}
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Due">{(attributes) => <DateField {...attributes} value={due} onChange={setDue} />}</Field>
        <Field label="Who">
          {(attributes) => <ColleagueSelect {...attributes} value={ownerId} onChange={setOwnerId} />}
        </Field>
      </div>
    </Buttons>
  );
}
