import type { SupporterKind } from '@tallystick/core/names';
import { day, flag, maybe, ref, table, text } from '../platform/tables.ts';

export interface SupporterRecord {
  id: number;
  version: number;
  kind: SupporterKind;
  prefix: string;
  first: string;
  middle: string;
  last: string;
  suffix: string;
  organization: string;
  sort_name: string;
  no_email: number;
  deceased: number;
  trashed: number;
}
interface Owned {
  id: number;
  version: number;
  supporter_id: number;
}
export interface EmailRecord extends Owned {
  address: string;
  label: string;
  preferred: number;
  bounced_on: string | null;
}
export interface PhoneRecord extends Owned {
  number: string;
  label: string;
  preferred: number;
}
export interface AddressRecord extends Owned {
  street: string;
  city: string;
  region: string;
  postal: string;
  country: string;
  label: string;
  preferred: number;
}

const owned = { supporter: 'supporter_id', partOfRecord: true } as const;
const way = { supporter_id: ref, label: text(40), preferred: flag };

export const SupporterTable = table<SupporterRecord>(
  'supporter',
  { supporter: 'id', partOfRecord: true },
  {
    kind: text(12),
    prefix: text(30),
    first: text(120),
    middle: text(120),
    last: text(120),
    suffix: text(30),
    organization: text(120),
    sort_name: text(190),
    no_email: flag,
    deceased: flag,
    trashed: flag,
  },
);
export const EmailTable = table<EmailRecord>('email', owned, { ...way, address: text(254), bounced_on: maybe(day) });
export const PhoneTable = table<PhoneRecord>('phone', owned, { ...way, number: text(40) });
export const AddressTable = table<AddressRecord>('address', owned, {
  ...way,
  street: text(200),
  city: text(100),
  region: text(60),
  postal: text(20),
  country: text(60),
});
export const TagTable = table<{ id: number; version: number; name: string }>('tag', {}, { name: text(60) });
export const SupporterTagTable = table<Owned & { tag_id: number; source: string }>('supporter_tag', owned, {
  supporter_id: ref,
  tag_id: ref,
  source: text(20),
});
