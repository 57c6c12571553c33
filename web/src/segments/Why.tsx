import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { explainSegment } from '@tallystick/contract/segments';
import type { Group, Segment } from '@tallystick/contract/segments';
import { ask } from '../ui/api.ts';
import { StateWord } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';

/** Who is left out, which is never silent. */
export function LeftOut({ trashed }: { trashed: number }) {
  const { counted } = useFormats();
  return (
    <span data-testid="left-out">
      {trashed === 0 ? (
        'Nobody is left out unsaid: '
      ) : (
        <>
          {counted(trashed, 'record')} in the{' '}
          <Link className="underline" to="/supporters?trashed=yes">
            trash
          </Link>{' '}
          would match and {trashed === 1 ? 'is' : 'are'} left out;{' '}
        </>
      )}
      the deceased and those with wishes are in, and are held back when something is sent.
    </span>
  );
}

/** Why one supporter is or is not in: each condition with the value that it saw. */
export function Why({ asked }: { asked: { conditions: Group; credit: Segment['credit'] } }) {
  const [picked, setPicked] = useState<Picked | null>(null);
  const { data } = useQuery({
    ...ask(explainSegment, { body: { ...asked, supporterId: picked?.id ?? 0 } }),
    enabled: picked !== null,
  });
  return (
    <section aria-label="Why" className="rounded border border-rule bg-sheet px-3 py-2">
      <h2 className="text-base">Why is someone in or not?</h2>
      <div className="mt-1">
        <SupporterPicker label="Supporter to explain" value={picked} onPick={setPicked} />
      </div>
      {picked && data && (
        <div className="mt-2" aria-live="polite">
          <p className="font-medium">
            {picked.name} is {data.matches ? 'in' : 'not in'}
          </p>
          {data.needs && (
            <p className="text-[13px]">
              <span className="text-faded">To be {data.matches ? 'out' : 'in'}, it would have to be so: </span>
              {data.needs}.
            </p>
          )}
          <ul>
            {data.lines.slice(1).map((line, index) => (
              <li key={index} style={{ paddingLeft: (line.depth - 1) * 14 }}>
                <StateWord tone={line.matches ? 'settled' : 'wrong'}>{line.matches ? 'yes' : 'no'}</StateWord>{' '}
                {line.sentence}
                {line.saw && <span className="text-faded">: {line.saw}</span>}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
