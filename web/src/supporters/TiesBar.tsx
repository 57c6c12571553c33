import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { z } from 'zod';
import { actOnTies } from '@tallystick/contract/relations';
import type { TieAct } from '@tallystick/contract/relations';
import { ActsOn } from '../ui/ActsOn.tsx';
import { call } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { DayField, EntryDialog, typedDay, useEntry } from '../ui/form/index.ts';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** What can be done to the ties that are selected: ended on a day, deleted. A tie that is selected at both ends is one. */
export function TiesBar({ ids, onDone }: { ids: readonly number[]; onDone: () => void }) {
  const { counted } = useFormats();
  const mayAct = useMay(actOnTies);
  const [ending, setEnding] = useState(false);
  const own = [...new Set(ids)];
  const ties = counted(own.length, 'tie');
  const send = (what: TieAct) => call(actOnTies, { body: { ids: own, act: what } });
  const remove = useWrite(() => send({ do: 'delete' }), {
    say: ({ changed }) => `${counted(changed, 'tie')} deleted`,
    then: onDone,
  });
  if (!mayAct) return <span className="font-medium">{ties}</span>;
  return (
    <ActsOn label="Acts on the ties" what={ties}>
      <Button look="quiet" className="px-2" onClick={() => setEnding(true)}>
        End
      </Button>
      <Button look="quiet" className="px-2" busy={remove.isPending} onClick={() => remove.mutate(undefined)}>
        <Trash2 size={14} /> Delete
      </Button>
      {ending && <EndDialog ties={ties} send={send} onDone={onDone} onClose={() => setEnding(false)} />}
    </ActsOn>
  );
}

function EndDialog(props: {
  ties: string;
  send: (what: TieAct) => Promise<{ changed: number }>;
  onDone: () => void;
  onClose: () => void;
}) {
  const { counted } = useFormats();
  const { today } = useHere().organization;
  const entry = useEntry({
    schema: z.object({ on: typedDay }),
    initial: { on: today as string },
    send: ({ on }) => props.send({ do: 'end', on }),
    say: ({ changed }) => `${counted(changed, 'tie')} ended`,
    then: () => {
      props.onClose();
      props.onDone();
    },
  });
  return (
    <EntryDialog entry={entry} onClose={props.onClose} title={`End ${props.ties}`} word={`End ${props.ties}`}>
      <DayField
        entry={entry}
        name="on"
        label="Their last day"
        hint="They end for both. One that ended before stays as it is; one that begins later ends as it begins."
        autoFocus
      />
    </EntryDialog>
  );
}
