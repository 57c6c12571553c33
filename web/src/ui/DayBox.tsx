import { useState } from 'react';
import { parseDate } from '@tallystick/core/dates';
import { Input } from './controls.tsx';

/**
 * A day in a filter, typed as people write it (2026-03-14, 3/14/2026). It counts once the box is left or Enter is
 * pressed, so that a half-typed year asks for nothing; what is no day stays there, marked, and changes nothing.
 */
export function DayBox(props: { value: string; onDay: (day: string) => void; 'aria-label'?: string; id?: string }) {
  const { value, onDay } = props;
  /** What is typed and does not count yet; null shows the day that does. */
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null || typed.trim() === '' ? null : parseDate(typed);
  const wrong = read !== null && !read.ok;
  const apply = (): void => {
    if (typed === null || wrong) return;
    setTyped(null);
    const day = read?.ok ? read.date : '';
    if (day !== value) onDay(day);
  };
  return (
    <Input
      id={props.id}
      aria-label={props['aria-label']}
      aria-invalid={wrong}
      title={wrong ? read.reason : undefined}
      className="w-32"
      placeholder="any day"
      autoComplete="off"
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={apply}
      onKeyDown={(event) => {
        if (event.key === 'Enter') apply();
        if (event.key === 'Escape' && typed !== null) {
          event.stopPropagation();
          setTyped(null);
        }
      }}
    />
  );
}
