import { Check, Trash2 } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import { deleteTask, finishTask } from '@tallystick/contract/notes';
import type { Task } from '@tallystick/contract/notes';
import { call } from '../ui/api.ts';
import { IconButton, StateWord } from '../ui/controls.tsx';
import { useFormats, useHere, useMayTouch } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** Setting a task: fetched when it is opened. */
export const TaskDialog = lazy(() => import('./TaskDialog.tsx'));
const Carried = lazy(() => import('./Carried.tsx'));

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
      {task.doneOn === null && task.carries && (
        <Suspense>
          <Carried carries={task.carries} />
        </Suspense>
      )}
      {mayDelete && (
        <IconButton label={`Delete the task ${task.title}`} onClick={() => remove.mutate(undefined)}>
          <Trash2 size={13} />
        </IconButton>
      )}
    </li>
  );
}
