import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import type { ReactNode } from 'react';
import type { FieldValues } from 'react-hook-form';
import { SETTABLE, settableIn } from '@tallystick/core/catalogue';
import { WISH_NAMES, WISHES } from '@tallystick/core/wishes';
import type { Wish } from '@tallystick/core/wishes';
import type { Act } from '@tallystick/contract/acts';
import { listFields } from '@tallystick/contract/fields';
import type { CustomField } from '@tallystick/contract/fields';
import { NOTE_KINDS } from '@tallystick/contract/notes';
import { typed } from '@tallystick/core/fields';
import { ask } from '../ui/api.ts';
import { Button, Field } from '../ui/controls.tsx';
import { FieldInput } from '../ui/FieldInput.tsx';
import {
  ChoiceField,
  DayField,
  EntryActions,
  EntryForm,
  LongField,
  oneOf,
  orNone,
  picked,
  said,
  TextField,
  typedDay,
  useEntry,
} from '../ui/form/index.ts';
import type { Entry } from '../ui/form/index.ts';
import { useHere } from '../ui/organization.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { TASK_FOR_MANY, TaskFields } from './TaskFields.tsx';
import { docOf } from './richText.tsx';

export type Asked = 'tag' | 'group' | 'wish' | 'field' | 'note' | 'task' | 'tie';
const TITLES: Record<Asked, string> = {
  tag: 'Tag',
  group: 'Put into a group:',
  wish: 'Note a wish of',
  field: 'Fill in a field of',
  note: 'Write a note on',
  task: 'Set a task for',
  tie: 'Make or end a tie of',
};

interface FormProps {
  /** How many of what, in words. */
  people: string;
  /** Does the act; a refusal is thrown. */
  onAct: (act: Act) => Promise<void>;
}

/** Asks for the details of an act on many; what it takes away is offered beside what it gives. */
export function ActDialog(props: FormProps & { asked: Asked; onClose: () => void }) {
  const Form = {
    ...{ tag: TagForm, group: GroupForm, wish: WishForm, field: FieldForm, note: NoteForm, task: TaskForm },
    tie: TieForm,
  }[props.asked];
  return (
    <Dialog open onClose={props.onClose} title={`${TITLES[props.asked]} ${props.people}`}>
      <Form people={props.people} onAct={props.onAct} />
    </Dialog>
  );
}

/** Whether what is typed is given or taken away. */
type How = 'put' | 'take';

/** The form of an act, with the buttons that give and take away; Enter gives. */
function ActForm<Typed extends FieldValues>(props: {
  entry: Entry<Typed, How>;
  put: string;
  take?: string;
  children: ReactNode;
}) {
  const { entry } = props;
  return (
    <EntryForm entry={entry} how="put">
      {props.children}
      <EntryActions entry={entry} word={props.put}>
        {props.take && (
          <Button busy={entry.busy} onClick={() => entry.go('take')}>
            {props.take}
          </Button>
        )}
      </EntryActions>
    </EntryForm>
  );
}

function TagForm({ people, onAct }: FormProps) {
  const { tags } = useChoices();
  const entry = useEntry({
    schema: z.object({ name: said('Choose a tag, or write a new one.') }),
    initial: { name: '' },
    send: (tag, how: How) => onAct({ do: 'tag', name: tag.name, put: how === 'put' }),
  });
  const { name } = entry.typed;
  return (
    <ActForm entry={entry} put={`Tag ${people}`} take={`Take it off ${people}`}>
      <ChoiceField
        entry={entry}
        name="name"
        label="Tag"
        hint="One that does not exist yet is made."
        autoFocus
        remember="tag names"
        options={[...new Set([...tags.map((tag) => tag.name), name].filter(Boolean))].map((one) => ({
          ...{ value: one, label: one },
        }))}
        onAdd={(fresh) => entry.put({ name: fresh })}
      />
    </ActForm>
  );
}

function GroupForm({ people, onAct }: FormProps) {
  const { groups } = useChoices();
  const entry = useEntry({
    schema: z.object({ groupId: said('Choose the group.').transform(Number) }),
    initial: { groupId: String(groups[0]?.id ?? '') },
    send: ({ groupId }, how: How) => onAct({ do: 'group', groupId, put: how === 'put' }),
  });
  return (
    <ActForm entry={entry} put={`Put ${people} in`} take={`Take ${people} out`}>
      <ChoiceField
        entry={entry}
        name="groupId"
        label="Group"
        hint={groups.length === 0 ? 'There is no group yet; make one under Tags and groups.' : undefined}
        autoFocus
        options={groups.map((group) => ({ value: group.id, label: `${group.name} (${group.count})` }))}
      />
    </ActForm>
  );
}

function WishForm({ people, onAct }: FormProps) {
  const entry = useEntry({
    schema: z.object({ wish: oneOf<Wish>(), source: z.string().trim() }),
    initial: { wish: 'no_mail' as Wish, source: '' },
    send: ({ wish, source }, how: How) => onAct({ do: 'wish', wish, put: how === 'put', source: source || 'by hand' }),
  });
  return (
    <ActForm entry={entry} put={`Note it for ${people}`} take={`Take it back for ${people}`}>
      <ChoiceField
        entry={entry}
        name="wish"
        label="Wish"
        autoFocus
        options={WISH_NAMES.map((name) => ({ value: name, label: WISHES[name].word }))}
      />
      <TextField entry={entry} name="source" label="Where it comes from" hint="A reply card, a call, a letter." />
    </ActForm>
  );
}

/** The fields of the catalogue that many can be given, as controls have them. */
const OURS = SETTABLE.flatMap((name) => {
  const field = settableIn(name);
  const choices = [...(field?.set.choices ?? [])];
  return field
    ? [
        {
          value: name,
          id: 0,
          name: field.label,
          kind: choices.length > 0 ? ('one' as const) : ('text' as const),
          choices,
        },
      ]
    : [];
});

function FieldForm({ people, onAct }: FormProps) {
  const { data } = useQuery(ask(listFields));
  const own = (data?.items ?? []).filter((field) => field.about === 'supporter');
  const fields = [...own.map((field) => ({ ...field, value: `own:${field.id}` })), ...OURS];
  const fieldOf = (value: string) => fields.find((one) => one.value === value) ?? fields[0];
  const entry = useEntry({
    schema: z.object({ field: z.string(), value: z.string() }),
    initial: { field: '', value: '' },
    ask: ({ value }, how: How) =>
      how === 'put' && value.trim() === '' ? { value: 'Write what it is to be; “Empty” takes it away.' } : null,
    send: ({ field, value }, how: How) =>
      onAct({ do: 'field', field: fieldOf(field)?.value ?? '', value: typed(how === 'put' ? value : '') }),
  });
  const field = fieldOf(entry.typed.field);
  if (!field) return null;
  const ofAddress = settableIn(field.value)?.set.of === 'address';
  return (
    <ActForm entry={entry} put={`Fill in for ${people}`} take={`Empty for ${people}`}>
      <ChoiceField
        entry={{ ...entry, typed: { ...entry.typed, field: field.value } }}
        name="field"
        label="Field"
        hint={ofAddress ? 'Of the address that each is reached at; who has none is passed over.' : undefined}
        autoFocus
        options={fields.map(({ value, name }) => ({ value, label: name }))}
      />
      <Field label="Value" name="value" error={entry.fault('value')}>
        {({ id }) => (
          <FieldInput
            key={field.value}
            id={id}
            field={field as CustomField}
            value={typed(entry.typed.value)}
            onChange={(value) => entry.put({ value })}
          />
        )}
      </Field>
    </ActForm>
  );
}

function NoteForm({ people, onAct }: FormProps) {
  const { organization } = useHere();
  const entry = useEntry({
    schema: z.object({ kind: oneOf<(typeof NOTE_KINDS)[number]>(), date: typedDay, text: said('Write the note.') }),
    initial: { kind: 'note' as (typeof NOTE_KINDS)[number], date: organization.today as string, text: '' },
    send: ({ kind, date, text }, _how: How) => onAct({ do: 'note', kind, date, body: docOf(text) }),
  });
  return (
    <ActForm entry={entry} put={`Write it on ${people}`}>
      <div className="grid grid-cols-2 gap-3">
        <ChoiceField
          entry={entry}
          name="kind"
          label="Kind"
          options={NOTE_KINDS.map((one) => ({ value: one, label: one }))}
        />
        <DayField entry={entry} name="date" label="Date" />
      </div>
      <LongField entry={entry} name="text" label="Note" rows={4} autoFocus />
    </ActForm>
  );
}

function TaskForm({ people, onAct }: FormProps) {
  const { organization, user } = useHere();
  const entry = useEntry({
    schema: TASK_FOR_MANY,
    initial: { title: '', due: organization.today as string, ownerId: user.id as number | null },
    send: (task, _how: How) => onAct({ do: 'task', ...task }),
  });
  return (
    <ActForm entry={entry} put={`Set it for ${people}`}>
      <TaskFields entry={entry} />
    </ActForm>
  );
}

function TieForm({ people, onAct }: FormProps) {
  const { roles } = useChoices();
  const entry = useEntry({
    schema: z.object({
      role: said('Choose what the other is to them.').transform(Number),
      otherId: picked('Choose who it is: type a name and press Enter.'),
      on: orNone(typedDay, null),
    }),
    initial: { role: '', otherId: null as Picked | null, on: '' },
    send: (tie, how: How) => onAct({ do: 'tie', ...tie, put: how === 'put' }),
  });
  return (
    <ActForm entry={entry} put={`Tie ${people}`} take={`End it for ${people}`}>
      <div className="grid grid-cols-[12rem_1fr] gap-3">
        <ChoiceField
          entry={entry}
          name="role"
          label="Their"
          autoFocus
          options={roles.map(({ id, name }) => ({ value: id, label: name }))}
        />
        <Field name="otherId" label="is" error={entry.fault('otherId')}>
          {(attributes) => (
            <SupporterPicker
              {...attributes}
              label="The other supporter"
              value={entry.typed.otherId}
              onPick={(otherId) => entry.put({ otherId })}
            />
          )}
        </Field>
      </div>
      <DayField entry={entry} name="on" label="From, or until" hint="Left empty: tied without a day, ended today." />
    </ActForm>
  );
}
