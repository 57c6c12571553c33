import { Field, Input } from './controls.tsx';

/** A box for a password that is chosen, with what makes a good one. */
export function NewPassword(props: {
  label: string;
  error: string | undefined;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <Field label={props.label} error={props.error} hint="At least 12 characters; three or four words are a good one.">
      {(attributes) => (
        <Input
          {...attributes}
          type="password"
          autoComplete="new-password"
          required
          value={props.value}
          onChange={(event) => props.onChange(event.target.value)}
        />
      )}
    </Field>
  );
}
