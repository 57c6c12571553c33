/* What stands where a name would and names nobody, or nobody in particular. */

/** Why a text names nobody; a row with what `stops` is not brought in until somebody looked at it. */
export interface Nobody {
  stops: boolean;
  reason: string;
}

/** What stands where there is no name. */
const NO_NAME_AT_ALL = /^(?:n\/?a|none|null|nil|undefined|unknown|unnamed|no name|not given|tbd|[-–—.?*x]+)$/i;
const AN_EMAIL = /^<?[^\s@]+@[^\s@]+\.[^\s@]+>?$/;
/** As supporters, gifts and pledges are numbered here. */
const OUR_NUMBER = /^[SGP]-\d+$/i;
/** What a gift was given for. */
const FOR_WHOM =
  /^(?:(?:given|gift|donation|donated)\s+)?in\s+(?:\p{L}+\s+)?(?:memory|honou?r|tribute|celebration|recognition|memoriam|lieu)\b|^(?:imo|iho|ihmo)\s/iu;
const [SOME, PEOPLE] = [
  'anonymous|anon\\.?|unknown|unnamed|unidentified|various|multiple|several|misc\\.?|miscellaneous|online|walk-?ins?|cash|guest|general',
  'donors?|givers?|donations?|gifts?|friends?|people|persons?|supporters?|contributors?|contributions?|public|sales?|attendees?|guests?|participants?|household',
];
const IN_PARTICULAR = new RegExp(
  `^(?:an?\\s+|the\\s+)?(?:(?:${SOME})(?:\\s+(?:${PEOPLE}))?|friends?|well-?wishers?)$`,
  'iu',
);
/** Signs that stand in no name of a person. */
const NO_PART_OF_NAMES = /[@#*<>|\\_~^%$!;]|\p{Emoji_Presentation}/u;
/** What stands where a name would in rows that add up others. */
const A_SUM =
  /^(?:grand |sub-?\s?|report |overall )?totals?(?:\s*:|\s*$| (?:for|of|amount|gifts|raised|donations)\b)|^(?:sum|count|average|balance) ?:?$/iu;

const STREETS = 'st|street|ave|avenue|rd|road|ln|lane|drive|blvd|boulevard|court|hwy|highway|way|circle|place';
/**
 * What stands in names and is more or less than one: of persons alone, of what is taken for a firm or a household alone,
 * or of both.
 */
const ODD: readonly (readonly [of: 'person' | 'either' | null, is: RegExp, reads: string])[] = [
  [
    null,
    /^(?:test(?:er|ing)?(?: (?:test|donor|user|person|record|account|gift))*|asdf.*|qwerty.*|do not use.*|(?:x{2,}|z{2,})\s.*|delete (?:me|this)?.*|first(?: name)? last(?: name)?|(?:full |donor )?name)$|^dup(?:licate)?s?\b|\bdup(?:licate)? of\b/i,
    'reads as a mark on a record, not as a name',
  ],
  [null, /^(?:the )?late\s+\p{L}/iu, 'reads as somebody who died; put that down, or letters go on'],
  [
    null,
    /^(?:guest|widow(?:er)?|parents?|mother|father|son|daughter|wife|husband|spouse|friend|table) of\b|['’]s (?:guest|friend|table|wife|husband|mother|father)$|\bplus (?:one|1|guest)\b|\+\s?\d+$|^table \d+$/iu,
    'says who somebody is to another, not who they are',
  ],
  [null, /\S\s+in (?:\p{L}+ )?(?:memory|honou?r|tribute)\b/iu, 'says for whom, too'],
  [null, /\sx\s?\d+$/iu, 'says how many, too'],
  ['person', /,[^,]+,\s*\p{L}+\s+\p{L}/u, 'reads as the names of several'],
  ['person', /\s[-–—]\s/u, 'holds a dash between words, and may be a name and something else'],
  ['person', /^\p{L}{2,}\.\p{L}{2,}$/u, 'reads as the name of a user'],
  ['either', /(?:\d[\s().-]*){7}/, 'holds a number as long as a telephone’s'],
  ['either', new RegExp(`^\\d+\\s+\\p{L}.*\\s(?:${STREETS})\\.?$`, 'iu'), 'reads as an address, not as a name'],
  ['either', /^[\p{L}. ]+,\s*[A-Z]{2}(?:\s+\d{5})?$/u, 'reads as a place, not as a name'],
];

export const readsAsSum = (text: string): boolean => A_SUM.test(text);

/**
 * Why what stands in a column of names names nobody; null where it may well name somebody. `whole` is the name that it
 * is a part of, null where that is looked at with another part. It is the name of a `firm` by its column, or `either` of
 * one or of a person.
 */
export function nobodyIn(part: string, whole: string | null, of: 'person' | 'firm' | 'either'): Nobody | null {
  const mend = 'Empty the cell, or write who it is.';
  if (NO_NAME_AT_ALL.test(part)) return { stops: true, reason: `“${part}” reads as no name. ${mend}` };
  // '1849' may be a firm.
  if ((!/\p{L}/u.test(part) && !part.startsWith('=')) || OUR_NUMBER.test(part))
    return { stops: of !== 'firm', reason: `“${part}” reads as a number, not as a name. ${mend}` };
  if (AN_EMAIL.test(part))
    return { stops: true, reason: `“${part}” reads as an e-mail address, not as a name. ${mend}` };
  const sign = of !== 'person' ? undefined : NO_PART_OF_NAMES.exec(part)?.[0];
  if (sign !== undefined) return { stops: false, reason: `“${part}” holds “${sign}”, which names do not.` };
  if (whole === null) return null;
  if (FOR_WHOM.test(whole))
    return { stops: true, reason: `“${whole}” reads as what a gift was given for, not as who gave it. ${mend}` };
  const odd = ODD.find(([only, is]) => (only === null || only === of) && is.test(whole));
  if (odd) return { stops: false, reason: `“${whole}” ${odd[2]}.` };
  return IN_PARTICULAR.test(whole)
    ? { stops: false, reason: `“${whole}” names nobody in particular; rows that say no more come to one record.` }
    : null;
}
