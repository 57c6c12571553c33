import { useState } from 'react';
import type { IntakeQuestion, ToldReading } from '@tallystick/core/intake';
import { Button, Input } from '../ui/controls.tsx';
import { ORDERS } from './HowRead.tsx';
import type { SetSetting } from './useSetting.ts';

/** What must be said before anything of a file is brought in, each with its answers. */
export function Questions(props: {
  questions: readonly IntakeQuestion[];
  readings: readonly ToldReading[];
  set: SetSetting | null;
}) {
  const { questions, readings, set } = props;
  if (questions.length === 0) return null;
  return (
    <section aria-label="To be said first" className="border-b border-rule bg-chosen px-5 py-2">
      <ul className="space-y-1.5">
        {questions.map(({ about, says }) => (
          <li key={about} className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <span className="min-w-0 max-w-[52rem]">
              <strong className="font-medium">{TITLES[about]}</strong> {says}
            </span>
            {set && about === 'headings' && (
              <span className="flex gap-2">
                <Button onClick={() => set({ headed: true })}>These are headings</Button>
                <Button onClick={() => set({ headed: false })}>It is a row; there are no headings</Button>
              </span>
            )}
            {set && about === 'encoding' && (
              <span className="flex flex-wrap gap-2">
                {readings.slice(0, MOST_OFFERED).map(({ encoding, words }) => (
                  <Button key={encoding} title={`Read as ${encoding}`} onClick={() => set({ encoding })}>
                    {words.join(', ')}
                  </Button>
                ))}
              </span>
            )}
            {set && about === 'dates' && (
              <span className="flex gap-2">
                <Button onClick={() => set({ dateOrder: 'mdy' })}>The {ORDERS.mdy}</Button>
                <Button onClick={() => set({ dateOrder: 'dmy' })}>The {ORDERS.dmy}</Button>
              </span>
            )}
            {set && about === 'totals' && (
              <Button onClick={() => set({ expects: { gifts: null, cents: null } })}>Bring it in as it is</Button>
            )}
            {set && about === 'source' && <SourceInput onSay={(source) => set({ source })} />}
            {set && about === 'columns' && (
              <Button onClick={() => set({ leaveRest: true })}>Leave what has no place out</Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The others are below, where the file is read. */
const MOST_OFFERED = 4;

const TITLES: Record<IntakeQuestion['about'], string> = {
  headings: 'Has it headings?',
  encoding: 'Which of these are its words?',
  dates: 'Which comes first in its dates?',
  columns: 'Give them a place below, or leave them out.',
  source: 'Where does the file come from?',
  totals: 'It does not add up.',
};

/** Says where a file comes from, such as the name of a portal. */
function SourceInput({ onSay }: { onSay: (source: string) => void }) {
  const [source, setSource] = useState('');
  return (
    <form
      className="flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (source.trim() !== '') onSay(source.trim());
      }}
    >
      <Input
        aria-label="Where the file comes from"
        placeholder="Such as the giving portal"
        className="w-56"
        maxLength={60}
        value={source}
        onChange={({ target }) => setSource(target.value)}
      />
      <Button type="submit">Say so</Button>
    </form>
  );
}
