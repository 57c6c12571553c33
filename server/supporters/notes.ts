import type { DataSource } from 'typeorm';
import type { LetterNode } from '@tallystick/core/letters';
import { displayName, withArticle } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import * as contract from '@tallystick/contract/notes';
import type { Note } from '@tallystick/contract/notes';
import type { Actor, Changes } from '../platform/changes.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import { chunks, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { eraseAll, eraseFrom } from '../platform/erase-text.ts';
import type { Http } from '../platform/http.ts';
import { requireOwn } from '../platform/rights.ts';
import { notFound } from '../platform/problem.ts';
import { day, flag, long, maybe, ref, table, text } from '../platform/tables.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Documents } from './documents.ts';
import { lockSupporter, nameOf } from './record.ts';
import type { Tasks } from './tasks.ts';
import type { RowOf } from '../platform/tables.ts';
import { richText } from '@tallystick/core/history';
import { supporterNumber } from '@tallystick/core/supporters';
import { counted } from '@tallystick/core/words';

/** The rule of what is noted about a supporter, but what it is called. */
const noted = {
  area: 'supporters',
  owner: 'supporter_id',
  topics: ['notes'],
  erasing: 'remove',
  merging: 'move',
  undo: 'rows',
} as const;
export const NoteTable = table(
  'note',
  {
    ...noted,
    called: (row, telling) =>
      `${String(row['kind']).replace(/^./, (letter) => letter.toUpperCase())} “${richText(row['body'] ?? null, telling)}”`,
    /** Whom else a note was about is not mentioned any more once it goes; nor are the erased in notes about others. */
    eraseOthers: eraseAll(
      (sql, erased) =>
        sql
          .run('DELETE p FROM note_person p JOIN note n ON n.id = p.note_id WHERE n.supporter_id IN (?)', [
            erased.map((one) => one.id),
          ])
          .then(() => undefined),
      eraseFrom('note', 'body'),
    ),
  },
  {
    supporter_id: ref,
    kind: text<Note['kind']>(12).says('Kind of note'),
    date: day.says('Date of the note'),
    body: long.says('Note', richText),
    pinned: flag.says('Pinned'),
    author: text(120),
    author_id: maybe(ref),
  },
);
type NoteRecord = RowOf<typeof NoteTable>;
export const NotePersonTable = table(
  'note_person',
  { ...{ ...noted, called: 'Mention in a note' }, merging: { once: (row) => String(row['note_id']), else: 'goes' } },
  { supporter_id: ref, note_id: ref },
);

interface NoteDraft {
  kind: Note['kind'];
  date: string;
  body: LetterNode;
  pinned: boolean;
  people: readonly number[];
}
type Named = NameParts & { id: number };
const someone = (row: Named) => ({ id: row.id, number: supporterNumber(row.id), name: displayName(row) });
const rowOf = ({ kind, date, body, pinned }: NoteDraft) => ({
  kind,
  date,
  body: JSON.stringify(body),
  pinned: pinned ? 1 : 0,
});

/** Notes on records: rich text, with who else they are about. */
export class Notes {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
  ) {
    this.sql = sqlOn(source);
  }

  /** Notes about a supporter, written on its own record or naming it; pinned first, then the newest. */
  async of(supporterId: number, asked: Asked): Promise<{ items: Note[]; next: string | null; total: number }> {
    const page = await pageOf<NoteRecord>(
      this.sql,
      {
        // note_supporter (supporter_id, pinned, date), note_person_pair (supporter_id, note_id)
        select: `SELECT * FROM (SELECT * FROM note WHERE supporter_id = ? UNION
          SELECT n.* FROM note_person p JOIN note n ON n.id = p.note_id WHERE p.supporter_id = ?) n WHERE TRUE`,
        params: [supporterId, supporterId],
        order: [
          { sql: 'pinned', as: 'pinned', down: true },
          { sql: 'date', as: 'date', down: true },
          { sql: 'id', as: 'id', down: true },
        ],
      },
      asked,
    );
    return { ...page, items: await this.whole(page.items) };
  }

  private async whole(rows: readonly NoteRecord[]): Promise<Note[]> {
    if (rows.length === 0) return [];
    const people = await this.sql.rows<Named & { note: number }>(
      `SELECT p.note_id AS note, s.* FROM note_person p JOIN supporter s ON s.id = p.supporter_id WHERE p.note_id IN (?) AND s.state <> 'erased'`,
      [rows.map((row) => row.id)],
    );
    const owners = new Map(
      (
        await this.sql.rows<Named>('SELECT * FROM supporter WHERE id IN (?)', [rows.map((row) => row.supporter_id)])
      ).map((row) => [row.id, row]),
    );
    return rows.flatMap((row) => {
      const owner = owners.get(row.supporter_id);
      const body: LetterNode = JSON.parse(row.body);
      if (!owner) return [];
      const { id, version, kind, date, author, author_id: authorId } = row;
      const others = people.filter((person) => person.note === id).map(someone);
      const about = someone(owner);
      return { id, version, kind, date, author, authorId, body, pinned: row.pinned === 1, about, people: others };
    });
  }

  async add(actor: Actor, draft: NoteDraft & { supporterId: number }) {
    const words = { name: '' };
    return this.changes.write(
      actor,
      { kind: 'edit', summary: () => `Wrote ${withArticle(draft.kind)} about ${words.name}` },
      async (tx) => {
        words.name = nameOf(
          await lockSupporter(tx, draft.supporterId, `Supporter ${supporterNumber(draft.supporterId)}`),
        );
        const id = await tx.insert(NoteTable, {
          supporter_id: draft.supporterId,
          ...rowOf(draft),
          author: actor.name,
          author_id: actor.userId,
        });
        await syncPeople(tx, id, draft.supporterId, draft.people);
        return { id };
      },
    );
  }

  async change(actor: Actor, id: number, draft: NoteDraft & { version: number }) {
    return this.changes.write(actor, { kind: 'edit', summary: `Changed ${withArticle(draft.kind)}` }, async (tx) => {
      const row = await tx.expect(NoteTable, id, draft.version, 'This note');
      requireOwn(actor, 'notes.change', row.author_id, 'This note');
      await tx.update(NoteTable, id, rowOf(draft));
      await syncPeople(tx, id, Number(row['supporter_id']), draft.people);
    });
  }

  async remove(actor: Actor, id: number) {
    return this.changes.write(actor, { kind: 'edit', summary: 'Deleted a note' }, async (tx) => {
      const row = (await tx.lock(NoteTable, [id])).get(id);
      if (!row) throw notFound('This note');
      requireOwn(actor, 'notes.delete', row.author_id, 'This note');
      await removeNotes(tx, [id]);
    });
  }

  /** Does one thing to many notes; those that are gone, or so already, are passed over. */
  async act(actor: Actor, ids: readonly number[], act: contract.NoteAct) {
    const words = { changed: 0, what: actWords(act) };
    const summary = (): string => `${words.what}: ${counted(words.changed, 'note')}`;
    return this.changes.write(actor, { kind: 'bulk', summary }, async (tx) => {
      const rows = [...(await tx.lock(NoteTable, [...new Set(ids)])).values()];
      for (const row of rows)
        requireOwn(actor, act.do === 'delete' ? 'notes.delete' : 'notes.change', row.author_id, 'One of these notes');
      const all = rows.map(({ id }) => id);
      if (act.do === 'delete') await removeNotes(tx, all);
      words.changed =
        act.do === 'delete'
          ? all.length
          : await tx.updateAll(NoteTable, all, act.do === 'pin' ? { pinned: act.pinned ? 1 : 0 } : { kind: act.kind });
      return { changed: words.changed };
    });
  }
}

function actWords(act: contract.NoteAct): string {
  switch (act.do) {
    case 'kind':
      return `Made ${withArticle(act.kind)}`;
    case 'pin':
      return act.pinned ? 'Pinned' : 'Unpinned';
    case 'delete':
      return 'Deleted';
  }
}

/** Removes notes, and whom else they are about with them. */
async function removeNotes(tx: Transaction, ids: readonly number[]): Promise<void> {
  for (const slice of chunks(ids)) {
    const people = await tx.sql.rows<{ id: number }>('SELECT id FROM note_person WHERE note_id IN (?) FOR UPDATE', [
      slice,
    ]);
    await tx.removeAll(
      NotePersonTable,
      people.map(({ id }) => id),
    );
  }
  await tx.removeAll(NoteTable, ids);
}

async function syncPeople(tx: Transaction, noteId: number, ownerId: number, people: readonly number[]): Promise<void> {
  const had = await tx.sql.rows<{ id: number; supporter_id: number }>(
    'SELECT id, supporter_id FROM note_person WHERE note_id = ? FOR UPDATE',
    [noteId],
  );
  const wanted = new Set(people.filter((id) => id !== ownerId));
  await tx.removeAll(
    NotePersonTable,
    had.filter((row) => !wanted.has(row.supporter_id)).map((row) => row.id),
  );
  for (const row of had) wanted.delete(row.supporter_id);
  for (const id of wanted) await lockSupporter(tx, id, `Supporter ${supporterNumber(id)}`);
  await tx.insertAll(
    NotePersonTable,
    [...wanted].map((id) => ({ supporter_id: id, note_id: noteId })),
  );
}

export function serveNotes(http: Http, notes: Notes, tasks: Tasks, documents: Documents): void {
  http.on(contract.listNotes, ({ params, query }) => notes.of(params.id, query));
  http.on(contract.listTasksAbout, ({ params, query }) => tasks.of(params.id, query));
  http.on(contract.listDocuments, ({ params, query }) => documents.of(params.id, query));
  http.on(contract.createNote, async ({ actor, body }) => {
    const { revision, result } = await notes.add(actor, body);
    return { revision, ...result };
  });
  http.on(contract.updateNote, ({ actor, params, body }) => notes.change(actor, params.id, body));
  http.on(contract.actOnNotes, async ({ actor, body }) => {
    const { revision, result } = await notes.act(actor, body.ids, body.act);
    return { revision, ...result };
  });
  http.on(contract.deleteNote, ({ actor, params }) => notes.remove(actor, params.id));
}
