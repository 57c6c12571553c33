import { useState } from 'react';
import type { Window } from '@tallystick/core/dates';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import type { listChoices } from '@tallystick/contract/setup';
import { addWindow, changeWindow, deleteWindow } from '@tallystick/contract/windows';
import type { KeptWindow } from '@tallystick/contract/windows';
import { call } from '../ui/api.ts';
import { Button, Field, Input } from '../ui/controls.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { PlainWindow } from './PlainWindow.tsx';

/** Keeps a window of days by a name, for every condition and column; or changes or deletes one that is kept. */
export function KeptWindowDialog(props: {
  kept: ResponseOf<typeof listChoices>['windows'][number] | null;
  window: Window;
  onKept: (id: number) => void;
  onClose: () => void;
}) {
  const { kept, onKept, onClose } = props;
  const [name, setName] = useState(kept?.name ?? '');
  const [window, setWindow] = useState(props.window);
  const save = useWrite(
    async () => {
      const body = { name, window: window as KeptWindow['window'] };
      if (kept) await call(changeWindow, { params: { id: kept.id }, body: { version: kept.version, ...body } });
      else onKept((await call(addWindow, { body })).id);
      onClose();
    },
    { say: () => (kept ? 'Changed, wherever it is named' : 'Kept by name') },
  );
  const remove = useWrite(
    async (id: number) => {
      await call(deleteWindow, { params: { id } });
      onClose();
    },
    { say: () => 'Deleted; what names it says so' },
  );
  return (
    <Dialog open onClose={onClose} title={kept ? `Window: ${kept.name}` : 'Keep a window by a name'}>
      <Field label="Name, as a sentence says it after ‘in’">
        {(attributes) => (
          <Input
            {...attributes}
            autoFocus
            placeholder="the gala season"
            value={name}
            onChange={(event) => setName(event.target.value.slice(0, 60))}
          />
        )}
      </Field>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <PlainWindow window={window} onChange={setWindow} label="Days of the window" />
      </div>
      {kept && (
        <p className="mt-2 text-[13px] text-faded">Every condition and column that names it goes by the new days.</p>
      )}
      <DialogActions>
        {kept && (
          <Button look="quiet" busy={remove.isPending} onClick={() => remove.mutate(kept.id)}>
            Delete it
          </Button>
        )}
        <Button onClick={onClose}>Not now</Button>
        <Button look="main" busy={save.isPending} disabled={name.trim() === ''} onClick={() => save.mutate(undefined)}>
          {kept ? 'Save' : 'Keep it'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
