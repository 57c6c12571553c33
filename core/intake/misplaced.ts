import { yesOrNo } from '../fields/index.ts';
import { AFTER_TITLES, bare, BEFORE_TITLES, NUMBERED_RANK, PLURAL_TITLES, SUFFIXES, TITLES } from '../names/index.ts';
import type { IntakeField } from './fields.ts';

/* What stands in a column and is not what the column holds: what says that there is nothing, and what is out of place. */

/** What stands where there is nothing. */
const NONE = 'n\\/a|none|null|nil|not given|tbd|[-–—.?*]+|x{3,}';
const whole = (words: string): RegExp => new RegExp(`^(?:${words})$`, 'i');
const WAY = whole(`${NONE}|unknown|no (?:e-?mail|phone|address)|na|no`);
const [BARE, UNKNOWN] = [whole(NONE), whole(`${NONE}|unknown`)];
const YES_OR_NO = 'yes|no|y|n|true|false|x|0|1';
const MARRIED = 'single|married|widow(?:ed|er)?|divorced|separated|deceased|spouse|husband|wife|partner|same|unknown';
const PERSON = whole(`${NONE}|na|${YES_OR_NO}|${MARRIED}`);
const AT_WORK =
  'retired|self|self[- ]?employed|unemployed|not employed|not working|home ?maker|student|disabled|various|same|unknown';
const FIRM = whole(`${NONE}|na|${YES_OR_NO}|${AT_WORK}`);

/** What says in a field that there is nothing; of a custom field, and of the others, any text says something. */
const NOTHING: Partial<Record<IntakeField, RegExp>> = {
  ...{ email: WAY, phone: WAY, street: WAY, unit: WAY, city: WAY, postal: WAY },
  // Regions are of two letters: NA and NO are some.
  region: whole(`${NONE}|unknown`),
  ...{ prefix: BARE, middle: BARE, suffix: BARE, nickname: UNKNOWN, formerLast: UNKNOWN, jobTitle: UNKNOWN },
  ...{ spouse: PERSON, second: PERSON, employer: FIRM, organization: FIRM },
  // Two gifts without a number are not one.
  ...{ reference: whole(`${NONE}|na|no|unknown|pending|0+`), cheque: whole(`${NONE}|na|no|0+`) },
  household: whole(`${NONE}|na|unknown|${YES_OR_NO}|\\d{1,2}`),
  ...{ tag: whole(`${NONE}|na|unknown|${YES_OR_NO}`), group: whole(`${NONE}|na|unknown|${YES_OR_NO}`) },
};
export const nothingIn = (field: IntakeField): RegExp | undefined => NOTHING[field];
/** No text that says that there is nothing is longer. */
export const LONGEST_NOTHING = 14;

const wordsOf = (text: string): string[] => text.split(/[\s/&,]+/).flatMap((word) => bare(word) || []);

/** Whether every word may stand before a name. */
const isTitle = (text: string): boolean =>
  wordsOf(text).every(
    (word) =>
      word === 'and' ||
      [TITLES, BEFORE_TITLES, AFTER_TITLES, PLURAL_TITLES].some((words) => words.has(word)) ||
      NUMBERED_RANK.test(word),
  );
const isSuffix = (text: string): boolean => {
  const words = wordsOf(text);
  return words.some((word) => SUFFIXES.has(word)) || (words.length < 3 && !/\d/.test(text));
};

/** A number of many digits as a spreadsheet shows it. */
export const SHORTENED = /^\d(?:[.,]\d+)?E\+?\d+$/i;
/** An amount, a number with decimals, or what has a word of its own that is not of checks. */
const NO_CHEQUE = /^\p{Sc}|[.,]\d\d?$|\b(?!che)\p{L}{4,}/iu;

/** What of a gift says that it was taken back. */
const TAKEN_BACK =
  /\b(?:refunded|charge-?back|charged back|voided|bounced|declined|nsf|cancell?ed|reversed|payment failed)\b/i;
const UNNAMED = /\b(?:anonymous(?:ly)?|(?:do not|don'?t) (?:list|name|publish|print)\b.*)/i;
const LEFT_ALONE =
  /\b(?:(?:do not|don'?t|never|stop|no more) (?:call|phone|mail|e-?mail|contact|solicit|write|send)|no more (?:calls|mail|letters|e-?mails)|unsubscribe|(?:remove|take) (?:me|us|him|her|them) (?:off|from))/i;
const DIED = /^\W*(?:deceased|passed away|has died|died)\b/i;
const A_DAY = /^(?:19|20)\d{2}(?:0[1-9]|1[0-2])(?:0[1-9]|[12]\d|3[01])$/;

/**
 * Why a text of a field may be out of place there; null where nothing says so. `kept` tells which wishes have a column of
 * their own, which say what a note need not.
 */
export function misplaced(field: IntakeField, text: string, has: (field: IntakeField) => boolean): string | null {
  switch (field) {
    case 'prefix':
      return isTitle(text) ? null : `“${text}” is no title before a name, and would be written in letters.`;
    case 'suffix':
      return isSuffix(text) ? null : `“${text}” reads as nothing that stands after a name.`;
    case 'middle':
    case 'nickname':
    case 'formerLast':
      return /\d/.test(text) ? `“${text}” holds digits, which names do not.` : null;
    case 'cheque':
      if (SHORTENED.test(text)) return `A spreadsheet shortened “${text}”; its digits may not be all there.`;
      if (/\d\s*(?:[,;&/]|and)\s*\d/i.test(text)) return `“${text}” reads as several numbers, or as a day.`;
      return /\d/.test(text) && !NO_CHEQUE.test(text) ? null : `“${text}” reads as no check number.`;
    case 'reference':
      return SHORTENED.test(text)
        ? `A spreadsheet shortened “${text}”; its digits may not be all there, and others may have the same.`
        : null;
    case 'amount':
      return A_DAY.test(text) ? `“${text}” reads as a day, and is taken for an amount.` : null;
    case 'note':
      if (TAKEN_BACK.test(text)) return `“${text}” reads as if the gift was taken back.`;
      return wishIn(text, has);
    case 'remark':
      if (DIED.test(text) && !has('deceased') && !has('deceasedOn'))
        return `“${text}” reads as a death; put it down as one, or letters go on.`;
      return wishIn(text, has);
    default:
      return null;
  }
}

function wishIn(text: string, has: (field: IntakeField) => boolean): string | null {
  if (UNNAMED.test(text) && !has('anonymous'))
    return `“${text}” reads as a wish not to be named; put it down as one, or it holds nothing back.`;
  if (LEFT_ALONE.test(text) && !(['noMail', 'noEmail', 'noCalls', 'noSolicitation'] as const).some(has))
    return `“${text}” reads as a wish to be left alone; put it down as one, or it holds nothing back.`;
  return null;
}

/** The fields that `misplaced` looks at. */
export const LOOKED_AT: readonly IntakeField[] = [
  ...([
    'prefix',
    'suffix',
    'middle',
    'nickname',
    'formerLast',
    'cheque',
    'reference',
    'amount',
    'note',
    'remark',
  ] as const),
];

/** What nearly every cell of a column must be for its heading to be believed. */
const FITS: Partial<Record<IntakeField, (cell: string) => boolean>> = {
  prefix: isTitle,
  cheque: (cell) => /\d/.test(cell),
  ...{ spouse: (cell) => !PERSON.test(cell), second: (cell) => !PERSON.test(cell) },
  household: (cell) => !(NOTHING.household as RegExp).test(cell),
  ...{ deceased: (cell) => yesOrNo(cell) !== null, deceasedOn: (cell) => yesOrNo(cell) === null },
};
/** What a column may hold whose cells are not what its heading says. */
const ELSE: Partial<Record<IntakeField, IntakeField>> = {
  ...{ prefix: 'jobTitle', deceased: 'deceasedOn', deceasedOn: 'deceased' },
};

/** Where a column goes that its heading sends to a field, given cells of it that are not empty; null where nothing fits. */
export function heldAgainst(field: IntakeField, cells: readonly string[]): IntakeField | null {
  const fits = FITS[field];
  if (!fits || cells.length === 0 || cells.filter((cell) => fits(cell.trim())).length * 2 >= cells.length) return field;
  return ELSE[field] ?? null;
}
