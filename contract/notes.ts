import { REPEATS } from '@tallystick/core/tasks';
import type { Repeat } from '@tallystick/core/tasks';
import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id, IdParams, IsoDateText, pageOf, Paging, Written, READY_ACTS } from './common.ts';
import { LetterDoc } from './outreach.ts';
import { Someone } from './supporters.ts';

const area = 'supporters';
export const NOTE_KINDS = ['note', 'call', 'visit', 'letter', 'meeting'] as const;
const noteShape = {
  kind: z.enum(NOTE_KINDS).default('note'),
  date: IsoDateText,
  body: LetterDoc,
  pinned: z.boolean().default(false),
};
/** `people` are others whom the note is about too; it shows on their records. */
export const Note = z.object({
  id: Id,
  version: z.number(),
  ...noteShape,
  author: z.string(),
  /** Whose it is; null for nobody's. */
  authorId: Id.nullable(),
  about: Someone,
  people: z.array(Someone),
});
export type Note = z.infer<typeof Note>;
const People = z.array(Id).max(30).default([]);

/** What a task has done at a click when it is due: something ready with a segment. */
const Carries = z.object({ segmentId: Id, act: z.enum(READY_ACTS) }).nullable();
const taskShape = {
  title: z.string().trim().min(1, 'Say what is to be done.').max(200),
  due: IsoDateText,
  ownerId: Id.nullable().default(null),
  repeats: z.enum(Object.keys(REPEATS) as [Repeat, ...Repeat[]]).default('never'),
};
export const Task = z.object({
  id: Id,
  version: z.number(),
  ...taskShape,
  carries: Carries,
  owner: z.string(),
  /** Who set it. */
  makerId: Id.nullable(),
  /** `each month, on the 25th`; empty where it does not repeat. */
  repeatText: z.string(),
  about: Someone.nullable(),
  doneOn: z.string().nullable(),
  doneBy: z.string(),
});
export type Task = z.infer<typeof Task>;
export const Document = z.object({
  id: Id,
  version: z.number(),
  name: z.string(),
  type: z.string(),
  size: z.number(),
  addedOn: z.string(),
  author: z.string(),
});
export type Document = z.infer<typeof Document>;
/** What may be kept as a document, and how large. */
export const DOCUMENT_TYPES = ['pdf', 'png', 'jpg', 'jpeg', 'docx', 'xlsx', 'txt', 'csv'] as const;
export const LARGEST_DOCUMENT = 10 * 1024 * 1024;

export const listNotes = endpoint({
  id: 'listNotes',
  area,
  method: 'get',
  path: '/supporters/:id/notes',
  right: 'notes.see',
  summary: 'Notes about a supporter, pinned ones first, then the newest.',
  params: IdParams,
  query: Paging,
  response: pageOf(Note),
});
export const listTasksAbout = endpoint({
  id: 'listTasksAbout',
  area,
  method: 'get',
  path: '/supporters/:id/tasks',
  right: 'tasks.see',
  summary: 'Tasks about a supporter: open ones by due date, then the last that were done.',
  params: IdParams,
  query: Paging,
  response: pageOf(Task),
});
export const listDocuments = endpoint({
  id: 'listDocuments',
  area,
  method: 'get',
  path: '/supporters/:id/documents',
  right: 'documents.see',
  summary: 'Documents kept with a supporter, newest first.',
  params: IdParams,
  query: Paging,
  response: pageOf(Document),
});
export const createNote = endpoint({
  id: 'createNote',
  area,
  method: 'post',
  path: '/notes',
  right: 'notes.add',
  summary: 'Write a note.',
  body: z.object({ supporterId: Id, ...noteShape, people: People }),
  response: Written.extend({ id: Id }),
});
export const updateNote = endpoint({
  id: 'updateNote',
  area,
  method: 'put',
  path: '/notes/:id',
  right: 'notes.change',
  summary: 'Change a note.',
  params: IdParams,
  body: z.object({ version: z.number().int(), ...noteShape, people: People }),
  response: Written,
});
export const deleteNote = endpoint({
  id: 'deleteNote',
  area,
  method: 'delete',
  path: '/notes/:id',
  right: 'notes.delete',
  summary: 'Delete a note; can be undone.',
  params: IdParams,
  response: Written,
});
export const NoteAct = z.discriminatedUnion('do', [
  z.object({ do: z.literal('kind'), kind: z.enum(NOTE_KINDS) }),
  z.object({ do: z.literal('pin'), pinned: z.boolean() }),
  z.object({ do: z.literal('delete') }),
]);
export type NoteAct = z.infer<typeof NoteAct>;
export const actOnNotes = endpoint({
  id: 'actOnNotes',
  area,
  method: 'post',
  path: '/notes/acts',
  right: 'notes.change',
  summary: 'Make many notes another kind, pin or unpin them, or delete them, as one change set.',
  body: z.object({ ids: z.array(Id).min(1, 'No note is selected.').max(5000), act: NoteAct }),
  response: Written.extend({ changed: z.number() }),
});
export const listTasks = endpoint({
  id: 'listTasks',
  area,
  method: 'get',
  path: '/tasks',
  right: 'tasks.see',
  summary:
    'Tasks that are open, by due date; `owner=me` for one’s own and nobody’s, `about=nobody` for those about no supporter.',
  query: Paging.extend({
    owner: z.enum(['me', 'all']).default('all'),
    about: z.enum(['anybody', 'nobody']).default('anybody'),
  }),
  response: pageOf(Task),
});
export const createTask = endpoint({
  id: 'createTask',
  area,
  method: 'post',
  path: '/tasks',
  right: 'tasks.add',
  summary: 'Set a task, about a supporter or none.',
  body: z.object({ supporterId: Id.nullable().default(null), ...taskShape, carries: Carries.default(null) }),
  response: Written.extend({ id: Id }),
});
export const updateTask = endpoint({
  id: 'updateTask',
  area,
  method: 'put',
  path: '/tasks/:id',
  right: 'tasks.change',
  summary: 'Change a task.',
  params: IdParams,
  /** What is carried stays where it is left out. */
  body: z.object({ version: z.number().int(), ...taskShape, carries: Carries.optional() }),
  response: Written,
});
export const finishTask = endpoint({
  id: 'finishTask',
  area,
  method: 'post',
  path: '/tasks/:id/done',
  right: 'tasks.change',
  summary: 'Tick a task off; one that repeats is set anew for its next day.',
  params: IdParams,
  response: Written.extend({ next: z.string().nullable() }),
});
export const TaskAct = z.discriminatedUnion('do', [
  z.object({ do: z.literal('give'), ownerId: Id.nullable() }),
  z.object({ do: z.literal('move'), due: IsoDateText }),
  z.object({ do: z.literal('done') }),
]);
export type TaskAct = z.infer<typeof TaskAct>;
export const actOnTasks = endpoint({
  id: 'actOnTasks',
  area,
  method: 'post',
  path: '/tasks/acts',
  right: 'tasks.change',
  summary: 'Hand over, move or tick off many tasks, as one change set; those that are done already stay as they are.',
  body: z.object({ ids: z.array(Id).min(1, 'No task is selected.').max(5000), act: TaskAct }),
  response: Written.extend({ changed: z.number() }),
});
export const deleteTask = endpoint({
  id: 'deleteTask',
  area,
  method: 'delete',
  path: '/tasks/:id',
  right: 'tasks.delete',
  summary: 'Delete a task; can be undone.',
  params: IdParams,
  response: Written,
});
export const addDocument = endpoint({
  id: 'addDocument',
  area,
  method: 'post',
  path: '/supporters/:id/documents',
  right: 'documents.add',
  consumes: 'application/octet-stream',
  summary:
    'Keep a file with a record: PDF, PNG, JPEG, DOCX, XLSX, text or CSV of up to 10 MB. The content must be of the type that the name says.',
  params: IdParams,
  query: z.object({ name: z.string().trim().min(1, 'The file has no name.').max(190) }),
  response: Written.extend({ id: Id }),
});
export const getDocument = endpoint({
  id: 'getDocument',
  area,
  method: 'get',
  path: '/documents/:id/file',
  right: 'documents.see',
  produces: 'application/octet-stream',
  summary: 'The file of a document.',
  params: IdParams,
  response: z.string(),
});
export const deleteDocument = endpoint({
  id: 'deleteDocument',
  area,
  method: 'delete',
  path: '/documents/:id',
  right: 'documents.delete',
  summary: 'Take a document off a record; can be undone.',
  params: IdParams,
  response: Written,
});
