import './chains.ts';
import * as contract from '@tallystick/contract/duplicates';
import { area } from '../area.ts';
import { Follower } from '../platform/follower.ts';
import { supportersArea } from '../supporters/index.ts';
import { settingsArea } from '../settings/index.ts';
import { Groups } from './groups.ts';
import type { AlikeThread } from './groups.ts';
import { ManyMerges } from './many.ts';
import { Merges } from './merges.ts';
import { partsGoAlong } from './parts.ts';

/** Records that are one and the same: looked for, compared, and merged. */
export const duplicatesArea = area('duplicates', ({ config, source, changes, jobs, http, onClose }, of) => {
  const { settings } = of(settingsArea);
  partsGoAlong();
  const alike: AlikeThread = new Follower(new URL('./worker.ts', import.meta.url), config.databaseUrl);
  onClose(() => alike.close());
  of(supportersArea).alike.by({
    likes: (known, least) => alike.ask({ ask: 'likes', known, least }),
    named: (surnames) => alike.ask({ ask: 'named', surnames }),
  });
  const merges = new Merges(changes, settings);
  const groups = new Groups(source, changes, jobs, settings, alike);
  http.on(contract.compareRecords, ({ actor, body }) => merges.compare(actor, body));
  http.on(contract.mergeRecords, ({ actor, body }) =>
    merges.merge(actor, body.into, body.records, body.choices, body.typed),
  );
  http.on(contract.listAlike, ({ body }) => groups.list(body));
  http.on(contract.lookForAlike, async ({ actor }) => ({ jobId: await groups.begin(actor) }));
  const many = new ManyMerges(changes, jobs, settings, groups, merges);
  http.on(contract.mergeSure, async ({ actor, body }) => ({ jobId: await many.begin(actor, body) }));
  http.on(contract.undoMerged, async ({ actor, params }) => ({ jobId: await many.undo(actor, params.id) }));
  http.on(contract.sayNotSame, async ({ actor, body }) => {
    const { revision } = await groups.notSame(actor, body.ids);
    return { revision };
  });
  return { merges };
});
