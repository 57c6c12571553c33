import { createContext, useCallback, useContext, useEffect, useId, useRef } from 'react';

/** Something that leaving would lose: what throws it away, and whether it is kept over a reload. */
interface Held {
  drop: () => void;
  kept: boolean;
}

/** The forms of a page or a dialog that hold something that leaving would lose. */
export class Unsaved {
  private readonly forms = new Map<string, Held>();
  put(form: string, held: Held | null): void {
    if (held) this.forms.set(form, held);
    else this.forms.delete(form);
  }
  get any(): boolean {
    return this.forms.size > 0;
  }
  /** Whether a reload would lose something. */
  get reloading(): boolean {
    return [...this.forms.values()].some(({ kept }) => !kept);
  }
  drop(): void {
    for (const { drop } of this.forms.values()) drop();
    this.forms.clear();
  }
}

/** All of the page: asked when it is left. */
export const unsavedHere = new Unsaved();

/** The dialog around: what it holds, and the way to leave it, which asks first where something would be lost. */
export const DialogContext = createContext<{ unsaved: Unsaved; leave: () => void } | null>(null);

/**
 * Has leaving asked about while `holds`: closing the dialog around, going to another page, closing the tab. `drop`
 * forgets what was kept of it, once whoever leaves says so; what is `kept` over a reload is not asked about there.
 * Answers what lets it go at once, for what is saved and
 * leaves in the same breath.
 */
export function useUnsaved(holds: boolean, drop: () => void = () => undefined, kept = false): () => void {
  const form = useId();
  const dialog = useContext(DialogContext);
  const latest = useRef(drop);
  useEffect(() => {
    latest.current = drop;
  });
  const put = useCallback(
    (held: Held | null): void => {
      dialog?.unsaved.put(form, held);
      unsavedHere.put(form, held);
    },
    [dialog, form],
  );
  useEffect(() => {
    put(holds ? { drop: () => latest.current(), kept } : null);
    return () => put(null);
  }, [put, holds, kept]);
  return useCallback(() => put(null), [put]);
}
