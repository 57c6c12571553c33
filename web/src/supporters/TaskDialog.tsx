import { z } from 'zod';
import type { ReadyAct } from '@tallystick/contract/common';
import { createTask } from '@tallystick/contract/notes';
import { REPEATS } from '@tallystick/core/tasks';
import type { Repeat } from '@tallystick/core/tasks';
import { call } from '../ui/api.ts';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
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
import { READY_WORDS } from '../ui/readyActs.ts';
import { OwnerField } from './TaskFields.tsx';

/** Setting a task, about a supporter or none. */
export default function TaskDialog({
  about,
  carries = null,
  onClose,
}: {
  about: { id: number; name: string } | null;
  /** The segment that something is to be done with when it is due. */
  carries?: { segmentId: number; name: string } | null;
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
        carries: z.object({ segmentId: z.number(), act: oneOf<ReadyAct>() }).nullable(),
      }),
      createTask.body,
    ),
    initial: {
      ...{ supporterId: about?.id ?? null, title: carries ? carries.name : '', due: organization.today as string },
      ...{ ownerId: user.id as number | null, repeats: (carries ? 'monthly' : 'never') as Repeat },
      carries: carries && { segmentId: carries.segmentId, act: 'labels30' as ReadyAct },
    },
    keep: `task ${about?.id ?? ''}${carries ? ` of segment ${carries.segmentId}` : ''}`,
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
      <div className="grid grid-cols-[1fr_1.4fr_1fr] gap-3">
        <DayField entry={entry} name="due" label="Due" />
        <OwnerField entry={entry} />
        <ChoiceField entry={entry} name="repeats" label="Again" options={optionsOf(REPEATS)} />
      </div>
      {carries && entry.typed.carries && (
        <Field label={`At a click, with ${carries.name}`}>
          {(attributes) => (
            <Choice
              {...attributes}
              value={entry.typed.carries?.act ?? 'open'}
              onChange={(act) => entry.put({ carries: { segmentId: carries.segmentId, act: act as ReadyAct } })}
              options={optionsOf(READY_WORDS)}
            />
          )}
        </Field>
      )}
    </EntryDialog>
  );
}
