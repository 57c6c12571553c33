import type { SupporterKind } from '@tallystick/core/names';
import type { Wish } from '@tallystick/core/wishes';
import { day, flag, long, maybe, ref, table, text } from '../platform/tables.ts';

export interface SupporterRecord {
  id: number;
  version: number;
  kind: SupporterKind;
  prefix: string;
  first: string;
  middle: string;
  last: string;
  suffix: string;
  nickname: string;
  former_last: string;
  organization: string;
  org_kind: string;
  birthday: string;
  sort_name: string;
  addressing: string | null;
  household_id: number | null;
  primary_id: number | null;
  /** 0 is on record, 1 in the trash, 2 emptied out of it: only its gifts are kept. */
  trashed: number;
}
interface Owned {
  id: number;
  version: number;
  supporter_id: number;
}
export interface WayRecord extends Owned {
  label: string;
  preferred: number;
  valid_from: string | null;
  valid_to: string | null;
  bad_on: string | null;
  bad_reason: string;
}
export interface EmailRecord extends WayRecord {
  address: string;
}
export interface PhoneRecord extends WayRecord {
  number: string;
}
export interface AddressRecord extends WayRecord {
  street: string;
  city: string;
  region: string;
  postal: string;
  country: string;
  season_from: string | null;
  season_to: string | null;
}
export interface WishRecord extends Owned {
  kind: Wish;
  since: string;
  source: string;
  set_by: string;
  happened_on: string | null;
}

const owned = { supporter: 'supporter_id', partOfRecord: true } as const;
const apart = { supporter: 'supporter_id' } as const;
const way = {
  supporter_id: ref,
  label: text(40),
  preferred: flag,
  valid_from: maybe(day),
  valid_to: maybe(day),
  bad_on: maybe(day),
  bad_reason: text(60),
};

export const SupporterTable = table<SupporterRecord>(
  'supporter',
  { supporter: 'id', alsoWhenChanged: 'household_id', partOfRecord: true },
  {
    kind: text(12),
    prefix: text(30),
    first: text(120),
    middle: text(120),
    last: text(120),
    suffix: text(30),
    nickname: text(120),
    former_last: text(120),
    organization: text(120),
    org_kind: text(20),
    birthday: text(10),
    sort_name: text(190),
    addressing: maybe(long),
    household_id: maybe(ref),
    primary_id: maybe(ref),
    trashed: flag,
  },
);
export const EmailTable = table<EmailRecord>('email', owned, { ...way, address: text(254) });
export const PhoneTable = table<PhoneRecord>('phone', owned, { ...way, number: text(40) });
export const AddressTable = table<AddressRecord>('address', owned, {
  ...way,
  street: text(200),
  city: text(100),
  region: text(60),
  postal: text(20),
  country: text(60),
  season_from: maybe(text(5)),
  season_to: maybe(text(5)),
});
export const WishTable = table<WishRecord>('wish', owned, {
  supporter_id: ref,
  kind: text(20),
  since: day,
  source: text(120),
  set_by: text(120),
  happened_on: maybe(day),
});
export const TagTable = table<{ id: number; version: number; name: string }>('tag', {}, { name: text(60) });
export const SupporterTagTable = table<Owned & { tag_id: number; source: string }>('supporter_tag', owned, {
  supporter_id: ref,
  tag_id: ref,
  source: text(20),
});
export const SupporterFieldTable = table<Owned & { field_id: number; value: string }>('supporter_field', owned, {
  supporter_id: ref,
  field_id: ref,
  value: text(1000),
});
export const GroupTable = table<{ id: number; version: number; name: string; about: string }>(
  'people_group',
  {},
  { name: text(80), about: text(500) },
);
export const GroupMemberTable = table<Owned & { group_id: number }>('group_member', apart, {
  supporter_id: ref,
  group_id: ref,
});
