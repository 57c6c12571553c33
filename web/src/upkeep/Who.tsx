import { Field } from '../ui/controls.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';

/** Whom an act is about: asked for first where nobody is chosen yet. */
export function Who(props: {
  label?: string;
  kind?: 'person';
  id: number | null;
  who: Picked | null;
  onPick: (picked: Picked | null) => void;
}) {
  return (
    <Field label={props.label ?? 'Who'}>
      {(given) => (
        <SupporterPicker
          {...given}
          {...(props.kind ? { kind: props.kind } : {})}
          autoFocus={props.id === null}
          value={props.who}
          onPick={props.onPick}
        />
      )}
    </Field>
  );
}
