import { useState } from 'react';
import type { KeyboardEvent } from 'react';

/** The line that is typed in the list of a choice box; the first letter on the box itself opens the list with it. */
export function useTyping(given?: boolean, onOpen?: (open: boolean) => void) {
  const [own, setOwn] = useState(false);
  const [query, setQuery] = useState('');
  const turn = (open: boolean, text = ''): void => {
    setOwn(open);
    onOpen?.(open);
    setQuery(text);
  };
  return {
    open: given ?? own,
    query,
    setQuery,
    turn,
    begin(event: KeyboardEvent): void {
      const letter = event.key.length === 1 && event.key !== ' ' && !event.ctrlKey && !event.altKey && !event.metaKey;
      if (!letter && event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
      event.preventDefault();
      turn(true, letter ? event.key : '');
    },
  };
}
