import { useState } from 'react';
import { liftRefusal } from '@tallystick/contract/supporters';
import type { Supporter } from '@tallystick/contract/supporters';
import { call } from '../ui/api.ts';
import { Button, StateWord } from '../ui/controls.tsx';
import { EntryDialog, TextField, useEntry } from '../ui/form/index.ts';
import { useFormats, useMay } from '../ui/organization.tsx';

type Refusal = Supporter['refusals'][number];

/** A mailbox whose owner asked for no e-mail, with the act that takes it back for a reason. */
export function RefusalWords({ refusal }: { refusal: Refusal }) {
  const { date } = useFormats();
  const mayLift = useMay(liftRefusal);
  const [open, setOpen] = useState(false);
  return (
    <span className="flex items-center gap-1">
      <StateWord tone="look">
        Refused e-mail to {refusal.address} on {date(refusal.since)}, {refusal.source}
      </StateWord>
      {mayLift && (
        <Button look="quiet" className="h-6 px-1 text-[13px]" onClick={() => setOpen(true)}>
          Lift …
        </Button>
      )}
      {open && <Lift refusal={refusal} onClose={() => setOpen(false)} />}
    </span>
  );
}

function Lift({ refusal, onClose }: { refusal: Refusal; onClose: () => void }) {
  const entry = useEntry({
    schema: liftRefusal.body,
    initial: { reason: '' },
    send: (body) => call(liftRefusal, { params: { id: refusal.id }, body }),
    say: () => `${refusal.address} gets e-mail again`,
    then: onClose,
  });
  return (
    <EntryDialog
      entry={entry}
      onClose={onClose}
      title={`Send e-mail to ${refusal.address} again?`}
      word="Lift the refusal"
    >
      <p>
        The owner of this mailbox asked for no e-mail but receipts. Lift that only when they ask for it: it then goes
        for every record with this address, and cannot be undone.
      </p>
      <TextField
        entry={entry}
        name="reason"
        label="Why"
        autoFocus
        placeholder="Asked for our news again in a call on March 3"
      />
    </EntryDialog>
  );
}
