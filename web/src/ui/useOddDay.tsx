import { useRef, useState } from 'react';
import type { IsoDate } from '@tallystick/core/dates';
import { oddDay } from '@tallystick/core/gifts';
import { Button } from './controls.tsx';
import { useFormats, useHere } from './organization.tsx';

/**
 * Asks once about a day that is odd and may be right all the same. `faultAt` gives the question as a fault of the
 * field of the day, or null when nothing is to be asked; `answer` is the button that says that the day is right and
 * goes on, null while nothing is asked; `forget` takes the question back. A day that stands already (`before`) is not
 * asked about.
 */
export function useOddDay(go: () => void, before: IsoDate | null = null) {
  const { organization } = useHere();
  const { date } = useFormats();
  const seen = useRef<IsoDate | null>(before);
  const [asking, setAsking] = useState<IsoDate | null>(null);
  return {
    faultAt(field: string, day: IsoDate): Record<string, string> | null {
      const odd = day === seen.current ? null : oddDay(day, organization.today);
      setAsking(odd === null ? null : day);
      return odd === null ? null : { [field]: `${date(day)}: ${odd}` };
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
