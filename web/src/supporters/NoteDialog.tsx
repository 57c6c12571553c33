import { lazy, Suspense, useState } from 'react';
import { createNote, NOTE_KINDS, updateNote } from '@tallystick/contract/notes';
import type { Note } from '@tallystick/contract/notes';
import type { Supporter } from '@tallystick/contract/supporters';
import { call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Checkbox } from '../ui/checks.tsx';
import { Button, Field } from '../ui/controls.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { useHere } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import { useWrite } from '../ui/useWrite.ts';
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
  const [draft, setDraft] = useState({
    kind: note?.kind ?? ('note' as const),
    date: note?.date ?? organization.today,
    body: note?.body ?? docOf(''),
    pinned: note?.pinned ?? false,
  });
  const [people, setPeople] = useState((note?.people ?? []).map(({ id, name }) => ({ id, name })));
  const save = useWrite(
    async () => {
      const body = { ...draft, people: people.map((person) => person.id) };
      if (note) await call(updateNote, { params: { id: note.id }, body: { version: note.version, ...body } });
      else await call(createNote, { body: { supporterId: supporter.id, ...body } });
    },
    { then: onClose },
  );
  return (
    <Dialog open onClose={onClose} title={note ? 'Change the note' : `Write a note about ${supporter.name}`} wide>
      <div className="space-y-3">
        <div className="grid grid-cols-[10rem_10rem_1fr] gap-3">
          <Field label="Kind">
            {(attributes) => (
              <Choice
                {...attributes}
                value={draft.kind}
                onChange={(picked) => setDraft({ ...draft, kind: picked as Note['kind'] })}
                options={NOTE_KINDS.map((kind) => ({ value: kind, label: kind }))}
              />
            )}
          </Field>
          <Field label="Date">
            {(attributes) => (
              <DateField
                {...attributes}

                value={draft.date}
                onChange={(day) => setDraft({ ...draft, date: day })}
              />
            )}
          </Field>
          <Field label="Also about" hint={people.length === 0 ? 'The note shows on their records too.' : undefined}>
            {(attributes) => (
              <>
                <SupporterPicker
                  key={people.length}
                  {...attributes}
                  value={null}
                  onPick={(picked) => picked && setPeople([...people.filter((one) => one.id !== picked.id), picked])}
                />
                {people.map((person) => (
                  <Button
                    key={person.id}
                    look="quiet"
                    className="h-6 px-1"
                    onClick={() => setPeople(people.filter((one) => one !== person))}
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
            plain
            label="Note"
            value={draft.body}
            onChange={(body) => setDraft((old) => ({ ...old, body }))}
          />
        </Suspense>
        <DialogActions>
          <span className="mr-auto">
            <Checkbox
              label="Pinned to the top"
              checked={draft.pinned}
              onChange={(on) => setDraft({ ...draft, pinned: on })}
            />
          </span>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" disabled={save.isPending} onClick={() => save.mutate(undefined)}>
            Save the note
          </Button>
        </DialogActions>
      </div>
    </Dialog>
  );
}
