import { Pin, Trash2 } from 'lucide-react';
import { actOnNotes, NOTE_KINDS } from '@tallystick/contract/notes';
import type { NoteAct } from '@tallystick/contract/notes';
import { ActsOn } from '../ui/ActsOn.tsx';
import { call } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Menu } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** What can be done to the notes that are selected: another kind, pinned, deleted. */
export function NotesBar({ ids, onDone }: { ids: readonly number[]; onDone: () => void }) {
  const { counted } = useFormats();
  const mayAct = useMay(actOnNotes);
  const notes = counted(ids.length, 'note');
  const act = useWrite((what: NoteAct) => call(actOnNotes, { body: { ids: [...ids], act: what } }), {
    say: ({ changed }) => `${counted(changed, 'note')} changed`,
    then: onDone,
  });
  if (!mayAct) return <span className="font-medium">{notes}</span>;
  return (
    <ActsOn label="Acts on the notes" what={notes}>
      <Menu
        trigger={
          <Button look="quiet" className="px-2">
            Make them …
          </Button>
        }
        items={NOTE_KINDS.map((kind) => ({ label: `${kind}s`, onSelect: () => act.mutate({ do: 'kind', kind }) }))}
      />
      <Button look="quiet" className="px-2" onClick={() => act.mutate({ do: 'pin', pinned: true })}>
        <Pin size={14} /> Pin
      </Button>
      <Button look="quiet" className="px-2" onClick={() => act.mutate({ do: 'pin', pinned: false })}>
        Unpin
      </Button>
      <Button look="quiet" className="px-2" busy={act.isPending} onClick={() => act.mutate({ do: 'delete' })}>
        <Trash2 size={14} /> Delete
      </Button>
    </ActsOn>
  );
}
