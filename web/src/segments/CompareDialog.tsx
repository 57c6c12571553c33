import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { comparePeople, listPeopleLists } from '@tallystick/contract/segments';
import type { Segment } from '@tallystick/contract/segments';
import { ask } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { useFormats } from '../ui/organization.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { useChoices } from '../ui/useChoices.ts';

/** Who left, who came and who stayed, since a list or against another segment. */
export function CompareDialog({ segment, onClose }: { segment: Segment; onClose: () => void }) {
  const lists = useQuery(ask(listPeopleLists)).data?.items ?? [];
  const { segments } = useChoices();
  const [other, setOther] = useState('');
  const { counted, count } = useFormats();
  const [kind, id] = other.split(':');
  const before = kind === 'list' ? { list: Number(id) } : { segment: Number(id) };
  const { data } = useQuery({
    ...ask(comparePeople, { body: { before, after: { segment: segment.id } } }),
    enabled: other !== '',
  });
  const names = new Map([
    ['came', 'Came since'],
    ['left', 'Left since'],
    ['both', 'In both'],
  ] as const);
  return (
    <Dialog open onClose={onClose} title={`Compare ${segment.name}`} size="wide">
      <label className="flex items-center gap-2">
        <span className="text-faded">with</span>
        <Choice
          aria-label="What it is compared with"
          placeholder="A frozen list, a pasted one, or another segment"
          value={other}
          onChange={setOther}
          options={[
            ...lists.map((list) => ({
              value: `list:${list.id}`,
              label: list.name,
              also: counted(list.many, 'supporter'),
            })),
            ...segments
              .filter((one) => one.id !== segment.id)
              .map((one) => ({ value: `segment:${one.id}`, label: one.name, also: 'segment' })),
          ]}
        />
      </label>
      {data && (
        <div className="mt-3 grid grid-cols-3 gap-4" aria-live="polite">
          {[...names].map(([side, words]) => (
            <section key={side} aria-label={words}>
              <h3 className="font-medium">
                {words}: {count(data[side].count)}
              </h3>
              <ul className="max-h-72 overflow-auto text-[13px]" tabIndex={0} aria-label={`${words}, by name`}>
                {data[side].people.map((one) => (
                  <li key={one.id}>
                    <Link className="hover:underline" to={`/supporters/${one.id}`}>
                      {one.name}
                    </Link>
                  </li>
                ))}
              </ul>
              {data[side].count > data[side].people.length && (
                <p className="text-[12px] text-faded">The first {count(data[side].people.length)}.</p>
              )}
            </section>
          ))}
        </div>
      )}
    </Dialog>
  );
}
