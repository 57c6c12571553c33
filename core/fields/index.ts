import { formatDate, isIsoDate, parseDate } from '../dates/index.ts';
import { formatMoney, parseAmount, typedMoney } from '../money/index.ts';
import type { Formats } from '../money/index.ts';
import { fold, slips } from '../names/index.ts';

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

declare const form: unique symbol;
/** A value in the one form that it is kept in: `500000` for $5,000.00. */
export type Kept = string & { readonly [form]: 'kept' };
/** A value as a person or a file writes it: `$5,000`. */
export type Typed = string & { readonly [form]: 'typed' };

/** Says of a text that a person or a file wrote it. */
export const typed = (text: string): Typed => text as Typed;
/** Says of a text that it was kept, which only what reads it from where values are kept can know. */
export const kept = (text: string): Kept => text as Kept;

export type ReadField = { ok: true; value: Kept } | { ok: false; reason: string };

const YES = ['yes', 'y', 'true', 't', '1', 'x', 'on', '✓', '✔', 'checked'];
const NO = ['no', 'n', 'false', 'f', '0', 'off', '-', 'unchecked'];

/** What yes and no are usually written as; null for what is neither. */
export function yesOrNo(text: string): boolean | null {
  const word = text.trim().toLowerCase();
  return YES.includes(word) ? true : NO.includes(word) ? false : null;
}
const MOST = 1000;

/**
 * Reads what was typed or filed into the one form a value is kept in: text as it is, numbers as `-12.5`, money as
 * cents, dates as `YYYY-MM-DD`, yes and no as `1` and `0`, several choices as a JSON list in the order of the
 * choices. Empty text is the empty value. Choices are matched without regard to case.
 */
export function readField(field: CustomField, text: Typed): ReadField {
  const written = text.normalize('NFC').trim();
  const read = (value: string): ReadField => ({ ok: true, value: kept(value) });
  if (written === '') return read('');
  const refused = (reason: string): ReadField => ({ ok: false, reason });
  switch (field.kind) {
    case 'text':
      return written.length > MOST ? refused(`${field.name} has more than ${MOST} characters.`) : read(written);
    case 'number': {
      const plain = written.replace(/[\s,](?=\d{3}(\D|$))/g, '');
      if (!/^[-+]?(\d+\.?\d*|\.\d+)$/.test(plain) || !Number.isFinite(Number(plain)))
        return refused(`“${written}” is not a number.`);
      return read(String(Number(plain)));
    }
    case 'money': {
      const money = parseAmount(written);
      return money.ok ? read(String(money.cents)) : refused(money.reason);
    }
    case 'date': {
      const date = parseDate(written);
      return date.ok ? read(date.date) : refused(date.reason);
    }
    case 'yesno': {
      const said = yesOrNo(written);
      return said === null ? refused(`“${written}” is neither yes nor no.`) : read(said ? '1' : '0');
    }
    case 'one': {
      const choice = choiceOf(field, written);
      return choice === null ? refused(`“${written}” is not one of ${field.choices.join(', ')}.`) : read(choice);
    }
    case 'many': {
      const named = manyOf(written);
      const unknown = named.find((name) => choiceOf(field, name) === null);
      if (unknown !== undefined) return refused(`“${unknown}” is not one of ${field.choices.join(', ')}.`);
      const chosen = new Set(named.map((name) => choiceOf(field, name)));
      return read(JSON.stringify(field.choices.filter((choice) => chosen.has(choice))));
    }
  }
}

/** The choice of that name; of two that differ by case alone, the one written so. */
const choiceOf = (field: CustomField, text: string): string | null =>
  field.choices.find((choice) => choice === text) ??
  field.choices.find((choice) => choice.toLowerCase() === text.toLowerCase()) ??
  null;

/**
 * A kept value as one would type it, so that a form which shows it and saves it changes nothing: `readField` reads
 * the same value from it. Several choices stay the list that they are, since a choice may hold a comma.
 */
export function typedField(field: Pick<CustomField, 'kind'>, value: Kept): Typed {
  if (value === '') return typed('');
  switch (field.kind) {
    case 'money':
      return typed(Number.isSafeInteger(Number(value)) ? typedMoney(Number(value)) : value);
    case 'yesno':
      return typed(value === '1' ? 'yes' : 'no');
    case 'text':
    case 'number':
    case 'date':
    case 'one':
    case 'many':
      return typed(value);
  }
}

/** Choices that a value holds and its field does not offer are forgiven so many slips, if they are of some length. */
const [NEAR, LONG_ENOUGH] = [2, 5];

/**
 * What is wrong with a kept value of a field with choices that is, or holds, none of them: `near` is the value with the
 * nearest choices in their place, null where one has none that is near, or two. Null where nothing is wrong.
 */
export function offList(field: Pick<CustomField, 'kind' | 'choices'>, value: Kept): { near: Kept | null } | null {
  if (value === '' || (field.kind !== 'one' && field.kind !== 'many')) return null;
  const had = field.kind === 'one' ? [value] : manyOf(value);
  if (had.every((one) => field.choices.includes(one))) return null;
  const near = had.map((one) => (field.choices.includes(one) ? one : nearest(one, field.choices)));
  if (near.includes(null)) return { near: null };
  const chosen = field.choices.filter((choice) => near.includes(choice));
  return { near: kept(field.kind === 'one' ? (chosen[0] ?? '') : JSON.stringify(chosen)) };
}

function nearest(text: string, choices: readonly string[]): string | null {
  const same = choices.filter((choice) => fold(choice) === fold(text));
  const some = same.length > 0 || text.length < LONG_ENOUGH ? same : choices.filter((choice) => isNear(choice, text));
  return some.length === 1 ? (some[0] ?? null) : null;
}
const isNear = (choice: string, text: string): boolean => slips(fold(choice), fold(text), NEAR) <= NEAR;

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
  return listTyped(text);
}

/** The parts of a typed list, separated by commas or semicolons; one that holds such a sign stands in quotation marks. */
export const listTyped = (text: string): string[] =>
  [...text.matchAll(/\s*(?:"([^"]*)"|([^,;]+))/g)]
    .map(([, quoted, bare]) => (quoted ?? bare ?? '').trim())
    .filter(Boolean);

/** A list as it is typed: `Volunteer, "Stars, moons"`. */
export const typeList = (items: readonly string[]): string =>
  items.map((item) => (/[,;]/.test(item) ? `"${item}"` : item)).join(', ');

/** A kept value as people read it; one that is no longer readable (its kind was another) is shown as it is. */
export function showField(field: Pick<CustomField, 'kind'>, value: Kept, formats: Formats): string {
  if (value === '') return '';
  switch (field.kind) {
    case 'money':
      return Number.isSafeInteger(Number(value)) ? formatMoney(Number(value), formats) : value;
    case 'date':
      return isIsoDate(value) ? formatDate(value, formats) : value;
    case 'yesno':
      return value === '1' ? 'yes' : 'no';
    case 'number':
      return Number.isFinite(Number(value))
        ? Number(value).toLocaleString(formats.locale, { maximumFractionDigits: 10 })
        : value;
    case 'many':
      return typeList(manyOf(value));
    case 'text':
    case 'one':
      return value;
  }
}

/** So many different values make a list at most, and each must come so often on average. */
const [LONGEST_LIST, OFTEN] = [12, 3];

/**
 * The kind of field that values, each with how many records have it, would best be kept in; of a list with its
 * choices, the most frequent first.
 */
export function kindFor(values: readonly { value: string; many: number }[]): { kind: FieldKind; choices: string[] } {
  const all = (kind: FieldKind): boolean =>
    values.every(({ value }) => readField({ id: 0, name: '', kind, choices: [] }, typed(value)).ok);
  // A code such as 00412 would lose its zeros as a number or as money.
  const coded = values.some(({ value }) => /^\s*0\d/.test(value));
  const kinds: readonly FieldKind[] = coded ? ['date'] : ['yesno', 'number', 'date', 'money'];
  const found = values.length === 0 ? undefined : kinds.find(all);
  if (found !== undefined) return { kind: found, choices: [] };
  const rows = values.reduce((sum, { many }) => sum + many, 0);
  const choices = [...values].sort((a, b) => b.many - a.many).map(({ value }) => value.trim());
  const few = values.length > 1 && values.length <= LONGEST_LIST && rows >= OFTEN * values.length;
  const fit = new Set(choices.map((one) => one.toLowerCase())).size === choices.length;
  return few && fit && choices.every((one) => one.length <= 80)
    ? { kind: 'one', choices }
    : { kind: 'text', choices: [] };
}

/** Whether values of a kind are compared as numbers (money in cents, yes as 1); dates compare as their text does. */
export const isNumeric = (kind: FieldKind): boolean => kind === 'number' || kind === 'money' || kind === 'yesno';
