import type { DataSource } from 'typeorm';
import { NOBODY } from '@tallystick/core/segments';
import type { Condition, Group, Question, Wording } from '@tallystick/core/segments';
import { regionCode } from '@tallystick/core/regions';
import { describeGroup } from '@tallystick/core/segments';
import * as contract from '@tallystick/contract/segments';
import type { Questions } from '../facts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { notFound } from '../platform/problem.ts';
import { stored } from '../platform/stored.ts';
import type { Settings } from '../settings/index.ts';
import { SegmentTable } from './segment.entity.ts';
import type { SegmentRecord } from './segment.entity.ts';
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

  private async row(id: number): Promise<SegmentRecord> {
    const row = await this.found(id);
    if (!row) throw notFound('This segment');
    return row;
  }

  private async view(row: SegmentRecord): Promise<contract.Segment> {
    const question = questionOf(row);
    const { count } = await this.questions.count(question);
    const { id, version, name, note, folder } = row;
    return {
      ...{ id, version, name, note, folder, count, credit: question.credit },
      ...{ ownerId: row.owner_id, shared: row.shared === 1, conditions: question.match as contract.Group },
    };
  }

  async list() {
    const rows = await this.sql.rows<SegmentRecord>('SELECT * FROM segment ORDER BY name');
    return Promise.all(rows.map((row) => this.view(row)));
  }

  names() {
    return this.sql.rows<{ id: number; name: string }>('SELECT id, name FROM segment ORDER BY name');
  }

  /** The name of a segment, without counting it; null for one that is gone. */
  async nameOf(id: number): Promise<string | null> {
    return (await this.found(id))?.name ?? null;
  }

  async get(id: number) {
    return this.view(await this.row(id));
  }

  /** What a segment asks; null for one that is gone. */
  async question(id: number): Promise<Question | null> {
    const row = await this.found(id);
    return row ? questionOf(row) : null;
  }

  async membersOf(id: number): Promise<Uint32Array> {
    return this.questions.members(questionOf(await this.row(id)));
  }

  members(question: Question): Promise<Uint32Array> {
    return this.questions.members(question);
  }

  /** Conditions as they were asked, with states in any spelling as the codes that addresses have. */
  async asked({ conditions, credit }: contract.Asked): Promise<Question> {
    const { country } = await this.settings.organization();
    return { match: withCodes(conditions as Group, country) as Group, credit };
  }

  async save(actor: Actor, draft: contract.Draft) {
    const row = await this.rowOf(draft);
    return this.changes.write(actor, { kind: 'edit', summary: `Saved the segment ${row.name}` }, async (tx) => ({
      id: await tx.insert(SegmentTable, { ...row, owner_id: actor.userId, used_on: null }),
    }));
  }

  async change(actor: Actor, id: number, version: number, draft: contract.Draft) {
    const row = await this.rowOf(draft);
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the segment ${row.name}` }, async (tx) => {
      await tx.expect(SegmentTable, id, version, 'This segment');
      await tx.update(SegmentTable, id, row);
    });
  }

  private async rowOf(draft: contract.Draft) {
    const { match, credit } = await this.asked(draft);
    const { name, note, folder, shared } = draft;
    return { name, note, folder, credit, shared: shared ? 1 : 0, conditions: JSON.stringify(match) };
  }

  remove(actor: Actor, id: number) {
    let name = '';
    return this.changes.write(actor, { kind: 'edit', summary: () => `Deleted the segment ${name}` }, async (tx) => {
      const row = (await tx.lock(SegmentTable, [id])).get(id);
      if (!row) throw notFound('This segment');
      name = row.name;
      await tx.removeUnused(SegmentTable, id, `E-mails go or went to “${name}”, so it stays.`);
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
    return { matches: explanation.matches, lines: linesOf(explanation, await this.wording()) };
  }

  private async wording(): Promise<Wording> {
    const [calendar, { locale, currency }, own, choices, lists] = await Promise.all([
      this.settings.calendar(),
      this.settings.formats(),
      this.questions.own(),
      this.settings.everyChoice(),
      this.sql.rows<{ id: number; name: string }>('SELECT id, name FROM people_list'),
    ]);
    return wordingOf({ calendar, formats: { locale, currency }, own, choices, lists });
  }
}

const questionOf = (row: SegmentRecord): Question => ({
  match: stored(contract.Group, row.conditions, NOBODY) as Group,
  credit: row.credit,
});

function withCodes(part: Condition | Group, home: string): Condition | Group {
  if (part.kind === 'group') return { ...part, parts: part.parts.map((inner) => withCodes(inner, home)) };
  if (part.kind === 'related') return { ...part, match: withCodes(part.match, home) as Group };
  if (part.kind !== 'field' || part.field !== 'state' || part.test.is !== 'any-of') return part;
  const values = part.test.values.map((region) => regionCode(region, home) ?? region.trim());
  return { ...part, test: { is: 'any-of', values: [...new Set(values)] } };
}
