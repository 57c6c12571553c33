import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { checkStandingTag } from '@tallystick/contract/segments';
import type { Asked, Segment } from '@tallystick/contract/segments';
import { ask } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Input } from '../ui/controls.tsx';
import { Fold } from '../ui/Fold.tsx';
import { useFormats } from '../ui/organization.tsx';
import { useChoices } from '../ui/useChoices.ts';

type Typed = Pick<Segment, 'folder' | 'note' | 'shared' | 'tag' | 'ownerId'>;

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
  const { segments, tags, users } = useChoices();
  const folders = [...new Set([...segments.map(({ folder }) => folder), typed.folder])].filter(Boolean).sort();
  const facts = [typed.folder, typed.tag && `keeps ${typed.tag}`, typed.shared ? '' : 'only its owner']
    .filter(Boolean)
    .join(', ');
  if (!mayEdit) return typed.note === '' ? null : <p className="text-[13px]">{typed.note}</p>;
  return (
    <Fold
      className="rounded border border-rule bg-sheet px-3 py-2 text-[13px]"
      line={
        <>
          <span className="font-medium">About this segment</span>
          {facts && <span className="text-faded">: {facts}</span>}
        </>
      }
    >
      <div className="mt-2 space-y-2">
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
        {segment && (
          <label className="flex items-center gap-2">
            <span className="w-14 text-faded">Owner</span>
            <Choice
              aria-label="Owner"
              value={typed.ownerId ?? ''}
              onChange={(owner) => put({ ownerId: owner === '' ? null : Number(owner) })}
              options={[{ value: '', label: 'nobody' }, ...users.map(({ id, name }) => ({ value: id, label: name }))]}
            />
          </label>
        )}
        <Checkbox label="Only its owner sees it" checked={!typed.shared} onChange={(mine) => put({ shared: !mine })} />
      </div>
    </Fold>
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
