import type { PointerEvent } from 'react';

/** Follows the pointer from where an edge was pressed: `onMove` gets how far it is to the right, in pixels; `onEnd` where it was let go. */
export function dragEdge(
  event: PointerEvent<HTMLElement>,
  onMove: (by: number) => void,
  onEnd: (by: number) => void = () => undefined,
): void {
  event.preventDefault();
  event.stopPropagation();
  const begun = event.clientX;
  const follow = (moving: globalThis.PointerEvent): void => onMove(moving.clientX - begun);
  const end = (last: globalThis.PointerEvent): void => {
    window.removeEventListener('pointermove', follow);
    window.removeEventListener('pointerup', end);
    onEnd(last.clientX - begun);
  };
  window.addEventListener('pointermove', follow);
  window.addEventListener('pointerup', end);
}
