import { z } from 'zod';
import { createTask } from '@tallystick/contract/notes';
import { REPEATS } from '@tallystick/core/tasks';
import type { Repeat } from '@tallystick/core/tasks';
import { call } from '../ui/api.ts';
import { optionsOf } from '../ui/choice/index.tsx';
import { Field } from '../ui/controls.tsx';
import {
  ChoiceField,
  DayField,
  EntryDialog,
  oneOf,
  readInto,
  said,
  TextField,
  typedDay,
  useEntry,
} from '../ui/form/index.ts';
import { useHere } from '../ui/organization.tsx';
import { ColleagueSelect } from './ColleagueSelect.tsx';

/** Setting a task, about a supporter or none. */
export default function TaskDialog({
  about,
  onClose,
}: {
  about: { id: number; name: string } | null;
  onClose: () => void;
}) {
  const { organization, user } = useHere();
  const entry = useEntry({
    schema: readInto(
      z.object({
        supporterId: z.number().nullable(),
        title: said('Say what is to be done.'),
        due: typedDay,
        ownerId: z.number().nullable(),
        repeats: oneOf<Repeat>(),
      }),
      createTask.body,
    ),
    initial: {
      ...{ supporterId: about?.id ?? null, title: '', due: organization.today as string },
      ...{ ownerId: user.id as number | null, repeats: 'never' as Repeat },
    },
    keep: `task ${about?.id ?? ''}`,
    send: (body) => call(createTask, { body }),
    say: () => 'The task is set',
    then: onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={about ? `Set a task about ${about.name}` : 'Set a task'}
      word="Set the task"
    >
      <TextField entry={entry} name="title" label="What is to be done" autoFocus />
      <div className="grid grid-cols-3 gap-3">
        <DayField entry={entry} name="due" label="Due" />
        <Field label="Who">
          {(attributes) => (
            <ColleagueSelect
              {...attributes}
              value={entry.typed.ownerId}
              onChange={(ownerId) => entry.put({ ownerId })}
            />
          )}
        </Field>
        <ChoiceField entry={entry} name="repeats" label="Again" options={optionsOf(REPEATS)} />
      </div>
    </EntryDialog>
  );
}
