import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { checkStandingTag, comparePeople, freezeSegment, listPeopleLists } from '@tallystick/contract/segments';
import type { Asked, Group, Segment } from '@tallystick/contract/segments';
import { ask, call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Button, Input } from '../ui/controls.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { useChoices } from '../ui/useChoices.ts';
import { useWrite } from '../ui/useWrite.ts';
import { Link } from 'react-router';

type Typed = Pick<Segment, 'folder' | 'note' | 'shared' | 'tag'>;

/** Where a segment is kept, what it is for, and who sees it. */
export function About({
  typed,
  put,
  mayEdit,
  asked,
  segment,
}: {
  typed: Typed;
  put: (part: Partial<Typed>) => void;
  mayEdit: boolean;
  asked: Asked;
  segment: Segment | null;
}) {
  const { segments, tags } = useChoices();
  const folders = [...new Set([...segments.map(({ folder }) => folder), typed.folder])].filter(Boolean).sort();
  if (!mayEdit) return typed.note === '' ? null : <p className="text-[13px]">{typed.note}</p>;
  return (
    <section
      aria-label="About this segment"
      className="space-y-2 rounded border border-rule bg-sheet px-3 py-2 text-[13px]"
    >
      <label className="flex items-center gap-2">
        <span className="w-14 text-faded">Folder</span>
        <Choice
          aria-label="Folder"
          value={typed.folder}
          onChange={(folder) => put({ folder })}
          onAdd={(folder) => put({ folder })}
          options={[{ value: '', label: 'none' }, ...folders.map((folder) => ({ value: folder, label: folder }))]}
        />
      </label>
      <label className="flex items-center gap-2">
        <span className="w-14 text-faded">Note</span>
        <Input
          aria-label="Note on the segment"
          value={typed.note}
          onChange={(event) => put({ note: event.target.value })}
        />
      </label>
      <label className="flex items-center gap-2">
        <span className="w-14 text-faded">Keeps tag</span>
        <Choice
          aria-label="Standing tag"
          value={typed.tag}
          onChange={(tag) => put({ tag })}
          onAdd={(tag) => put({ tag: tag.slice(0, 60) })}
          options={[
            { value: '', label: 'none' },
            ...[...new Set([...tags.map(({ name }) => name), typed.tag])]
              .filter(Boolean)
              .map((name) => ({ value: name, label: name })),
          ]}
        />
      </label>
      {typed.tag !== '' && <Tagging asked={asked} tag={typed.tag} segment={segment} />}
      <Checkbox label="Only I see it" checked={!typed.shared} onChange={(mine) => put({ shared: !mine })} />
    </section>
  );
}

/** What keeping a tag will do, before it is saved, and what it does once it is. */
function Tagging({ asked, tag, segment }: { asked: Asked; tag: string; segment: Segment | null }) {
  const { counted, count } = useFormats();
  const { data } = useQuery({
    ...ask(checkStandingTag, { body: { ...asked, tag, segmentId: segment?.id ?? null } }),
    placeholderData: keepPreviousData,
  });
  if (!data) return <p className="text-faded">Counting …</p>;
  const { put, take, otherwise } = data;
  return (
    <p className="text-faded" aria-live="polite" data-testid="standing-tag">
      {put + take === 0 ? (
        'Everyone who matches has it, and nobody else by a segment.'
      ) : (
        <>
          Once saved, {counted(put, 'supporter')} will be tagged
          {take > 0 && `, and ${count(take)} will lose it`}.
        </>
      )}{' '}
      {otherwise > 0 && `${count(otherwise)} have it already in another way, and keep it.`} It is put on and taken off
      as facts change and days pass.
    </p>
  );
}

/** A segment frozen as it is now, and compared with how it was. */
export function Keep(props: {
  asked: { conditions: Group; credit: Segment['credit'] };
  segment: Segment | null;
  name: string;
}) {
  const { asked, segment, name } = props;
  const { counted, date } = useFormats();
  const { today } = useHere().organization;
  const mayFreeze = useMay(freezeSegment);
  const [comparing, setComparing] = useState(false);
  const called = `${name.trim() || 'Supporters'} on ${date(today)}`.slice(0, 120);
  const freeze = useWrite(() => call(freezeSegment, { body: { ...asked, name: called } }), {
    say: (list) => `${counted(list.many, 'supporter')} kept as “${list.name}”`,
  });
  if (!mayFreeze) return null;
  return (
    <div className="flex flex-wrap gap-2">
      <Button busy={freeze.isPending} onClick={() => freeze.mutate(undefined)}>
        Freeze today’s members
      </Button>
      {segment && <Button onClick={() => setComparing(true)}>Compare …</Button>}
      {segment && comparing && <CompareDialog segment={segment} onClose={() => setComparing(false)} />}
    </div>
  );
}

/** Who left, who came and who stayed, since a list or against another segment. */
function CompareDialog({ segment, onClose }: { segment: Segment; onClose: () => void }) {
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
