import { Download, Trash2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { MOST_MERGED } from '@tallystick/contract/duplicates';
import { actOnSupporters } from '@tallystick/contract/acts';
import type { Act, Selection } from '@tallystick/contract/acts';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ActsOn } from '../ui/ActsOn.tsx';
import { call } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { ActDialog } from './ActDialog.tsx';
import type { Asked } from './ActDialog.tsx';
import { ExportDialog } from './ExportDialog.tsx';

const ASKED: readonly [Asked, string][] = [
  ['tag', 'Tag'],
  ['group', 'Group'],
  ['wish', 'Wish'],
  ['field', 'Field'],
  ['note', 'Note'],
  ['task', 'Task'],
  ['tie', 'Tie'],
];

/** What can be done to the supporters that are selected. */
export function ActsBar(props: { selection: Selection; count: number; trashed: boolean; onDone: () => void }) {
  const { selection, count } = props;
  const [asking, setAsking] = useState<Asked | null>(null);
  const navigate = useNavigate();
  const mayAct = useMay(actOnSupporters);
  const { count: number, counted } = useFormats();
  const people = counted(count, 'supporter');
  const doIt = (what: Act) => call(actOnSupporters, { body: { selection, act: what } });
  const wordsFor = (result: ResponseOf<typeof actOnSupporters>): string =>
    result.jobId === null
      ? `${number(result.changed ?? 0)} of ${number(result.asked)} changed`
      : `Working on ${number(result.asked)}; see below`;
  const act = useWrite(doIt, { say: wordsFor });
  const [exporting, setExporting] = useState(false);
  return (
    <ActsOn label="Acts on the selection" what={people}>
      {mayAct && !props.trashed && (
        <>
          {ASKED.map(([what, word]) => (
            <Button key={what} look="quiet" className="px-2" onClick={() => setAsking(what)}>
              {word}
            </Button>
          ))}
          {selection.kind === 'ids' && count > 1 && count <= MOST_MERGED && (
            <Button
              look="quiet"
              className="px-2"
              onClick={() => void navigate(`/duplicates/merge?ids=${selection.ids.join(',')}`)}
            >
              Merge
            </Button>
          )}
          <Button
            look="quiet"
            className="px-2"
            onClick={() => act.mutate({ do: 'trash' }, { onSuccess: props.onDone })}
          >
            <Trash2 size={14} /> Trash
          </Button>
        </>
      )}
      {mayAct && props.trashed && (
        <Button look="quiet" onClick={() => act.mutate({ do: 'restore' }, { onSuccess: props.onDone })}>
          <Undo2 size={14} /> Restore {people}
        </Button>
      )}
      <Button look="quiet" className="px-2" onClick={() => setExporting(true)}>
        <Download size={14} /> Export …
      </Button>
      {exporting && <ExportDialog selection={selection} people={people} onClose={() => setExporting(false)} />}
      {asking && (
        <ActDialog
          asked={asking}
          people={people}
          onAct={async (what) => {
            toast.success(wordsFor(await doIt(what)));
            setAsking(null);
          }}
          onClose={() => setAsking(null)}
        />
      )}
    </ActsOn>
  );
}
