import { useState } from 'react';
import { z } from 'zod';
import { writeOffPledges } from '@tallystick/contract/pledges';
import { ActsOn } from '../ui/ActsOn.tsx';
import { call } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { DayField, EntryDialog, said, TextField, typedDay, useEntry } from '../ui/form/index.ts';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';

/** What can be done to the pledges that are selected: what is open of them written off. */
export function PledgesBar({ ids, onDone }: { ids: readonly number[]; onDone: () => void }) {
  const { counted } = useFormats();
  const mayAct = useMay(writeOffPledges);
  const [asking, setAsking] = useState(false);
  const pledges = counted(ids.length, 'pledge');
  if (!mayAct) return <span className="font-medium">{pledges}</span>;
  return (
    <ActsOn label="Acts on the pledges" what={pledges}>
      <Button look="quiet" className="px-2" onClick={() => setAsking(true)}>
        Write off
      </Button>
      {asking && <WriteOffDialog ids={ids} pledges={pledges} onDone={onDone} onClose={() => setAsking(false)} />}
    </ActsOn>
  );
}

function WriteOffDialog(props: { ids: readonly number[]; pledges: string; onDone: () => void; onClose: () => void }) {
  const { counted } = useFormats();
  const { today } = useHere().organization;
  const entry = useEntry({
    schema: z.object({ date: typedDay, reason: said('Say why they are written off.') }),
    initial: { date: today as string, reason: '' },
    send: (asked) => call(writeOffPledges, { body: { ids: [...props.ids], ...asked } }),
    say: ({ changed }) => `${counted(changed, 'pledge')} written off`,
    then: () => {
      props.onClose();
      props.onDone();
    },
  });
  const word = `Write ${props.pledges} off`;
  return (
    <EntryDialog entry={entry} onClose={props.onClose} title={word} word={word}>
      <p className="text-faded">All that is open of them; those of which nothing is open are passed over.</p>
      <TextField entry={entry} name="reason" label="Why" autoFocus />
      <DayField entry={entry} name="date" label="Given up on" />
    </EntryDialog>
  );
}
