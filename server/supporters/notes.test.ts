import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Document, Note, Task } from '@tallystick/contract/notes';
import { addPerson, openTestApp, recordOf, snapshot, TESTER } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

/** What is kept with a record. */
const file = async (id: number) => {
  const of = async <T>(list: string): Promise<T[]> =>
    (await test.call('GET', `/supporters/${id}/${list}`)).body['items'] as T[];
  return { notes: await of<Note>('notes'), tasks: await of<Task>('tasks'), documents: await of<Document>('documents') };
};
const text = (words: string) => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: [{ type: 'text', text: words }] }],
});

describe('notes', () => {
  it('are kept as written, pinned first, and show on everyone they are about', async () => {
    const [ana, lee] = [
      await addPerson(test, { first: 'Ana', last: 'Cruz' }),
      await addPerson(test, { first: 'Lee', last: 'Park' }),
    ];
    await test.call('POST', '/notes', { supporterId: ana, date: '2026-01-02', body: text('first'), pinned: true });
    const { body } = await test.call('POST', '/notes', {
      supporterId: ana,
      kind: 'call',
      date: '2026-03-04',
      body: text('<script>alert(1)</script>'),
      people: [lee, ana],
    });
    const { notes } = await file(ana);
    expect(notes.map((note) => [note.kind, note.date, note.author])).toEqual([
      ['note', '2026-01-02', 'test officer'],
      ['call', '2026-03-04', 'test officer'],
    ]);
    expect(notes[1]?.body).toEqual(text('<script>alert(1)</script>'));
    expect((await file(lee)).notes).toMatchObject([{ about: { name: 'Ana Cruz' }, people: [{ id: lee }] }]);
    const [history] = (await test.call('GET', `/supporters/${ana}/history?about=notes`)).body['items'] as {
      summary: string;
      lines: string[];
    }[];
    expect(history).toMatchObject({
      summary: 'Wrote a call about Ana Cruz',
      lines: ['Call “<script>alert(1)</script>” added'],
    });
    const before = await snapshot(test.sql);
    const gone = await test.call('DELETE', `/notes/${String(body['id'])}`);
    expect((await file(lee)).notes).toEqual([]);
    await test.services.changes.undo(TESTER, Number(gone.body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
  });

  it('are changed with their version, and not written by who may only read', async () => {
    const id = await addPerson(test);
    const made = await test.call('POST', '/notes', { supporterId: id, date: '2026-01-02', body: text('a') });
    const path = `/notes/${String(made.body['id'])}`;
    expect((await test.call('PUT', path, { version: 1, date: '2026-01-03', body: text('b'), people: [] })).status).toBe(
      200,
    );
    expect((await test.call('PUT', path, { version: 1, date: '2026-01-03', body: text('c') })).status).toBe(409);
    expect(
      (await test.call('POST', '/notes', { supporterId: id, date: '2026-01-02', body: text('a') }, { as: 'read' }))
        .status,
    ).toBe(403);
    expect(
      (await test.call('POST', '/notes', { supporterId: 4_000_000, date: '2026-01-02', body: text('a') })).status,
    ).toBe(404);
    const script = { type: 'doc', content: [{ type: 'script', text: 'x' }] };
    const odd = await test.call('POST', '/notes', { supporterId: id, date: '2026-01-02', body: script });
    expect([200, 400]).toContain(odd.status);
  });
});

describe('many notes', () => {
  it('become another kind, are pinned and deleted as one change set, whoever else they are about', async () => {
    const [a, b] = [await addPerson(test), await addPerson(test)];
    const draft = { kind: 'note', date: '2026-03-04', body: text('Called back') };
    const ids: number[] = [];
    for (const supporterId of [a, b])
      ids.push(Number((await test.call('POST', '/notes', { ...draft, supporterId, people: [a] })).body['id']));
    const act = (what: object, as: 'officer' | 'entry' = 'officer') =>
      test.call('POST', '/notes/acts', { ids: [...ids, 999_999, ids[0]], act: what }, { as });
    const of = async (id: number) =>
      (await test.call('GET', `/supporters/${id}/notes`)).body['items'] as { kind: string; pinned: boolean }[];
    expect((await act({ do: 'kind', kind: 'call' })).body).toMatchObject({ changed: 2 });
    expect((await act({ do: 'kind', kind: 'call' })).body).toMatchObject({ changed: 0, revision: null });
    expect((await act({ do: 'pin', pinned: true })).body).toMatchObject({ changed: 2 });
    expect(await of(a)).toMatchObject([
      { kind: 'call', pinned: true },
      { kind: 'call', pinned: true },
    ]);
    // They are an officer's; who enters gifts changes only their own.
    expect((await act({ do: 'pin', pinned: false }, 'entry')).status).toBe(403);
    const before = await snapshot(test.sql);
    const gone = await act({ do: 'delete' });
    expect(gone.body).toMatchObject({ changed: 2 });
    expect([await of(a), await of(b)]).toEqual([[], []]);
    await test.services.changes.undo(TESTER, Number(gone.body['revision']));
    expect(await snapshot(test.sql)).toEqual(before);
  });
});

describe('tasks', () => {
  it('carry what is done with a segment at a click, each time they come again, and keep it when they are moved', async () => {
    const carries = { segmentId: 4711, act: 'labels30' };
    const made = await test.call('POST', '/tasks', {
      title: 'Birthdays',
      due: '2026-10-31',
      repeats: 'monthly',
      carries,
    });
    const path = `/tasks/${String(made.body['id'])}`;
    const seen = async () => {
      const { items } = (await test.call('GET', '/tasks?owner=me')).body as { items: Task[] };
      return items.filter(({ title }) => title === 'Birthdays').map((one) => [one.due, one.carries]);
    };
    const moved = { version: 1, title: 'Birthdays', due: '2026-10-30', repeats: 'monthly' };
    expect((await test.call('PUT', path, moved)).status).toBe(200);
    expect(await seen()).toEqual([['2026-10-30', carries]]);
    const done = await test.call('POST', `${path}/done`, {});
    expect(await seen()).toEqual([[done.body['next'], carries]]);
    expect((await test.call('POST', '/tasks', { ...moved, carries: { ...carries, act: 'burn' } })).status).toBe(400);
    // Taken off where that is said.
    await test.call('POST', `/changes/${String(done.body['revision'])}/undo`, {});
    const [{ version = 0 } = {}] = await test.sql.rows<{ version: number }>('SELECT version FROM task WHERE id = ?', [
      Number(made.body['id']),
    ]);
    expect((await test.call('PUT', path, { ...moved, version, carries: null })).status).toBe(200);
    expect(await seen()).toEqual([['2026-10-30', null]]);
  });

  it('wait on the record, are ticked off, and come back on their day of the month', async () => {
    const id = await addPerson(test);
    const made = await test.call('POST', '/tasks', {
      supporterId: id,
      title: 'Send the letter',
      due: '2026-10-31',
      repeats: 'monthly',
    });
    expect((await recordOf(test, id)).pending.tasks).toMatchObject([{ title: 'Send the letter', due: '2026-10-31' }]);
    const done = await test.call('POST', `/tasks/${String(made.body['id'])}/done`, {});
    expect(done.body['next']).toBe('2026-11-30');
    const { tasks } = await file(id);
    expect(tasks).toMatchObject([
      { due: '2026-11-30', doneOn: null, repeatText: 'each month, on the 31st' },
      { due: '2026-10-31', doneOn: '2026-11-23', doneBy: 'test officer' },
    ]);
    expect((await test.call('POST', `/tasks/${String(made.body['id'])}/done`, {})).status).toBe(409);
  });

  it('of one’s own and nobody’s are listed by due date', async () => {
    await test.call('POST', '/tasks', { title: 'Anyone', due: '2026-12-01' });
    const items = (await test.call('GET', '/tasks?owner=me')).body['items'] as Task[];
    expect(items.map((task) => task.title)).toContain('Anyone');
    expect((await test.call('POST', '/tasks', { title: 'x', due: '2026-12-01', ownerId: 999 })).status).toBe(400);
  });

  it('about no supporter are listed alone, whoever has them', async () => {
    await test.call('POST', '/tasks', { title: 'Order stamps', due: '2026-12-04', ownerId: null });
    await test.call('POST', '/tasks', { title: 'Thank them', due: '2026-12-04', supporterId: await addPerson(test) });
    const listed = async (query: string) =>
      ((await test.call('GET', `/tasks?${query}`)).body['items'] as { title: string; about: unknown }[]).filter(
        ({ title }) => ['Order stamps', 'Thank them'].includes(title),
      );
    expect((await listed('about=nobody')).map(({ title, about }) => [title, about])).toEqual([['Order stamps', null]]);
    expect(await listed('limit=200')).toHaveLength(2);
  });

  it('are listed page by page, each once, though one is done between the pages', async () => {
    const list = async (cursor: string | null) =>
      (await test.call('GET', `/tasks?limit=3${cursor ? `&cursor=${cursor}` : ''}`)).body as unknown as {
        items: Task[];
        next: string | null;
        total: number;
      };
    for (let task = 0; task < 8; task++)
      await test.call('POST', '/tasks', { title: `Paged ${task}`, due: `2027-01-0${1 + (task % 4)}` });
    const first = await list(null);
    const seen = first.items.map((task) => task.id);
    // The task that the page ended with is done, and stands in the list no more.
    await test.call('POST', `/tasks/${seen.at(-1) ?? 0}/done`, {});
    for (let { next } = first; next !== null;) {
      const page = await list(next);
      seen.push(...page.items.map((task) => task.id));
      ({ next } = page);
    }
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen).toHaveLength(first.total);
  });
});

describe('documents', () => {
  const pdf = Buffer.from('%PDF-1.4 something');
  const upload = (id: number, name: string, raw: Buffer) =>
    test.call('POST', `/supporters/${id}/documents?name=${encodeURIComponent(name)}`, undefined, { raw });

  it('of one come back by undo though the trash of another was emptied meanwhile; those of the erased go', async () => {
    const [stays, goes] = [await addPerson(test), await addPerson(test)];
    const [ours, theirs] = [Buffer.from('%PDF-1.4 of who stays'), Buffer.from('%PDF-1.4 of who goes')];
    const made = await upload(stays, 'Ours.pdf', ours);
    await upload(goes, 'Theirs.pdf', theirs);
    const path = `/documents/${String(made.body['id'])}`;
    const gone = await test.call('DELETE', path);
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids: [goes] }, act: { do: 'trash' } });
    const { records } = (await test.call('GET', '/trash')).body;
    const bytes = async () => (await test.sql.rows('SELECT hash FROM file_content')).length;
    const before = await bytes();
    expect((await test.call('POST', '/trash/empty', { records }, { as: 'admin' })).status).toBe(200);
    expect(await bytes()).toBe(before - 1);
    await test.services.changes.undo(TESTER, Number(gone.body['revision']));
    expect((await test.call('GET', `${path}/file`)).bytes.equals(ours)).toBe(true);
    await test.call('DELETE', path);
    await test.sql.run('DELETE FROM file_content');
    await test.sql.run('DELETE FROM document');
  });

  it('are kept once, given back byte for byte, and come back by undo', async () => {
    const id = await addPerson(test);
    const made = await upload(id, 'Pledge form.pdf', pdf);
    await upload(id, 'Copy.pdf', pdf);
    expect(await test.sql.rows('SELECT hash FROM file_content')).toHaveLength(1);
    const path = `/documents/${String(made.body['id'])}`;
    const got = await test.call('GET', `${path}/file`);
    expect([got.bytes.equals(pdf), got.headers.get('content-disposition'), got.headers.get('content-type')]).toEqual([
      true,
      'attachment; filename="Pledge form.pdf"',
      'application/pdf',
    ]);
    const gone = await test.call('DELETE', path);
    expect((await test.call('GET', `${path}/file`)).status).toBe(404);
    await test.services.changes.undo(TESTER, Number(gone.body['revision']));
    expect((await test.call('GET', `${path}/file`)).bytes.equals(pdf)).toBe(true);
  });

  it.each([
    ['page.html', Buffer.from('<script>'), 415, 'is not kept here'],
    ['program.exe', Buffer.from('MZ'), 415, 'is not kept here'],
    ['false.pdf', Buffer.from('MZ not a pdf'), 415, 'is not a PDF file'],
    ['binary.txt', Buffer.from([1, 0, 2]), 415, 'is not a TXT file'],
    ['none', Buffer.from('x'), 415, 'is not kept here'],
    ['empty.pdf', Buffer.alloc(0), 400, 'is empty'],
    ['huge.pdf', Buffer.concat([pdf, Buffer.alloc(10 * 1024 * 1024)]), 413, 'at most 10 MB'],
  ])('%s is refused', async (name, raw, status, why) => {
    const answer = await upload(await addPerson(test), name, raw);
    expect(answer.status).toBe(status);
    expect(answer.text).toContain(why);
  });
});
