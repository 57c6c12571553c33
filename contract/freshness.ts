import type { AnyEndpoint } from './endpoint.ts';

/**
 * Which areas' tables the answers of an area are made of, besides its own: what a write to one of them makes stale.
 * `all`: whatever is written. An area is named as in `Endpoint.area`, or as the part of the server that owns a table.
 */
const READS: Readonly<Record<string, readonly string[] | 'all'>> = {
  session: ['settings'],
  settings: ['supporters', 'gifts', 'pledges', 'segments', 'session', 'outreach', 'intake'],
  supporters: 'all',
  gifts: ['supporters', 'settings', 'pledges', 'recurring', 'sheets', 'deposits', 'thanks', 'intake', 'segments'],
  pledges: ['recurring', 'gifts', 'supporters', 'settings'],
  sheets: ['gifts', 'supporters', 'settings'],
  deposits: ['gifts', 'pledges', 'supporters', 'settings'],
  segments: 'all',
  intake: ['supporters', 'gifts', 'pledges', 'recurring', 'settings'],
  duplicates: ['supporters', 'gifts', 'settings'],
  // An empty record is one on which nothing hangs, of whatever area.
  upkeep: 'all',
  feeds: ['intake', 'gifts', 'settings'],
  outreach: ['supporters', 'segments', 'settings', 'gifts'],
  letters: ['settings'],
  thanks: ['gifts', 'supporters', 'letters', 'outreach', 'settings'],
  changes: 'all',
  // The stream itself tells of jobs.
  jobs: [],
};

/** What was written: areas by name, or (`*`) anything. */
export type Written = readonly string[];

/** Whether an answer of an area may be another after something was written. */
export function isStale(area: string, written: Written): boolean {
  const reads = READS[area] ?? 'all';
  if (area === 'jobs') return false;
  return reads === 'all' || written.some((one) => one === '*' || one === area || reads.includes(one));
}

/** Whether calling an endpoint writes something that others may see. */
export const writes = ({ method, asks }: Pick<AnyEndpoint, 'method' | 'asks'>): boolean => method !== 'get' && !asks;

export const AREAS_READ = Object.keys(READS);
