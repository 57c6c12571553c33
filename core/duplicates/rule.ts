import type { Profile } from './profile.ts';

/* Records that agree in what a person chose, exactly, nearly, or in their first letters. */

/** What records may have to agree in. `near`: by sound or short form, whatever the unit, the year, or the area code. */
export const RULE_FIELDS = {
  first: { label: 'First name', near: 'sounds alike, or a short form' },
  last: { label: 'Last name', near: 'sounds alike' },
  name: { label: 'Name of an organization or household', near: 'its first two words' },
  email: { label: 'E-mail', near: 'the part before the @' },
  phone: { label: 'Telephone', near: 'the last seven digits' },
  street: { label: 'Street', near: 'whatever the unit' },
  postal: { label: 'ZIP', near: 'its first three signs' },
  city: { label: 'City', near: 'its first four letters' },
  birthday: { label: 'Birthday', near: 'whatever the year' },
} as const;
export type RuleField = keyof typeof RULE_FIELDS;
export const RULE_HOWS = ['exactly', 'nearly', 'letters'] as const;
export type RuleHow = (typeof RULE_HOWS)[number];

/** One thing that records must agree in; with `letters`, in so many first letters. */
export interface RulePart {
  field: RuleField;
  how: RuleHow;
  letters: number;
}

/** More combinations of a record's ways than these are not looked at. */
const MOST_KEYS = 60;

/** What records of a group share, one key for each combination of the ways that a record has; none where it lacks one. */
export function ruleKeys(one: Profile, parts: readonly RulePart[]): string[] {
  let keys = [one.kind.slice(0, 1)];
  for (const part of parts) {
    const values = [...new Set(valuesOf(one, part))].filter((value) => value !== '');
    keys = keys.flatMap((key) => values.map((value) => `${key}|${value}`)).slice(0, MOST_KEYS);
  }
  return parts.length === 0 ? [] : keys;
}

function valuesOf(one: Profile, { field, how, letters }: RulePart): readonly string[] {
  const near = how === 'nearly';
  const exact = (): readonly string[] => {
    switch (field) {
      case 'first':
        return near ? (one.groups.length > 0 ? one.groups.map(String) : one.firstSounds) : [one.first];
      case 'last':
        return near ? one.lastSounds : [one.last];
      case 'name':
        return [near ? one.words.slice(0, 2).join(' ') : one.words.join(' ')];
      case 'email':
        return near ? one.emails.map((email) => email.slice(0, email.lastIndexOf('@'))) : one.emails;
      case 'phone':
        return near ? one.phones.map((phone) => phone.slice(-7)) : one.phones;
      case 'street':
        return one.streets.map(({ house, street, unit }) =>
          house + street === '' ? '' : [house, street, near ? '' : unit].join(' ').trim(),
        );
      case 'postal':
        return one.streets.map(({ postal }) => (near ? postal.slice(0, 3) : postal));
      case 'city':
        return one.streets.map(({ city }) => (near ? city.slice(0, 4) : city));
      case 'birthday':
        return [near ? one.birthday.slice(-5) : one.birthday.length === 10 ? one.birthday : ''];
    }
  };
  return how === 'letters' ? exact().map((value) => value.slice(0, letters)) : exact();
}
