import type { DataSource } from 'typeorm';
import { z } from 'zod';
import { NOBODY } from '@tallystick/core/segments';
import type { Condition, Group, Question, Wording } from '@tallystick/core/segments';
import { describeGroup, describeNeeds } from '@tallystick/core/segments';
import * as contract from '@tallystick/contract/segments';
import { conditionsIn } from '../facts/index.ts';
import type { Questions } from '../facts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { stored } from '../platform/stored.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { Settings } from '../settings/index.ts';
import { letGoOfTag, tagIds } from '../supporters/index.ts';
import { SegmentTable } from './segment.entity.ts';
import type { SegmentRecord } from './segment.entity.ts';
import { asksOwnTag, keptTags } from './standing.ts';
import { PLAIN_VIEW } from './tables.ts';
import { linesOf, partSentences, wordingOf } from './words.ts';

/** Segments: questions about supporters that are kept. */
export class Segments {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly questions: Questions,
  ) {
    this.sql = sqlOn(source);
  }

  private async found(id: number): Promise<SegmentRecord | null> {
    return (await one<SegmentRecord>(this.sql, 'SELECT * FROM segment WHERE id = ?', [id])) ?? null;
  }

  /** A segment as somebody may see it: one that is not shared is its owner's alone. */
  private async row(id: number, actor: Actor | null = null): Promise<SegmentRecord> {
    const row = await this.found(id);
    if (!row || (actor && !isSeen(row, actor))) throw notFound('This segment');
    return row;
  }

  /** Segments with their counts as of now, which are noted by the day. */
  private async views(rows: readonly SegmentRecord[], actor: Actor): Promise<contract.Segment[]> {
    const { today } = await this.settings.calendar();
    const ids = rows.map(({ id }) => id);
    if (ids.length === 0) return [];
    const [tags, uses, counts, before, liked, looks] = await Promise.all([
      keptTags(this.sql),
      this.sql.rows<{ id: number; day: string }>(
        'SELECT segment_id AS id, used_on AS day FROM segment_use WHERE segment_id IN (?)',
        [ids],
      ),
      Promise.all(rows.map((row) => this.questions.count(questionOf(row)))),
      this.sql.rows<{ id: number; day: string; people: number }>(
        `SELECT c.segment_id AS id, c.day, c.people FROM segment_count c WHERE c.segment_id IN (?) AND c.day = (SELECT MAX(d.day)
          FROM segment_count d WHERE d.segment_id = c.segment_id AND d.day < ?)`,
        [ids, today],
      ),
      this.sql.rows<{ id: number; place: number }>(
        'SELECT segment_id AS id, place FROM segment_favourite WHERE user_id = ?',
        [actor.userId],
      ),
      this.sql.rows<{ id: number; view: string }>(
        'SELECT segment_id AS id, view FROM segment_view WHERE user_id = ? AND segment_id IN (?)',
        [actor.userId, ids],
      ),
    ]);
    await this.noteCounts(
      today,
      rows.map(({ id }, at) => [id, counts[at]?.count ?? 0]),
    );
    return rows.map((row, at) => {
      const { match, credit } = questionOf(row);
      const { id, version, name, note, folder } = row;
      const earlier = before.find((one) => one.id === id);
      return {
        ...{ id, version, name, note, folder, credit, conditions: match as contract.Group },
        ...{ ownerId: row.owner_id, shared: row.shared === 1, count: counts[at]?.count ?? 0 },
        tag: tags.get(row.tag_id ?? 0)?.name ?? '',
        before: earlier ? { day: earlier.day, count: earlier.people } : null,
        favourite: liked.find((one) => one.id === id)?.place ?? null,
        usedOn: uses.find((one) => one.id === id)?.day ?? null,
        ...{ view: viewIn(row.view) ?? PLAIN_VIEW, ownView: viewIn(looks.find((one) => one.id === id)?.view ?? '') },
      };
    });
  }

  /** Notes what segments count today, where that is not noted yet; a segment that was deleted meanwhile is left out. */
  private async noteCounts(today: string, counts: readonly (readonly [id: number, people: number])[]): Promise<void> {
    const noted = await this.sql.rows<{ id: number; people: number }>(
      'SELECT segment_id AS id, people FROM segment_count WHERE segment_id IN (?) AND day = ?',
      [counts.map(([id]) => id), today],
    );
    const known = new Map(noted.map(({ id, people }) => [id, people]));
    const fresh = counts.filter(([id, people]) => known.get(id) !== people);
    if (fresh.length === 0) return;
    await this.sql.run(
      'INSERT IGNORE INTO segment_count (segment_id, day, people) VALUES ? ON DUPLICATE KEY UPDATE people = VALUES(people)',
      [fresh.map(([id, people]) => [id, today, people])],
    );
  }

  async list(actor: Actor) {
    const rows = await this.sql.rows<SegmentRecord>('SELECT * FROM segment ORDER BY name');
    return this.views(
      rows.filter((row) => isSeen(row, actor)),
      actor,
    );
  }

  /** The segments that everyone sees. */
  names() {
    return this.sql.rows<{ id: number; name: string; folder: string }>(
      'SELECT id, name, folder FROM segment WHERE shared = 1 ORDER BY name',
    );
  }

  /** Puts a segment among somebody's favourites, or takes it out. */
  async favour(actor: Actor, id: number, on: boolean) {
    await this.row(id, actor);
    if (actor.userId === null) return { on: false };
    if (on)
      await this.sql.run(
        `INSERT IGNORE INTO segment_favourite (user_id, segment_id, place)
         SELECT ?, ?, COALESCE(MAX(place), 0) + 1 FROM segment_favourite WHERE user_id = ?`,
        [actor.userId, id, actor.userId],
      );
    else await this.sql.run('DELETE FROM segment_favourite WHERE user_id = ? AND segment_id = ?', [actor.userId, id]);
    return { on };
  }

  /** Puts somebody's favourites in their own order. */
  async arrange(actor: Actor, ids: readonly number[]) {
    if (ids.length > 0)
      await this.sql.run(
        'UPDATE segment_favourite SET place = FIELD(segment_id, ?) WHERE user_id = ? AND segment_id IN (?)',
        [ids, actor.userId, ids],
      );
    return { ids: ids.length };
  }

  /** Notes that a segment was used today. */
  async noteUse(id: number): Promise<void> {
    const { today } = await this.settings.calendar();
    await this.sql.run(
      'INSERT INTO segment_use (segment_id, used_on) VALUES (?, ?) ON DUPLICATE KEY UPDATE used_on = VALUES(used_on)',
      [id, today],
    );
  }

  /** Refuses a segment that somebody does not see. */
  async requireSeen(actor: Actor, id: number): Promise<void> {
    await this.row(id, actor);
  }

  /** What some segments are called and how many are in them; those that somebody does not see are left out. */
  async counts(actor: Actor, ids: readonly number[]): Promise<Map<number, { name: string; count: number }>> {
    const unique = [...new Set(ids)];
    if (unique.length === 0) return new Map();
    const rows = await this.sql.rows<SegmentRecord>('SELECT * FROM segment WHERE id IN (?)', [unique]);
    const counted = rows
      .filter((row) => isSeen(row, actor))
      .map(async (row) => {
        const { count } = await this.questions.count(questionOf(row));
        return [row.id, { name: row.name, count }] as const;
      });
    return new Map(await Promise.all(counted));
  }

  /** Keeps how somebody looks at a segment; null goes back to how its owner shows it. */
  async keepView(actor: Actor, id: number, view: contract.View | null) {
    await this.row(id, actor);
    if (actor.userId === null) return { own: false };
    if (view)
      await this.sql.run('REPLACE INTO segment_view (user_id, segment_id, view) VALUES (?, ?, ?)', [
        ...[actor.userId, id, JSON.stringify(view)],
      ]);
    else await this.sql.run('DELETE FROM segment_view WHERE user_id = ? AND segment_id = ?', [actor.userId, id]);
    return { own: view !== null };
  }

  /** The name of a segment, without counting it; null for one that is gone. */
  async nameOf(id: number): Promise<string | null> {
    return (await this.found(id))?.name ?? null;
  }

  async get(actor: Actor, id: number): Promise<contract.Segment> {
    const [view] = await this.views([await this.row(id, actor)], actor);
    return view as contract.Segment;
  }

  /** What a segment asks; null for one that is gone. */
  async question(id: number): Promise<Question | null> {
    const row = await this.found(id);
    return row ? questionOf(row) : null;
  }

  /** What a segment asks, where all of that is known here: what a newer version wrote may not be. Null else, or if it is gone. */
  async wholeQuestion(id: number): Promise<Question | null> {
    const row = await this.found(id);
    const match = row && stored<Group | null>(contract.Group as z.ZodType<Group>, row.conditions, null);
    return match ? { match, credit: row.credit } : null;
  }

  async membersOf(id: number): Promise<Uint32Array> {
    return this.questions.members(questionOf(await this.row(id)));
  }

  members(question: Question): Promise<Uint32Array> {
    return this.questions.members(question);
  }

  async save(actor: Actor, draft: contract.Draft) {
    const row = { owner_id: actor.userId, ...(await this.rowOf(draft)) };
    refuseHidden(row);
    return this.changes.write(actor, { kind: 'edit', summary: `Saved the segment ${row.name}` }, async (tx) => {
      const id = await tx.insert(SegmentTable, { ...row, tag_id: await tagOf(tx, draft.tag) });
      await this.refuseTagCircles(tx, id);
      return { id };
    });
  }

  async change(actor: Actor, id: number, version: number, draft: contract.Draft) {
    await this.row(id, actor);
    const row = await this.rowOf(draft);
    await this.refuseCircle(id, row.name, JSON.parse(row.conditions) as Group);
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the segment ${row.name}` }, async (tx) => {
      await tx.expect(SegmentTable, id, version, 'This segment');
      const old = (await tx.lock(SegmentTable, [id])).get(id);
      refuseHidden({ owner_id: old?.owner_id ?? null, ...row });
      const before = old?.tag_id ?? null;
      const tag_id = await tagOf(tx, draft.tag);
      await tx.update(SegmentTable, id, { ...row, tag_id });
      await this.refuseTagCircles(tx, id);
      if (before !== tag_id) await letGo(tx, before);
    });
  }

  /** Refuses a segment by which one, itself or another, would ask about a tag that it keeps, as they are now. */
  private async refuseTagCircles(tx: Transaction, changed: number): Promise<void> {
    const kept = await keptTags(tx.sql);
    const known = new Map<number, Question | null>();
    const asksOf = async (id: number): Promise<Question | null> => {
      if (!known.has(id)) {
        const row = await one<SegmentRecord>(tx.sql, 'SELECT * FROM segment WHERE id = ?', [id]);
        known.set(id, row ? questionOf(row) : null);
      }
      return known.get(id) ?? null;
    };
    for (const [id, { name, segments }] of kept)
      for (const segment of segments) {
        const { circle, through } = await asksOwnTag({ id, segment }, kept, asksOf);
        if (circle && through.has(changed))
          throw new Problem(
            409,
            'circle',
            `What is asked depends on the tag ${name} itself: putting it on would change the answer.`,
          );
      }
  }

  /** Refuses conditions by which a segment would ask itself, straight or by way of others. */
  private async refuseCircle(id: number, name: string, match: Group): Promise<void> {
    const seen = new Set<number>();
    const waiting = segmentsIn(match);
    for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
      if (next === id) throw new Problem(409, 'circle', `“${name}” would ask itself whether people are in it.`);
      if (seen.has(next)) continue;
      seen.add(next);
      waiting.push(...segmentsIn((await this.question(next))?.match ?? NOBODY));
    }
  }

  /** The names of the segments that ask whether people are in one. */
  private async usersOf(id: number): Promise<string[]> {
    const rows = await this.sql.rows<SegmentRecord>('SELECT * FROM segment WHERE id <> ?', [id]);
    return rows.filter((row) => segmentsIn(questionOf(row).match).includes(id)).map(({ name }) => name);
  }

  private async rowOf(draft: contract.Draft) {
    const { match, credit } = await this.questions.asked(draft);
    const { name, note, folder, shared, view, ownerId } = draft;
    if (ownerId != null && !(await this.settings.everyChoice()).users.some(({ id }) => id === ownerId))
      throw new Problem(400, 'invalid', 'There is no such colleague.', {
        fields: { ownerId: 'There is no such colleague.' },
      });
    return {
      ...(ownerId === undefined ? {} : { owner_id: ownerId }),
      ...{ name, note, folder, credit, shared: shared ? 1 : 0 },
      ...{ conditions: JSON.stringify(match), view: JSON.stringify(view) },
    };
  }

  async remove(actor: Actor, id: number) {
    await this.row(id, actor);
    const users = await this.usersOf(id);
    if (users.length > 0)
      throw new Problem(
        409,
        'in-use',
        `${users.map((name) => `“${name}”`).join(' and ')} asks whether people are in it, so it stays.`,
      );
    let name = '';
    return this.changes.write(actor, { kind: 'edit', summary: () => `Deleted the segment ${name}` }, async (tx) => {
      const row = (await tx.lock(SegmentTable, [id])).get(id);
      if (!row) throw notFound('This segment');
      name = row.name;
      await tx.removeUnused(SegmentTable, id, `E-mails go or went to “${name}”, so it stays.`);
      await letGo(tx, row.tag_id);
    });
  }

  /** How many match, in all and by each part, with the words for it. */
  async count(question: Question) {
    const [counted, wording] = await Promise.all([this.questions.count(question), this.wording()]);
    return {
      ...counted,
      sentences: partSentences(question.match, wording),
      whole: describeGroup(question.match, wording),
    };
  }

  async explain(question: Question, supporterId: number) {
    const explanation = await this.questions.explain(question, supporterId);
    if (!explanation) throw notFound('This supporter');
    const wording = await this.wording();
    const { matches } = explanation;
    return { matches, needs: describeNeeds(explanation, wording, !matches), lines: linesOf(explanation, wording) };
  }

  /** What words about conditions and columns are made with. */
  async wording(): Promise<Wording> {
    const [calendar, { locale, currency }, own, choices, segments, lists] = await Promise.all([
      this.settings.calendar(),
      this.settings.formats(),
      this.questions.own(),
      this.settings.everyChoice(),
      this.sql.rows<{ id: number; name: string }>('SELECT id, name FROM segment'),
      this.sql.rows<{ id: number; name: string }>('SELECT id, name FROM people_list'),
    ]);
    return wordingOf({ calendar, formats: { locale, currency }, own, choices, segments, lists });
  }
}

/** Refuses a segment that only its owner sees and that is nobody's: it would be lost to everyone. */
function refuseHidden({ owner_id, shared }: Pick<SegmentRecord, 'owner_id' | 'shared'>): void {
  if (shared === 1 || owner_id !== null) return;
  const message = 'Nobody would see it: it belongs to nobody, and only its owner sees it.';
  throw new Problem(400, 'invalid', message, { fields: { ownerId: message } });
}

/** The tag of a name, made where there is none; null for no name. */
const tagOf = async (tx: Transaction, name: string): Promise<number | null> =>
  name === '' ? null : ([...(await tagIds(tx, [name])).values()][0] ?? null);

/** Takes a tag off those who have it by a segment, where no segment keeps it any more. */
async function letGo(tx: Transaction, tagId: number | null): Promise<void> {
  if (tagId !== null && !(await keptTags(tx.sql)).has(tagId)) await letGoOfTag(tx, tagId);
}

/** A view as it is kept; null where there is none that can be read. */
const viewIn = (json: string): contract.View | null => stored<contract.View | null>(contract.View, json, null);

/** The segments that conditions name. */
const segmentsIn = (match: Group): number[] =>
  conditionsIn(match).flatMap((one) => (one.kind === 'segment' ? [one.segment] : []));

/** Whether somebody sees a segment. */
const isSeen = (row: SegmentRecord, { userId }: Actor): boolean => row.shared === 1 || row.owner_id === userId;

/** Stands for a condition that is not known here, which a newer version may have written: it says so, and nobody meets it. */
const NOT_KNOWN: Condition = { kind: 'field', field: 'not known', test: { is: 'filled' } };

/** As much of a tree as can be read. */
function readable(part: unknown): Condition | Group {
  const { kind, join, parts } = part as Partial<Group>;
  if (kind === 'group' && Array.isArray(parts))
    return { kind, join: join === 'any' || join === 'none' ? join : 'all', parts: parts.map(readable) };
  const condition = contract.Condition.safeParse(part);
  return condition.success ? (condition.data as Condition) : NOT_KNOWN;
}

/** A tree as it is stored, or as much of it as can be read. */
const TREE = z.unknown().transform((tree): Group => {
  const whole = contract.Group.safeParse(tree);
  const read = whole.success ? (whole.data as Group) : readable(tree);
  return read.kind === 'group' ? read : NOBODY;
});

const questionOf = (row: SegmentRecord): Question => ({
  match: stored(TREE, row.conditions, NOBODY),
  credit: row.credit,
});
