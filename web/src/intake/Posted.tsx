import { useNavigate } from 'react-router';
import { all, anyOf, rows } from '@tallystick/core/segments';
import { createSegment } from '@tallystick/contract/segments';
import type { Intake } from '@tallystick/contract/intake';
import { call } from '../ui/api.ts';
import { Button, StateWord } from '../ui/controls.tsx';
import { useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** What came of a file that was brought in, and what to do with whom it touched. */
export function Posted({ intake }: { intake: Intake }) {
  const navigate = useNavigate();
  const maySave = useMay(createSegment);
  const segment = useWrite(
    () =>
      call(createSegment, {
        body: {
          name: `Touched by ${intake.name}`.slice(0, 120),
          conditions: all(rows('changes', [anyOf('intake', intake.id)])),
        },
      }),
    { then: ({ id }) => void navigate(`/segments/${id}`) },
  );
  return (
    <p className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-sheet px-5 py-2">
      <StateWord tone="settled">Brought in.</StateWord>
      <span>{intake.report}</span>
      <span className="text-faded">Rows with a reference now show as already here.</span>
      {maySave && (
        <Button busy={segment.isPending} onClick={() => segment.mutate(undefined)}>
          A segment of everyone it touched
        </Button>
      )}
    </p>
  );
}
