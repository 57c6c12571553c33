import { Check, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { z } from 'zod';
import { createTask, deleteTask, finishTask } from '@tallystick/contract/notes';
import type { Task } from '@tallystick/contract/notes';
import { REPEATS } from '@tallystick/core/tasks';
import type { Repeat } from '@tallystick/core/tasks';
import { call } from '../ui/api.ts';
import { optionsOf } from '../ui/choice/index.tsx';
import { Field, IconButton, StateWord } from '../ui/controls.tsx';
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
import { useFormats, useHere, useMayTouch } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { ColleagueSelect } from './ColleagueSelect.tsx';

/** Setting a task, about a supporter or none. */
export function TaskDialog({ about, onClose }: { about: { id: number; name: string } | null; onClose: () => void }) {
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

/** A task as a line to tick off. */
export function TaskLine({ task, withAbout = false }: { task: Task; withAbout?: boolean }) {
  const { date } = useFormats();
  const { organization, user } = useHere();
  // Whoever set a task, or has it, or anyone where nobody has it, ticks it off; who set it deletes it.
  const mayFinish = useMayTouch(finishTask)(task.ownerId === null || task.makerId === user.id ? user.id : task.ownerId);
  const mayDelete = useMayTouch(deleteTask)(task.makerId);
  const finish = useWrite(() => call(finishTask, { params: { id: task.id } }), {
    say: (done) => (done.next ? `Done; again on ${date(done.next)}` : 'Done'),
  });
  const remove = useWrite(() => call(deleteTask, { params: { id: task.id } }));
  const late = task.doneOn === null && task.due < organization.today;
  return (
    <li className="flex items-start gap-2 border-b border-rule py-1">
      {task.doneOn === null && mayFinish && (
        <IconButton label={`Tick off: ${task.title}`} onClick={() => finish.mutate(undefined)}>
          <Check size={14} />
        </IconButton>
      )}
      <div className="min-w-0 flex-1 pt-0.5">
        <p className={task.doneOn === null ? '' : 'text-faded line-through'}>
          {task.title}
          {withAbout && task.about && (
            <>
              {' · '}
              <Link className="text-slate underline" to={`/supporters/${task.about.id}?section=notes`}>
                {task.about.name}
              </Link>
            </>
          )}
        </p>
        <p className="text-[13px] text-faded">
          {late ? (
            <StateWord tone="wrong">was due {date(task.due)}</StateWord>
          ) : task.doneOn ? (
            `${task.doneBy}, ${date(task.doneOn)}`
          ) : (
            `due ${date(task.due)}`
          )}
          {task.doneOn === null &&
            [task.ownerId === user.id ? '' : task.owner || 'nobody yet', task.repeatText]
              .filter(Boolean)
              .map((words) => `, ${words}`)}
        </p>
      </div>
      {mayDelete && (
        <IconButton label={`Delete the task ${task.title}`} onClick={() => remove.mutate(undefined)}>
          <Trash2 size={13} />
        </IconButton>
      )}
    </li>
  );
}
