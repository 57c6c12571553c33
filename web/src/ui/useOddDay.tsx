import { useRef, useState } from 'react';
import type { IsoDate } from '@tallystick/core/dates';
import { oddDay } from '@tallystick/core/gifts';
import { Button } from './controls.tsx';
import { useFormats, useHere } from './organization.tsx';

/**
 * Asks once about a day that is odd and may be right all the same. `ask` gives the sentence to show, or null when
 * nothing is to be asked; `answer` is the button that says that the day is right and goes on, null while nothing is
 * asked; `refuse` throws what `ask` says; `forget` takes the question back. A day that stands already (`before`) is not asked about.
 */
export function useOddDay(go: () => void, before: IsoDate | null = null) {
  const { organization } = useHere();
  const { date } = useFormats();
  const seen = useRef<IsoDate | null>(before);
  const [asking, setAsking] = useState<IsoDate | null>(null);
  const ask = (day: IsoDate): string | null => {
    const odd = day === seen.current ? null : oddDay(day, organization.today);
    setAsking(odd === null ? null : day);
    return odd === null ? null : `${date(day)}: ${odd}`;
  };
  return {
    ask,
    refuse(day: IsoDate): void {
      const odd = ask(day);
      if (odd !== null) throw new Error(odd);
    },
    asking: asking !== null,
    forget: () => setAsking(null),
    answer:
      asking === null ? null : (
        <Button
          onClick={() => {
            seen.current = asking;
            go();
          }}
        >
          The day is right
        </Button>
      ),
  };
}
