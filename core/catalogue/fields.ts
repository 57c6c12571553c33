import type { CustomField, Kept } from '../fields/index.ts';
import { KIND_NAMES, ORGANIZATION_KINDS, SUPPORTER_KINDS, supporterNumber } from '../supporters/index.ts';
import type { Field, Known, Reading, Settable, Type } from './types.ts';

const people = (name: string): Known['read'] => {
  return ({ columns }): Reading => {
    const column = columns[name] as Extract<Reading, { words: unknown }>['words'] & { words: unknown };
    const { values } = column;
    return column.words ? { words: column } : { number: (slot) => values[slot] as number, column: values };
  };
};
const who = (label: string, column: string, also = ''): Field => ({
  ...{ group: 'Who they are', label, also, type: { is: 'text' }, read: people(column) },
});
const reached = (label: string, column: string, also = ''): Field => ({
  ...{ group: 'How they are reached', label, also, type: { is: 'text' }, read: people(column) },
});

/** What is known once of a supporter. */
export const FIELDS = {
  kind: {
    ...{ group: 'Who they are', label: 'Kind of supporter', also: 'person household organization company' },
    type: {
      is: 'one',
      options: Object.fromEntries(KIND_NAMES.map((kind) => [kind, SUPPORTER_KINDS[kind].word.toLowerCase()])),
    },
    read: (read) => ({ ...(people('kind')(read) as Extract<Reading, { number: unknown }>), codes: KIND_NAMES }),
  },
  name: {
    ...{ group: 'Who they are', label: 'Name', also: 'full sort', type: { is: 'text' } },
    read: ({ facts }) => ({ text: (slot) => facts.sortNames[slot] ?? '' }),
    shown:
      ({ facts }) =>
      (slot) =>
        facts.nameOf(slot),
  },
  number: {
    ...{ group: 'Who they are', label: 'Supporter number', also: 'id', type: { is: 'number' } },
    read: ({ facts }) => ({ number: (slot) => facts.ids[slot] ?? 0 }),
    shown:
      ({ facts }) =>
      (slot) =>
        supporterNumber(facts.ids[slot] ?? 0),
  },
  title: {
    ...who('Title', 'prefix', 'prefix Dr. Mrs.'),
    set: { of: 'record', column: 'prefix', longest: 30, kinds: ['person'] },
  },
  first: who('First name', 'first', 'given forename'),
  middle: who('Middle name', 'middle'),
  last: who('Last name', 'last', 'surname family'),
  suffix: {
    ...who('Suffix', 'suffix', 'Jr. Sr.'),
    set: { of: 'record', column: 'suffix', longest: 30, kinds: ['person'] },
  },
  nickname: who('Nickname', 'nickname', 'called goes by'),
  'former-last': who('Former last name', 'formerLast', 'maiden born'),
  organization: who('Name of the organization', 'organization', 'company'),
  'organization-kind': {
    ...who('Kind of organization', 'orgKind', 'company foundation school sponsor'),
    set: { of: 'record', column: 'org_kind', longest: 20, kinds: ['organization'], choices: ORGANIZATION_KINDS },
  },
  birthday: {
    ...{ group: 'Who they are', label: 'Birthday', also: 'born date of birth', type: { is: 'birthday' } },
    read: people('birthday'),
  },
  age: {
    ...{ group: 'Who they are', label: 'Age', also: 'born old years', type: { is: 'number', unit: 'year' } },
    read: ({ columns, calendar }) => {
      const [years, days] = [columns['birthYear']?.values ?? [], columns['birthday']?.values ?? []];
      const [year = 0, month = 0, day = 0] = calendar.today.split('-').map(Number);
      const on = month * 32 + day;
      return {
        number: (slot) =>
          (years[slot] ?? 0) === 0 ? NaN : year - (years[slot] as number) - (on < (days[slot] as number) ? 1 : 0),
      };
    },
  },
  shares: {
    ...{ group: 'Ties', label: 'Shares a home', also: 'household lives with member' },
    type: { is: 'yesno', yes: 'shares a home', no: 'shares no home' },
    read: ({ columns }) => ({ number: (slot) => ((columns['household']?.values[slot] ?? 0) === 0 ? 0 : 1) }),
  },
  state: {
    ...reached('State', 'region', 'region province'),
    ...{ type: { is: 'text', among: 'regions' }, set: { of: 'address', column: 'region', longest: 60 } },
  },
  town: { ...reached('Town', 'city', 'city place'), set: { of: 'address', column: 'city', longest: 100 } },
  postal: {
    ...reached('ZIP', 'postal', 'postal code postcode'),
    set: { of: 'address', column: 'postal', longest: 20 },
  },
  mailable: {
    ...{ group: 'How they are reached', label: 'Has a deliverable address', also: 'mailable post mail' },
    type: { is: 'yesno', yes: 'has a deliverable address', no: 'has no deliverable address' },
    read: people('mailable'),
  },
} satisfies Record<string, Field>;

const TYPES: Record<CustomField['kind'], (choices: readonly string[]) => Type> = {
  text: () => ({ is: 'text' }),
  number: () => ({ is: 'number' }),
  money: () => ({ is: 'money' }),
  date: () => ({ is: 'date' }),
  yesno: () => ({ is: 'yesno', yes: 'yes', no: 'no' }),
  one: (choices) => ({ is: 'one', options: Object.fromEntries(choices.map((one) => [one, one])) }),
  many: (choices) => ({ is: 'many', options: Object.fromEntries(choices.map((one) => [one, one])) }),
};

const NOTHING: readonly Kept[] = [];

/** A field that the organization made, of supporters (`own:3`) or of their gifts (`gift-own:5`). */
function ownField({ id, name, kind, choices, about }: OwnField): [string, Field] {
  const ofGifts = about === 'gift';
  const type = TYPES[kind](choices);
  const field: Field = {
    ...{ group: 'Own fields', label: ofGifts ? `${name} of a gift` : name },
    type: type.is === 'yesno' ? { is: 'yesno', yes: `${name}: yes`, no: `${name}: no` } : type,
    read({ facts }) {
      if (ofGifts) {
        const values = facts.giftFields.get(id);
        return { kept: (slot) => values?.get(slot) ?? NOTHING, of: values };
      }
      const values = facts.fields.get(id);
      return {
        kept(slot) {
          const value = values?.get(slot);
          return value === undefined ? NOTHING : [value];
        },
        of: values,
      };
    },
  };
  return [`${ofGifts ? 'gift-own' : 'own'}:${id}`, field];
}
export interface OwnField extends CustomField {
  about: 'supporter' | 'gift';
}

/** Every field of supporters, those that the organization made last. */
export const fieldsWith = (own: readonly OwnField[]): ReadonlyMap<string, Field> =>
  new Map<string, Field>([...Object.entries(FIELDS), ...own.map(ownField)]);

/** A field that can be given to many by its name; null for one that cannot. */
export const settableIn = (name: string): (Field & { set: Settable }) | null => {
  const field: Field | undefined = Object.hasOwn(FIELDS, name) ? FIELDS[name as keyof typeof FIELDS] : undefined;
  return field?.set ? { ...field, set: field.set } : null;
};
export const SETTABLE = Object.keys(FIELDS).filter((name) => settableIn(name) !== null);
