import type { PostalAddress } from '../contact/index.ts';
import type { Kept } from '../fields/index.ts';
import { oneLine } from '../names/index.ts';
import { NAME_COLUMNS } from './details.ts';
import type { FiledAddress, RowDetails } from './details.ts';
import { ownField } from './fields.ts';
import { sameAddress, sameNumber, sameText } from './ways.ts';
import type { KeptRecord } from './ways.ts';

/* A list that was made here, changed elsewhere, and comes back: which of its cells were changed. */

const WRITTEN = ['street', 'city', 'region', 'postal'] as const;
type KeptAddress = KeptRecord['addresses'][number];

/** What was changed in a row since its list was made. */
interface Edited extends Pick<RowDetails, 'names' | 'emails' | 'phones'> {
  /** Null where it was not changed. */
  birthday: string | null;
  addresses: FiledAddress[];
  own: (readonly [field: number, value: Kept])[];
  /** Tags that were put on and taken off. */
  tags: { on: string[]; off: string[] };
  /** An address of the record that is the same one, written otherwise. */
  mended: { at: KeptAddress; parts: PostalAddress }[];
}

const written = (address: PostalAddress): string => WRITTEN.map((part) => oneLine(address[part])).join('|');

/**
 * What a row says otherwise than `base`, the record as it was when the list was made; an emptied cell says the empty
 * text. `record` is as it is now.
 */
export function editedIn(
  { names, birthday, emails, phones, addresses, tags, back }: RowDetails,
  own: readonly (readonly [field: number, value: Kept])[],
  base: KeptRecord,
  record: KeptRecord,
): Edited {
  const found: Edited['names'] = {};
  for (const column of NAME_COLUMNS) {
    const value = back?.blank.has(column) ? '' : names[column];
    if (value !== undefined && value !== base.names[column]) found[column] = value;
  }
  const emptiedBirthday = back?.blank.has('birthday') && base.birthday !== '';
  // A list may show birthdays without their years.
  const same = birthday === base.birthday || (birthday.startsWith('--') && base.birthday.endsWith(birthday.slice(2)));
  const told = birthday === '' || same ? null : birthday;
  const emptied = [...(back?.blank ?? [])].flatMap((column) => {
    const field = ownField(column);
    return field !== null && base.own.has(field) ? [[field, '' as Kept] as const] : [];
  });
  /** An address with what the list has no column for. */
  const completed = (address: FiledAddress, from: PostalAddress): FiledAddress => ({
    ...address,
    ...Object.fromEntries([...(back?.lacks ?? [])].map((part) => [part, from[part]])),
  });
  const tagsTold = tags.length > 0 || back?.blank.has('tag') === true;
  const has = (all: readonly { name: string }[], tag: string): boolean => all.some(({ name }) => sameText(name, tag));
  const mended: Edited['mended'] = [];
  const used = base.addresses.find(({ usable }) => usable);
  const moved = addresses
    .map((address, at) => (at === 0 && used ? completed(address, used) : address))
    .filter((address) => {
      if (base.addresses.some((one) => written(one) === written(address))) return false;
      const at = record.addresses.find((one) => one.usable && sameAddress(one, address));
      if (!at) return true;
      const { street, city, region, postal, country } = address;
      // The lines of a street are on one in a list.
      const lines = oneLine(at.street) === street ? at.street : street;
      if (written(at) !== written(address))
        mended.push({ at, parts: { street: lines, city, region, postal, country } });
      return false;
    });
  return {
    names: found,
    birthday: emptiedBirthday ? '' : told,
    emails: emails.filter(({ address }) => !base.emails.some((one) => one.address === address)),
    phones: phones.filter(({ number }) => !base.phones.some((one) => sameNumber(one.number, number))),
    addresses: moved,
    own: [...own.filter(([field, value]) => base.own.get(field) !== value), ...emptied],
    tags: {
      on: tags.filter((tag) => !has(base.tags, tag) && !has(record.tags, tag)),
      off: base.tags
        .filter(({ name }) => tagsTold && !tags.some((tag) => sameText(name, tag)) && has(record.tags, name))
        .map(({ name }) => name),
    },
    mended,
  };
}
