import { useEffect, useRef } from 'react';
import { useLocation, useNavigationType } from 'react-router';

interface Place {
  cursor: number;
  offset: number;
}
const places = new Map<string, Place>();

/**
 * Where someone was in a list when they left it: given back when they come back by the browser's Back, nowhere else.
 * `remember` is told as they go.
 */
export function usePlace(name: string): { place: Place | null; remember: (place: Place) => void } {
  const { pathname, search } = useLocation();
  const params = new URLSearchParams(search);
  params.delete('peek');
  params.delete('section');
  const key = `${name} ${pathname}?${params.toString()}`;
  const back = useNavigationType() === 'POP';
  const begun = useRef(back ? (places.get(key) ?? null) : null);
  const last = useRef<Place | null>(null);
  useEffect(
    () => () => {
      if (last.current) places.set(key, last.current);
    },
    [key],
  );
  return {
    place: begun.current,
    remember: (place) => {
      last.current = place;
    },
  };
}
