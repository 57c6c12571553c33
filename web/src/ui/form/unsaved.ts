import { createContext, useCallback, useContext, useEffect, useId, useRef } from 'react';

/** The forms of a page or a dialog that hold something that leaving would lose, each with what throws it away. */
export class Unsaved {
  private readonly forms = new Map<string, () => void>();
  put(form: string, drop: (() => void) | null): void {
    if (drop) this.forms.set(form, drop);
    else this.forms.delete(form);
  }
  get any(): boolean {
    return this.forms.size > 0;
  }
  drop(): void {
    for (const drop of this.forms.values()) drop();
    this.forms.clear();
  }
}

/** All of the page: asked when it is left. */
export const unsavedHere = new Unsaved();

/** The dialog around: what it holds, and the way to leave it, which asks first where something would be lost. */
export const DialogContext = createContext<{ unsaved: Unsaved; leave: () => void } | null>(null);

/**
 * Has leaving asked about while `holds`: closing the dialog around, going to another page, closing the tab. `drop`
 * forgets what was kept of it, once whoever leaves says so. Answers what lets it go at once, for what is saved and
 * leaves in the same breath.
 */
export function useUnsaved(holds: boolean, drop: () => void = () => undefined): () => void {
  const form = useId();
  const dialog = useContext(DialogContext);
  const latest = useRef(drop);
  useEffect(() => {
    latest.current = drop;
  });
  const put = useCallback(
    (dropping: (() => void) | null): void => {
      dialog?.unsaved.put(form, dropping);
      unsavedHere.put(form, dropping);
    },
    [dialog, form],
  );
  useEffect(() => {
    put(holds ? () => latest.current() : null);
    return () => put(null);
  }, [put, holds]);
  return useCallback(() => put(null), [put]);
}
