import { FIELDS } from '../catalogue/index.ts';

/** What can be merged into a letter, with the word its chip shows. */
export const MERGE_FIELDS = {
  salutation: 'Salutation',
  formalSalutation: 'Formal salutation',
  addressee: 'Addressee',
  name: 'Full name',
  first: 'First name',
  last: 'Last name',
  supporterNumber: 'Supporter number',
  giftAmount: 'Gift amount',
  deductible: 'Deductible part',
  benefitValue: 'Value of goods and services',
  giftDate: 'Gift date',
  fund: 'Fund',
  receiptNumber: 'Receipt number',
  lifetimeTotal: 'Total given',
  lastGiftDate: 'Last gift date',
  organization: 'Our name',
  signature: 'Our signature',
  today: "Today's date",
} as const;

export type MergeField = keyof typeof MERGE_FIELDS;

/** What a field may tell, where that is not all that is known: what goods are worth is never told to who gave them. */
export const FIELD_RULES: Partial<Record<MergeField, string>> = {
  giftAmount: 'Of goods it tells what was given, never its value.',
  deductible: 'Empty for goods: their donor values them.',
  fund: 'Of a split gift with the amounts, but for goods.',
  lifetimeTotal: 'Money and stock alone: goods are not in it, since their value is not told.',
};
/** Fields of the catalogue that the ones above tell already, or whose name one of them has. */
const TOLD = ['name', 'number', 'first', 'last', 'organization'];
/** The fields of the catalogue that a letter may tell, by their names there, with the word the chip shows. */
export const CATALOGUED: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries(FIELDS).flatMap(([name, { label }]) => (TOLD.includes(name) ? [] : [[name, label]])),
);
/** What the chip of a merge field shows; a custom field’s is its name, known elsewhere. */
export const mergeFieldWord = (name: string): string =>
  (Object.hasOwn(MERGE_FIELDS, name) ? MERGE_FIELDS[name as MergeField] : CATALOGUED[name]) ?? name;

/** The value of each merge field: of the ones above, and of custom fields by `field12`. */
export type MergeValues = Readonly<Record<string, string | undefined>>;
/** Reads the number of a custom field. */
export const OWN = /^field(\d+)$/;
/** Whether it is one of the fields above. */
export const isMergeField = (name: string): boolean =>
  Object.hasOwn(MERGE_FIELDS, name) || Object.hasOwn(CATALOGUED, name);
