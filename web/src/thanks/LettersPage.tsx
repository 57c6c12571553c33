import { useMutation, useQuery } from '@tanstack/react-query';
import { Suspense, lazy, useState } from 'react';
import { toast } from 'sonner';
import type { LetterNode } from '@tallystick/core/letters';
import { createLetter, deleteLetter, listLetters, updateLetter } from '@tallystick/contract/thanks';
import type { Letter } from '@tallystick/contract/thanks';
import { ask, call, messageOf } from '../ui/api.ts';
import { Button, Field, Heading, Input, Trouble } from '../ui/controls.tsx';
import { useMay } from '../ui/organization.tsx';
import { useUnsaved } from '../ui/form/unsaved.ts';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWrite } from '../ui/useWrite.ts';

const LetterEditor = lazy(() => import('../ui/LetterEditor.tsx'));
const BLANK: LetterNode = { type: 'doc', content: [{ type: 'paragraph' }] };

export default function LettersPage() {
  const url = useListUrl();
  const mayEdit = useMay(updateLetter);
  const { data, error } = useQuery(ask(listLetters));
  if (error && !data) return <Trouble error={error} />;
  const open = url.get('letter');
  const letter = data?.items.find((one) => String(one.id) === open) ?? (open === 'new' ? null : data?.items[0]);
  return (
    <>
      <Heading title="Letters" facts="Templates for thanks; what was issued stays as it was">
        {mayEdit && <Button onClick={() => url.set({ letter: 'new' })}>New letter</Button>}
      </Heading>
      <div className="grid min-h-0 flex-1 grid-cols-[15rem_1fr]">
        <nav aria-label="Letters" className="overflow-auto border-r border-rule py-2">
          {data?.items.map((one) => (
            <button
              key={one.id}
              type="button"
              aria-current={one.id === letter?.id}
              onClick={() => url.set({ letter: String(one.id) })}
              className={`block w-full px-5 py-1.5 text-left font-serif hover:bg-hover ${one.id === letter?.id ? 'bg-chosen' : ''}`}
            >
              {one.name}
            </button>
          ))}
        </nav>
        <div className="overflow-auto px-5 py-4">
          {letter !== undefined && (
            <LetterForm key={letter ? `${letter.id}.${letter.version}` : 'new'} letter={letter} readOnly={!mayEdit} />
          )}
        </div>
      </div>
    </>
  );
}

function LetterForm({ letter, readOnly }: { letter: Letter | null; readOnly: boolean }) {
  const url = useListUrl();
  const [first] = useState({
    name: letter?.name ?? '',
    subject: letter?.subject ?? 'Thank you for your gift',
    body: letter?.body ?? BLANK,
  });
  const [draft, setDraft] = useState(first);
  const letGo = useUnsaved(!readOnly && JSON.stringify(draft) !== JSON.stringify(first));
  const away = useWrite((id: number) => call(deleteLetter, { params: { id } }), {
    say: () => 'Letter deleted; Undo brings it back',
    then: () => url.set({ letter: null }),
  });
  const save = useMutation({
    mutationFn: async () => {
      if (!letter) return (await call(createLetter, { body: draft })).id;
      await call(updateLetter, { params: { id: letter.id }, body: { ...draft, version: letter.version } });
      return letter.id;
    },
    onSuccess: (id) => {
      letGo();
      toast.success('Letter saved');
      url.set({ letter: String(id) });
    },
    onError: (error) => toast.error(messageOf(error)),
  });
  return (
    <div className="max-w-3xl space-y-3">
      <div className="grid grid-cols-2 gap-3">
        <Field label="Name">
          {(attributes) => (
            <Input
              {...attributes}
              disabled={readOnly}
              value={draft.name}
              onChange={(event) => setDraft({ ...draft, name: event.target.value })}
            />
          )}
        </Field>
        <Field label="Subject when it goes by e-mail">
          {(attributes) => (
            <Input
              {...attributes}
              disabled={readOnly}
              value={draft.subject}
              onChange={(event) => setDraft({ ...draft, subject: event.target.value })}
            />
          )}
        </Field>
      </div>
      <Suspense fallback={<p className="text-faded">Opening the editor …</p>}>
        <LetterEditor
          label="Text of the letter"
          value={draft.body}
          onChange={(body) => setDraft((old) => ({ ...old, body }))}
          readOnly={readOnly}
        />
      </Suspense>
      {!readOnly && (
        <div className="flex gap-2">
          <Button look="main" disabled={draft.name.trim() === '' || save.isPending} onClick={() => save.mutate()}>
            Save letter
          </Button>
          {letter && (
            <Button look="danger" busy={away.isPending} onClick={() => away.mutate(letter.id)}>
              Delete
            </Button>
          )}
        </div>
      )}
    </div>
  );
}
