import { useSyncExternalStore } from 'react';

/** What is selected in the list on the screen, for the tray: how many, their sum, and how to let go of them. */
export interface Selection {
  what: string;
  count: number;
  sum: string | null;
  clear: () => void;
}

let current: Selection | null = null;
const listeners = new Set<() => void>();

export function showSelection(selection: Selection | null): void {
  current = selection;
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useSelection = (): Selection | null => useSyncExternalStore(subscribe, () => current);
