import { readParty } from '../fullnames/index.ts';
import { displayName, fold, supporterParts } from '../names/index.ts';
import type { NameParts } from '../names/index.ts';
import { noneOf } from './cells.ts';
import type { IntakeColumn } from './fields.ts';

/* The name that a row holds. */

/** Someone of a household, as they are named in it. */
export interface NamedMember {
  name: NameParts;
  nickname: string;
  formerLast: string;
}

type NameRead = NamedMember & { members: NamedMember[]; doubts: string[] };

const bare = (name: NameParts, nickname = '', formerLast = ''): NameRead => ({
  name,
  nickname,
  formerLast,
  members: noneOf(),
  doubts: noneOf(),
});

/**
 * The name that a row holds: in parts, or whole and read here; people written together are a household of them. Parts
 * that hold more than their columns are for are read as a whole name, but for those of `ours`, a list that comes back.
 */
export function nameIn(at: (field: IntakeColumn) => string, ours: boolean): NameRead {
  const [first, last] = [at('first'), at('last')];
  if (first !== '' || last !== '') {
    const together = ours ? null : togetherIn(first, last);
    if (together !== null) return wholeIn(together.whole, at, together.sure);
    const { prefix, middle, suffix } = { prefix: at('prefix'), middle: at('middle'), suffix: at('suffix') };
    return bare(supporterParts({ prefix, first, middle, last, suffix }), at('nickname'), at('formerLast'));
  }
  if (at('organization') !== '')
    return bare(supporterParts({ kind: 'organization', organization: at('organization') }));
  return wholeIn(at('wholeName'), at, true);
}

/** Several people, a nickname, what somebody was born as, or what is no part of a name at all. */
const MORE = /[&+"“”(),/]|(?:^|\s)(?:and|und|née|nee|formerly)(?:\s|$)/iu;
const TITLED = /^(?:mr|mrs|ms|miss|mx|dr|prof|rev|fr|hon)(?:\.\s*|\s+)\p{L}/iu;
const ENDS = /\p{L}\.?\s+(?:jr|sr|ii|iii|iv|m\.?d|ph\.?d|esq|d\.?d\.?s|c\.?p\.?a)\.?$/iu;
const A_FIRM = /(?:^|\s)(?:llc|llp|inc|ltd|corp)\.?$/iu;
/** These are last names, too. */
const PERHAPS_A_FIRM = /(?:^|\s)(?:foundation|company|trust|church)$/iu;
/** Two last names, or somebody else without a last name of their own. */
const ENDS_IN_AND_ONE = /(?:[&+/]|\s(?:and|und)\s)\s*[^\s&+]+$/iu;
const OF_ONE_WHO_DIED = /^(?:the\s+)?estate of\s/iu;
/** Words that last names begin with. */
const PARTICLE =
  /^(?:['’]t|d[aeiou]s?|del|della|der|den|di|du|la|le|los|van|von|vander|ten|ter|zu|zum|al|el|bin|ibn|mac|mc|st\.?|san|santa|saint|o['’]?)\s/iu;

/** A first and a last name that are to be read as one whole name; `sure`: since they cannot be meant as they stand. */
function togetherIn(first: string, last: string): { whole: string; sure: boolean } | null {
  if (last === '' || first === '') {
    const alone = first || last;
    if (!/\p{L}\.?\s+\p{L}/u.test(alone) && !MORE.test(alone)) return null;
    if (first === '' && PARTICLE.test(last)) return null;
    return { whole: alone, sure: MORE.test(alone) };
  }
  if (fold(first).endsWith(` ${fold(last)}`)) return { whole: first, sure: true };
  if (fold(last).startsWith(`${fold(first)} `)) return { whole: last, sure: true };
  const more =
    [first, last].some((part) => MORE.test(part)) ||
    TITLED.test(first) ||
    ENDS.test(last) ||
    A_FIRM.test(last) ||
    OF_ONE_WHO_DIED.test(first);
  const unsure = PERHAPS_A_FIRM.test(last) || ENDS_IN_AND_ONE.test(last) || /^the$/i.test(first);
  return more || unsure ? { whole: `${first} ${last}`, sure: !unsure } : null;
}

/** What a whole name names; not `sure` where it stood in parts and may be meant so. */
function wholeIn(whole: string, at: (field: IntakeColumn) => string, sure: boolean): NameRead {
  // Rows that are known by a number alone have no name to read.
  if (whole === '')
    return bare(supporterParts({ prefix: at('prefix'), suffix: at('suffix') }), at('nickname'), at('formerLast'));
  const party = readParty(whole);
  const people = party.people.map(({ nickname, formerLast, ...read }) => ({
    name: supporterParts({ ...read, kind: 'person' }),
    ...{ nickname, formerLast },
  }));
  const doubts = party.people.flatMap(({ aside }) => (aside === '' ? [] : [`“${aside}” is left out of the name.`]));
  if (party.unsure !== null) doubts.push(`Taken for ${A_KIND[party.kind]}: ${party.unsure}.`);
  const [someone] = people;
  if (party.kind !== 'person' || !someone) {
    if (!sure) doubts.push(`“${whole}” is taken for ${A_KIND[party.kind]}.`);
    return { ...bare(supporterParts({ kind: party.kind, organization: party.name })), members: people, doubts };
  }
  const name = {
    ...someone.name,
    prefix: at('prefix') || someone.name.prefix,
    suffix: at('suffix') || someone.name.suffix,
  };
  if (at('middle') !== '' && at('first') !== '')
    name.middle = [someone.name.middle, at('middle')].filter(Boolean).join(' ');
  // Di, Van and Al begin last names, and are first names by their column.
  const own = at('first');
  if (name.first === '' && own !== '' && fold(name.last).startsWith(`${fold(own)} `))
    Object.assign(name, { first: own, last: name.last.slice(own.length).trim() });
  // A name behind the last one may be what somebody is called, or was born as.
  if (someone.nickname !== '' && /\p{L}\s.*\(\p{L}[^()]*\)$/u.test(whole))
    doubts.push(`“${someone.nickname}” is taken for what they are called.`);
  if (!sure || !standsIn(name, at)) doubts.push(`“${whole}” is read as the whole name of ${displayName(name)}.`);
  return {
    ...{ name, members: [], doubts },
    ...{ nickname: at('nickname') || someone.nickname, formerLast: at('formerLast') || someone.formerLast },
  };
}

/** Whether the first and the last name that were read stand in their columns; those of a whole name always do. */
function standsIn({ first, last }: NameParts, at: (field: IntakeColumn) => string): boolean {
  if (at('first') === '' && at('last') === '') return true;
  const holds = (column: 'first' | 'last', name: string): boolean =>
    at(column) === '' || fold(at(column)).includes(fold(name));
  return holds('first', first) && holds('last', last);
}

const A_KIND = { person: 'a person', household: 'a household', organization: 'an organization' } as const;
