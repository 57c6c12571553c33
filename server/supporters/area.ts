import { area } from '../area.ts';
import { factsArea } from '../facts/index.ts';
import { findArea } from '../find/index.ts';
import { historyArea } from '../history/index.ts';
import { settingsArea } from '../settings/index.ts';
import { Acts } from './acts.ts';
import { Alike } from './alike.ts';
import { Addressing } from './addressing.ts';
import { Documents, serveDocuments } from './documents.ts';
import { SupporterLists } from './lists.ts';
import { Notes, serveNotes } from './notes.ts';
import { Notice } from './notice.ts';
import { RecordParts } from './parts.ts';
import { Refusals } from './refusals.ts';
import { Relations, serveRelations } from './relations.ts';
import { serveSupporters } from './supporters.routes.ts';
import { Supporters } from './supporters.service.ts';
import { serveTags, Tags } from './tags.ts';
import { serveTasks, Tasks } from './tasks.ts';
import { Trash } from './trash.ts';

/** Records of supporters and what hangs on them; other areas add their parts to a record. */
export const supportersArea = area('supporters', ({ source, sql, changes, jobs, http }, of) => {
  const { settings } = of(settingsArea);
  const { facts, questions } = of(factsArea);
  const { finder } = of(findArea);
  const { history } = of(historyArea);
  const parts = new RecordParts();
  const supporters = new Supporters(source, changes, settings, facts, parts, (id, sets) =>
    history.changesSince(id, sets),
  );
  const lists = new SupporterLists(source, settings, facts, questions, finder, new Addressing(sql, settings));
  const acts = new Acts(source, changes, settings, lists, jobs);
  const tags = new Tags(source, changes, settings);
  const tasks = new Tasks(source, changes, settings);
  const documents = new Documents(source, changes, settings);
  const alike = new Alike();
  const notice = new Notice(source, settings, finder, alike);
  serveSupporters(http, { supporters, lists, acts, notice, trash: new Trash(source, changes), history, settings, sql });
  serveRelations(http, new Relations(source, changes, settings));
  serveNotes(http, new Notes(source, changes), tasks, documents);
  serveTasks(http, tasks);
  serveDocuments(http, documents);
  serveTags(http, tags);
  new Refusals(changes, settings).serve(http);
  settings.offer(() => tags.choices());
  return { supporters, lists, acts, parts, tags, alike };
});
