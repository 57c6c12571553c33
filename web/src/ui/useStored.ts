import { useCallback, useState } from 'react';

/** State that this browser remembers under `key`; what is stored and no longer fits is forgotten. */
export function useStored<T>(key: string, initial: T): [T, (next: T | ((old: T) => T)) => void] {
  const [value, setValue] = useState<T>(() => {
    try {
      const stored = localStorage.getItem(key);
      return stored === null ? initial : { ...initial, ...(JSON.parse(stored) as T) };
    } catch {
      return initial;
    }
  });
  const set = useCallback(
    (next: T | ((old: T) => T)) =>
      setValue((old) => {
        const made = typeof next === 'function' ? (next as (old: T) => T)(old) : next;
        localStorage.setItem(key, JSON.stringify(made));
        return made;
      }),
    [key],
  );
  return [value, set];
}
