import ICAL from 'ical.js';
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

/** A card as it was read, with what it says that supporters have no place for. */
export interface ReadCard extends Card {
  /** The whole name as the card shows it. */
  fullName: string;
  jobTitle: string;
  note: string;
  /** The names of what it holds besides, in small letters. */
  besides: string[];
}

const KINDS = { person: 'individual', household: 'group', organization: 'org' } as const;

/** A text value with what has a meaning of its own made harmless (RFC 6350, section 3.4). */
const escaped = (text: string): string =>
  text
    .replace(/\\/g, '\\\\')
    .replace(/\r\n?|\n/g, '\\n')
    .replace(/,/g, '\\,')
    .replace(/;/g, '\\;');
const parts = (...texts: string[]): string => texts.map(escaped).join(';');

/** How many octets a letter takes in UTF-8; what is half of a pair is written as a sign of three. */
const octetsOf = (letter: string): number => {
  const code = letter.codePointAt(0) ?? 0;
  return code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
};

/** Lines of at most 75 octets of UTF-8, a longer one going on after a space; no character is cut (section 3.2). */
function folded(line: string): string {
  if (line.length <= 75 && /^[ -~]*$/.test(line)) return line;
  const out: string[] = [];
  let now = '';
  let size = 0;
  for (const letter of line) {
    const octets = octetsOf(letter);
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

/** A property as the parser gives it (RFC 7095): its name, parameters, type of value, and values. */
type Property = [name: string, params: Record<string, string | string[]>, type: string, ...values: unknown[]];

/** The longest name with parameters that is looked at; what is longer stands on no card that a person has. */
const LONGEST_HEAD = 1000;

/** Reads the cards of a file, versions 2.1 as far as it agrees, 3.0 and 4.0. What is not a card is passed over. */
export function readCards(text: string): ReadCard[] {
  const lines = text
    .replace(/\r\n?/g, '\n')
    .replace(/\n[ \t]/g, '')
    .split('\n');
  const cards: ReadCard[] = [];
  let open: string[] | null = null;
  for (const line of lines) {
    const plain = line.length < 20 ? line.trim().toUpperCase() : '';
    if (plain === 'BEGIN:VCARD') open = [];
    else if (plain === 'END:VCARD') {
      if (open) cards.push(cardOf(propertiesOf(open)));
      open = null;
    } else if (open) open.push(line);
  }
  return cards;
}

function propertiesOf(lines: readonly string[]): Property[] {
  const four = lines.some((line) => /^VERSION:4/i.test(line));
  return lines.flatMap((line) => {
    const read = propertyOf(line, four ? ICAL.design.vcard : ICAL.design.vcard3);
    return read ? [read] : [];
  });
}

function propertyOf(line: string, design: typeof ICAL.design.vcard): Property | null {
  const colon = endOfHead(line);
  if (colon < 0 || colon > LONGEST_HEAD) return null;
  // Version 2.1 writes `TEL;HOME:`; the bare word is a type.
  const head = line.slice(0, colon).replace(/;([\w-]+)(?=;|$)/g, ';TYPE=$1');
  try {
    return ICAL.parse.property(head + line.slice(colon), design) as Property;
  } catch {
    return null;
  }
}

/** Where the name and parameters of a line end: at the first colon that is not in quotation marks; -1 where nowhere. */
function endOfHead(line: string): number {
  let quoted = false;
  for (let at = 0; at < line.length && at <= LONGEST_HEAD; at++) {
    if (line[at] === '"') quoted = !quoted;
    else if (line[at] === ':' && !quoted) return at;
  }
  return -1;
}

const textIn = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
/** The parts of a value that has several, as a name or an address. */
const partsOf = (property: Property | undefined): string[] => {
  const [value] = property?.slice(3) ?? [];
  // A part that has several values itself is a list; the first counts.
  return (Array.isArray(value) ? value : [value]).map((part: unknown) =>
    textIn(Array.isArray(part) ? (part as unknown[]).filter(Boolean).join('; ') : part),
  );
};

/** What is read of a card, and what says something of the card alone. */
const READ = new Set(
  'version prodid rev uid source kind xml clientpidmap sort-string n fn nickname org bday email tel adr categories title note'.split(
    ' ',
  ),
);

function cardOf(properties: readonly Property[]): ReadCard {
  const all = (name: string): Property[] => properties.filter(([one]) => one === name);
  const texts = (name: string): { text: string; property: Property }[] =>
    all(name).map((property) => ({ text: textIn(property[3]), property }));
  const first = (name: string): string => texts(name)[0]?.text ?? '';
  const [last = '', given = '', middle = '', prefix = '', suffix = ''] = partsOf(all('n')[0]);
  const [organization = ''] = partsOf(all('org')[0]);
  const kind = first('kind').toLowerCase();
  const isOrganization = kind === 'org' || (kind === '' && last === '' && given === '' && organization !== '');
  return {
    kind: kind === 'group' ? 'household' : isOrganization ? 'organization' : 'person',
    prefix,
    first: given,
    middle,
    last,
    suffix,
    nickname: first('nickname'),
    organization: organization || (kind === 'group' || isOrganization ? first('fn') : ''),
    birthday: birthdayOf(first('bday')),
    emails: texts('email').map(({ text, property }) => ({
      address: text.replace(/^mailto:/i, '').trim(),
      ...labelOf(property),
    })),
    phones: texts('tel').map(({ text, property }) => ({
      number: text.replace(/^tel:/i, '').trim(),
      ...labelOf(property),
    })),
    addresses: all('adr').map((property) => {
      const [box = '', more = '', street = '', city = '', region = '', postal = '', country = ''] = partsOf(property);
      return {
        street: [box, street, more].filter(Boolean).join('\n'),
        ...{ city, region, postal, country },
        ...labelOf(property),
      };
    }),
    tags: all('categories')
      .flatMap((property) => property.slice(3).map(textIn))
      .filter(Boolean),
    ...{ fullName: first('fn'), jobTitle: first('title') },
    note: texts('note')
      .flatMap(({ text }) => text || [])
      .join('\n'),
    besides: [
      ...new Set(
        properties.flatMap(([name, , , ...values]) => {
          const unread =
            name === 'bday' ? birthdayOf(textIn(values[0])) === '' : !READ.has(name) && !name.startsWith('x-ab');
          return unread && values.some((value) => value !== '') ? [name] : [];
        }),
      ),
    ],
  };
}

function labelOf([, params]: Property): { label: string; preferred: boolean } {
  const types = [params['type'] ?? []].flat().flatMap((type) => type.toLowerCase().split(','));
  const label = types.includes('cell')
    ? 'mobile'
    : types.includes('work')
      ? 'work'
      : types.includes('home')
        ? 'home'
        : 'other';
  return { label, preferred: types.includes('pref') || 'pref' in params };
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
