import { useContext } from 'react';
import type { ReactNode } from 'react';
import type { FieldValues } from 'react-hook-form';
import { classes } from '../classes.ts';
import { Button } from '../controls.tsx';
import { Dialog, DialogActions } from '../overlays.tsx';
import { DialogContext } from './unsaved.ts';
import { onSubmit } from './useEntry.ts';
import type { Entry } from './useEntry.ts';

/** A fault that belongs to no one field, or to a part of a form. */
export const Fault = ({ children, name }: { children: ReactNode; name?: string }) => (
  <div data-field={name}>
    {children && (
      <p role="alert" className="text-[13px] text-madder">
        ▲ {children}
      </p>
    )}
  </div>
);

/** The form itself: what came back is said above, what has no field below, and Enter does the main thing. */
export function EntryForm<Typed extends FieldValues, How>(props: {
  entry: Entry<Typed, How>;
  /** How Enter sends it. */
  how?: How;
  className?: string;
  children: ReactNode;
}) {
  const { entry } = props;
  return (
    <form
      ref={entry.element}
      onSubmit={onSubmit(() => entry.go(props.how as How))}
      className={classes('space-y-3', props.className)}
      noValidate
    >
      {entry.kept && (
        <p className="rounded bg-straw px-3 py-1.5 text-straw-ink">
          ◆ What you typed before is back.{' '}
          <button type="button" className="underline" onClick={() => entry.anew()}>
            Begin anew
          </button>
        </p>
      )}
      {props.children}
    </form>
  );
}

/** The end of a form in a dialog: its fault, Cancel, what else there is to do, and the main button. */
export function EntryActions<Typed extends FieldValues, How>(props: {
  entry: Entry<Typed, How>;
  /** The word of the main button; none where a question is to be answered first. */
  word: string | null;
  look?: 'main' | 'danger';
  disabled?: boolean;
  children?: ReactNode;
}) {
  const { entry } = props;
  const dialog = useContext(DialogContext);
  return (
    <>
      <Fault>{entry.trouble}</Fault>
      <DialogActions>
        <Button onClick={dialog?.leave}>Cancel</Button>
        {props.children}
        {props.word !== null && (
          <Button look={props.look ?? 'main'} type="submit" busy={entry.busy} disabled={props.disabled}>
            {props.word}
          </Button>
        )}
      </DialogActions>
    </>
  );
}

/** A dialog that is one form: the frame of what is recorded, changed or corrected. */
export function EntryDialog<Typed extends FieldValues, How>(props: {
  entry: Entry<Typed, How>;
  title: string;
  word: string | null;
  look?: 'main' | 'danger';
  how?: How;
  size?: 'medium' | 'wide';
  disabled?: boolean;
  /** Answers to what was asked, and other ways to send it. */
  answers?: ReactNode;
  onClose: () => void;
  children: ReactNode;
}) {
  const { entry, word } = props;
  return (
    <Dialog open onClose={props.onClose} title={props.title} size={props.size}>
      <EntryForm entry={entry} how={props.how as How}>
        {props.children}
        <EntryActions entry={entry} word={word} look={props.look} disabled={props.disabled}>
          {props.answers}
        </EntryActions>
      </EntryForm>
    </Dialog>
  );
}
