import { likeness } from '../duplicates/index.ts';
import type { Comparable, Likeness } from '../duplicates/index.ts';
import { streetKey } from '../contact/index.ts';
import { digitsOf, fold } from '../names/index.ts';
import type { NameParts } from '../names/index.ts';
import type { DraftRow } from './rows.ts';

/** A supporter that is here, as a row is held against them. */
export interface Here extends Comparable {
  id: number;
  name: string;
  state: string;
}

/** What matching needs to know of the supporters already here; all but `byNumber` answer those who are not in the trash. */
export interface Known {
  byNumber(id: number): Here | null;
  byEmail(email: string): readonly Here[];
  /** Those who have a number where the file comes from, or of whom a person said there that a row is theirs. */
  byOutside(called: string): readonly Here[];
  /** Those whose last name, or name as an organization, begins as that of the row. */
  byName(name: NameParts): readonly Here[];
}

/** Somebody whom a row may belong to, and what speaks for it. */
export interface Candidate {
  id: number;
  name: string;
  reasons: readonly string[];
}

/** What a person chose for a row: one of those who are here, somebody new, or to leave the row out. */
export type Pick = number | 'new' | 'skip';

/**
 * Where a row belongs. `earlier` is the index of an earlier row of the same file that brings the same new
 * supporter. Of `undecided` rows a person decides; `why` says what is in doubt.
 */
export type RowMatch =
  | { kind: 'new'; alike: Candidate | null }
  | { kind: 'known'; id: number; name: string; by: string }
  | { kind: 'earlier'; row: number }
  | { kind: 'undecided'; why: string; candidates: readonly Candidate[] }
  | { kind: 'unknown-number' }
  | { kind: 'in-trash'; id: number };

/** As alike as a same name with a same address, telephone or e-mail: surely one. */
const SURE = 80;
/** As alike as half a name and a way: perhaps one. */
const PERHAPS = 60;

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
): RowMatch {
  if (typeof pick === 'number') {
    const chosen = known.byNumber(pick);
    if (chosen?.state === 'active') return { kind: 'known', id: chosen.id, name: chosen.name, by: 'your choice' };
  }
  const decided = pick === 'new' ? null : matchHere(draft, known);
  if (decided && decided.kind !== 'new') return decided;
  const alike = decided?.alike ?? null;
  const keys = keysOf(draft);
  const before = keys.map((key) => earlier.get(key)).find((row) => row !== undefined);
  // Whatever this row says of them besides, later rows may know them by.
  for (const key of keys) earlier.set(key, earlier.get(key) ?? before ?? index);
  return before === undefined ? { kind: 'new', alike } : { kind: 'earlier', row: before };
}

function matchHere(draft: DraftRow, known: Known): RowMatch {
  const row = comparableOf(draft);
  const named = hasName(draft.name);
  const nameOnly = (one: Here): Likeness => likeness(bare(row), bare(one));
  if (draft.supporterId !== null) {
    const found = known.byNumber(draft.supporterId);
    if (!found || found.state === 'erased') return { kind: 'unknown-number' };
    if (found.state !== 'active') return { kind: 'in-trash', id: found.id };
    // A first name alone is held against the first name alone.
    const whole = row.last === '' && row.organization === '' ? { ...row, last: found.last } : row;
    if (!named || likeness(bare(whole), bare(found)).score > 0)
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
  if (mates.length > 0) {
    const alike = named ? mates.filter((one) => nameOnly(one).score > 0) : mates;
    const [only, ...others] = best(alike, (one) => (named ? nameOnly(one).score : 0));
    if (only && others.length === 0) return { kind: 'known', id: only.id, name: only.name, by: 'e-mail' };
    const why = alike.length === 0 ? 'Its e-mail is of somebody with quite another name' : 'Several have its e-mail';
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
  const sure = likely.filter(({ score }) => score >= SURE);
  const [one] = sure;
  if (one && sure.length === 1 && likely.length === 1)
    return { kind: 'known', id: one.one.id, name: one.one.name, by: one.reasons.join(', ') };
  const perhaps = likely.filter(({ score }) => score >= PERHAPS);
  if (perhaps.length > 0)
    return {
      kind: 'undecided',
      why: perhaps.length === 1 ? 'It looks like somebody who is here' : 'It looks like several who are here',
      candidates: perhaps.map(({ one: { id, name }, reasons }) => ({ id, name, reasons })),
    };
  const [hint] = likely;
  return { kind: 'new', alike: hint ? { id: hint.one.id, name: hint.one.name, reasons: hint.reasons } : null };
}

/** The score of the very same name and nothing else. */
const ONLY_A_NAME = 50;

const hasName = ({ first, last, organization }: NameParts): boolean => first + last + organization !== '';

const bare = (one: Comparable): Comparable => ({ ...one, emails: [], phones: [], addresses: [] });

/** A row as it is compared with records. */
export const comparableOf = ({
  name,
  nickname,
  formerLast,
  email,
  phone,
  street,
  postal,
  city,
}: DraftRow): Comparable => ({
  ...{ kind: name.kind, first: name.first, last: name.last, organization: name.organization, nickname, formerLast },
  ...{ emails: email === null ? [] : [email], phones: phone === '' ? [] : [phone] },
  addresses: street === '' ? [] : [{ street, postal, city }],
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

/** What the same person in another row of the file is known by: the name with the e-mail, the street or the telephone. */
export function keysOf({ name, email, street, postal, phone, outside }: DraftRow): string[] {
  const written = fold([name.organization, name.first, name.last].join('|'));
  const number = outside ? [`${written}~${outside}`] : [];
  if (written.replace(/\W/g, '') === '' && !hasName(name)) return email === null ? number : [`@${email}`, ...number];
  const home = streetKey(street);
  const keys = [
    ...(email === null ? [] : [`${written}@${email}`]),
    ...(home === '' ? [] : [`${written}#${home}|${postal.replace(/\s/g, '').slice(0, 5).toLowerCase()}`]),
    ...(digitsOf(phone).length < 7 ? [] : [`${written}+${digitsOf(phone).slice(-10)}`]),
    ...number,
  ];
  // A name by itself is the same in a file that says nothing else of anybody.
  return keys.length > 0 ? keys : [written];
}
