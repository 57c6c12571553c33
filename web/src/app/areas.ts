import { depositsArea } from '../deposits/area.ts';
import { duplicatesArea } from '../duplicates/area.ts';
import { feedsArea } from '../feeds/area.ts';
import { giftsArea } from '../gifts/area.ts';
import { intakeArea } from '../intake/area.ts';
import { outreachArea } from '../outreach/area.ts';
import { pledgesArea } from '../pledges/area.ts';
import { segmentsArea } from '../segments/area.ts';
import { settingsArea } from '../settings/area.ts';
import { sheetsArea } from '../sheets/area.ts';
import { supportersArea } from '../supporters/area.ts';
import { thanksArea } from '../thanks/area.ts';
import { todayArea } from '../today/area.ts';
import { upkeepArea } from '../upkeep/area.ts';
import { mayCall } from '../ui/organization.tsx';
import type { Role } from '@tallystick/contract/endpoint';
import type { WebArea } from '../ui/area.ts';

/** Every area, in the order of the strip. What the app shows of them outside their pages is made from this. */
export const AREAS: readonly WebArea[] = [
  ...[todayArea, supportersArea, giftsArea, pledgesArea, sheetsArea, depositsArea],
  ...[segmentsArea, outreachArea, thanksArea, intakeArea, feedsArea, duplicatesArea, upkeepArea, settingsArea],
];

/** What of some things a role may use. */
export const offered = <T extends { needs?: { role: Role | 'public' } }>(role: Role, things: readonly T[]): T[] =>
  things.filter(({ needs }) => !needs || mayCall(role, needs));

export const PLACES = AREAS.flatMap((area) => area.places ?? []);
export const ADDS = AREAS.flatMap((area) => area.adds ?? []).toSorted((a, b) => a.order - b.order);
export const WAITS = AREAS.flatMap((area) => area.waits ?? []).toSorted((a, b) => a.order - b.order);
export const AREA_KEYS = AREAS.flatMap((area) => area.keys ?? []);
