import type { DataSource } from 'typeorm';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { describeRepeat, nextDue } from '@tallystick/core/tasks';
import type { Repeat } from '@tallystick/core/tasks';
import type { ReadyAct } from '@tallystick/contract/common';
import * as contract from '@tallystick/contract/notes';
import type { Task } from '@tallystick/contract/notes';
import type { Actor, Changes } from '../platform/changes.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import { sqlOn } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import { eraseFrom } from '../platform/erase-text.ts';
import type { Http } from '../platform/http.ts';
import { requireOwn } from '../platform/rights.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { day, maybe, ref, table, text, whole } from '../platform/tables.ts';
import type { Settings } from '../settings/index.ts';
import { lockSupporter, refused } from './record.ts';
import type { RowOf } from '../platform/tables.ts';
import { day as asDay } from '@tallystick/core/history';
import { supporterNumber } from '@tallystick/core/supporters';
import { counted } from '@tallystick/core/words';
import type { Transaction } from '../platform/transaction.ts';
import { nameColumns } from './views.ts';

export const TaskTable = table(
  'task',
  {
    ...{ area: 'supporters', owner: 'supporter_id', topics: ['notes'], erasing: 'remove' },
    ...{ merging: 'move', undo: 'rows' },
    eraseOthers: eraseFrom('task', 'title'),
    called: (row, telling) => `Task “${String(row['title'])}”, due ${asDay(row['due'] ?? null, telling)},`,
  },
  {
    supporter_id: maybe(ref),
    title: text(200).says('Task'),
    due: day.says('Due'),
    owner_id: maybe(ref),
    repeats: text<Repeat>(12),
    repeat_day: whole,
    done_on: maybe(day).says('Done'),
    done_by: text(120),
    /** Who set it. */
    maker_id: maybe(ref),
    /** The grant whose report it is. */
    pledge_id: maybe(ref),
    /** The segment that it carries, and what is done with it at a click. */
    segment_id: maybe(ref),
    act: text<ReadyAct | ''>(20),
  },
);
type TaskRecord = RowOf<typeof TaskTable>;

/** Whose a task is to somebody: theirs when they set it or have it, or nobody has it; else whoever has it. */
const ownerOf = (row: TaskRecord, { userId }: Actor): number | null =>
  row.owner_id === null || row.maker_id === userId ? userId : row.owner_id;

interface TaskDraft {
  title: string;
  due: string;
  ownerId: number | null;
  repeats: Repeat;
  /** Left out where it stays as it is. */
  carries?: Task['carries'] | undefined;
}
const rowOf = (draft: TaskDraft) => ({
  title: draft.title,
  due: draft.due,
  owner_id: draft.ownerId,
  repeats: draft.repeats,
  repeat_day: Number(draft.due.slice(8, 10)),
  ...(draft.carries === undefined
    ? {}
    : { segment_id: draft.carries?.segmentId ?? null, act: draft.carries?.act ?? ('' as const) }),
});

/** What is to be done, by whom and when. */
export class Tasks {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  /** Tasks about a supporter: open ones by due date, then the last that were done. */
  of(supporterId: number, asked: Asked) {
    // task_supporter (supporter_id, done_on, due)
    return this.page(`t.supporter_id = ? AND s.state = 'active'`, [supporterId], asked);
  }

  /**
   * A page of open tasks by due date: of one person together with those that nobody has, or everyone's; of all, or of
   * those about no supporter.
   */
  open(userId: number | null, aboutNobody: boolean, asked: Asked) {
    // task_owner (done_on, owner_id, due)
    const mine = userId === null ? '' : 'AND (t.owner_id = ? OR t.owner_id IS NULL)';
    const about = aboutNobody ? 't.supporter_id IS NULL' : `(t.supporter_id IS NULL OR s.state = 'active')`;
    const where = `t.done_on IS NULL ${mine} AND ${about}`;
    return this.page(where, userId === null ? [] : [userId], asked);
  }

  private async page(where: string, params: readonly Param[], asked: Asked) {
    const page = await pageOf<TaskRecord & NameParts & { owner: string | null }>(
      this.sql,
      {
        select: `SELECT t.*, u.name AS owner, ${nameColumns('s')}, t.done_on IS NOT NULL AS isDone, COALESCE(t.done_on, '') AS doneKey
          FROM task t LEFT JOIN user u ON u.id = t.owner_id LEFT JOIN supporter s ON s.id = t.supporter_id WHERE ${where}`,
        params,
        order: [
          { sql: '(t.done_on IS NOT NULL)', as: 'isDone' },
          { sql: `COALESCE(t.done_on, '')`, as: 'doneKey', down: true },
          { sql: 't.due', as: 'due' },
          { sql: 't.id', as: 'id' },
        ],
      },
      asked,
    );
    return { ...page, items: page.items.map(taskView) };
  }

  async add(actor: Actor, draft: TaskDraft & { supporterId: number | null }) {
    return this.changes.write(actor, { kind: 'edit', summary: `Set the task “${draft.title}”` }, async (tx) => {
      if (draft.supporterId !== null)
        await lockSupporter(tx, draft.supporterId, `Supporter ${supporterNumber(draft.supporterId)}`);
      await requireColleague(tx, draft.ownerId);
      return {
        id: await tx.insert(TaskTable, {
          supporter_id: draft.supporterId,
          ...rowOf(draft),
          done_on: null,
          done_by: '',
          maker_id: actor.userId,
        }),
      };
    });
  }

  async change(actor: Actor, id: number, draft: TaskDraft & { version: number }) {
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the task “${draft.title}”` }, async (tx) => {
      const row = await tx.expect(TaskTable, id, draft.version, 'This task');
      requireOwn(actor, 'tasks.change', ownerOf(row, actor), 'This task');
      // Moving one occurrence of what repeats leaves the day that it repeats on.
      const repeat_day =
        row['repeats'] === draft.repeats && draft.repeats !== 'never'
          ? Number(row['repeat_day'])
          : rowOf(draft).repeat_day;
      await tx.update(TaskTable, id, { ...rowOf(draft), repeat_day });
    });
  }

  /** Ticks a task off; one that repeats is set anew, for the first of its days that is still to come. */
  async finish(actor: Actor, id: number) {
    const { today } = await this.settings.calendar();
    const words = { title: '' };
    return this.changes.write(actor, { kind: 'edit', summary: () => `Did the task “${words.title}”` }, async (tx) => {
      const row = (await tx.lock(TaskTable, [id])).get(id);
      if (!row) throw notFound('This task');
      words.title = String(row['title']);
      requireOwn(actor, 'tasks.change', ownerOf(row, actor), 'This task');
      if (row['done_on'] !== null) throw new Problem(409, 'done', `“${words.title}” was done already.`);
      return { next: await tick(tx, row, today, actor) };
    });
  }

  /** Does one thing to many open tasks; those that are done, or gone, are passed over. */
  async act(actor: Actor, ids: readonly number[], act: contract.TaskAct) {
    const { today } = await this.settings.calendar();
    const words = { changed: 0, what: { give: 'Handed over', move: 'Moved', done: 'Did' }[act.do] };
    const summary = (): string => `${words.what} ${counted(words.changed, 'task')}`;
    return this.changes.write(actor, { kind: 'bulk', summary }, async (tx) => {
      if (act.do === 'give') await requireColleague(tx, act.ownerId);
      const rows = [...(await tx.lock(TaskTable, [...new Set(ids)])).values()];
      const open = rows.filter((row) => row.done_on === null);
      for (const row of open) {
        requireOwn(actor, 'tasks.change', ownerOf(row, actor), `The task “${row.title}”`);
        if (act.do === 'done') await tick(tx, row, today, actor);
        else await tx.update(TaskTable, row.id, changeOf(act));
      }
      words.changed = open.length;
      return { changed: open.length };
    });
  }

  async remove(actor: Actor, id: number) {
    return this.changes.write(actor, { kind: 'edit', summary: 'Deleted a task' }, async (tx) => {
      const row = (await tx.lock(TaskTable, [id])).get(id);
      if (!row) throw notFound('This task');
      requireOwn(actor, 'tasks.delete', row.maker_id, 'This task');
      await tx.removeAll(TaskTable, [id]);
    });
  }
}

/** The open tasks about supporters, by due date. */
export const openTasksOf = async (
  sql: Sql,
  ids: readonly number[],
): Promise<Pick<TaskRecord, 'id' | 'supporter_id' | 'title' | 'due'>[]> =>
  ids.length === 0
    ? []
    : sql.rows(
        // task_supporter (supporter_id, done_on, due)
        'SELECT id, supporter_id, title, due FROM task WHERE supporter_id IN (?) AND done_on IS NULL ORDER BY due, id',
        [ids],
      );

/** What handing over or moving changes of a task; moving one occurrence of what repeats leaves the day it repeats on. */
const changeOf = (act: Exclude<contract.TaskAct, { do: 'done' }>) =>
  act.do === 'give' ? { owner_id: act.ownerId } : { due: act.due };

async function requireColleague(tx: Transaction, id: number | null): Promise<void> {
  if (id !== null && (await tx.sql.rows('SELECT id FROM user WHERE id = ?', [id])).length === 0)
    throw refused('ownerId', 'There is no such colleague.');
}

/** Ticks an open task off, and sets the next of one that repeats; answers when that is due. */
async function tick(tx: Transaction, row: TaskRecord, today: string, actor: Actor): Promise<string | null> {
  await tx.update(TaskTable, row.id, { done_on: today, done_by: actor.name });
  const { id: _id, version: _version, ...copy } = row;
  const { repeats, repeat_day: repeatDay } = row;
  let next = nextDue(row.due, repeats, repeatDay);
  while (next !== null && next <= today) next = nextDue(next, repeats, repeatDay);
  if (next !== null) await tx.insert(TaskTable, { ...copy, due: next, done_on: null, done_by: '' });
  return next;
}

export function serveTasks(http: Http, tasks: Tasks): void {
  http.on(contract.listTasks, ({ query, actor }) =>
    tasks.open(query.owner === 'me' ? (actor.userId ?? 0) : null, query.about === 'nobody', query),
  );
  http.on(contract.createTask, async ({ actor, body }) => {
    const { revision, result } = await tasks.add(actor, body);
    return { revision, ...result };
  });
  http.on(contract.updateTask, ({ actor, params, body }) => tasks.change(actor, params.id, body));
  http.on(contract.finishTask, async ({ actor, params }) => {
    const { revision, result } = await tasks.finish(actor, params.id);
    return { revision, ...result };
  });
  http.on(contract.actOnTasks, async ({ actor, body }) => {
    const { revision, result } = await tasks.act(actor, body.ids, body.act);
    return { revision, ...result };
  });
  http.on(contract.deleteTask, ({ actor, params }) => tasks.remove(actor, params.id));
}

const taskView = (row: TaskRecord & NameParts & { owner: string | null }): Task => ({
  ...{
    id: row.id,
    version: row.version,
    title: row.title,
    due: row.due,
    ownerId: row.owner_id,
    owner: row.owner ?? '',
  },
  makerId: row.maker_id,
  repeats: row.repeats,
  carries: row.segment_id === null || row.act === '' ? null : { segmentId: row.segment_id, act: row.act },
  repeatText: row.repeats === 'never' ? '' : describeRepeat(row.repeats, row.repeat_day),
  about:
    row.supporter_id === null
      ? null
      : { id: row.supporter_id, number: supporterNumber(row.supporter_id), name: displayName(row) },
  doneOn: row.done_on,
  doneBy: row.done_by,
});
