import { fold } from './text.ts';

import type { SupporterKind } from '../supporters/index.ts';

/** The parts of a supporter's name; unused parts are empty strings. */
export interface NameParts {
  kind: SupporterKind;
  prefix: string;
  first: string;
  middle: string;
  last: string;
  suffix: string;
  /** The name of a household or an organization. */
  organization: string;
}

/** The parts of a name from some of them; the rest are empty. */
export function supporterParts(parts: { [K in keyof NameParts]?: NameParts[K] | undefined }): NameParts {
  const { kind = 'person', prefix = '', first = '', middle = '', last = '', suffix = '', organization = '' } = parts;
  return { kind, prefix, first, middle, last, suffix, organization };
}

const joined = (...parts: string[]): string => parts.filter((part) => part !== '').join(' ');

const EAST_ASIAN = /^[\p{Script=Han}\p{Script=Hiragana}\p{Script=Hangul}\p{Script=Katakana}ー々 ]+$/u;
const FOREIGN = /^[\p{Script=Katakana}ー ]+$/u;

/** Whether a person's name is in a script that writes the family name first and no space: Chinese, Korean, Japanese. */
export function isFamilyFirst({ first, last }: Pick<NameParts, 'first' | 'last'>): boolean {
  if (first === '' || last === '') return false;
  return EAST_ASIAN.test(last) && EAST_ASIAN.test(first) && !FOREIGN.test(last + first);
}

/** The name as lists and headings show it: `Dr. Ana-María de la Cruz`, `李小龍`, or the organization's own name. */
export function displayName(name: NameParts): string {
  if (name.kind !== 'person') return name.organization;
  const plain = isFamilyFirst(name)
    ? joined(name.prefix, name.last + name.first, name.middle)
    : joined(name.prefix, name.first, name.middle, name.last);
  return [plain, name.suffix].filter(Boolean).join(', ');
}

/** The form names are sorted by: `cruz ana-maria`, folded, with the last name first. */
export function sortName(name: NameParts): string {
  return fold(name.kind === 'person' ? joined(name.last, name.first, name.middle) : name.organization).slice(0, 190);
}
