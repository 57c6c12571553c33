import { inAList } from '../words/index.ts';
import { agreeInMore, asKnown, likeness, reasonsOf } from '../duplicates/index.ts';
import type { Comparable, Likeness } from '../duplicates/index.ts';
import { phoneKey, postalKey, streetKey } from '../contact/index.ts';
import { digitsOf, fold, wordsOf } from '../names/index.ts';
import type { NameParts } from '../names/index.ts';
import type { DraftRow } from './rows.ts';

/** A supporter that is here, as a row is held against them. */
export interface Here extends Comparable {
  id: number;
  name: string;
  state: string;
  /** Whom its number leads to, where it was merged into another. */
  mergedInto?: number | null;
}

/** What matching needs to know of the supporters already here; all but `byNumber` answer those who are not in the trash. */
export interface Known {
  byNumber(id: number): Here | null;
  byEmail(email: string): readonly Here[];
  /** Those who have a number where the file comes from, or of whom a person said there that a row is theirs. */
  byOutside(called: string): readonly Here[];
  /** Those whose last name, or name as an organization, begins as that of the row. */
  byName(name: NameParts): readonly Here[];
  /** Those who are likely the one that a row brings, by the measure of all records, whatever they are called. */
  alike(draft: DraftRow): readonly Here[];
}

/** Somebody whom a row may belong to, and what speaks for it. */
export interface Candidate {
  id: number;
  name: string;
  reasons: readonly string[];
}

/** What a person chose for a row: one of those who are here, somebody new, or to leave the row out. */
export type Pick = number | 'new' | 'skip';

/** An earlier row of the file, by its index, that brings another new supporter though it is like this one in something. */
export interface Namesake {
  row: number;
  same: 'name' | 'email';
}

/**
 * Where a row belongs. `earlier` is the index of an earlier row of the same file that brings the same new
 * supporter. Of `undecided` rows a person decides; `why` says what is in doubt.
 */
export type RowMatch =
  | { kind: 'new'; alike: Candidate | null; namesake?: Namesake }
  | { kind: 'known'; id: number; name: string; by: string }
  | { kind: 'earlier'; row: number }
  | { kind: 'undecided'; why: string; candidates: readonly Candidate[] }
  | { kind: 'unknown-number' }
  | { kind: 'in-trash'; id: number };

/** What a row and a record may have to agree in. */
export const MATCH_FIELDS = {
  ...{ first: 'First name', last: 'Last name', organization: 'Organization', email: 'E-mail' },
  ...{ phone: 'Telephone', street: 'Street', postal: 'ZIP or postal code' },
} as const;
export type MatchField = keyof typeof MATCH_FIELDS;
/** Records are looked up by these, so that one of them must be among the chosen ones. */
export const LOOKED_UP_BY: readonly MatchField[] = ['last', 'organization', 'email'];

/** How rows without a number of ours or elsewhere find their supporters. */
export interface Matching {
  /** What must agree; nothing: an e-mail with its name, or likeness. */
  fields: readonly MatchField[];
  /** From which likeness (0 to 100) on a row is surely somebody's, and from which a person is asked. */
  sure: number;
  perhaps: number;
}
/** Surely as with a same name and a same address or telephone; perhaps as with half a name and an address. */
export const USUAL_MATCHING: Matching = { fields: [], sure: 80, perhaps: 60 };

/**
 * Matches one row by number, by e-mail, and then by how alike it looks. A number or an e-mail of somebody with quite
 * another name is never enough: a family may share one address, and a number may be mistyped. `earlier` maps what
 * earlier new rows of the file are known by to their index; a row found to be new adds itself.
 */
export function matchRow(
  draft: DraftRow,
  index: number,
  known: Known,
  earlier: Map<string, number>,
  pick: Exclude<Pick, 'skip'> | null = null,
  matching = USUAL_MATCHING,
): RowMatch {
  if (typeof pick === 'number') {
    const chosen = known.byNumber(pick);
    if (chosen?.state === 'active') return { kind: 'known', id: chosen.id, name: chosen.name, by: 'your choice' };
  }
  const decided = pick === 'new' ? null : matchHere(draft, known, matching);
  if (decided && decided.kind !== 'new') return decided;
  const alike = decided?.alike ?? null;
  const keys = keysOf(draft);
  let before: number | undefined;
  for (const key of keys) before ??= earlier.get(key);
  let namesake: Namesake | undefined;
  // Whatever this row says of them besides, later rows may know them by.
  for (const key of keys) if (!earlier.has(key)) earlier.set(key, before ?? index);
  for (const { key, same } of hintsOf(draft)) {
    const row = earlier.get(key);
    if (row === undefined) earlier.set(key, before ?? index);
    else namesake ??= { row, same };
  }
  return before === undefined
    ? { kind: 'new', alike, ...(namesake ? { namesake } : {}) }
    : { kind: 'earlier', row: before };
}

function matchHere(draft: DraftRow, known: Known, { fields, sure: surely, perhaps: maybe }: Matching): RowMatch {
  const named = hasName(draft.name);
  const numbered = draft.supporterId === null ? null : known.byNumber(draft.supporterId);
  if (draft.supporterId !== null) {
    if (!numbered || numbered.state === 'erased') return { kind: 'unknown-number' };
    if (numbered.state !== 'active') return { kind: 'in-trash', id: numbered.id };
    if (!named || draft.listed) return { kind: 'known', id: numbered.id, name: numbered.name, by: 'number' };
  }
  const row = comparableOf(draft);
  const nameOnly = (one: Here): Likeness => likeness(bare(row), bare(one));
  if (numbered) {
    const found = numbered;
    // A first name alone is held against the first name alone.
    const whole = row.last === '' && row.organization === '' ? { ...row, last: found.last } : row;
    if (likeness(bare(whole), bare(found)).score > 0)
      return { kind: 'known', id: found.id, name: found.name, by: 'number' };
    const why = 'Its number is of somebody with quite another name';
    return { kind: 'undecided', why, candidates: [{ id: found.id, name: found.name, reasons: ['same number'] }] };
  }
  const chosen = called(draft).flatMap((one) => known.byOutside(one));
  if (chosen.length > 0) {
    const byNumber = (draft.outside ?? '') !== '';
    const alike = named ? chosen.filter((one) => nameOnly(one).score > 0) : chosen;
    const [only, ...others] = best(byNumber ? alike : chosen, (one) => (named ? nameOnly(one).score : 0));
    if (only && others.length === 0) {
      const by = byNumber ? `number elsewhere ${draft.outside ?? ''}` : 'what was chosen before';
      return { kind: 'known', id: only.id, name: only.name, by };
    }
    const why =
      alike.length === 0
        ? 'Its number elsewhere is of somebody with quite another name'
        : 'Several have its number elsewhere';
    return { kind: 'undecided', why, candidates: candidatesOf(alike.length === 0 ? chosen : alike, row) };
  }
  const mates = draft.email === null ? [] : known.byEmail(draft.email);
  const byFields = fields.length > 0;
  if (byFields) {
    const found = new Set([...mates, ...(named ? known.byName(draft.name) : [])]);
    const agree = [...found].filter((one) => fields.every((field) => AGREES[field](row, one)));
    const [only, ...others] = agree;
    const inWords = inAList(fields.map((field) => WORDS[field]));
    if (only && others.length === 0) return { kind: 'known', id: only.id, name: only.name, by: inWords };
    if (only) return { kind: 'undecided', why: `Several agree in ${inWords}`, candidates: candidatesOf(agree, row) };
  }
  if (mates.length > 0) {
    const alike = named ? mates.filter((one) => nameOnly(one).score > 0) : mates;
    const [only, ...others] = best(alike, (one) => (named ? nameOnly(one).score : 0));
    if (only && others.length === 0 && !byFields) return { kind: 'known', id: only.id, name: only.name, by: 'e-mail' };
    const why =
      alike.length === 0
        ? 'Its e-mail is of somebody with quite another name'
        : others.length > 0
          ? 'Several have its e-mail'
          : 'Somebody has its e-mail';
    return { kind: 'undecided', why, candidates: candidatesOf(alike.length === 0 ? mates : alike, row) };
  }
  // Whoever has a number elsewhere alone, which nobody here has, has no name to be recorded by.
  if (!named) return draft.email === null ? { kind: 'unknown-number' } : { kind: 'new', alike: null };
  const likely = known
    .byName(draft.name)
    .filter((one) => nameOnly(one).score > 0)
    .map((one) => ({ one, ...likeness(row, one) }))
    .filter(({ score }) => score >= ONLY_A_NAME)
    .sort((a, b) => b.score - a.score || a.one.id - b.one.id);
  const sure = byFields ? [] : likely.filter(({ score }) => score >= surely);
  const [one] = sure;
  if (one && sure.length === 1 && likely.length === 1)
    return { kind: 'known', id: one.one.id, name: one.one.name, by: one.reasons.join(', ') };
  const near = likely.filter(({ score }) => score >= maybe);
  // Somebody whose last name was mistyped, or is another by now. The very name alone stays a hint, however rare.
  const whole = asKnown(row);
  const besides = known
    .alike(draft)
    .filter((each) => !near.some(({ one: { id } }) => id === each.id) && agreeInMore(whole, asKnown(each)));
  const perhaps = [...near, ...besides.map((each) => ({ one: each, reasons: reasonsOf(whole, asKnown(each)) }))];
  if (perhaps.length > 0)
    return {
      kind: 'undecided',
      why: perhaps.length === 1 ? 'It looks like somebody who is here' : 'It looks like several who are here',
      candidates: perhaps.map(({ one: { id, name }, reasons }) => ({ id, name, reasons })),
    };
  const [hint] = likely;
  return { kind: 'new', alike: hint ? { id: hint.one.id, name: hint.one.name, reasons: hint.reasons } : null };
}

const WORDS: Record<MatchField, string> = {
  ...{ first: 'first name', last: 'last name', organization: 'organization', email: 'e-mail' },
  ...{ phone: 'telephone', street: 'street', postal: 'ZIP' },
};

const alikeIn = (a: readonly string[], b: readonly string[], keyOf: (text: string) => string): boolean =>
  a.map(keyOf).some((key) => key !== '' && b.some((other) => keyOf(other) === key));

/** Whether a row and a record agree in something that both say. */
const AGREES: Record<MatchField, (row: Comparable, one: Comparable) => boolean> = {
  first: (row, one) => alikeIn([row.first], [one.first], fold),
  last: (row, one) => alikeIn([row.last], [one.last], fold),
  organization: (row, one) => alikeIn([row.organization], [one.organization], fold),
  email: (row, one) => alikeIn(row.emails, one.emails, fold),
  phone: (row, one) => alikeIn(row.phones, one.phones, phoneKey),
  street: ({ addresses }, one) => alikeIn(addresses.map(streetIn), one.addresses.map(streetIn), streetKey),
  postal: ({ addresses }, one) => alikeIn(addresses.map(postalIn), one.addresses.map(postalIn), postalKey),
};
const streetIn = ({ street }: { street: string }): string => street;
const postalIn = ({ postal }: { postal: string }): string => postal;

/** The score of the very same name and nothing else. */
const ONLY_A_NAME = 50;

const hasName = ({ first, last, organization }: NameParts): boolean => first + last + organization !== '';

const bare = ({ kind, first, last, organization, nickname, formerLast }: Comparable): Comparable => ({
  kind,
  first,
  last,
  organization,
  nickname,
  formerLast,
  emails: [],
  phones: [],
  addresses: [],
});

/** Whether a name is quite another than one that a record had: no part of it is the same, and it is not like it. */
export function unlikeNames(row: NameParts, had: NameParts): boolean {
  if (!hasName(row) || !hasName(had)) return false;
  const of = (name: NameParts): Comparable => ({
    ...{ ...name, nickname: '', formerLast: '', emails: [], phones: [], addresses: [] },
  });
  const words = ({ first, last, organization }: NameParts): string[] => wordsOf(`${first} ${last} ${organization}`);
  return !words(row).some((word) => words(had).includes(word)) && likeness(of(row), of(had)).score === 0;
}

/** A row as it is compared with records. */
export const comparableOf = (draft: DraftRow): Comparable => ({
  kind: draft.name.kind,
  first: draft.name.first,
  last: draft.name.last,
  organization: draft.name.organization,
  nickname: draft.nickname,
  formerLast: draft.formerLast,
  emails: draft.email === null ? [] : [draft.email],
  phones: draft.phone === '' ? [] : [draft.phone],
  addresses:
    draft.street + draft.postal === '' ? [] : [{ street: draft.street, postal: draft.postal, city: draft.city }],
});

const candidatesOf = (all: readonly Here[], row: Comparable): Candidate[] =>
  all.map((one) => ({ id: one.id, name: one.name, reasons: likeness(row, one).reasons }));

/** Those with the highest score. */
function best<T>(all: readonly T[], scoreOf: (one: T) => number): T[] {
  const most = Math.max(...all.map(scoreOf));
  return all.filter((one) => scoreOf(one) === most);
}

/**
 * What a row's supporter is called where the file comes from: the number there; without one, how the row itself names
 * them, which is remembered of whom a person chose.
 */
export function called(draft: DraftRow): string[] {
  if (draft.outside) return [draft.outside];
  const [key] = keysOf(draft);
  return key === undefined ? [] : [`${CHOSEN}${key}`.slice(0, LONGEST_CALLED)];
}

/** Before what is no number, so that no number can be it. */
const CHOSEN = '= ';
export const LONGEST_CALLED = 190;

/** What another row of the file may have of the same person without surely being theirs: the name, or the e-mail. */
function hintsOf({ name, email }: DraftRow): { key: string; same: Namesake['same'] }[] {
  if (!hasName(name)) return [];
  const written = { key: `?${writtenOf(name)}`, same: 'name' } as const;
  return email === null ? [written] : [written, { key: `?@${email}`, same: 'email' }];
}

const writtenOf = (name: NameParts): string => fold([name.organization, name.first, name.last].join('|'));

/** All that rows which are judged together have one of. */
export function togetherBy(draft: DraftRow): string[] {
  const all = [...keysOf(draft)];
  for (const { key } of hintsOf(draft)) all.push(key);
  return all;
}

/** The draft that was asked about last, which is asked about several times as it is matched. */
let last: { draft: DraftRow; keys: string[] } | null = null;

/** What the same person in another row of the file is known by: the name with the e-mail, the street or the telephone. */
export function keysOf(draft: DraftRow): readonly string[] {
  if (last?.draft !== draft) last = { draft, keys: keysIn(draft) };
  return last.keys;
}

function keysIn({ name, email, street, postal, phone, outside }: DraftRow): string[] {
  const written = writtenOf(name);
  const keys: string[] = [];
  if (!hasName(name)) {
    if (email !== null) keys.push(`@${email}`);
    if (outside) keys.push(`${written}~${outside}`);
    return keys;
  }
  const home = streetKey(street);
  if (email !== null) keys.push(`${written}@${email}`);
  if (home !== '') keys.push(`${written}#${home}|${postalKey(postal)}`);
  if (digitsOf(phone).length >= 7) keys.push(`${written}+${phoneKey(phone)}`);
  if (outside) keys.push(`${written}~${outside}`);
  // A name by itself is the same in a file that says nothing else of anybody.
  return keys.length > 0 ? keys : [written];
}
