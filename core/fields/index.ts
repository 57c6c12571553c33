import { formatDate, isIsoDate, parseDate } from '../dates/index.ts';
import { formatMoney, parseAmount } from '../money/index.ts';

export const FIELD_KINDS = {
  text: 'Text',
  number: 'Number',
  money: 'Money',
  date: 'Date',
  yesno: 'Yes or no',
  one: 'One of a list',
  many: 'Many of a list',
} as const;
export type FieldKind = keyof typeof FIELD_KINDS;

/** A field that the organisation made. `choices` is the list of `one` and `many`, else empty. */
export interface CustomField {
  id: number;
  name: string;
  kind: FieldKind;
  choices: readonly string[];
}

export type ReadField = { ok: true; value: string } | { ok: false; reason: string };

const YES = ['yes', 'y', 'true', '1', 'x'];
const NO = ['no', 'n', 'false', '0'];
const MOST = 1000;

/**
 * Reads what was typed or filed into the one form a value is kept in: text as it is, numbers as `-12.5`, money as
 * cents, dates as `YYYY-MM-DD`, yes and no as `1` and `0`, several choices as a JSON list in the order of the
 * choices. Empty text is the empty value. Choices are matched without regard to case.
 */
export function readField(field: CustomField, text: string): ReadField {
  const typed = text.normalize('NFC').trim();
  if (typed === '') return { ok: true, value: '' };
  const refused = (reason: string): ReadField => ({ ok: false, reason });
  switch (field.kind) {
    case 'text':
      return typed.length > MOST
        ? refused(`${field.name} has more than ${MOST} characters.`)
        : { ok: true, value: typed };
    case 'number': {
      const plain = typed.replace(/[\s,](?=\d{3}(\D|$))/g, '');
      if (!/^[-+]?(\d+\.?\d*|\.\d+)$/.test(plain) || !Number.isFinite(Number(plain)))
        return refused(`“${typed}” is not a number.`);
      return { ok: true, value: String(Number(plain)) };
    }
    case 'money': {
      const money = parseAmount(typed);
      return money.ok ? { ok: true, value: String(money.cents) } : refused(money.reason);
    }
    case 'date': {
      const date = parseDate(typed);
      return date.ok ? { ok: true, value: date.date } : refused(date.reason);
    }
    case 'yesno': {
      const word = typed.toLowerCase();
      if (YES.includes(word)) return { ok: true, value: '1' };
      return NO.includes(word) ? { ok: true, value: '0' } : refused(`“${typed}” is neither yes nor no.`);
    }
    case 'one': {
      const choice = choiceOf(field, typed);
      return choice === null
        ? refused(`“${typed}” is not one of ${field.choices.join(', ')}.`)
        : { ok: true, value: choice };
    }
    case 'many': {
      const named = manyOf(typed);
      const unknown = named.find((name) => choiceOf(field, name) === null);
      if (unknown !== undefined) return refused(`“${unknown}” is not one of ${field.choices.join(', ')}.`);
      const chosen = new Set(named.map((name) => choiceOf(field, name)));
      return { ok: true, value: JSON.stringify(field.choices.filter((choice) => chosen.has(choice))) };
    }
  }
}

const choiceOf = (field: CustomField, text: string): string | null =>
  field.choices.find((choice) => choice.toLowerCase() === text.toLowerCase()) ?? null;

/** The choices in a kept value (a JSON list) or in typed text (separated by commas or semicolons). */
export function manyOf(text: string): string[] {
  if (text.startsWith('[')) {
    try {
      const parsed: unknown = JSON.parse(text);
      if (Array.isArray(parsed)) return parsed.filter((item): item is string => typeof item === 'string');
    } catch {
      // Typed text may begin with a bracket too.
    }
  }
  return text
    .split(/[,;]/)
    .map((part) => part.trim())
    .filter(Boolean);
}

/** A kept value as people read it; one that is no longer readable (its kind was another) is shown as it is. */
export function showField(field: CustomField, value: string, currency = 'USD', locale = 'en-US'): string {
  if (value === '') return '';
  switch (field.kind) {
    case 'money':
      return Number.isSafeInteger(Number(value)) ? formatMoney(Number(value), currency, locale) : value;
    case 'date':
      return isIsoDate(value) ? formatDate(value, locale) : value;
    case 'yesno':
      return value === '1' ? 'yes' : 'no';
    case 'number':
      return Number.isFinite(Number(value))
        ? Number(value).toLocaleString(locale, { maximumFractionDigits: 10 })
        : value;
    case 'many':
      return manyOf(value).join(', ');
    case 'text':
    case 'one':
      return value;
  }
}

/** Whether values of a kind are compared as numbers (money in cents, yes as 1); dates compare as their text does. */
export const isNumeric = (kind: FieldKind): boolean => kind === 'number' || kind === 'money' || kind === 'yesno';
