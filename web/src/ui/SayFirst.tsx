import type { ReactNode } from 'react';
import { Button } from './controls.tsx';
import { Dialog, DialogActions } from './overlays.tsx';

/**
 * Says in figures what will happen before it does: for what goes out to people or takes numbers and cannot be taken
 * back. The main button has the focus, so that one more key does it.
 */
export function SayFirst(props: {
  title: string;
  /** What will happen, a line each; a line without a figure is left out. */
  lines: readonly { figure: number; words: ReactNode }[];
  count: (figure: number) => string;
  /** The main button; null where there is nothing to do. */
  word: string | null;
  busy: boolean;
  onGo: () => void;
  /** Another way to do it, before the main button. */
  other?: ReactNode;
  children?: ReactNode;
  onClose: () => void;
}) {
  return (
    <Dialog open onClose={props.onClose} title={props.title}>
      <ul aria-label="What will happen" className="divide-y divide-rule border-y border-rule">
        {props.lines
          .filter(({ figure }) => figure > 0)
          .map(({ figure, words }, place) => (
            <li key={place} className="flex items-baseline gap-3 py-1.5">
              <span className="w-16 text-right font-serif text-lg text-hazel">{props.count(figure)}</span>
              <span>{words}</span>
            </li>
          ))}
      </ul>
      {props.children}
      <DialogActions>
        <Button onClick={props.onClose}>Not yet</Button>
        {props.other}
        {props.word !== null && (
          <Button look="main" busy={props.busy} onClick={props.onGo}>
            {props.word}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
