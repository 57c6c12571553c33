import type { AnyEndpoint } from './endpoint.ts';
import * as acts from './acts.ts';
import * as changes from './changes.ts';
import * as duplicates from './duplicates.ts';
import * as deposits from './deposits.ts';
import * as feeds from './feeds.ts';
import * as fields from './fields.ts';
import * as find from './find.ts';
import * as gifts from './gifts.ts';
import * as intake from './intake.ts';
import * as jobs from './jobs.ts';
import * as notes from './notes.ts';
import * as organization from './organization.ts';
import * as outreach from './outreach.ts';
import * as pins from './pins.ts';
import * as pledges from './pledges.ts';
import * as relations from './relations.ts';
import * as definitions from './segment-definition.ts';
import * as segments from './segments.ts';
import * as session from './session.ts';
import * as setup from './setup.ts';
import * as sheets from './sheets.ts';
import * as supporters from './supporters.ts';
import * as tags from './tags.ts';
import * as thanks from './thanks.ts';
import * as upkeep from './upkeep.ts';
import * as views from './views.ts';
import * as windows from './windows.ts';

const isEndpoint = (value: unknown): value is AnyEndpoint =>
  typeof value === 'object' && value !== null && 'method' in value && 'path' in value && 'response' in value;

/** Every endpoint of the API, in the order of its areas. */
export const API: readonly AnyEndpoint[] = [
  session,
  supporters,
  relations,
  notes,
  tags,
  acts,
  duplicates,
  upkeep,
  find,
  gifts,
  pledges,
  sheets,
  deposits,
  segments,
  definitions,
  pins,
  intake,
  feeds,
  outreach,
  thanks,
  changes,
  jobs,
  setup,
  organization,
  fields,
  views,
  windows,
]
  .flatMap((area) => Object.values(area) as unknown[])
  .filter(isEndpoint);
