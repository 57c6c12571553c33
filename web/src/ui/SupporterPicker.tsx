import { useEffect, useId, useRef, useState } from 'react';
import type { KeyboardEvent } from 'react';
import { flushSync } from 'react-dom';
import type { SupporterRow } from '@tallystick/contract/supporters';
import { Input } from './controls.tsx';
import { useFoundSupporters } from './useFoundSupporters.ts';

export interface Picked {
  id: number;
  name: string;
}

/** Finds one supporter as one types; the arrows move in what was found, Enter takes it. */
export function SupporterPicker(props: {
  value: Picked | null;
  onPick: (picked: Picked | null) => void;
  id?: string;
  autoFocus?: boolean;
  label?: string;
  /** Finds only supporters of a kind. */
  kind?: SupporterRow['kind'];
  'aria-invalid'?: boolean;
}) {
  /** What is typed while nobody is picked; null shows the name of who is. */
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? props.value?.name ?? '';
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const list = useId();
  const { rows, fresh, certain } = useFoundSupporters(text, 8, open, props.kind);
  const found = open ? rows : [];
  const latest = useRef(text);
  useEffect(() => {
    latest.current = text;
  }, [text]);
  const take = (row: Picked | undefined): void => {
    if (!row) return;
    setTyped(null);
    setOpen(false);
    props.onPick({ id: row.id, name: row.name });
  };
  /** Takes a row of what was found for the text as it is now, waiting for that where it is still on its way. */
  const pick = (index: number, form: HTMLFormElement | null): void => {
    if (fresh) take(found[index]);
    else {
      const letGo = heldUp(form);
      void certain()
        .then(([first]) => latest.current === text && flushSync(() => take(first)))
        .catch(() => undefined)
        .finally(letGo);
    }
  };
  const onKey = (event: KeyboardEvent<HTMLInputElement>): void => {
    const { form } = event.currentTarget;
    if (event.key === 'ArrowDown') setAt((old) => Math.min(found.length - 1, old + 1));
    else if (event.key === 'ArrowUp') setAt((old) => Math.max(0, old - 1));
    else if (event.key === 'Enter' && open && typed) pick(at, form);
    else if (event.key === 'Escape' && found.length > 0) setOpen(false);
    else if (event.key === 'Tab' && open && typed) return pick(at, form);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="relative">
      <Input
        id={props.id}
        role="combobox"
        aria-label={props.label}
        aria-expanded={found.length > 0}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={found[at] ? `${list}-${found[at].id}` : undefined}
        aria-invalid={props['aria-invalid']}
        autoFocus={props.autoFocus}
        autoComplete="off"
        placeholder="Name, number or e-mail"
        value={text}
        onChange={(event) => {
          setTyped(event.target.value);
          setOpen(true);
          setAt(0);
          if (props.value) props.onPick(null);
        }}
        onKeyDown={onKey}
        onFocus={(event) => event.target.select()}
        onMouseDown={(event) => {
          // A press on the whole name keeps it whole, so that what is typed next takes its place.
          if (!props.value || typed !== null || document.activeElement !== event.currentTarget) return;
          event.preventDefault();
          event.currentTarget.select();
        }}
        onClick={(event) => props.value && typed === null && event.currentTarget.select()}
        onBlur={() => {
          setOpen(false);
          if (props.value) setTyped(null);
        }}
      />
      <ul
        id={list}
        role="listbox"
        aria-label="Found"
        hidden={found.length === 0}
        aria-busy={!fresh}
        className="absolute z-30 mt-0.5 max-h-72 w-full min-w-96 overflow-auto rounded border border-rule bg-sheet py-1"
      >
        {found.map((row, index) => (
          <li
            key={row.id}
            id={`${list}-${row.id}`}
            role="option"
            aria-selected={index === at}
            className={`flex cursor-pointer items-baseline gap-2 px-2 py-1 ${index === at ? 'bg-chosen' : ''}`}
            onMouseDown={(event) => {
              event.preventDefault();
              take(row);
            }}
          >
            <span className="font-serif whitespace-nowrap">{row.name}</span>
            <span className="truncate text-[13px] text-faded">
              {row.number} {[row.city, row.email].filter(Boolean).join(' · ')}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

/**
 * Keeps a form from being sent while who is meant is still on the way, for whoever types on and presses Enter faster
 * than the answer comes. Answers what lets it go, and sends it then where that was asked for.
 */
function heldUp(form: HTMLFormElement | null): () => void {
  let asked = false;
  const hold = (event: SubmitEvent): void => {
    event.preventDefault();
    event.stopImmediatePropagation();
    asked = true;
  };
  form?.addEventListener('submit', hold, true);
  return () => {
    form?.removeEventListener('submit', hold, true);
    if (asked) form?.requestSubmit();
  };
}
