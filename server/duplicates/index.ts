import './chains.ts';
import './guards.ts';
import * as contract from '@tallystick/contract/duplicates';
import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { Merges } from './merges.ts';
import { partsGoAlong } from './parts.ts';

/** Records that are one and the same: compared, and merged. */
export const duplicatesArea = area('duplicates', ({ changes, http }, of) => {
  const { settings } = of(settingsArea);
  partsGoAlong();
  const merges = new Merges(changes, settings);
  http.on(contract.compareRecords, ({ actor, body }) => merges.compare(actor, body));
  http.on(contract.mergeRecords, ({ actor, body }) => merges.merge(actor, body.into, body.records, body.choices));
  return { merges };
});
