import type { IsoDate } from '@tallystick/core/dates';
import { placeKept } from '@tallystick/core/regions';
import { withArticle } from '@tallystick/core/names';
import type { DataSource } from 'typeorm';
import { WISHES } from '@tallystick/core/wishes';
import { Act as ActSchema } from '@tallystick/contract/acts';
import type { Act } from '@tallystick/contract/acts';
import type { Actor, ChangeKind, Changes } from '../platform/changes.ts';
import { chunks, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Jobs, RunningJob } from '../platform/jobs.ts';
import { Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { fieldsIn, readFields, SupporterFieldTable } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import type { Selection, SupporterLists } from './lists.ts';
import { refused, tagIds } from './record.ts';
import { ownTag } from './kept-tags.ts';
import { NoteTable } from './notes.ts';
import { AddressTable, SupporterTable, GroupMemberTable, SupporterTagTable, WishTable } from './supporter.entity.ts';
import { tieMany } from './relations.ts';
import { TaskTable } from './tasks.ts';
import type { AnyTable } from '../platform/tables.ts';
import { kept } from '@tallystick/core/fields';
import type { Kept, Typed } from '@tallystick/core/fields';
import { settableIn } from '@tallystick/core/catalogue';
import type { Settable } from '@tallystick/core/catalogue';
import { waysOf } from './ways.ts';
import { counted } from '@tallystick/core/words';
import { z } from 'zod';
import { jobKind } from '../platform/job-queue.ts';

type ActJob = { ids: number[]; act: Act };
const actJob = jobKind<ActJob>(
  'act',
  { name: 'acts', atOnce: 1 },
  z.object({ ids: z.array(z.number()), act: ActSchema }),
);

/** Above so many a job does it, and the browser does not wait. */
const AT_ONCE = 500;

/** One thing done to many supporters, as one change set. */
export class Acts {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly lists: SupporterLists,
    private readonly jobs: Jobs,
  ) {
    this.sql = sqlOn(source);
    jobs.handle(actJob, (job) => this.work(job));
  }

  async begin(actor: Actor, selection: Selection, act: Act) {
    const ids = await this.lists.selected(selection);
    await this.check(act);
    if (ids.length <= AT_ONCE) return { ...(await this.apply(actor, ids, act)), asked: ids.length, jobId: null };
    const title = `${wordsFor(act)}, ${counted(ids.length, 'supporter')}`;
    const jobId = await this.jobs.add(actor, actJob, { title, payload: { ids, act } });
    return { revision: null, changed: null, asked: ids.length, jobId };
  }

  private async work(job: RunningJob<ActJob>): Promise<string> {
    const { ids, act } = job.payload;
    await job.progress(0, ids.length);
    // The key makes a second run after a crash find that the first was through.
    const { changed } = await this.apply(job.actor, ids, act, { key: `act ${job.id}`, body: job.id });
    await job.progress(ids.length, ids.length);
    return `${changed} of ${ids.length} changed`;
  }

  /** Refuses what could not be done to anyone, before a job is begun. */
  private async check(act: Act): Promise<void> {
    if (act.do === 'field') await readValue(this.sql, act.field, act.value);
    if (
      act.do === 'group' &&
      (await this.sql.rows('SELECT id FROM people_group WHERE id = ?', [act.groupId])).length === 0
    )
      throw refused('groupId', 'There is no such group.');
    if (
      act.do === 'task' &&
      act.ownerId !== null &&
      (await this.sql.rows('SELECT id FROM user WHERE id = ?', [act.ownerId])).length === 0
    )
      throw refused('ownerId', 'There is no such colleague.');
  }

  private async apply(
    actor: Actor,
    ids: readonly number[],
    act: Act,
    key: { key: string; body: unknown } | null = null,
  ) {
    const kind: ChangeKind = act.do === 'trash' || act.do === 'restore' ? 'trash' : 'bulk';
    const words = { changed: 0 };
    const summary = (): string => `${wordsFor(act)}: ${counted(words.changed, 'supporter')}`;
    const { today } = await this.settings.calendar();
    const { revision, result } = await this.changes.write(actor, { kind, summary, key }, async (tx) => {
      // Whoever was emptied out of the trash meanwhile is passed over.
      const rows = [...(await tx.lock(SupporterTable, ids)).entries()].filter(
        ([, row]) => row.state === 'active' || row.state === 'trash',
      );
      const present = rows.map(([id]) => id);
      if (present.length === 0 && ids.length > 0)
        throw new Problem(404, 'not-found', 'Nobody who was selected exists any more.');
      words.changed = await this.applyTo(tx, actor, present, act, today);
      return { changed: words.changed };
    });
    return { revision, changed: result.changed };
  }

  private async applyTo(
    tx: Transaction,
    actor: Actor,
    ids: readonly number[],
    act: Act,
    today: IsoDate,
  ): Promise<number> {
    switch (act.do) {
      case 'tag': {
        const tag = act.put
          ? [...(await tagIds(tx, [act.name])).values()][0]
          : (await tx.sql.rows<{ id: number }>('SELECT id FROM tag WHERE name = ?', [act.name]))[0]?.id;
        if (tag === undefined) return 0;
        const own = act.put ? await ownTag(tx, tag, ids) : 0;
        return own + (await putOrTake(tx, SupporterTagTable, 'tag_id', tag, ids, act.put, { source: 'hand' }));
      }
      case 'group':
        return putOrTake(tx, GroupMemberTable, 'group_id', act.groupId, ids, act.put, {});
      case 'wish':
        return putOrTake(tx, WishTable, 'kind', act.wish, ids, act.put, {
          since: today,
          source: act.source,
          set_by: actor.name,
          happened_on: null,
        });
      case 'field':
        return setField(tx, act, ids, { today, home: (await this.settings.organization()).country });
      case 'note':
        await tx.insertAll(
          NoteTable,
          ids.map((id) => ({
            supporter_id: id,
            kind: act.kind,
            date: act.date,
            body: JSON.stringify(act.body),
            pinned: 0,
            author: actor.name,
          })),
        );
        return ids.length;
      case 'task': {
        const { title, due, ownerId } = act;
        const task = {
          title,
          due,
          owner_id: ownerId,
          repeats: 'never' as const,
          repeat_day: Number(due.slice(8)),
          done_on: null,
          done_by: '',
        };
        await tx.insertAll(
          TaskTable,
          ids.map((id) => ({ supporter_id: id, ...task })),
        );
        return ids.length;
      }
      case 'tie':
        return tieMany(tx, ids, act);
      case 'trash':
        return tx.updateAll(SupporterTable, ids, { state: 'trash' });
      case 'restore':
        return tx.updateAll(SupporterTable, ids, { state: 'active' });
    }
  }
}

const OWN = /^own:(\d{1,9})$/;

/**
 * What is typed of a field, as it is kept: of one that the organization made its id too, else how it is set. Throws where
 * there is no such field, or it cannot hold that.
 */
async function readValue(sql: Sql, field: string, value: Typed): Promise<{ own: number | Settable; value: Kept }> {
  const id = OWN.exec(field)?.[1];
  if (id !== undefined) {
    const read = readFields(await fieldsIn(sql, 'supporter'), { [id]: value });
    return { own: Number(id), value: read.get(Number(id)) ?? kept('') };
  }
  const known = settableIn(field);
  if (!known) throw refused('field', 'There is no such field, or each supporter has their own.');
  const { set, label } = known;
  const text = value.trim();
  if (text.length > set.longest) throw refused('value', `${label} is at most ${set.longest} characters.`);
  if (set.choices && text !== '' && !set.choices.includes(text))
    throw refused('value', `“${text}” is not one of ${set.choices.join(', ')}.`);
  return { own: set, value: kept(text) };
}

/** Gives many a field; answers for how many it differed. Who is of another kind, or has no address, is passed over. */
async function setField(
  tx: Transaction,
  act: Extract<Act, { do: 'field' }>,
  ids: readonly number[],
  { today, home }: { today: IsoDate; home: string },
): Promise<number> {
  const { own, value } = await readValue(tx.sql, act.field, act.value);
  if (typeof own === 'number') return setOwn(tx, own, value, ids);
  if (own.of === 'address') {
    const ways = await waysOf(tx.sql, ids, today);
    const used = [...ways.values()].flatMap(({ address }) => address ?? []);
    if (own.column !== 'region')
      return tx.updateAll(
        AddressTable,
        used.map(({ id }) => id),
        { [own.column]: value },
      );
    // A state is kept by its code, which is its country's.
    let changed = 0;
    for (const country of new Set(used.map((one) => one.country))) {
      const there = used.filter((one) => one.country === country).map(({ id }) => id);
      const { region } = placeKept({ region: value, country }, home);
      changed += await tx.updateAll(AddressTable, there, { region });
    }
    return changed;
  }
  const rows = await tx.lock(SupporterTable, ids);
  const such = [...rows.values()].filter(({ kind }) => own.kinds?.includes(kind) ?? true);
  return tx.updateAll(
    SupporterTable,
    such.map(({ id }) => id),
    { [own.column]: value },
  );
}

async function setOwn(tx: Transaction, fieldId: number, value: Kept, ids: readonly number[]): Promise<number> {
  if (value === '') return putOrTake(tx, SupporterFieldTable, 'field_id', fieldId, ids, false, {});
  const added = await putOrTake(tx, SupporterFieldTable, 'field_id', fieldId, ids, true, { value });
  const had: number[] = [];
  for (const slice of chunks(ids))
    had.push(
      ...(
        await tx.sql.rows<{ id: number }>('SELECT id FROM supporter_field WHERE field_id = ? AND supporter_id IN (?)', [
          fieldId,
          slice,
        ])
      ).map((row) => row.id),
    );
  return added + (await tx.updateAll(SupporterFieldTable, had, { value }));
}

/** Gives supporters a row that says they have something, or takes it away; answers for how many it differed. */
async function putOrTake(
  tx: Transaction,
  table: AnyTable,
  column: 'tag_id' | 'group_id' | 'kind' | 'field_id',
  what: number | string,
  ids: readonly number[],
  put: boolean,
  more: Record<string, string | null>,
): Promise<number> {
  const had = new Map<number, number>();
  for (const slice of chunks(ids)) {
    const rows = await tx.sql.rows<{ id: number; supporter_id: number }>(
      `SELECT id, supporter_id FROM ${table.name} WHERE ${column} = ? AND supporter_id IN (?) FOR UPDATE`,
      [what, slice],
    );
    for (const row of rows) had.set(row.supporter_id, row.id);
  }
  if (!put) {
    await tx.removeAll(table, [...had.values()]);
    return had.size;
  }
  const without = ids.filter((id) => !had.has(id));
  await tx.insertRows(
    table,
    without.map((id) => ({ supporter_id: id, [column]: what, ...more })),
  );
  return without.length;
}

function wordsFor(act: Act): string {
  switch (act.do) {
    case 'tag':
      return act.put ? `Tagged ${act.name}` : `Took off the tag ${act.name}`;
    case 'group':
      return act.put ? 'Put into a group' : 'Took out of a group';
    case 'wish':
      return `${act.put ? 'Noted' : 'Took back'} the wish “${WISHES[act.wish].word}”`;
    case 'field':
      return `${act.value.trim() === '' ? 'Emptied' : 'Filled in'} ${settableIn(act.field)?.label ?? 'a field'}`;
    case 'note':
      return `Wrote ${withArticle(act.kind)}`;
    case 'task':
      return `Set the task “${act.title}”`;
    case 'tie':
      return act.put ? 'Tied to another' : 'Ended ties with another';
    case 'trash':
      return 'Moved to the trash';
    case 'restore':
      return 'Restored from the trash';
  }
}
