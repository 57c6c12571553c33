import isEmail from 'validator/es/lib/isEmail.js';
import { lately } from '../lately/index.ts';

/** Letters and digits with single spaces and the usual signs between, and nothing to be taken away. */
const PLAIN = /^[\w!-&(-/:-@[-_{-~]+(?: [\w!-&(-/:-@[-_{-~]+)*$/;

/** Lower case without accents: what names are compared and found by. */
export function fold(text: string): string {
  // Most text is plain, and millions are folded.
  if (PLAIN.test(text)) return text.toLowerCase();
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/ß/g, 'ss')
    .replace(/ø/gi, 'o')
    .replace(/ł/gi, 'l')
    .toLowerCase()
    .replace(/[’'`]/g, '')
    .replace(/\s+/g, ' ')
    .trim();
}

/**
 * What no text that is kept holds: NUL and other signs that steer a machine, half of a pair that stands for one sign,
 * and what Unicode says is no sign. No database and no file takes them as they are.
 */
export const ODD_SIGN = /(?![\t\n\r])[\p{Cc}\p{Surrogate}\uFFFE\uFFFF]/u;
const ODD_SIGNS = new RegExp(ODD_SIGN, 'gu');

/** Signs that are not seen: spaces of no width, and what turns the direction of a line. Joiners are part of words. */
const UNSEEN = /[\u00AD\u200B\u200E\u200F\u202A-\u202E\u2060-\u2064\u2066-\u2069\uFEFF]/gu;

/** A text as one line, without signs that are none or are not seen. */
export const oneLine = (text: string): string =>
  /^[ -~]*$/.test(text)
    ? text.trim()
    : text
        .normalize('NFC')
        .replace(/\s*[\r\n]\s*/g, ' ')
        .replace(ODD_SIGNS, '')
        .replace(UNSEEN, '')
        .trim();

/** The words of a text that a person may type to find it: folded, split at anything but letters and digits. */
export function wordsOf(text: string): string[] {
  return fold(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '');
}

/** An address as most are, of which the domain alone is in question: a mailbox without quotes, and nothing around it. */
const PLAIN_ADDRESS = /^[\w+-]+(?:\.[\w+-]+)*@[a-z\d.-]*[a-z\d]$/i;
const LONGEST_MAILBOX = 64;
const isDomain = lately((domain): boolean => isEmail(`a@${domain}`));

/**
 * An e-mail address in the form it is kept and compared by, or null when it cannot be one. What does not belong to it is
 * taken off: a name before it, `mailto:`, brackets and quotation marks around it, signs after it, and signs that are
 * not seen.
 */
export function normalEmail(text: string): string | null {
  const at = text.indexOf('@');
  if (at <= LONGEST_MAILBOX && PLAIN_ADDRESS.test(text)) {
    const address = text.toLowerCase();
    return isDomain(address.slice(at + 1)) ? address : null;
  }
  const seen = text
    .normalize('NFKC')
    .replace(/[\p{Cf}\p{Cc}]/gu, '')
    .trim();
  const bare = (/<([^<>]*)>/.exec(seen)?.[1] ?? seen)
    .replace(/^mailto:/i, '')
    .replace(/^[\s<(["']+|[\s>)\]"',;:.]+$/g, '')
    .toLowerCase();
  return isEmail(bare) ? bare : null;
}

/** What is said of an address that is kept otherwise than it was typed, beyond capitals and spaces; or null. */
export function emailRemark(text: string): string | null {
  const kept = normalEmail(text);
  return kept === null || kept === text.trim().toLowerCase() ? null : `Kept as ${kept}.`;
}

/** The digits of a telephone number, which is what it is found by. */
export function digitsOf(text: string): string {
  if (/^[ -~]*$/.test(text)) return text.replace(/\D+/g, '');
  return text.normalize('NFKC').replace(/\D+/g, '');
}

/** An English word with its article: `an organization`, `a fund`. */
export const withArticle = (word: string): string => `${/^[aeiou]/i.test(word) ? 'an' : 'a'} ${word}`;
