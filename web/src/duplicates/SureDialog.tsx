import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { mergeSure, undoMerged } from '@tallystick/contract/duplicates';
import { call, runningJobs } from '../ui/api.ts';
import { Button, Field } from '../ui/controls.tsx';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { ProgressBar } from '../ui/ProgressBar.tsx';
import { useWrite } from '../ui/useWrite.ts';

const LEAST = optionsOf({
  '99': 'at least 99 % likely one',
  '97': 'at least 97 %',
  '95': 'at least 95 %',
  '90': 'at least 90 %',
});

/** Merges all groups that are sure: first rehearsed, then done, and taken back together where that was a mistake. */
export function SureDialog({ onClose }: { onClose: () => void }) {
  const [least, setLeast] = useState('99');
  const [job, setJob] = useState<{ id: number; rehearsed: boolean; undoes: boolean } | null>(null);
  const { data: jobs = [] } = useQuery(runningJobs);
  const found = jobs.find(({ id }) => id === job?.id);
  const running = job !== null && found?.finishedAt == null;
  const begin = useWrite((rehearsed: boolean) => call(mergeSure, { body: { least: Number(least), rehearsed } }), {
    then: ({ jobId }) => setJob({ id: jobId, rehearsed: true, undoes: false }),
  });
  const merge = useWrite(() => call(mergeSure, { body: { least: Number(least), rehearsed: false } }), {
    then: ({ jobId }) => setJob({ id: jobId, rehearsed: false, undoes: false }),
  });
  const undo = useWrite((id: number) => call(undoMerged, { params: { id } }), {
    then: ({ jobId }) => setJob({ id: jobId, rehearsed: false, undoes: true }),
  });
  const busy = running || begin.isPending || merge.isPending || undo.isPending;
  const rehearsed = job?.rehearsed === true && !running;
  const done = job !== null && !job.rehearsed && !running;
  return (
    <Dialog open title="Merge the sure ones" onClose={onClose}>
      <div className="grid gap-3">
        <p>
          Each group becomes the record that is proposed, with the values that are proposed. A group against which
          anything speaks (one deceased, other households, other birthdays, a tie) is left to you.
        </p>
        <Field label="Groups that are">
          {(given) => (
            <Choice
              {...given}
              value={least}
              options={LEAST}
              onChange={(value) => {
                setLeast(value);
                setJob(null);
              }}
            />
          )}
        </Field>
        <div aria-live="polite" className="min-h-12">
          {busy && <ProgressBar label="At work" done={found?.done ?? 0} total={Math.max(1, found?.total ?? 1)} />}
          {!busy && found && <p>{found.message}</p>}
        </div>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Close</Button>
          {done && !job.undoes && (
            <Button disabled={busy} onClick={() => undo.mutate(job.id)}>
              Take them all back
            </Button>
          )}
          {!done && (
            <Button look={rehearsed ? undefined : 'main'} disabled={busy} onClick={() => begin.mutate(true)}>
              Rehearse
            </Button>
          )}
          {rehearsed && (
            <Button look="main" disabled={busy} onClick={() => merge.mutate(undefined)}>
              Merge them
            </Button>
          )}
        </div>
      </div>
    </Dialog>
  );
}
