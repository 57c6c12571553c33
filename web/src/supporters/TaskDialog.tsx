import { Check, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { createTask, deleteTask, finishTask } from '@tallystick/contract/notes';
import type { Task } from '@tallystick/contract/notes';
import { REPEATS } from '@tallystick/core/tasks';
import type { Repeat } from '@tallystick/core/tasks';
import { call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, IconButton, Input, StateWord } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useFormats, useHere, useMayTouch } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { ColleagueSelect } from './ColleagueSelect.tsx';

/** Setting a task, about a supporter or none. */
export function TaskDialog({ about, onClose }: { about: { id: number; name: string } | null; onClose: () => void }) {
  const { organization, user } = useHere();
  const [draft, setDraft] = useState({
    title: '',
    due: organization.today,
    ownerId: user.id as number | null,
    repeats: 'never' as Repeat,
  });
  const add = useWrite(() => call(createTask, { body: { supporterId: about?.id ?? null, ...draft } }), {
    then: onClose,
  });
  return (
    <Dialog open onClose={onClose} title={about ? `Set a task about ${about.name}` : 'Set a task'}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (draft.title.trim()) add.mutate(undefined);
        }}
      >
        <Field label="What is to be done">
          {(attributes) => (
            <Input
              {...attributes}
              autoFocus
              value={draft.title}
              onChange={(event) => setDraft({ ...draft, title: event.target.value })}
            />
          )}
        </Field>
        <div className="grid grid-cols-3 gap-3">
          <Field label="Due">
            {(attributes) => (
              <DateField
                {...attributes}

                value={draft.due}
                onChange={(day) => setDraft({ ...draft, due: day })}
              />
            )}
          </Field>
          <Field label="Who">
            {(attributes) => (
              <ColleagueSelect
                {...attributes}
                value={draft.ownerId}
                onChange={(ownerId) => setDraft({ ...draft, ownerId })}
              />
            )}
          </Field>
          <Field label="Again">
            {(attributes) => (
              <Choice
                {...attributes}
                value={draft.repeats}
                onChange={(picked) => setDraft({ ...draft, repeats: picked as Repeat })}
                options={Object.entries(REPEATS).map(([repeat, words]) => ({ value: repeat, label: words }))}
              />
            )}
          </Field>
        </div>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" type="submit" disabled={add.isPending || draft.title.trim() === ''}>
            Set the task
          </Button>
        </DialogActions>
      </form>
    </Dialog>
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
        <IconButton
          label={`Tick off: ${task.title}`}
          disabled={finish.isPending}
          onClick={() => finish.mutate(undefined)}
        >
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
