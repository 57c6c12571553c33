import { useState } from 'react';
import { Input } from '../ui/controls.tsx';

/**
 * A box that keeps what is typed for as long as it means the value: where another value comes, as when lines change
 * places, that one is shown. What cannot be read is left as it is typed.
 */
export function Told<T>(props: {
  label: string;
  value: T;
  /** What a text means; undefined where it means nothing that may be. */
  read: (text: string) => T | undefined;
  write: (value: T) => string;
  onChange: (value: T) => void;
  className: string;
  inputMode?: 'numeric' | 'decimal';
  placeholder?: string;
  id?: string;
}) {
  const { label, value, read, write, onChange, ...box } = props;
  const [text, setText] = useState(() => write(value));
  const meant = read(text);
  const shown = meant === undefined || write(meant) === write(value) ? text : write(value);
  return (
    <Input
      {...box}
      aria-label={label}
      value={shown}
      onChange={({ target }) => {
        setText(target.value);
        const next = read(target.value);
        if (next !== undefined) onChange(next);
      }}
    />
  );
}
