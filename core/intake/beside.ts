import { streetKey } from '../contact/index.ts';
import { likeness } from '../duplicates/index.ts';
import { digitsOf, displayName } from '../names/index.ts';
import { comparableOf } from './match.ts';
import type { Here } from './match.ts';
import type { DraftRow } from './rows.ts';

/** One part of a row beside what a record has of it. */
export interface Beside {
  part: string;
  /** What the row says; empty where it says nothing. */
  file: string;
  /** All that the record has, one after the other; empty where it has nothing. */
  ours: string;
  /** Null where one of the two says nothing. */
  agrees: boolean | null;
}

/** What a row and a record say of the parts that they may be known by, with where they agree. */
export function besideOf(draft: DraftRow, here: Here): Beside[] {
  const row = comparableOf(draft);
  const named = { ...row, emails: [], phones: [], addresses: [] };
  const nameHere = { ...here, emails: [], phones: [], addresses: [] };
  const part = (name: string, file: string, ours: readonly string[], same: (one: string) => boolean): Beside => ({
    ...{ part: name, file, ours: ours.join('; ') },
    agrees: file === '' || ours.length === 0 ? null : ours.some(same),
  });
  const digits = (text: string): string => digitsOf(text).slice(-10);
  const lines = (street: string, city: string, postal: string): string =>
    [street.replace('\n', ', '), city, postal].filter(Boolean).join(', ');
  const streets = new Map(here.addresses.map((one) => [lines(one.street, one.city ?? '', one.postal), one]));
  return [
    part('Name', displayName(draft.name), [here.name], () => likeness(named, nameHere).score > 0),
    part('E-mail', draft.email ?? '', here.emails, (one) => one.toLowerCase() === draft.email),
    part('Telephone', draft.phone, here.phones, (one) => digits(one) === digits(draft.phone)),
    {
      ...part('Address', lines(draft.street, draft.city, draft.postal), [...streets.keys()], (one) => {
        return streetKey(streets.get(one)?.street ?? '') === streetKey(draft.street);
      }),
      // A town alone says nothing of where in it somebody lives.
      ...(draft.street === '' ? { agrees: null } : {}),
    },
  ];
}
