export type SupporterKind = 'person' | 'household' | 'organization';

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

/** The name as lists and headings show it: `Dr. Ana-María de la Cruz`, or the organization's own name. */
export function displayName(name: NameParts): string {
  if (name.kind !== 'person') return name.organization;
  const plain = joined(name.prefix, name.first, name.middle, name.last);
  return name.suffix === '' ? plain : `${plain}, ${name.suffix}`;
}

/** The form names are sorted by: `cruz ana-maria`, folded, with the last name first. */
export function sortName(name: NameParts): string {
  return fold(name.kind === 'person' ? joined(name.last, name.first, name.middle) : name.organization).slice(0, 190);
}

/** Lower case without accents: what names are compared and found by. */
export function fold(text: string): string {
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

/** The words of a text that a person may type to find it: folded, split at anything but letters and digits. */
export function wordsOf(text: string): string[] {
  return fold(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '');
}

/** An e-mail address in the form it is compared by, or null when it cannot be one (RFC 5321 lengths). */
export function normalEmail(text: string): string | null {
  const address = text.normalize('NFKC').trim().toLowerCase();
  if (address.length > 254 || !/^[^\s@<>(),;:"\\[\]]{1,64}@[^\s@<>(),;:"\\[\]]+\.[^\s@.]{2,}$/.test(address))
    return null;
  if (address.includes('..') || address.startsWith('.') || address.includes('.@')) return null;
  return address;
}

/** The digits of a telephone number, which is what it is found by. */
export function digitsOf(text: string): string {
  return text.normalize('NFKC').replace(/\D+/g, '');
}
