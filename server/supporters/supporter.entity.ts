import type { Row } from '@tallystick/core/changes';
import { named, word } from '@tallystick/core/history';
import type { Show, Telling } from '@tallystick/core/history';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { WISHES } from '@tallystick/core/wishes';
import type { Wish } from '@tallystick/core/wishes';
import { day, flag, long, maybe, ref, setUp, table, text } from '../platform/tables.ts';
import type { RowOf, TableRule } from '../platform/tables.ts';
import { isFinal } from '../platform/changes.ts';
import type { SupporterKind } from '@tallystick/core/supporters';
import { addressKey, phoneKey } from '@tallystick/core/contact';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    trash: true;
    erase: true;
  }
}
isFinal('erase', 'the personal details are gone for good; the gifts were kept');

const overrides: Show = (value) => {
  if (typeof value !== 'string') return 'by the rules';
  const texts: Record<string, { text: string }> = JSON.parse(value);
  return Object.values(texts)
    .map(({ text: written }) => `“${written}”`)
    .join(', ');
};

export const SupporterTable = table(
  'supporter',
  {
    ...{
      area: 'supporters',
      owner: 'id',
      alsoWhenChanged: 'household_id',
      partOfRecord: true,
      topics: ['record'],
      merging: 'record',
      leads: 'merged_into',
      undo: 'rows',
    },
    called: (row) => `Record of ${displayName(row as unknown as NameParts)}`,
    // Whoever gave, or was sent something, stays without a name; others go.
    erasing: {
      blank: {
        ...{
          prefix: '',
          first: '',
          middle: '',
          suffix: '',
          nickname: '',
          former_last: '',
          birthday: '',
          sort_name: '',
        },
        ...{ addressing: null, household_id: null, primary_id: null, merged_into: null },
      },
    },
  },
  {
    kind: text<SupporterKind>(12).says('Kind'),
    prefix: text(30).says('Prefix'),
    first: text(120).says('First name'),
    middle: text(120).says('Middle name'),
    last: text(120).says('Last name'),
    suffix: text(30).says('Suffix'),
    nickname: text(120).says('Nickname'),
    former_last: text(120).says('Former last name'),
    organization: text(120).says('Name'),
    org_kind: text(20).says('Kind of organization'),
    birthday: text(10).says('Birthday'),
    sort_name: text(190),
    addressing: maybe(long).says('Addressee or salutation', overrides),
    household_id: maybe(ref).says('Household', named('supporter')),
    primary_id: maybe(ref).says('Primary', named('supporter')),
    /** `erased`: emptied out of the trash; only what must be kept of it is. `merged`: found to be another. */
    state: text<'active' | 'trash' | 'erased' | 'merged'>(8).says(
      'State',
      word({ active: 'kept', trash: 'in the trash', erased: 'erased', merged: 'merged' }),
    ),
    /** Whom its number leads to; always one who is not merged into another. */
    merged_into: maybe(ref).says('Merged into', named('supporter')),
  },
);
export type SupporterRecord = RowOf<typeof SupporterTable>;

/** The rule of what is part of a supporter's record, but its topic and what it is called. */
const ofRecord = {
  area: 'supporters',
  owner: 'supporter_id',
  partOfRecord: true,
  erasing: 'remove',
  undo: 'rows',
} as const;
const wayOf = (called: (row: Row) => string, once: (row: Row) => string): TableRule => ({
  ...{ ...ofRecord, topics: ['contact'], called },
  // One way that both have is one; what one of them lacks of it is taken from the other.
  merging: {
    once: (row) => `${once(row)}|${row['valid_to'] === null ? '' : String(row['valid_to'])}`,
    else: 'stays',
    both: completed,
  },
});
/** The columns of a row that are empty, as the other has them. */
const completed = (kept: Row, other: Row): Row =>
  Object.fromEntries(
    Object.entries(other).filter(([column, value]) => kept[column] === '' && value !== '' && value !== null),
  );
/** What every way to reach someone has. */
const way = {
  supporter_id: ref,
  valid_from: maybe(day).says('Valid from'),
  valid_to: maybe(day).says('Valid to'),
  bad_on: maybe(day).says('Undeliverable since'),
  bad_reason: text(60).says('Reason'),
};

export const EmailTable = table(
  'email',
  wayOf(
    (row) => `E-mail ${String(row['address'])}`,
    (row) => String(row['address']).toLowerCase(),
  ),
  {
    address: text(254).says('E-mail'),
    label: text(40).says('E-mail label'),
    preferred: flag.says('Preferred e-mail'),
    ...way,
  },
);
export type EmailRecord = RowOf<typeof EmailTable>;

export const PhoneTable = table(
  'phone',
  wayOf(
    (row) => `Telephone ${String(row['number'])}`,
    (row) => phoneKey(String(row['number'])),
  ),
  {
    number: text(40).says('Telephone'),
    label: text(40).says('Telephone label'),
    preferred: flag.says('Preferred telephone'),
    ...way,
  },
);
export type PhoneRecord = RowOf<typeof PhoneTable>;

export const AddressTable = table(
  'address',
  wayOf(
    (row) =>
      `Address ${['street', 'city', 'region', 'postal']
        .map((column) => row[column])
        .filter(Boolean)
        .join(', ')}`,
    (row) =>
      addressKey({ street: String(row['street']), city: String(row['city']), postal: String(row['postal']) }) +
      String(row['season_from'] ?? ''),
  ),
  {
    street: text(200).says('Street'),
    city: text(100).says('City'),
    region: text(60).says('State'),
    postal: text(20).says('ZIP'),
    country: text(60).says('Country'),
    label: text(40).says('Address label'),
    preferred: flag.says('Preferred address'),
    season_from: maybe(text(5)).says('First day of the season'),
    season_to: maybe(text(5)).says('Last day of the season'),
    ...way,
  },
);
export type AddressRecord = RowOf<typeof AddressTable>;
/** What the ways to reach someone have in common. */
export type WayRecord = Pick<EmailRecord & PhoneRecord & AddressRecord, keyof EmailRecord & keyof AddressRecord>;

export const WishTable = table(
  'wish',
  {
    ...{ ...ofRecord, topics: ['record'] },
    called: ({ kind, source }) => `Wish “${WISHES[kind as Wish]?.word ?? String(kind)}”, ${String(source)},`,
    // Every wish holds back, so that of two records all of both hold; the same one since it was first said.
    merging: {
      once: (row) => String(row['kind']),
      else: 'stays',
      both: (kept, other) => ({
        ...(String(other['since']) < String(kept['since']) ? { since: other['since'] ?? null } : {}),
        ...(kept['happened_on'] === null && other['happened_on'] !== null
          ? { happened_on: other['happened_on'] ?? null }
          : {}),
      }),
    },
  },
  {
    supporter_id: ref,
    kind: text<Wish>(20),
    since: day.says('Wished since'),
    source: text(120).says('Source of the wish'),
    set_by: text(120),
    happened_on: maybe(day).says('Day of death'),
  },
);
export type WishRecord = RowOf<typeof WishTable>;

export const TagTable = table('tag', setUp('supporters', 'Tag'), { name: text(60).says('Name') });

/** The name of the row that a column names, within a sentence. */
const nameIn = (row: Row, column: string, of: string, telling: Telling): string =>
  named(of)(row[column] ?? null, telling);

export const SupporterTagTable = table(
  'supporter_tag',
  {
    ...{ ...ofRecord, topics: ['ties'] },
    called: (row, telling) => `Tag ${nameIn(row, 'tag_id', 'tag', telling)}`,
    merging: { once: (row) => String(row['tag_id']), else: 'stays' },
    // A tag that a segment keeps comes and goes by itself, and is no reason to refuse an edit that is under way.
    partOfRecord: (row) => row['source'] !== 'segment',
  },
  { supporter_id: ref, tag_id: ref.says('Tag', named('tag')), source: text(20) },
);
export const GroupTable = table('people_group', setUp('supporters', 'People group'), {
  name: text(80),
  about: text(500),
});
/** What somebody is called where files come from: by a number there, or by how a row names them of whom a person chose. */
export const KnownAsTable = table(
  'known_as',
  {
    ...{ area: 'supporters', owner: 'supporter_id', topics: ['record'], erasing: 'remove', undo: 'rows' },
    merging: { once: (row) => `${String(row['source'])}|${String(row['called'])}`, else: 'stays' },
    called: ({ called, source }) =>
      String(called).startsWith('=')
        ? `Choice for rows from ${String(source)}`
        : `Number “${String(called)}” at ${String(source)}`,
  },
  { supporter_id: ref, source: text(60), called: text(190) },
);
export type KnownAsRecord = RowOf<typeof KnownAsTable>;
export const GroupMemberTable = table(
  'group_member',
  {
    ...{ area: 'supporters', owner: 'supporter_id', topics: ['ties'], erasing: 'remove', undo: 'rows' },
    merging: { once: (row) => String(row['group_id']), else: 'stays' },
    called: (row, telling) => `Group ${nameIn(row, 'group_id', 'people_group', telling)}`,
  },
  { supporter_id: ref, group_id: ref.says('Group', named('people_group')) },
);
