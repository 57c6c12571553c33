import type { Response } from 'express';
import * as contract from '@tallystick/contract/segments';
import { area } from '../area.ts';
import { factsArea } from '../facts/index.ts';
import type { Questions } from '../facts/index.ts';
import { lastRevision } from '../platform/changes.ts';
import { csvOf, toComeBack } from '../platform/csv.ts';
import type { Sql } from '../platform/db.ts';
import { readBody } from '../platform/body.ts';
import type { Http } from '../platform/http.ts';
import { XLSX } from '../platform/workbook.ts';
import { settingsArea } from '../settings/index.ts';
import { supportersArea, withHeld } from '../supporters/index.ts';
import { Definitions } from './definitions.ts';
import { PeopleLists } from './people-lists.ts';
import { Pins } from './pins.ts';
import { Segments } from './segments.service.ts';
import { StandingTags } from './standing.ts';
import { Tables } from './tables.ts';
import type { Filed } from './tables.ts';

export { keepPeople } from './people-lists.ts';
export { SegmentTable } from './segment.entity.ts';
export type { Reacher, ReachedOne } from './reached.ts';
export type { Segments } from './segments.service.ts';

interface Parts {
  sql: Sql;
  segments: Segments;
  tables: Tables;
  standing: StandingTags;
  questions: Questions;
}

export function serveSegments(http: Http, { sql, segments, tables, standing, questions }: Parts): void {
  http.on(contract.listSegments, async ({ actor }) => ({ items: await segments.list(actor) }));
  http.on(contract.getSegment, async ({ actor, params }) => {
    const segment = await segments.get(actor, params.id);
    await segments.noteUse(params.id);
    return segment;
  });
  http.on(contract.createSegment, async ({ actor, body }) => {
    const { revision, result } = await segments.save(actor, body);
    return { revision, ...result };
  });
  http.on(contract.deleteSegment, async ({ actor, params }) => {
    const { revision } = await segments.remove(actor, params.id);
    return { revision };
  });
  http.on(contract.updateSegment, async ({ actor, params, body }) => {
    const { version, ...draft } = body;
    const { revision } = await segments.change(actor, params.id, version, draft);
    return { revision };
  });
  http.on(contract.favourSegment, ({ actor, params, body }) => segments.favour(actor, params.id, body.on));
  http.on(contract.arrangeFavourites, ({ actor, body }) => segments.arrange(actor, body.ids));
  http.on(contract.countSegment, async ({ body }) => segments.count(await questions.asked(body)));
  http.on(contract.tableOfSegment, async ({ body }) => tables.page(await questions.asked(body), body.view, body));
  http.on(contract.fileOfSegment, async ({ body, response }) => {
    const revision = await lastRevision(sql);
    const file = await tables.file(await questions.asked(body), body.view, body.as);
    const table = body.back ? toComeBack(file.table, revision) : file.table;
    await sendTable(response, 'segment', { ...file, table }, body.as);
    return undefined;
  });
  http.on(contract.checkTable, async ({ body }) => tables.check(await questions.asked(body), body.view));
  http.on(contract.checkStandingTag, async ({ body }) =>
    standing.check(await questions.asked(body), body.tag, body.segmentId),
  );
  http.on(contract.keepView, ({ actor, params, body }) => segments.keepView(actor, params.id, body.view));
  http.on(contract.explainSegment, async ({ body }) => segments.explain(await questions.asked(body), body.supporterId));
  http.on(contract.exportSegment, async ({ actor, params, query, response }) => {
    const { name, conditions, credit, view } = await segments.get(actor, params.id);
    await segments.noteUse(params.id);
    const file = await tables.file(await questions.asked({ conditions, credit }), view, query.as);
    await sendTable(response, name, file, query.as);
    return undefined;
  });
}

/** Sends a table as a file called after it. */
async function sendTable(response: Response, name: string, { table, held }: Filed, as: 'csv' | 'xlsx'): Promise<void> {
  const called = name.replace(/[^\w -]+/g, '').trim() || 'segment';
  response.attachment(`${called}.${as}`).type(as === 'csv' ? 'text/csv; charset=utf-8' : XLSX);
  response.send(as === 'csv' ? await csvOf(table) : await withHeld('Segment', table, held));
}

const LARGEST_PASTE = 40_000_000;

export function servePeopleLists(http: Http, lists: PeopleLists, questions: Questions): void {
  http.on(contract.listPeopleLists, async () => ({ items: await lists.list() }));
  http.on(contract.getPeopleList, ({ params }) => lists.get(params.id));
  http.on(contract.pastePeople, async ({ actor, query, request }) => {
    const bytes = await readBody(request, LARGEST_PASTE, 'This is more than can be pasted at once (40 MB).');
    return lists.paste(actor, query.name, bytes.toString('utf8'));
  });
  http.on(contract.freezeSegment, async ({ actor, body }) =>
    lists.freeze(actor, body.name, await questions.asked(body)),
  );
  http.on(contract.comparePeople, ({ body }) => lists.compare(body.before, body.after));
}

/** Segments: who matches, why, and how many. */
export const segmentsArea = area('segments', ({ sql, source, changes, jobs, log, http, onListen, onClose }, of) => {
  const { settings } = of(settingsArea);
  const { facts, questions } = of(factsArea);
  const segments = new Segments(source, changes, settings, questions);
  const lists = new PeopleLists(sql, settings, facts, segments);
  questions.keep({ segment: (id) => segments.question(id), people: (id) => lists.members(id) });
  settings.offer(async () => ({ segments: await segments.names() }));
  const tables = new Tables(settings, questions, facts, () => segments.wording());
  const standing = new StandingTags(sql, changes, settings, segments);
  of(supportersArea).tags.keepWhile((id) => standing.keepsWhy(id));
  onClose(() => standing.end());
  onListen(async () => standing.begin(jobs, log));
  serveSegments(http, { sql, segments, tables, standing, questions });
  servePeopleLists(http, lists, questions);
  new Pins(sql, segments).serve(http);
  new Definitions(sql, settings, questions, segments).serve(http);
  return { segments, standing, tables };
});
