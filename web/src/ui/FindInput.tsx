import { useState } from 'react';
import { Input } from './controls.tsx';

/**
 * A line that narrows a list as one types, whose words are in the address. What is typed stands at once: the address,
 * which follows a moment later, is taken over only where something else changed it.
 */
export function FindInput(props: {
  label: string;
  placeholder: string;
  value: string;
  onChange: (value: string) => void;
  /** What the line takes of what is typed. */
  takes?: (typed: string) => string;
  className?: string;
}) {
  const { label, value, onChange, takes = (typed) => typed, ...rest } = props;
  const [typed, setTyped] = useState(value);
  const [before, setBefore] = useState(value);
  const [onTheWay, setOnTheWay] = useState<readonly string[]>([]);
  if (value !== before) {
    setBefore(value);
    const ours = onTheWay.lastIndexOf(value);
    if (ours < 0) setTyped(value);
    setOnTheWay(onTheWay.slice(ours + 1));
  }
  return (
    <Input
      {...rest}
      aria-label={label}
      value={typed}
      onChange={(event) => {
        const next = takes(event.target.value);
        setTyped(next);
        setOnTheWay((old) => [...old, next]);
        onChange(next);
      }}
    />
  );
}
