import { Check } from 'lucide-react';
import { useState } from 'react';
import { z } from 'zod';
import { actOnTasks } from '@tallystick/contract/notes';
import type { TaskAct } from '@tallystick/contract/notes';
import { ActsOn } from '../ui/ActsOn.tsx';
import { call } from '../ui/api.ts';
import { Button, Field } from '../ui/controls.tsx';
import { DayField, EntryActions, EntryForm, typedDay, useEntry } from '../ui/form/index.ts';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { ColleagueSelect } from './ColleagueSelect.tsx';

/** What can be done to the tasks that are selected: handed over, moved, ticked off. */
export function TasksBar({ ids, onDone }: { ids: readonly number[]; onDone: () => void }) {
  const { counted } = useFormats();
  const mayAct = useMay(actOnTasks);
  const [asking, setAsking] = useState<'give' | 'move' | null>(null);
  const tasks = counted(ids.length, 'task');
  const act = useWrite((what: TaskAct) => call(actOnTasks, { body: { ids: [...ids], act: what } }), {
    say: ({ changed }) => `${counted(changed, 'task')} changed`,
    then: () => {
      setAsking(null);
      onDone();
    },
  });
  if (!mayAct) return <span className="font-medium">{tasks}</span>;
  return (
    <ActsOn label="Acts on the tasks" what={tasks}>
      <Button look="quiet" className="px-2" onClick={() => setAsking('give')}>
        Hand over
      </Button>
      <Button look="quiet" className="px-2" onClick={() => setAsking('move')}>
        Move
      </Button>
      <Button look="quiet" className="px-2" busy={act.isPending} onClick={() => act.mutate({ do: 'done' })}>
        <Check size={14} /> Tick off
      </Button>
      {asking === 'give' && (
        <GiveDialog
          tasks={tasks}
          onGive={(ownerId) => act.mutate({ do: 'give', ownerId })}
          onClose={() => setAsking(null)}
        />
      )}
      {asking === 'move' && (
        <MoveDialog
          tasks={tasks}
          onMove={(due) => act.mutateAsync({ do: 'move', due })}
          onClose={() => setAsking(null)}
        />
      )}
    </ActsOn>
  );
}

function GiveDialog(props: { tasks: string; onGive: (owner: number | null) => void; onClose: () => void }) {
  const [owner, setOwner] = useState<number | null>(null);
  return (
    <Dialog open onClose={props.onClose} title={`Hand over ${props.tasks}`}>
      <Field label="To">{(attributes) => <ColleagueSelect {...attributes} value={owner} onChange={setOwner} />}</Field>
      <div className="mt-4 flex justify-end">
        <Button look="main" onClick={() => props.onGive(owner)}>
          Hand over {props.tasks}
        </Button>
      </div>
    </Dialog>
  );
}

function MoveDialog(props: { tasks: string; onMove: (due: string) => Promise<unknown>; onClose: () => void }) {
  const { today } = useHere().organization;
  const entry = useEntry({
    schema: z.object({ due: typedDay }),
    initial: { due: today },
    send: ({ due }) => props.onMove(due),
  });
  return (
    <Dialog open onClose={props.onClose} title={`Move ${props.tasks}`}>
      <EntryForm entry={entry}>
        <DayField entry={entry} name="due" label="Due" autoFocus />
        <EntryActions entry={entry} word={`Move ${props.tasks}`} />
      </EntryForm>
    </Dialog>
  );
}
