import type { Logger } from 'pino';
import { NOBODY } from '@tallystick/core/segments';
import type { Condition, Question } from '@tallystick/core/segments';
import { conditionsIn } from '../facts/index.ts';
import type { Changes } from '../platform/changes.ts';
import { lastRevision } from '../platform/changes.ts';
import type { Sql } from '../platform/db.ts';
import type { Jobs } from '../platform/jobs.ts';
import { isDatabaseGone } from '../platform/problem.ts';
import type { Settings } from '../settings/index.ts';
import { keepTag, tagDifference, tagNamed, tagNames } from '../supporters/index.ts';

/** So long after a change who has a tag is looked at, so that many changes are looked at once. */
const SOON_MS = 500;

/** Who answers what segments ask. */
interface Answers {
  membersOf: (id: number) => Promise<Uint32Array>;
  members: (question: Question) => Promise<Uint32Array>;
  /** What a segment asks; null where it cannot be read, or is gone. */
  wholeQuestion: (id: number) => Promise<Question | null>;
}

/**
 * Tags that segments keep: put on those who match and taken off who no longer does, as facts change and days pass. A
 * tag that was put on in another way stays. Where several segments keep one tag, those of any of them have it.
 */
export class StandingTags {
  /** The revision and the day that all tags were last kept as of. */
  private done = '';
  private timer: NodeJS.Timeout | null = null;
  private turning: Promise<void> = Promise.resolve();
  private closed = false;
  private forget: () => void = () => undefined;

  constructor(
    private readonly sql: Sql,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly segments: Answers,
  ) {}

  /** Keeps tags from now on: soon after each change here, and now and then for the days and for other servers. */
  begin(jobs: Jobs, log: Logger): void {
    const turn = async (): Promise<void> => {
      this.timer = null;
      if (this.closed) return;
      await this.keep().catch((error: unknown) => {
        if (!isDatabaseGone(error) && !this.closed) log.error({ err: error }, 'standing tags');
      });
    };
    this.forget = this.changes.onCommit(() => {
      if (!this.closed) this.timer ??= setTimeout(() => void turn(), SOON_MS).unref();
    });
    jobs.tend(turn);
  }

  /** Lets what is under way end, and begins nothing more. */
  async end(): Promise<void> {
    this.closed = true;
    this.forget();
    if (this.timer) clearTimeout(this.timer);
    await this.turning;
  }

  /**
   * Keeps every standing tag as of now. What one puts on another may ask about, so it goes on until nothing is written;
   * tags that would go round for ever (nobody may save such, but an undo can bring them back) are left after as many
   * rounds as there are tags, until something else changes.
   */
  keep(): Promise<void> {
    // One after the other: what one writes would be news to the other.
    const turn = this.turning.then(() => this.keepAll());
    this.turning = turn.catch(() => undefined);
    return turn;
  }

  private async keepAll(): Promise<void> {
    const { today } = await this.settings.calendar();
    for (let round = 0; ; round++) {
      // First, so that what is saved while the rest is read is news to the next turn.
      const asOf = await this.asOf(today);
      if (asOf === this.done) return;
      const kept = await keptTags(this.sql);
      const wrote = await this.keepOnce(kept);
      if (wrote && round < kept.size) continue;
      this.done = wrote ? await this.asOf(today) : asOf;
      return;
    }
  }

  private async asOf(today: string): Promise<string> {
    return `${await lastRevision(this.sql)} ${today}`;
  }

  /** Keeps each tag once; answers whether anything was written. */
  private async keepOnce(kept: Kept): Promise<boolean> {
    let wrote = false;
    for (const [id, { name, segments }] of kept) {
      const questions = await Promise.all(segments.map((segment) => this.segments.wholeQuestion(segment)));
      const whole = questions.filter((question) => question !== null);
      // Where a condition cannot be read nobody meets it, and everyone would lose the tag.
      if (whole.length < questions.length) continue;
      const members = await Promise.all(whole.map((question) => this.segments.members(question)));
      const wanted = new Set(members.flatMap((ids) => [...ids]));
      const still = async (sql: Sql): Promise<boolean> => (await keptTags(sql)).has(id);
      if (await keepTag(this.changes, this.sql, { id, name }, wanted, still)) wrote = true;
    }
    return wrote;
  }

  /** Why a tag stays: which segments keep it; null where none does. */
  async keepsWhy(tagId: number): Promise<string | null> {
    const tag = (await keptTags(this.sql)).get(tagId);
    if (!tag) return null;
    const rows = await this.sql.rows<{ name: string }>('SELECT name FROM segment WHERE id IN (?) ORDER BY name', [
      tag.segments,
    ]);
    const names = rows.map(({ name }) => `“${name}”`).join(' and ');
    return `The tag ${tag.name} is kept by the segment ${names}; take it off there first.`;
  }

  /** What keeping a tag for a question would do: how many get it, and how many have it already in another way. */
  async check(question: Question, name: string, segmentId: number | null) {
    const members = new Set(await this.segments.members(question));
    const tag = await tagNamed(this.sql, name);
    if (tag === null) return { put: members.size, take: 0, otherwise: 0 };
    const others = ((await keptTags(this.sql)).get(tag)?.segments ?? []).filter((id) => id !== segmentId);
    for (const id of others) for (const member of await this.segments.membersOf(id)) members.add(member);
    const { put, take, otherwise } = await tagDifference(this.sql, tag, members);
    return { put: put.length, take: take.length, otherwise };
  }
}

type Kept = Map<number, { name: string; segments: number[] }>;

/** The tags that segments keep, with the segments that do. */
export async function keptTags(sql: Sql): Promise<Kept> {
  const rows = await sql.rows<{ segment: number; id: number }>(
    'SELECT id AS segment, tag_id AS id FROM segment WHERE tag_id IS NOT NULL ORDER BY id',
  );
  const names = await tagNames(sql, [...new Set(rows.map(({ id }) => id))]);
  const tags: Kept = new Map();
  for (const { segment, id } of rows) {
    const name = names.get(id);
    if (name === undefined) continue;
    const tag = tags.get(id) ?? { name, segments: [] };
    tag.segments.push(segment);
    tags.set(id, tag);
  }
  return tags;
}

/**
 * Whether a segment's answer would change by its own tag being put on, straight or by way of other segments; and which
 * segments its answer hangs on, itself among them.
 */
export async function asksOwnTag(
  tag: { id: number; segment: number },
  kept: Kept,
  questionOf: (segment: number) => Promise<Question | null>,
): Promise<{ circle: boolean; through: ReadonlySet<number> }> {
  const through = new Set([tag.segment]);
  let circle = false;
  // A set takes up what is added to it on the way.
  for (const segment of through)
    for (const condition of conditionsIn((await questionOf(segment))?.match ?? NOBODY)) {
      const tags = tagsAsked(condition);
      if (tags === 'any' || tags.includes(tag.id)) circle = true;
      if (condition.kind === 'segment') through.add(condition.segment);
      if (tags !== 'any')
        for (const one of tags) for (const keeper of kept.get(one)?.segments ?? []) through.add(keeper);
    }
  return { circle, through };
}

/** The tags that a condition asks about; `any` where it is not said which. */
function tagsAsked(condition: Condition): number[] | 'any' {
  if (condition.kind !== 'rows') return [];
  const wheres = [
    ...(condition.of === 'tags' ? [condition.where] : []),
    ...(condition.after?.of === 'tags' ? [condition.after.where] : []),
  ];
  const asked = wheres.map((where) => where.find(({ part, not }) => part === 'tag' && !not)?.test);
  if (asked.some((test) => test?.is !== 'any-of')) return 'any';
  return asked.flatMap((test) => (test?.is === 'any-of' ? test.values.map(Number) : []));
}
