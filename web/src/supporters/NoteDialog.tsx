import { lazy, Suspense, useState } from 'react';
import { z } from 'zod';
import { createNote, NOTE_KINDS, updateNote } from '@tallystick/contract/notes';
import type { Note } from '@tallystick/contract/notes';
import type { Supporter } from '@tallystick/contract/supporters';
import { call } from '../ui/api.ts';
import { Button, Field } from '../ui/controls.tsx';
import {
  ChoiceField,
  DayField,
  EntryActions,
  EntryForm,
  oneOf,
  readInto,
  TickField,
  typedDay,
  useEntry,
} from '../ui/form/index.ts';
import { useHere } from '../ui/organization.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { docOf } from './richText.tsx';

// The editor is large and few screens need it.
const LetterEditor = lazy(() => import('../ui/LetterEditor.tsx'));

/** Writing a note, or changing one. */
export function NoteDialog({
  supporter,
  note,
  onClose,
}: {
  supporter: Supporter;
  note: Note | null;
  onClose: () => void;
}) {
  const { organization } = useHere();
  const [initial] = useState(() => ({
    kind: note?.kind ?? ('note' as Note['kind']),
    date: (note?.date ?? organization.today) as string,
    body: note?.body ?? docOf(''),
    pinned: note?.pinned ?? false,
    people: (note?.people ?? []).map(({ id, name }) => ({ id, name })),
  }));
  const entry = useEntry({
    schema: readInto(
      z.object({
        kind: oneOf<Note['kind']>(),
        date: typedDay,
        body: z.custom<Note['body']>(),
        pinned: z.boolean(),
        people: z
          .array(z.object({ id: z.number(), name: z.string() }))
          .transform((people) => people.map((one) => one.id)),
      }),
      createNote.body.omit({ supporterId: true }),
    ),
    initial,
    keep: note ? undefined : `note ${supporter.id}`,
    send: async (body) => {
      if (note) await call(updateNote, { params: { id: note.id }, body: { version: note.version, ...body } });
      else await call(createNote, { body: { supporterId: supporter.id, ...body } });
    },
    say: () => 'The note is saved',
    then: onClose,
  });
  const { people, body } = entry.typed;
  return (
    <Dialog
      open
      onClose={onClose}
      title={note ? 'Change the note' : `Write a note about ${supporter.name}`}
      size="wide"
    >
      <EntryForm entry={entry}>
        <div className="grid grid-cols-[10rem_10rem_1fr] gap-3">
          <ChoiceField
            entry={entry}
            name="kind"
            label="Kind"
            options={NOTE_KINDS.map((kind) => ({ value: kind, label: kind }))}
          />
          <DayField entry={entry} name="date" label="Date" />
          <Field label="Also about" hint={people.length === 0 ? 'The note shows on their records too.' : undefined}>
            {(attributes) => (
              <>
                <SupporterPicker
                  key={people.length}
                  {...attributes}
                  value={null}
                  onPick={(picked) =>
                    picked && entry.put({ people: [...people.filter((one) => one.id !== picked.id), picked] })
                  }
                />
                {people.map((person) => (
                  <Button
                    key={person.id}
                    look="quiet"
                    className="h-6 px-1"
                    onClick={() => entry.put({ people: people.filter((one) => one.id !== person.id) })}
                  >
                    {person.name} ×
                  </Button>
                ))}
              </>
            )}
          </Field>
        </div>
        <Suspense fallback={<p className="text-faded">Opening …</p>}>
          <LetterEditor
            key={String(entry.kept)}
            plain
            label="Note"
            value={body}
            onChange={(next) => entry.put({ body: next })}
          />
        </Suspense>
        <EntryActions entry={entry} word="Save the note">
          <span className="order-first mr-auto">
            <TickField entry={entry} name="pinned" label="Pinned to the top" />
          </span>
        </EntryActions>
      </EntryForm>
    </Dialog>
  );
}
