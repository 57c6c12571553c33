import { useEffect, useState } from 'react';
import { Job, Revision } from '@tallystick/contract/jobs';
import type { Job as JobType } from '@tallystick/contract/jobs';
import { getSession } from '@tallystick/contract/session';
import { ask, queries, refresh, runningJobs } from '../ui/api.ts';
import { throttled } from './throttled.ts';

const AWAY_AFTER_MS = 1500;
const AGAIN_MS = 3000;
/** Changes that come close together are looked at together, and steady ones once in so long. */
const TOGETHER_MS = 150;
const AT_MOST_EVERY_MS = 1000;

function takeJob(job: JobType): void {
  queries.setQueryData(runningJobs.queryKey, (old = []) =>
    [job, ...old.filter((one) => one.id !== job.id)].sort((a, b) => b.id - a.id),
  );
}

/**
 * Listens to what moves on the server: jobs go to the query of running jobs, and what a revision may have made another
 * is asked for again. Only a page that can be seen listens, since a browser allows few connections to
 * one host and people keep many records open in tabs; a page that is seen again learns what it missed. Answers
 * whether the server has been away for more than a moment.
 */
export function useStream(): boolean {
  const [away, setAway] = useState(false);
  useEffect(() => {
    let source: EventSource | null = null;
    const refreshing = throttled(refresh, TOGETHER_MS, AT_MOST_EVERY_MS);
    let leaving: ReturnType<typeof setTimeout> | undefined;
    let again: ReturnType<typeof setTimeout> | undefined;
    let revision = 0;

    const open = (): void => {
      if (source || document.visibilityState === 'hidden') return;
      source = new EventSource('/api/v1/jobs/stream');
      source.addEventListener('open', () => {
        clearTimeout(leaving);
        setAway(false);
      });
      source.addEventListener('error', () => {
        clearTimeout(leaving);
        leaving = setTimeout(() => setAway(true), AWAY_AFTER_MS);
        if (source?.readyState === EventSource.CLOSED) refusedOnce();
      });
      source.addEventListener('job', (event) => {
        const job = Job.parse(JSON.parse(event.data));
        takeJob(job);
        if (job.finishedAt !== null) refreshing.add(['*']);
      });
      source.addEventListener('revision', (event) => {
        const { revision: next, written } = Revision.parse(JSON.parse(event.data));
        if (revision !== 0 && next !== revision) refreshing.add(written);
        revision = next;
      });
    };
    /** The stream was refused: mostly because the session ended. Once someone is signed in it is asked for again. */
    const refusedOnce = (): void => {
      source = null;
      again = setTimeout(() => {
        void queries
          .fetchQuery({ ...ask(getSession), staleTime: 0 })
          .then(({ user }) => {
            clearTimeout(leaving);
            setAway(false);
            if (user) open();
            else refusedOnce();
          })
          .catch(refusedOnce);
      }, AGAIN_MS);
    };
    const close = (): void => {
      clearTimeout(leaving);
      clearTimeout(again);
      source?.close();
      source = null;
    };
    const look = (): void => (document.visibilityState === 'hidden' ? close() : open());
    open();
    document.addEventListener('visibilitychange', look);
    window.addEventListener('pagehide', close);
    window.addEventListener('pageshow', open);
    return () => {
      refreshing.stop();
      close();
      document.removeEventListener('visibilitychange', look);
      window.removeEventListener('pagehide', close);
      window.removeEventListener('pageshow', open);
    };
  }, []);
  return away;
}
