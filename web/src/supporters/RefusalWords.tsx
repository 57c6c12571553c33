import { useState } from 'react';
import { liftRefusal } from '@tallystick/contract/supporters';
import type { Supporter } from '@tallystick/contract/supporters';
import { call } from '../ui/api.ts';
import { Button, Field, Input, StateWord } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';

type Refusal = Supporter['refusals'][number];

/** A mailbox whose owner asked for no e-mail, with the act that takes it back for a reason. */
export function RefusalWords({ refusal }: { refusal: Refusal }) {
  const { date } = useFormats();
  const mayLift = useMay(liftRefusal);
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const lift = useWrite(() => call(liftRefusal, { params: { id: refusal.id }, body: { reason } }), {
    say: () => `${refusal.address} gets e-mail again`,
    then: () => setOpen(false),
  });
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
      <Dialog open={open} onClose={() => setOpen(false)} title={`Send e-mail to ${refusal.address} again?`}>
        <p>
          The owner of this mailbox asked for no e-mail but receipts. Lift that only when they ask for it: it then goes
          for every record with this address, and cannot be undone.
        </p>
        <Field label="Why" className="mt-3">
          {(attributes) => (
            <Input
              {...attributes}
              autoFocus
              maxLength={300}
              placeholder="Asked for our news again in a call on March 3"
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          )}
        </Field>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Leave it</Button>
          <Button look="main" disabled={reason.trim() === '' || lift.isPending} onClick={() => lift.mutate(undefined)}>
            Lift the refusal
          </Button>
        </DialogActions>
      </Dialog>
    </span>
  );
}
