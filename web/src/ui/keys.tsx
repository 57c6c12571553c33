import { useEffect, useRef } from 'react';

/** The keys that work everywhere, in the words of the help; areas add theirs. */
export const KEY_MAP: readonly [string, string][] = [
  ['/', 'Find anything'],
  ['a', 'Add'],
  ['j k ↓ ↑', 'Move in a list'],
  ['Space', 'Select the row'],
  ['Enter', 'Peek at the row'],
  ['Shift+Enter', 'Open the record'],
  ['[ ]', 'Previous and next record'],
  ['Ctrl+Z', 'Undo your last change, then the one before it'],
  ['Ctrl+Shift+Z', 'Do again what was undone'],
  ['Esc', 'Close the peek or dialog'],
  ['?', 'All keys'],
];

const TYPING =
  'input:not([type=checkbox]):not([type=radio]), textarea, select, [contenteditable=true], [role=menu], [role=dialog], [role=alertdialog]';

const OFF = 'single-keys-off';
/** Whether keys of one letter do something; who speaks to the computer, or types with one hand, may want none. */
export const singleKeys = (): boolean => localStorage.getItem(OFF) === null;
export function setSingleKeys(on: boolean): void {
  if (on) localStorage.removeItem(OFF);
  else localStorage.setItem(OFF, 'yes');
}

/** `Shift+Enter`, `Ctrl+z`, `Ctrl+Shift+z`, `j`: the name that handlers are given by. */
export function keyName(event: KeyboardEvent): string {
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const ctrl = event.ctrlKey || event.metaKey;
  return `${ctrl ? 'Ctrl+' : ''}${event.shiftKey && (ctrl || event.key.length > 1) ? 'Shift+' : ''}${key}`;
}

/** Answers keys anywhere on the page, except while someone types or a menu or dialog is open. */
export function useKeys(handlers: Record<string, (event: KeyboardEvent) => void>): void {
  const latest = useRef(handlers);
  useEffect(() => {
    latest.current = handlers;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (event.defaultPrevented || event.altKey) return;
      const name = keyName(event);
      const handler = name.length === 1 && !singleKeys() ? undefined : latest.current[name];
      if (
        !handler ||
        (event.target instanceof Element && event.target.closest(TYPING)) ||
        document.querySelector('[role=dialog], [role=alertdialog]')
      )
        return;
      event.preventDefault();
      handler(event);
    };
    document.addEventListener('keydown', listen);
    return () => document.removeEventListener('keydown', listen);
  }, []);
}
