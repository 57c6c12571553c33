import { parsePhoneNumberFromString } from 'libphonenumber-js/max';
import type { CountryCode } from 'libphonenumber-js/max';

/** A telephone number as read; `text` is how it is kept: as its country writes it, or as typed when it is unsure. */
export interface ReadPhone {
  text: string;
  /** `+17755550142`; empty where it is no number that can be dialled. */
  e164: string;
  sure: boolean;
  /** What is odd about it, in words, empty when nothing is. */
  remark: string;
}

const KEYPAD = 'abc2def3ghi4jkl5mno6pqrs7tuv8wxyz9';

/** The digit under each letter, so that `1-800-555-STAR` can be dialled. */
function dialled(text: string): string {
  return text.replace(/[a-z]/gi, (letter) => /\d/.exec(KEYPAD.slice(KEYPAD.indexOf(letter.toLowerCase())))?.[0] ?? '');
}

/**
 * Reads a telephone number by libphonenumber's rules for a country (ISO code). Words for an extension are
 * understood, letters are dialled as their digits, and what cannot be read is kept as it was typed.
 */
export function readPhone(text: string, country: string): ReadPhone {
  const typed = text.normalize('NFKC').replace(/\s+/g, ' ').trim();
  const home = country as CountryCode;
  const plain = parsePhoneNumberFromString(typed, home);
  const lettered = /\d[\d\s().-]*[a-z]{3,}\s*$/i.test(typed) && !/\b(ext|x|extension)\b/i.test(typed);
  const number = plain?.isPossible() ? plain : lettered ? parsePhoneNumberFromString(dialled(typed), home) : plain;
  if (!number?.isPossible())
    return { text: typed, e164: '', sure: false, remark: /\d/.test(typed) ? 'not a whole number' : 'no digits in it' };
  const written = number.country === country ? number.formatNational() : number.formatInternational();
  return {
    text: written,
    e164: number.number,
    sure: number.isValid(),
    remark: number.isValid() ? '' : 'not a number in use',
  };
}
