import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { createTask, listTasks } from '@tallystick/contract/notes';
import type { Task } from '@tallystick/contract/notes';
import { Button, Empty, StateWord } from '../ui/controls.tsx';
import { Filters } from '../ui/filters/Filters.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import type { Column } from '../ui/table/columns.ts';
import { useRowSelection } from '../ui/table/useRowSelection.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { usePagesOf } from '../ui/usePages.ts';
import { TaskDialog } from './TaskLine.tsx';
import { TasksBar } from './TasksBar.tsx';

const taskId = (task: Task): number => task.id;

/** Every open task, whoever has it and whether or not it is about a supporter. */
export default function TasksPage() {
  const url = useListUrl();
  const { date, counted } = useFormats();
  const { today } = useHere().organization;
  const mayAdd = useMay(createTask);
  const [adding, setAdding] = useState(false);
  const query = {
    owner: url.get('whose') === 'me' ? ('me' as const) : ('all' as const),
    about: url.get('about') === 'nobody' ? ('nobody' as const) : ('anybody' as const),
  };
  const list = usePagesOf(listTasks, { query });
  const { selection, chosen, count, clear } = useRowSelection('task', list.rows, taskId, null);
  const columns = useMemo(
    (): Column<Task>[] => [
      {
        ...{ id: 'due', title: 'Due', width: 150, align: 'right' },
        cell: ({ due }) => (due < today ? <StateWord tone="wrong">{date(due)}</StateWord> : date(due)),
      },
      {
        ...{ id: 'title', title: 'What is to be done', width: 320, grow: true, footer: counted(list.total, 'task') },
        cell: ({ title }) => title,
      },
      {
        ...{ id: 'about', title: 'About', width: 230 },
        cell: ({ about }) =>
          about ? (
            <Link className="font-serif text-[15px] hover:underline" tabIndex={-1} to={`/supporters/${about.id}`}>
              {about.name}
            </Link>
          ) : (
            <span className="text-faded">nobody</span>
          ),
      },
      {
        ...{ id: 'owner', title: 'Whose', width: 170 },
        cell: ({ owner }) => owner || <span className="text-faded">nobody yet</span>,
      },
      { ...{ id: 'repeats', title: 'Again', width: 190 }, cell: ({ repeatText }) => repeatText },
    ],
    [date, counted, today, list.total],
  );
  return (
    <ListPage
      title="Tasks"
      facts={`${counted(list.total, 'open task')}, by the day they are due`}
      acts={
        mayAdd && (
          <Button look="main" onClick={() => setAdding(true)}>
            Set a task
          </Button>
        )
      }
      name="tasks"
      label="Tasks"
      columns={columns}
      list={list}
      selection={selection}
      filters={
        count > 0 ? (
          <TasksBar ids={chosen.map(taskId)} onDone={clear} />
        ) : (
          <Filters
            url={url}
            filters={[
              {
                ...{ kind: 'choice', label: 'Whose', name: 'whose', usual: 'all', always: true },
                options: [
                  { value: 'all', label: 'everybody’s' },
                  { value: 'me', label: 'mine and nobody’s' },
                ],
              },
              {
                ...{ kind: 'choice', label: 'About', name: 'about', usual: 'anybody', always: true },
                options: [
                  { value: 'anybody', label: 'anybody or nobody' },
                  { value: 'nobody', label: 'nobody' },
                ],
              },
            ]}
          />
        )
      }
      empty={<Empty title="Nothing to do">Tasks are set here, on a record, and for many at once.</Empty>}
    >
      {adding && <TaskDialog about={null} onClose={() => setAdding(false)} />}
    </ListPage>
  );
}
