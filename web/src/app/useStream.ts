import { useEffect, useState } from 'react';
import { Job } from '@tallystick/contract/jobs';
import type { Job as JobType } from '@tallystick/contract/jobs';
import { queries } from '../ui/api.ts';

/**
 * Listens to what moves on the server: jobs go to the query `jobs`, and after something was written every list on
 * the screen is asked for again. Answers whether the server has been away for more than a moment.
 */
export function useStream(): boolean {
  const [away, setAway] = useState(false);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let awayTimer: ReturnType<typeof setTimeout> | undefined;
    let revision = 0;
    const source = new EventSource('/api/v1/jobs/stream');
    source.addEventListener('open', () => {
      clearTimeout(awayTimer);
      setAway(false);
    });
    source.addEventListener('error', () => {
      clearTimeout(awayTimer);
      awayTimer = setTimeout(() => setAway(true), 1500);
    });
    source.addEventListener('job', (event) => {
      const job = Job.parse(JSON.parse(event.data));
      queries.setQueryData<JobType[]>(['jobs'], (old = []) =>
        [job, ...old.filter((one) => one.id !== job.id)].sort((a, b) => b.id - a.id),
      );
      if (job.finishedAt !== null)
        void queries.invalidateQueries({
          predicate: ({ queryKey }) => queryKey[0] !== 'jobs' && queryKey[0] !== 'session',
        });
    });
    source.addEventListener('revision', (event) => {
      const next = Number(event.data);
      const first = revision === 0;
      revision = next;
      if (first) return;
      clearTimeout(timer);
      timer = setTimeout(
        () =>
          void queries.invalidateQueries({
            predicate: ({ queryKey }) => queryKey[0] !== 'jobs' && queryKey[0] !== 'session',
          }),
        150,
      );
    });
    return () => {
      clearTimeout(timer);
      clearTimeout(awayTimer);
      source.close();
    };
  }, []);
  return away;
}
