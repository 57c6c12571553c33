import { useEffect, useState } from 'react';
import { Job } from '@tallystick/contract/jobs';
import type { Job as JobType } from '@tallystick/contract/jobs';
import { queries } from '../ui/api.ts';

const AWAY_AFTER_MS = 1500;
const SETTLE_MS = 150;

const refresh = (): void =>
  void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'jobs' && queryKey[0] !== 'session' });

function takeJob(job: JobType): void {
  queries.setQueryData<JobType[]>(['jobs'], (old = []) =>
    [job, ...old.filter((one) => one.id !== job.id)].sort((a, b) => b.id - a.id),
  );
}

/**
 * Listens to what moves on the server: jobs go to the query `jobs`, and after something was written every list on
 * the screen is asked for again. Only a page that can be seen listens, since a browser allows few connections to
 * one host and people keep many records open in tabs; a page that is seen again learns what it missed. Answers
 * whether the server has been away for more than a moment.
 */
export function useStream(): boolean {
  const [away, setAway] = useState(false);
  useEffect(() => {
    let source: EventSource | null = null;
    let settling: ReturnType<typeof setTimeout> | undefined;
    let leaving: ReturnType<typeof setTimeout> | undefined;
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
      });
      source.addEventListener('job', (event) => {
        const job = Job.parse(JSON.parse(event.data));
        takeJob(job);
        if (job.finishedAt !== null) refresh();
      });
      source.addEventListener('revision', (event) => {
        const next = Number(event.data);
        if (revision !== 0 && next !== revision) {
          clearTimeout(settling);
          settling = setTimeout(refresh, SETTLE_MS);
        }
        revision = next;
      });
    };
    const close = (): void => {
      clearTimeout(leaving);
      source?.close();
      source = null;
    };
    const look = (): void => (document.visibilityState === 'hidden' ? close() : open());
    open();
    document.addEventListener('visibilitychange', look);
    window.addEventListener('pagehide', close);
    window.addEventListener('pageshow', open);
    return () => {
      clearTimeout(settling);
      close();
      document.removeEventListener('visibilitychange', look);
      window.removeEventListener('pagehide', close);
      window.removeEventListener('pageshow', open);
    };
  }, []);
  return away;
}
