import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/** State of a list that belongs in its address, so that a view can be sent to a colleague. */
export function useListUrl() {
  const [params, setParams] = useSearchParams();
  const set = useCallback(
    (changes: Record<string, string | null>) =>
      setParams(
        (old) => {
          const next = new URLSearchParams(old);
          for (const [name, value] of Object.entries(changes)) {
            if (value === null || value === '') next.delete(name);
            else next.set(name, value);
          }
          return next;
        },
        { replace: true },
      ),
    [setParams],
  );
  const peek = params.get('peek');
  return { get: (name: string): string => params.get(name) ?? '', set, peek: peek === null ? null : Number(peek) };
}
