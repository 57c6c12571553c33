import { Pencil, Pin, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import {
  addDocument,
  deleteDocument,
  deleteNote,
  DOCUMENT_TYPES,
  getDocument,
  listDocuments,
  listNotes,
  listTasksAbout,
} from '@tallystick/contract/notes';
import { createNote, updateNote } from '@tallystick/contract/notes';
import type { Note } from '@tallystick/contract/notes';
import type { Supporter } from '@tallystick/contract/supporters';
import { call, linkTo, sendFile } from '../ui/api.ts';
import { More } from '../ui/More.tsx';
import { usePagesOf } from '../ui/usePages.ts';
import { Button, IconButton, Trouble } from '../ui/controls.tsx';
import { useFormats, useMay, useMayTouch } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { NoteDialog } from './NoteDialog.tsx';
import { RichText } from './richText.tsx';
import { TaskDialog, TaskLine } from './TaskLine.tsx';

/** What people wrote, have to do, and keep with a record. */
export function NotesSection({ supporter }: { supporter: Supporter }) {
  const { id } = supporter;
  const [asking, setAsking] = useState<'note' | 'task' | Note | null>(null);
  const mayEnter = useMay(createNote);
  const notes = usePagesOf(listNotes, { params: { id } });
  const tasks = usePagesOf(listTasksAbout, { params: { id } });
  const error = notes.error ?? tasks.error;
  if (error) return <Trouble error={error} />;
  return (
    <div className="grid gap-x-8 gap-y-4 @3xl:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
      <section aria-label="Notes">
        <div className="flex items-center justify-between">
          <h2 className="text-[15px]">Notes</h2>
          {mayEnter && (
            <Button look="quiet" onClick={() => setAsking('note')}>
              Write a note
            </Button>
          )}
        </div>
        <ul>
          {notes.rows.map((note) => (
            <NoteItem key={note.id} note={note} of={id} onEdit={() => setAsking(note)} />
          ))}
          {notes.first && notes.total === 0 && <li className="text-faded">Nothing written yet.</li>}
        </ul>
        <More list={notes} />
      </section>
      <div>
        <section aria-label="Tasks">
          <div className="flex items-center justify-between">
            <h2 className="text-[15px]">Tasks</h2>
            {mayEnter && (
              <Button look="quiet" onClick={() => setAsking('task')}>
                Set a task
              </Button>
            )}
          </div>
          <ul>
            {tasks.rows.map((task) => (
              <TaskLine key={task.id} task={task} />
            ))}
            {tasks.first && tasks.total === 0 && <li className="text-faded">Nothing to do.</li>}
          </ul>
          <More list={tasks} />
        </section>
        <Documents id={id} />
      </div>
      {asking === 'task' ? (
        <TaskDialog about={supporter} onClose={() => setAsking(null)} />
      ) : asking !== null ? (
        <NoteDialog supporter={supporter} note={asking === 'note' ? null : asking} onClose={() => setAsking(null)} />
      ) : null}
    </div>
  );
}

function NoteItem({ note, of, onEdit }: { note: Note; of: number; onEdit: () => void }) {
  const { date } = useFormats();
  const mayEdit = useMayTouch(updateNote)(note.authorId);
  const mayDelete = useMayTouch(deleteNote)(note.authorId);
  const remove = useWrite(() => call(deleteNote, { params: { id: note.id } }));
  const others = [note.about, ...note.people].filter((person) => person.id !== of);
  return (
    <li className="border-b border-rule py-1.5">
      <div className="flex items-center gap-2 text-[13px] text-faded">
        {note.pinned && <Pin size={12} aria-label="Pinned" />}
        <span>
          {note.kind}, {date(note.date)}, {note.author}
          {others.length > 0 && ', also about '}
          {others.map((person, place) => (
            <span key={person.id}>
              {place > 0 && ', '}
              <Link className="text-slate underline" to={`/supporters/${person.id}?section=notes`}>
                {person.name}
              </Link>
            </span>
          ))}
        </span>
        <span className="ml-auto flex">
          {mayEdit && (
            <IconButton label="Edit the note" onClick={onEdit}>
              <Pencil size={13} />
            </IconButton>
          )}
          {mayDelete && (
            <IconButton label="Delete the note" onClick={() => remove.mutate(undefined)}>
              <Trash2 size={13} />
            </IconButton>
          )}
        </span>
      </div>
      <RichText doc={note.body} />
    </li>
  );
}

function Documents({ id }: { id: number }) {
  const list = usePagesOf(listDocuments, { params: { id } });
  const { date } = useFormats();
  const input = useRef<HTMLInputElement>(null);
  const mayEdit = useMay(addDocument);
  const add = useWrite(
    (file: File) =>
      sendFile({ ...addDocument, path: addDocument.path.replace(':id', String(id)) }, { name: file.name }, file),
    { say: () => 'Kept' },
  );
  const remove = useWrite((documentId: number) => call(deleteDocument, { params: { id: documentId } }));
  const size = (bytes: number): string =>
    bytes < 1_000_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
  return (
    <section aria-label="Documents" className="mt-4">
      <div className="flex items-center justify-between">
        <h2 className="text-[15px]">Documents</h2>
        {mayEdit && (
          <Button look="quiet" busy={add.isPending} onClick={() => input.current?.click()}>
            Keep a file
          </Button>
        )}
        <input
          ref={input}
          type="file"
          className="sr-only"
          aria-label="File to keep"
          accept={DOCUMENT_TYPES.map((type) => `.${type}`).join(',')}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) add.mutate(file);
            event.target.value = '';
          }}
        />
      </div>
      <ul>
        {list.rows.map((document) => (
          <li key={document.id} className="flex items-center gap-2 border-b border-rule py-1">
            <a
              className="min-w-0 flex-1 truncate text-slate hover:underline"
              href={linkTo(getDocument, { id: document.id })}
            >
              {document.name}
            </a>
            <span className="text-[13px] whitespace-nowrap text-faded">
              {size(document.size)}, {date(document.addedOn)}
            </span>
            {mayEdit && (
              <IconButton label={`Take ${document.name} off`} onClick={() => remove.mutate(document.id)}>
                <Trash2 size={13} />
              </IconButton>
            )}
          </li>
        ))}
        {list.first && list.total === 0 && (
          <li className="text-faded">No file kept. PDF, pictures, Word, Excel, text; up to 10 MB.</li>
        )}
      </ul>
      <More list={list} />
    </section>
  );
}
