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
/** The value of each merge field, of the ones above and of custom fields by `field12`. */
export type MergeValues = Readonly<Record<string, string | undefined>>;
/** `field12`: a custom field, by its id. */
/** Reads the number of a custom field. */
export const OWN = /^field(\d+)$/;
/** Whether it is one of the fields above, or a custom one. */
export const isMergeField = (name: string): boolean => Object.hasOwn(MERGE_FIELDS, name) || OWN.test(name);
