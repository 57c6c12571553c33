import { useLayoutEffect, useRef, useState } from 'react';
import type { RefObject } from 'react';

/** The width of an element in pixels, kept current; 0 before it is known. */
export function useWidth(): [RefObject<HTMLDivElement | null>, number] {
  const element = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry?.contentRect.width ?? 0)));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, []);
  return [element, width];
}
