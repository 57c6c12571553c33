import { useQuery } from '@tanstack/react-query';
import { Suspense, lazy } from 'react';
import { useNavigate, useParams } from 'react-router';
import { z } from 'zod';
import type { LetterNode } from '@tallystick/core/letters';
import { createLetter, deleteLetter, listLetters, updateLetter } from '@tallystick/contract/thanks';
import type { Letter } from '@tallystick/contract/thanks';
import { ask, call } from '../ui/api.ts';
import { Button, Heading, Trouble } from '../ui/controls.tsx';
import { EntryForm, Fault, readInto, said, TextField, useEntry } from '../ui/form/index.ts';
import { useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';

const LetterEditor = lazy(() => import('../ui/LetterEditor.tsx'));
const BLANK: LetterNode = { type: 'doc', content: [{ type: 'paragraph' }] };
/** Where a letter is; each has a page of its own, so that leaving one with changes asks. */
const placeOf = (letter: string | number): string => `/thanks/letters/${letter}`;

/** The templates of letters, one of them open. */
export default function LettersPage() {
  const navigate = useNavigate();
  const { letter: open } = useParams();
  const mayEdit = useMay(updateLetter);
  const { data, error } = useQuery(ask(listLetters));
  if (error && !data) return <Trouble error={error} />;
  const letter = open === 'new' ? null : (data?.items.find((one) => String(one.id) === open) ?? data?.items[0]);
  return (
    <>
      <Heading title="Letters" facts="Templates for thanks; what was issued stays as it was">
        {mayEdit && <Button onClick={() => void navigate(placeOf('new'))}>New letter</Button>}
      </Heading>
      <div className="grid min-h-0 flex-1 grid-cols-[15rem_1fr]">
        <nav aria-label="Letters" className="overflow-auto border-r border-rule py-2">
          {data?.items.map((one) => (
            <button
              key={one.id}
              type="button"
              aria-current={one.id === letter?.id}
              onClick={() => void navigate(placeOf(one.id))}
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

const typedLetter = readInto(
  z.object({ name: said('Name the letter.'), subject: said('Write a subject.'), body: z.custom<LetterNode>() }),
  createLetter.body,
);

function LetterForm({ letter, readOnly }: { letter: Letter | null; readOnly: boolean }) {
  const navigate = useNavigate();
  const entry = useEntry({
    schema: typedLetter,
    initial: {
      name: letter?.name ?? '',
      subject: letter?.subject ?? 'Thank you for your gift',
      body: letter?.body ?? BLANK,
    },
    send: async (body) => {
      if (!letter) return (await call(createLetter, { body })).id;
      await call(updateLetter, { params: { id: letter.id }, body: { ...body, version: letter.version } });
      return letter.id;
    },
    say: () => 'Letter saved',
    then: (id) => void navigate(placeOf(id)),
  });
  const away = useWrite((id: number) => call(deleteLetter, { params: { id } }), {
    say: () => 'Letter deleted; Undo brings it back',
    then: () => {
      entry.letGo();
      void navigate('/thanks/letters');
    },
  });
  return (
    <EntryForm entry={entry} className="max-w-3xl space-y-3">
      <fieldset disabled={readOnly} className="grid grid-cols-2 gap-3">
        <TextField entry={entry} name="name" label="Name" />
        <TextField entry={entry} name="subject" label="Subject when it goes by e-mail" />
      </fieldset>
      <Suspense fallback={<p className="text-faded">Opening the editor …</p>}>
        <LetterEditor
          label="Text of the letter"
          value={entry.typed.body}
          onChange={(body) => entry.put({ body })}
          readOnly={readOnly}
        />
      </Suspense>
      <Fault>{entry.trouble}</Fault>
      {!readOnly && (
        <div className="flex gap-2">
          <Button type="submit" look="main" busy={entry.busy}>
            Save letter
          </Button>
          {letter && (
            <Button look="danger" busy={away.isPending} onClick={() => away.mutate(letter.id)}>
              Delete
            </Button>
          )}
        </div>
      )}
    </EntryForm>
  );
}
