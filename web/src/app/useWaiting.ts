import { useEffect, useState } from 'react';
import { isAway, queries } from '../ui/api.ts';

const SLOW_MS = 4000;
const LOOK_MS = 500;

/**
 * Whether what the screen asked for is not coming: a question was refused because the server or its database is
 * away, or has been waited for longer than anything here takes.
 */
export function useWaiting(): boolean {
  const [waiting, setWaiting] = useState(false);
  useEffect(() => {
    const since = new Map<string, number>();
    const look = (): void => {
      const now = performance.now();
      const asked = queries.getQueryCache().findAll({ fetchStatus: 'fetching', type: 'active' });
      const names = new Set(asked.map((query) => query.queryHash));
      for (const name of since.keys()) if (!names.has(name)) since.delete(name);
      for (const name of names) if (!since.has(name)) since.set(name, now);
      setWaiting(
        asked.some((query) => isAway(query.state.fetchFailureReason)) ||
          [...since.values()].some((begun) => now - begun > SLOW_MS),
      );
    };
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }, []);
  return waiting;
}
