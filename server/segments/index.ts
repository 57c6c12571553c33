import type { DataSource } from 'typeorm';
import { describeCondition, NOBODY } from '@tallystick/core/segments';
import type { Condition, Explanation, Group, Explaining } from '@tallystick/core/segments';
import * as contract from '@tallystick/contract/segments';
import type { FactsThread } from '../facts/index.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { sqlOn } from '../platform/db.ts';
import { regionCode } from '@tallystick/core/regions';
import { csvOf } from '../platform/csv.ts';
import { stored } from '../platform/stored.ts';
import { decodeId, encodeCursor } from '../platform/cursor.ts';
import type { Http } from '../platform/http.ts';
import { notFound } from '../platform/problem.ts';
import { table, text, long, setUp } from '../platform/tables.ts';
import { fieldsIn } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import type { SupporterLists, Tags } from '../supporters/index.ts';
import type { RowOf } from '../platform/tables.ts';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { factsArea } from '../facts/index.ts';
import { supportersArea } from '../supporters/index.ts';

export const SegmentTable = table('segment', setUp('segments', 'Segment'), { name: text(120), conditions: long });
type SegmentRecord = RowOf<typeof SegmentTable>;

export class Segments {
  constructor(
    private readonly source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly facts: FactsThread,
    private readonly tags: Tags,
  ) {}

  private async row(id: number): Promise<SegmentRecord> {
    const row = await this.source.getRepository(SegmentTable).findOneBy({ id });
    if (!row) throw notFound('This segment');
    return row;
  }

  private async view(row: SegmentRecord) {
    const conditions = conditionsOf(row);
    const { count } = await this.count(conditions);
    return { id: row.id, version: row.version, name: row.name, conditions, count };
  }

  async list() {
    const rows = await this.source.getRepository(SegmentTable).find({ order: { name: 'ASC' } });
    return Promise.all(rows.map((row) => this.view(row)));
  }

  names() {
    return sqlOn(this.source).rows<{ id: number; name: string }>('SELECT id, name FROM segment ORDER BY name');
  }

  /** The name of a segment, without counting it; null for one that is gone. */
  async nameOf(id: number): Promise<string | null> {
    const row = await this.source.getRepository(SegmentTable).findOneBy({ id });
    return row?.name ?? null;
  }

  async get(id: number) {
    return this.view(await this.row(id));
  }

  async count(group: Group) {
    return this.facts.ask({ ask: 'count', group, calendar: await this.settings.calendar() });
  }

  /** The ids of everyone who matches now, ascending. */
  async members(group: Group): Promise<Uint32Array> {
    return this.facts.ask({ ask: 'members', group, calendar: await this.settings.calendar() });
  }

  async membersOf(id: number): Promise<Uint32Array> {
    return this.members(conditionsOf(await this.row(id)));
  }

  /** Conditions as they were asked, with states in any spelling as the codes that addresses have. */
  async asked(conditions: contract.Segment['conditions']): Promise<Group> {
    const { country } = await this.settings.organization();
    return withCodes(conditions as Group, country) as Group;
  }

  async save(actor: Actor, name: string, conditions: Group) {
    return this.changes.write(actor, { kind: 'edit', summary: `Saved the segment ${name}` }, async (tx) => ({
      id: await tx.insert(SegmentTable, { name, conditions: JSON.stringify(conditions) }),
    }));
  }

  async change(actor: Actor, id: number, version: number, name: string, conditions: Group) {
    return this.changes.write(actor, { kind: 'edit', summary: `Changed the segment ${name}` }, async (tx) => {
      await tx.expect(SegmentTable, id, version, 'This segment');
      await tx.update(SegmentTable, id, { name, conditions: JSON.stringify(conditions) });
    });
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

  /** The sentence for each condition, in the order of the tree. */
  async sentences(group: Group): Promise<string[]> {
    const say = await this.wording();
    return conditionsIn(group).map(say);
  }

  async explain(group: Group, supporterId: number) {
    const explanation = await this.facts.ask({ ask: 'explain', group, supporterId, setting: await this.explaining() });
    if (!explanation) throw notFound('This supporter');
    const say = await this.wording();
    return { matches: explanation.matches, lines: linesOf(explanation, 0, say) };
  }

  private async explaining(): Promise<Explaining> {
    const [calendar, formats, fields] = await Promise.all([
      this.settings.calendar(),
      this.settings.formats(),
      fieldsIn(sqlOn(this.source)),
    ]);
    return { calendar, formats: { currency: formats.currency, locale: formats.locale }, fields };
  }

  private async wording(): Promise<(condition: Condition) => string> {
    const [{ calendar, formats, fields }, { funds, campaigns, appeals }, tags, groups] = await Promise.all([
      this.explaining(),
      this.settings.choices(),
      this.tags.tags(),
      this.tags.groups(),
    ]);
    const name = (list: readonly { id: number; name: string }[]) => (id: number) =>
      list.find((item) => item.id === id)?.name ?? 'something removed';
    const wording = {
      calendar,
      formats,
      fundName: name(funds),
      campaignName: name(campaigns),
      appealName: name(appeals),
      tagName: name(tags),
      groupName: name(groups),
      field: (id: number) =>
        fields.find((one) => one.id === id) ?? { name: 'something removed', kind: 'text' as const },
    };
    return (condition) => describeCondition(condition, wording);
  }
}

export const conditionsOf = (row: { conditions: string }): Group =>
  stored(contract.Group, row.conditions, NOBODY) as Group;

function withCodes(part: Condition | Group, home: string): Condition | Group {
  if (part.kind === 'group') return { ...part, parts: part.parts.map((inner) => withCodes(inner, home)) };
  if (part.kind !== 'region') return part;
  return { ...part, regions: [...new Set(part.regions.map((region) => regionCode(region, home) ?? region.trim()))] };
}

const conditionsIn = (part: Condition | Group): Condition[] =>
  part.kind === 'group' ? part.parts.flatMap(conditionsIn) : [part];

function linesOf(
  part: Explanation,
  depth: number,
  say: (condition: Condition) => string,
): { depth: number; sentence: string; saw: string; matches: boolean }[] {
  if (part.kind === 'condition')
    return [{ depth, sentence: say(part.condition), saw: part.saw, matches: part.matches }];
  const head = {
    depth,
    sentence: part.join === 'all' ? 'all of these' : 'any of these',
    saw: '',
    matches: part.matches,
  };
  return [head, ...part.parts.flatMap((inner) => linesOf(inner, depth + 1, say))];
}

export function serveSegments(http: Http, segments: Segments, supporters: SupporterLists): void {
  http.on(contract.listSegments, async () => ({ items: (await segments.list()) as contract.Segment[] }));
  http.on(contract.getSegment, async ({ params }) => (await segments.get(params.id)) as contract.Segment);
  http.on(contract.createSegment, async ({ actor, body }) => {
    const { revision, result } = await segments.save(actor, body.name, await segments.asked(body.conditions));
    return { revision, ...result };
  });
  http.on(contract.deleteSegment, async ({ actor, params }) => {
    const { revision } = await segments.remove(actor, params.id);
    return { revision };
  });
  http.on(contract.updateSegment, async ({ actor, params, body }) => {
    const { revision } = await segments.change(
      actor,
      params.id,
      body.version,
      body.name,
      await segments.asked(body.conditions),
    );
    return { revision };
  });
  http.on(contract.countSegment, async ({ body }) => {
    const group = await segments.asked(body.conditions);
    return { ...(await segments.count(group)), sentences: await segments.sentences(group) };
  });
  http.on(contract.previewSegment, async ({ body }) => {
    const members = await segments.members(await segments.asked(body.conditions));
    const after = decodeId(body.cursor) ?? 0;
    const from = members.findIndex((id) => id > after);
    const page = from < 0 ? [] : [...members.subarray(from, from + body.limit)];
    const last = page.at(-1);
    const more = last !== undefined && last !== members.at(-1);
    return { items: await supporters.rowsFor(page), next: more ? encodeCursor([last]) : null, total: members.length };
  });
  http.on(contract.explainSegment, async ({ body }) =>
    segments.explain(await segments.asked(body.conditions), body.supporterId),
  );
  http.on(contract.exportSegment, async ({ params, response }) => {
    const { name } = await segments.get(params.id);
    const table = await supporters.exported([...(await segments.membersOf(params.id))]);
    response.attachment(`${name.replace(/[^\w -]+/g, '')}.csv`).type('text/csv; charset=utf-8');
    response.send(csvOf(table));
    return undefined;
  });
}

/** Segments: who matches, why, and how many. */
export const segmentsArea = area('segments', ({ source, changes, http }, of) => {
  const { settings } = of(settingsArea);
  const segments = new Segments(source, changes, settings, of(factsArea).facts, of(supportersArea).tags);
  settings.offer(async () => ({ segments: await segments.names() }));
  serveSegments(http, segments, of(supportersArea).lists);
  return { segments };
});
