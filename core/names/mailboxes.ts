import { lately } from '../lately/index.ts';
import { slips } from './similar.ts';

/** Where many people have their mailbox, so that a domain one slip from one of these is rarely another. */
const COMMON = [
  ...['gmail.com', 'yahoo.com', 'hotmail.com', 'outlook.com', 'icloud.com', 'aol.com', 'msn.com', 'live.com'],
  ...['comcast.net', 'verizon.net', 'sbcglobal.net', 'bellsouth.net', 'att.net', 'cox.net', 'protonmail.com'],
];
/** Domains of their own that look like a slip in one of those. */
const OTHERS = [
  'mail.com',
  'ymail.com',
  'email.com',
  'gmx.com',
  'ail.com',
  'love.com',
  'alive.com',
  'aol.de',
  'yahoo.co',
];
/** What stands at the end of a domain by a slip, and what it is meant to be. */
const ENDS: Readonly<Record<string, string>> = {
  ...{ con: 'com', cmo: 'com', ocm: 'com', vom: 'com', xom: 'com', comm: 'com', cpm: 'com', coom: 'com' },
  ...{ ogr: 'org', orgg: 'org', og: 'org', nte: 'net', ent: 'net', nett: 'net', ner: 'net' },
};

/** What an e-mail address may be meant to be, where its domain looks like a slip of typing; null where it does not. */
export function emailSlip(address: string): string | null {
  const at = address.lastIndexOf('@');
  if (at < 1) return null;
  const meant = domainMeant(address.slice(at + 1).toLowerCase());
  return meant === null ? null : address.slice(0, at + 1) + meant;
}

/** A file has few domains and many addresses. */
const domainMeant = lately((domain): string | null => {
  if (COMMON.includes(domain) || OTHERS.includes(domain)) return null;
  const near = COMMON.find((one) => slips(domain, one, 1) <= 1);
  if (near !== undefined) return near;
  const end = domain.slice(domain.lastIndexOf('.') + 1);
  const meant = Object.hasOwn(ENDS, end) ? ENDS[end] : undefined;
  return meant === undefined ? null : domain.slice(0, -end.length) + meant;
});
