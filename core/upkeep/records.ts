import { addressOn, holdsOn, isBad, phoneKey, readPhone, standardAddress } from '../contact/index.ts';
import type { PostalAddress, Season, Way } from '../contact/index.ts';
import { addDays } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import { displayName, emailSlip, needsCase, oneLine, properCase, sortName } from '../names/index.ts';
import type { NameParts } from '../names/index.ts';
import { countryCode, regionCode, stateOfZip } from '../regions/index.ts';
import type { Fault, Finding } from './findings.ts';

type Kept = Way & { id: number; label: string };
export type KeptAddress = Kept & PostalAddress & Season;
/** A record as it is looked over: its row, and every way to reach it. */
export interface Looked extends NameParts {
  id: number;
  nickname: string;
  formerLast: string;
  birthday: string;
  deceased: boolean;
  householdId: number | null;
  emails: readonly (Kept & { address: string; badReason: string })[];
  phones: readonly (Kept & { number: string })[];
  addresses: readonly KeptAddress[];
}

/** The day that is asked about, and the country (ISO code) that addresses and numbers without one are in. */
export interface When {
  today: IsoDate;
  home: string;
}

/** Everything unclean about a record that is seen from it alone. */
export function faultsOf(record: Looked, when: When): Fault[] {
  const names = [...capitals(record), ...nameless(record), ...birthday(record, when)];
  // Who died is reached no more.
  if (record.deceased) return names;
  return [...names, ...emails(record, when), ...phones(record, when), ...addresses(record, when)];
}

/** Whether a record is but a name, as far as is seen from it alone. */
export const isBare = (record: Looked): boolean =>
  record.emails.length + record.phones.length + record.addresses.length === 0 &&
  record.householdId === null &&
  record.birthday === '' &&
  !record.deceased;

const NAME_COLUMNS = {
  first: 'first',
  middle: 'middle',
  last: 'last',
  nickname: 'nickname',
  formerLast: 'former_last',
  organization: 'organization',
} as const;

/** Letters in a row that stand for words: `IBM`, `KXNV`, `JT`. */
const isAcronym = (text: string, part: keyof typeof NAME_COLUMNS): boolean =>
  text === text.toUpperCase() &&
  (part === 'organization' ? /^[\p{Lu}\d&.]{2,5}$/u.test(text) : part !== 'last' && /^\p{Lu}{2}$/u.test(text));

function capitals(record: Looked): Fault[] {
  const better: Partial<Record<keyof typeof NAME_COLUMNS, string>> = {};
  for (const part of Object.keys(NAME_COLUMNS) as (keyof typeof NAME_COLUMNS)[]) {
    const text = record[part];
    if (!needsCase(text) || isAcronym(text, part)) continue;
    const cased = properCase(text);
    if (cased !== text) better[part] = cased;
  }
  const parts = Object.keys(better) as (keyof typeof NAME_COLUMNS)[];
  if (parts.length === 0) return [];
  const after = { ...record, ...better };
  const shown = (one: Looked): string => {
    const besides = [one.nickname && `“${one.nickname}”`, one.formerLast && `formerly ${one.formerLast}`].filter(
      Boolean,
    );
    return [displayName(one), ...besides].join(', ');
  };
  const columns = (of: Looked): Record<string, string> =>
    Object.fromEntries(parts.map((part) => [NAME_COLUMNS[part], of[part]]));
  return [
    {
      ...{ finding: 'capitals', supporterId: record.id, table: 'supporter', row: record.id },
      ...{ was: shown(record), becomes: shown(after), from: columns(record) },
      to: { ...columns(after), sort_name: sortName(after) },
    },
  ];
}

function nameless(record: Looked): Fault[] {
  const { kind, first, nickname, prefix, last, deceased } = record;
  if (kind !== 'person' || deceased || [first, nickname, prefix].some((part) => part !== '')) return [];
  return [told('nameless', record, `Dear ${last}`, { first: '' })];
}

function birthday(record: Looked, { today }: When): Fault[] {
  const { birthday: born } = record;
  if (!/^\d{4}-/.test(born) || born <= today) return [];
  const earlier = `${String(Number(born.slice(0, 4)) - 100).padStart(4, '0')}${born.slice(4)}`;
  const fits = earlier <= today;
  return [
    {
      ...told('birthday', record, born, { birthday: born }),
      ...(fits ? { becomes: earlier, to: { birthday: earlier } } : {}),
    },
  ];
}

/** A fault of the record itself for which nothing is proposed. */
const told = (finding: Finding, { id }: Looked, was: string, from: Fault['from']): Fault => ({
  ...{ finding, supporterId: id, table: 'supporter', row: id, was, becomes: null, from, to: null },
});

function emails(record: Looked, { today }: When): Fault[] {
  return record.emails
    .filter((one) => holdsOn(one, today))
    .flatMap((one): Fault[] => {
      const of = { supporterId: record.id, table: 'email', row: one.id } as const;
      const meant = isBad(one, today) ? null : emailSlip(one.address);
      if (meant !== null)
        return [
          {
            ...{ finding: 'email-slip', ...of, was: one.address, becomes: meant },
            ...{ from: { address: one.address }, to: { address: meant } },
          },
        ];
      if (!isBad(one, today)) return [];
      const yesterday = addDays(today, -1);
      const begun: Fault['from'] = one.validFrom !== null && one.validFrom > yesterday ? { valid_from: null } : {};
      const why = one.badReason === '' ? '' : `, ${one.badReason}`;
      return [
        {
          ...{ finding: 'email-bad', ...of, was: `${one.address} (bad since ${one.badOn ?? ''}${why})` },
          ...{ becomes: 'former', from: { address: one.address, valid_to: one.validTo, bad_on: one.badOn } },
          to: { ...begun, label: 'former', preferred: 0, valid_to: yesterday },
        },
      ];
    });
}

/** The countries that share the country code 1, whose numbers are three digits for the area and seven more. */
const WITH_AREAS = new Set(['US', 'CA']);

function phones(record: Looked, { today, home }: When): Fault[] {
  if (!WITH_AREAS.has(home)) return [];
  return record.phones
    .filter((one) => holdsOn(one, today) && !isBad(one, today) && lacksArea(one.number))
    .map((one) => ({
      ...{ finding: 'phone-area', supporterId: record.id, table: 'phone', row: one.id, was: one.number },
      ...{ becomes: null, from: { number: one.number }, to: null },
    }));
}

const lacksArea = (number: string): boolean =>
  !number.trim().startsWith('+') && /^\d{7}$/.test(phoneKey(number)) && /^[2-9]/.test(phoneKey(number));

/** A fault of a telephone with an area code put before the number; as it is where that makes no number in use. */
export function withArea(fault: Fault, area: string, home: string): Fault {
  const { text, sure } = readPhone(`(${area}) ${fault.was}`, home);
  return sure ? { ...fault, becomes: text, to: { number: text } } : fault;
}

const ADDRESS_COLUMNS = ['street', 'city', 'region', 'postal', 'country'] as const;
export const inWords = (address: PostalAddress): string =>
  oneLine([address.street, address.city, address.region, address.postal, address.country].filter(Boolean).join(', '));
export const columnsOf = (address: PostalAddress): Record<string, string> =>
  Object.fromEntries(ADDRESS_COLUMNS.map((column) => [column, address[column]]));

function addresses(record: Looked, when: When): Fault[] {
  const { today } = when;
  const held = record.addresses.filter((one) => holdsOn(one, today));
  const usable = held.filter((one) => !isBad(one, today));
  if (held.length > 0 && usable.length === 0) {
    const [bad] = held;
    if (!bad) return [];
    return [
      {
        ...{ finding: 'address-bad', supporterId: record.id, table: 'address', row: bad.id, was: inWords(bad) },
        ...{ becomes: null, from: { bad_on: bad.badOn }, to: null },
      },
    ];
  }
  return usable.flatMap((one) => addressFaults(record.id, one, when));
}

function addressFaults(supporterId: number, one: KeptAddress, { home }: When): Fault[] {
  const fault = (finding: Finding, better: PostalAddress | null, was = inWords(one)): Fault => ({
    ...{ finding, supporterId, table: 'address', row: one.id, was, becomes: better === null ? null : inWords(better) },
    ...{ from: columnsOf(one), to: better === null ? null : columnsOf(better) },
  });
  const domestic = countryCode(one.country, home) === 'US';
  const state = domestic ? stateOfZip(one.postal) : null;
  const missing = [
    ['street', one.street],
    ['city', one.city],
    ...(domestic ? [['state', one.region] as const, ['ZIP', one.postal] as const] : []),
  ].flatMap(([word, text]) => ((text ?? '').trim() === '' ? [word ?? ''] : []));
  if (missing.length > 0) {
    const better = missing.includes('state') && state !== null ? { ...one, region: state } : null;
    const said = inWords(one);
    return [fault('address-incomplete', better, `${said === '' ? 'nothing' : said} (no ${missing.join(', no ')})`)];
  }
  const region = regionCode(one.region, 'US');
  if (domestic && state !== null && region !== null && region !== state)
    return [fault('zip-state', { ...one, region: state })];
  const standard = standardAddress(one, home);
  // A street word that is written out is no fault; where there is one, it is shortened too.
  const unclean = standard?.why.some((why) => why !== 'street abbreviations') ?? false;
  return standard === null || !unclean ? [] : [fault('address-form', standard.address)];
}

/** The address that a record uses on a day, that of a season left aside; null for none. */
export const standingAddress = (record: Pick<Looked, 'addresses'>, { today }: When): KeptAddress | null =>
  addressOn(
    record.addresses.filter(({ seasonFrom }) => seasonFrom === null),
    today,
  );
