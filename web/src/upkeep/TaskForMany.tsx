import type { z } from 'zod';
import { addDays } from '@tallystick/core/dates';
import { TASK_FOR_MANY, TaskFields } from '../supporters/index.ts';
import { EntryDialog, useEntry } from '../ui/form/index.ts';
import { useHere } from '../ui/organization.tsx';

/** A task that is set about each of many. */
export type TaskSet = z.output<typeof TASK_FOR_MANY>;

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
    schema: TASK_FOR_MANY,
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
      <TaskFields entry={entry} />
      <p className="text-[13px] text-faded">Whoever has an open task of these words already gets no second one.</p>
    </EntryDialog>
  );
}
