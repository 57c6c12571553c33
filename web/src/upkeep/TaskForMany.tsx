import { z } from 'zod';
import { addDays } from '@tallystick/core/dates';
import { ColleagueSelect } from '../supporters/index.ts';
import { Field } from '../ui/controls.tsx';
import { DayField, EntryDialog, said, TextField, typedDay, useEntry } from '../ui/form/index.ts';
import { useHere } from '../ui/organization.tsx';

/** A task that is set about each of many. */
export interface TaskSet {
  title: string;
  due: string;
  ownerId: number | null;
}

/** So many days a task has that nobody gave a day. */
export const USUAL_DAYS = 7;

export function TaskForMany(props: {
  title: string;
  many: string;
  onSet: (task: TaskSet) => Promise<unknown>;
  onClose: () => void;
}) {
  const { organization, user } = useHere();
  const entry = useEntry({
    schema: z.object({ title: said('Say what is to be done.'), due: typedDay, ownerId: z.number().nullable() }),
    initial: {
      ...{ title: props.title, due: addDays(organization.today, USUAL_DAYS) as string },
      ownerId: user.id as number | null,
    },
    send: props.onSet,
    then: props.onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      onClose={props.onClose}
      title={`A task about each of ${props.many}`}
      word={`Set a task about ${props.many}`}
    >
      <TextField entry={entry} name="title" label="What is to be done" autoFocus />
      <div className="grid grid-cols-2 gap-3">
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
      </div>
      <p className="text-[13px] text-faded">Whoever has an open task of these words already gets no second one.</p>
    </EntryDialog>
  );
}
