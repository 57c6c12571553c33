import { isBirthday } from '../dates/index.ts';
import type { SupporterKind } from '../supporters/index.ts';

/** What a card carries of one supporter. */
export interface Card {
  kind: SupporterKind;
  prefix: string;
  first: string;
  middle: string;
  last: string;
  suffix: string;
  nickname: string;
  organization: string;
  /** `1961-03-14`, `--03-14`, or empty. */
  birthday: string;
  emails: { address: string; label: string; preferred: boolean }[];
  phones: { number: string; label: string; preferred: boolean }[];
  addresses: {
    street: string;
    city: string;
    region: string;
    postal: string;
    country: string;
    label: string;
    preferred: boolean;
  }[];
  tags: string[];
}

const KINDS = { person: 'individual', household: 'group', organization: 'org' } as const;

/** A text value with what has a meaning of its own made harmless (RFC 6350, section 3.4). */
const escaped = (text: string): string =>
  text.replace(/\\/g, '\\\\').replace(/\r?\n/g, '\\n').replace(/,/g, '\\,').replace(/;/g, '\\;');
const parts = (...texts: string[]): string => texts.map(escaped).join(';');

/** Lines of at most 75 octets of UTF-8, a longer one going on after a space; no character is cut (section 3.2). */
function folded(line: string): string {
  const out: string[] = [];
  let now = '';
  let size = 0;
  for (const letter of line) {
    const octets = new TextEncoder().encode(letter).length;
    if (size + octets > 75) {
      out.push(now);
      now = ' ';
      size = 1;
    }
    now += letter;
    size += octets;
  }
  return [...out, now].join('\r\n');
}

/** One supporter as a vCard 4.0 (RFC 6350), or 3.0 (RFC 2426) for programs that know only that. */
export function writeCard(card: Card, name: string, version: '3.0' | '4.0' = '4.0'): string {
  const four = version === '4.0';
  const typed = (label: string, preferred: boolean): string => {
    const type = label === 'home' || label === 'work' ? label : label === 'mobile' ? 'cell' : '';
    const types = [...(type ? [type] : []), ...(preferred && !four ? ['pref'] : [])];
    return `${types.length > 0 ? `;TYPE=${types.join(',')}` : ''}${preferred && four ? ';PREF=1' : ''}`;
  };
  const birthday = four
    ? card.birthday.replace(/-/g, (dash, at: number) => (at < 2 && card.birthday.startsWith('--') ? dash : ''))
    : card.birthday;
  const lines = [
    'BEGIN:VCARD',
    `VERSION:${version}`,
    ...(four ? [`KIND:${KINDS[card.kind]}`] : []),
    `FN:${escaped(name)}`,
    `N:${parts(card.last, card.first, card.middle, card.prefix, card.suffix)}`,
    ...(card.nickname ? [`NICKNAME:${escaped(card.nickname)}`] : []),
    ...(card.organization ? [`ORG:${escaped(card.organization)}`] : []),
    ...(card.birthday && (four || !card.birthday.startsWith('--')) ? [`BDAY:${birthday}`] : []),
    ...card.emails.map((way) => `EMAIL${typed(way.label, way.preferred)}:${escaped(way.address)}`),
    ...card.phones.map((way) => `TEL${typed(way.label, way.preferred)}:${escaped(way.number)}`),
    ...card.addresses.map(
      (way) =>
        `ADR${typed(way.label, way.preferred)}:${parts('', '', way.street, way.city, way.region, way.postal, way.country)}`,
    ),
    ...(card.tags.length > 0 ? [`CATEGORIES:${card.tags.map(escaped).join(',')}`] : []),
    'END:VCARD',
  ];
  return `${lines.map(folded).join('\r\n')}\r\n`;
}

interface Property {
  name: string;
  params: Map<string, string[]>;
  value: string;
}

/** Reads the cards of a file, versions 2.1 as far as it agrees, 3.0 and 4.0. What is not a card is passed over. */
export function readCards(text: string): Card[] {
  const lines = text
    .replace(/\r\n?/g, '\n')
    .replace(/\n[ \t]/g, '')
    .split('\n');
  const cards: Card[] = [];
  let open: Property[] | null = null;
  for (const line of lines) {
    const plain = line.trim().toUpperCase();
    if (plain === 'BEGIN:VCARD') open = [];
    else if (plain === 'END:VCARD') {
      if (open) cards.push(cardOf(open));
      open = null;
    } else if (open) {
      const property = propertyOf(line);
      if (property) open.push(property);
    }
  }
  return cards;
}

function propertyOf(line: string): Property | null {
  // A colon within a quoted parameter is not the end of the name.
  const found = /^(?:[\w-]+\.)?([\w-]+)((?:;(?:"[^"]*"|[^":])*)?):(.*)$/s.exec(line);
  if (!found) return null;
  const params = new Map<string, string[]>();
  for (const [, name = '', value] of (found[2] ?? '').matchAll(/;([\w-]+)(?:=((?:"[^"]*"|[^;"])*))?/g)) {
    // Version 2.1 writes `TEL;HOME:`; the bare word is a type.
    const key = value === undefined ? 'TYPE' : name.toUpperCase();
    const values = (value ?? name).replace(/"/g, '').split(',');
    params.set(key, [...(params.get(key) ?? []), ...values.map((one) => one.toLowerCase())]);
  }
  return { name: (found[1] ?? '').toUpperCase(), params, value: found[3] ?? '' };
}

const unescaped = (text: string): string =>
  text.replace(/\\([nN,;\\:])/g, (_all, sign: string) => (/n/i.test(sign) ? '\n' : sign));
/** Splits at a sign that is not escaped. */
const split = (text: string, sign: ';' | ','): string[] =>
  (text.match(sign === ';' ? /(?:\\.|[^;\\])*(?:;|$)/gs : /(?:\\.|[^,\\])*(?:,|$)/gs) ?? [])
    .slice(0, -1)
    .map((part) => unescaped(part.endsWith(sign) && !/\\.$/s.test(part) ? part.slice(0, -1) : part).trim());

function cardOf(properties: readonly Property[]): Card {
  const all = (name: string): Property[] => properties.filter((property) => property.name === name);
  const first = (name: string): string => unescaped(all(name)[0]?.value ?? '').trim();
  const [last = '', given = '', middle = '', prefix = '', suffix = ''] = split(all('N')[0]?.value ?? '', ';');
  const organization = split(all('ORG')[0]?.value ?? '', ';')[0] ?? '';
  const kind = first('KIND').toLowerCase();
  const isOrganization = kind === 'org' || (kind === '' && last === '' && given === '' && organization !== '');
  return {
    kind: kind === 'group' ? 'household' : isOrganization ? 'organization' : 'person',
    prefix,
    first: given,
    middle,
    last,
    suffix,
    nickname: split(all('NICKNAME')[0]?.value ?? '', ',')[0] ?? '',
    organization: organization || (kind === 'group' || isOrganization ? first('FN') : ''),
    birthday: birthdayOf(first('BDAY')),
    emails: all('EMAIL').map((one) => ({
      address: unescaped(one.value)
        .replace(/^mailto:/i, '')
        .trim(),
      ...labelOf(one),
    })),
    phones: all('TEL').map((one) => ({ number: unescaped(one.value).replace(/^tel:/i, '').trim(), ...labelOf(one) })),
    addresses: all('ADR').map((one) => {
      const [box = '', more = '', street = '', city = '', region = '', postal = '', country = ''] = split(
        one.value,
        ';',
      );
      return { street: [box, street, more].filter(Boolean).join('\n'), city, region, postal, country, ...labelOf(one) };
    }),
    tags: all('CATEGORIES')
      .flatMap((one) => split(one.value, ','))
      .filter(Boolean),
  };
}

function labelOf({ params }: Property): { label: string; preferred: boolean } {
  const types = params.get('TYPE') ?? [];
  const label = types.includes('cell')
    ? 'mobile'
    : types.includes('work')
      ? 'work'
      : types.includes('home')
        ? 'home'
        : 'other';
  return { label, preferred: types.includes('pref') || params.has('PREF') };
}

/** `19610314`, `1961-03-14T00:00:00Z` and `--0314` in the form birthdays are kept; empty where it is none. */
function birthdayOf(text: string): string {
  const digits = /^(\d{4}|--)-?(\d{2})-?(\d{2})/.exec(text);
  if (!digits) return '';
  const kept =
    digits[1] === '--'
      ? `--${digits[2] ?? ''}-${digits[3] ?? ''}`
      : `${digits[1] ?? ''}-${digits[2] ?? ''}-${digits[3] ?? ''}`;
  return isBirthday(kept) ? kept : '';
}
