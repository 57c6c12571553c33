import type { Task } from '@tallystick/contract/notes';
import { Button } from '../ui/controls.tsx';
import { READY_WORDS, useReadyAct } from '../ui/readyActs.ts';
import { useChoices } from '../ui/useChoices.ts';

/** What a task carries, done at a click: something ready with a segment. */
export default function Carried({ carries: { segmentId, act } }: { carries: NonNullable<Task['carries']> }) {
  const done = useReadyAct();
  const name = useChoices().segments.find(({ id }) => id === segmentId)?.name;
  if (name === undefined) return <span className="text-faded">the segment it was about is gone</span>;
  return (
    <Button
      look="quiet"
      className="h-7 px-2"
      title={name}
      busy={done.isPending}
      onClick={() => done.mutate({ act, segmentId, name })}
    >
      {act === 'open' ? `Open ${name}` : READY_WORDS[act]}
    </Button>
  );
}
