import { sounds } from '../names/index.ts';
import type { Profile } from './profile.ts';

/*
 * Of 200,000 records nobody compares all pairs. Each is put under some keys, and only those that share one are
 * compared: one mailbox, one telephone, one house, a name that sounds alike, a first name in the same ZIP, a birthday.
 * A record with slips in some of these shares others.
 */

/** The keys that a record is compared under, as whole numbers; two that fall together by chance only cost time. */
export function keysOf(one: Profile): number[] {
  const keys: string[] = [
    ...one.emails.map((email) => `e${email}`),
    ...one.phones.map((phone) => `p${phone.slice(-7)}`),
    ...one.outside.map((number) => `o${number}`),
  ];
  const postals = new Set<string>();
  for (const { house, street, postal } of one.streets) {
    if (house !== '' && street !== '') keys.push(`a${house}|${street}`);
    if (house !== '' && postal !== '') keys.push(`h${house}|${postal}`);
    if (house === '' && street !== '' && postal !== '') keys.push(`a|${street}|${postal}`);
    if (postal !== '') postals.add(postal);
  }
  if (one.kind !== 'person') {
    const [first = '', second = ''] = one.words;
    if (first !== '') keys.push(`n${one.words.join('')}`, `w${first}|${second}`);
    for (const postal of postals) keys.push(`w${sounds(first)[0] ?? first}|${postal}`);
    return hashed(one.kind, keys);
  }
  const lasts = new Set([...one.lastSounds, ...[...one.lastParts, one.formerLast].flatMap(soundOf)]);
  const firsts = new Set(one.firstSounds.length > 0 ? one.firstSounds : one.first === '' ? [] : [one.first]);
  const { groups } = one;
  for (const last of lasts) {
    // In one order, whichever of the two stands first.
    for (const first of firsts) keys.push(`n${[first, last].sort().join('|')}`);
    for (const group of groups) keys.push(`g${group}|${last}`);
    if (one.birthday.length === 10) keys.push(`b${one.birthday}|${last}`);
  }
  if (one.birthday.length === 10 && one.first !== '') keys.push(`d${one.birthday}|${one.first[0] ?? ''}`);
  for (const postal of postals) {
    for (const first of firsts) keys.push(`f${first}|${postal}`);
    for (const group of groups) keys.push(`f${group}|${postal}`);
    if (one.last !== '') keys.push(`l${one.last}|${postal}|${one.first[0] ?? ''}`);
  }
  return hashed(one.kind, keys);
}

const soundOf = (word: string): string[] => (word === '' ? [] : sounds(word).slice(0, 1));

/** Whole numbers for texts, each once: FNV-1a of 32 bits. */
function hashed(kind: string, keys: readonly string[]): number[] {
  const found = new Set<number>();
  for (const key of keys) {
    let hash = 0x811c9dc5 ^ (kind.charCodeAt(0) << 8);
    for (let at = 0; at < key.length; at++) hash = Math.imul(hash ^ key.charCodeAt(at), 0x01000193);
    found.add(hash);
  }
  return [...found];
}
