import { useMutation, useQuery } from '@tanstack/react-query';
import { Redo2, Undo2, X } from 'lucide-react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { stepBack, stepForward } from '@tallystick/core/changes';
import { listChanges, undoChange } from '@tallystick/contract/changes';
import type { ChangeSet } from '@tallystick/contract/changes';
import { cancelJob } from '@tallystick/contract/jobs';
import type { Job } from '@tallystick/contract/jobs';
import { ask, call, keyOf, messageOf, queries, runningJobs } from '../ui/api.ts';
import { Button, IconButton, StateWord } from '../ui/controls.tsx';
import { useKeys } from '../ui/keys.tsx';
import { useFormats, useHere, useMay, useMayTouch } from '../ui/organization.tsx';
import { ProgressBar } from '../ui/ProgressBar.tsx';
import { useSelection } from '../ui/selection.ts';

/** The strip along the bottom: what is selected, what runs, and the last change with Undo. */
export function Tray() {
  return (
    <footer
      aria-label="Tray"
      className="flex h-9 shrink-0 print:hidden items-center gap-6 border-t border-rule bg-sheet px-4 text-[13px]"
    >
      <Selected />
      <Jobs />
      <LastChange />
    </footer>
  );
}

function Selected() {
  const selection = useSelection();
  const { counted } = useFormats();
  if (!selection || selection.count === 0) return <span className="text-faded">Nothing selected</span>;
  return (
    <span className="flex items-center gap-2" data-testid="selected">
      <strong className="font-medium">{counted(selection.count, selection.what)} selected</strong>
      {selection.sum && <span>{selection.sum}</span>}
      <IconButton label="Let go of the selection" onClick={selection.clear}>
        <X size={13} />
      </IconButton>
    </span>
  );
}

const TONE: Record<Job['state'], 'plain' | 'settled' | 'wrong' | 'look'> = {
  queued: 'plain',
  running: 'plain',
  waiting: 'look',
  done: 'settled',
  failed: 'wrong',
  cancelled: 'plain',
};

function Jobs() {
  const { user } = useHere();
  const mayStop = useMayTouch(cancelJob);
  const { data = [] } = useQuery(runningJobs);
  const cancel = useMutation({
    mutationFn: (id: number) => call(cancelJob, { params: { id } }),
    onError: (error) => toast.error(messageOf(error)),
  });
  const running = data.filter((job) => job.finishedAt === null);
  const last = data.find((job) => job.finishedAt !== null && job.ownerId === user.id);
  const shown = running.length > 0 ? running.slice(0, 2) : last ? [last] : [];
  return (
    <div className="flex min-w-0 flex-1 items-center justify-center gap-5" aria-live="polite">
      {shown.map((job) => (
        <span key={job.id} className="flex min-w-0 items-center gap-2" data-job={job.state}>
          {job.link ? (
            <Link
              to={job.link}
              className="inline-block min-h-6 max-w-72 shrink-0 truncate leading-6 text-slate hover:underline"
            >
              {job.title}
            </Link>
          ) : (
            <span className="truncate">{job.title}</span>
          )}
          {job.finishedAt === null && <ProgressBar label={job.title} done={job.done} total={job.total} />}
          <span className="min-w-0 truncate" title={job.message}>
            <StateWord tone={TONE[job.state]}>
              {job.finishedAt === null && job.state !== 'waiting' && job.total > 0
                ? `${job.done} of ${job.total}`
                : job.message || job.state}
            </StateWord>
          </span>
          {job.finishedAt === null && mayStop(job.ownerId) && (
            <IconButton label={`Stop ${job.title}`} onClick={() => cancel.mutate(job.id)}>
              <X size={13} />
            </IconButton>
          )}
        </span>
      ))}
    </div>
  );
}

/** So far back one steps: what lies further is undone from the list of all changes. */
const OWN = { query: { mine: 'yes', limit: 100 } } as const;

async function nextStep(way: 'back' | 'forward'): Promise<ChangeSet | null> {
  const { items } = await call(listChanges, OWN);
  return way === 'back' ? stepBack(items) : stepForward(items);
}

/** The last change of one's own that stands, with Undo; once something was undone, the way to do it again. */
function LastChange() {
  const mayUndo = useMay(undoChange);
  const { data } = useQuery(ask(listChanges, OWN));
  const back = stepBack(data?.items ?? []);
  const forward = stepForward(data?.items ?? []);
  const undo = useMutation({
    // Steps wait for each other, and each asks anew what it is about: keys are quicker than what is on the screen.
    scope: { id: 'steps' },
    mutationFn: async (about: ChangeSet | 'back' | 'forward') => {
      const set = typeof about === 'object' ? about : await nextStep(about);
      if (set?.undoable) await call(undoChange, { params: { revision: set.revision } });
      return set;
    },
    onSuccess: (set) => {
      if (!set) return;
      if (!set.undoable) toast(`“${set.summary}” cannot be undone by a key. See all changes for what can.`);
      else toast.success(set.undoes === null ? `Undone: ${set.summary}` : `Done again: ${originalOf(set)}`);
    },
    onError: (error) => toast.error(messageOf(error), { duration: 12_000 }),
  });
  const go = (about: ChangeSet | 'back' | 'forward'): void => {
    if (mayUndo) undo.mutate(about);
  };
  // What is shown is what is meant, but for the moment after a write in which its change is not shown yet.
  const press = (shown: ChangeSet, way: 'back' | 'forward'): void =>
    go(queries.isFetching({ queryKey: keyOf(listChanges, OWN) }) > 0 ? way : shown);
  // A key that is held down steps once.
  useKeys({
    'Ctrl+z': (event) => !event.repeat && go('back'),
    'Ctrl+Shift+z': (event) => !event.repeat && go('forward'),
  });
  if (!back && !forward) return null;
  return (
    <span className="flex min-w-0 items-center gap-2">
      <Link
        to="/changes"
        className="min-h-6 max-w-80 truncate leading-6 text-faded hover:underline"
        title={back?.summary}
      >
        {back?.summary ?? 'All changes'}
      </Link>
      {back?.undoable === true && mayUndo && (
        <Button look="quiet" className="h-7 px-2" busy={undo.isPending} onClick={() => press(back, 'back')}>
          <Undo2 size={14} /> Undo
        </Button>
      )}
      {forward?.undoable === true && mayUndo && (
        <IconButton label={`Do again: ${originalOf(forward)}`} onClick={() => press(forward, 'forward')}>
          <Redo2 size={14} />
        </IconButton>
      )}
    </span>
  );
}

const originalOf = (set: ChangeSet): string => set.summary.replace(/^Undid: /, '');
