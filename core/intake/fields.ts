import type { CustomField } from '../fields/index.ts';
import { fold } from '../names/index.ts';

/** Where a column of a file may go. */
export const INTAKE_FIELDS = {
  number: { label: 'Supporter number', group: 'Supporter' },
  wholeName: { label: 'Whole name', group: 'Supporter' },
  prefix: { label: 'Prefix', group: 'Supporter' },
  first: { label: 'First name', group: 'Supporter' },
  middle: { label: 'Middle name', group: 'Supporter' },
  last: { label: 'Last name', group: 'Supporter' },
  suffix: { label: 'Suffix', group: 'Supporter' },
  organization: { label: 'Organization', group: 'Supporter' },
  email: { label: 'E-mail', group: 'Contact' },
  phone: { label: 'Telephone', group: 'Contact' },
  street: { label: 'Street', group: 'Contact' },
  city: { label: 'City', group: 'Contact' },
  region: { label: 'State', group: 'Contact' },
  postal: { label: 'ZIP or postal code', group: 'Contact' },
  country: { label: 'Country', group: 'Contact' },
  tag: { label: 'Tag', group: 'Supporter' },
  amount: { label: 'Gift amount', group: 'Gift' },
  date: { label: 'Gift date', group: 'Gift' },
  fund: { label: 'Fund', group: 'Gift' },
  campaign: { label: 'Campaign', group: 'Gift' },
  appeal: { label: 'Appeal', group: 'Gift' },
  method: { label: 'Payment method', group: 'Gift' },
  cheque: { label: 'Check number', group: 'Gift' },
  reference: { label: 'Outside reference', group: 'Gift' },
  note: { label: 'Gift note', group: 'Gift' },
  benefit: { label: 'Value of goods and services', group: 'Gift' },
  fee: { label: 'Processor fee', group: 'Gift' },
} as const;

export type IntakeField = keyof typeof INTAKE_FIELDS;
/** Where a column goes: a field of ours, or a custom field by its id. */
export type IntakeColumn = IntakeField | `field:${number}`;
export const ownField = (column: IntakeColumn): number | null =>
  column.startsWith('field:') ? Number(column.slice('field:'.length)) : null;

/** Words that stand in headings for a field, folded and without spaces. */
const HEADINGS: Record<IntakeField, readonly string[]> = {
  number: [
    'number',
    'supporternumber',
    'donornumber',
    'donorid',
    'supporterid',
    'constituentid',
    'accountnumber',
    'memberid',
  ],
  wholeName: ['name', 'fullname', 'wholename', 'donorname', 'supportername', 'contactname'],
  prefix: ['prefix', 'title', 'honorific'],
  first: ['first', 'firstname', 'givenname', 'forename'],
  middle: ['middle', 'middlename', 'middleinitial'],
  last: ['last', 'lastname', 'surname', 'familyname'],
  suffix: ['suffix'],
  organization: ['organization', 'organisation', 'company', 'companyname', 'business', 'employer', 'orgname'],
  email: ['email', 'emailaddress', 'mail', 'donoremail'],
  phone: ['phone', 'telephone', 'phonenumber', 'mobile', 'cell', 'tel'],
  street: ['street', 'address', 'streetaddress', 'address1', 'addressline1', 'mailingaddress'],
  city: ['city', 'town', 'locality'],
  region: ['state', 'region', 'province', 'stateprovince'],
  postal: ['zip', 'zipcode', 'postal', 'postalcode', 'postcode'],
  country: ['country'],
  tag: ['tag', 'tags', 'label', 'keyword'],
  amount: ['amount', 'giftamount', 'donation', 'donationamount', 'gift', 'total', 'grossamount', 'gross'],
  date: ['date', 'giftdate', 'donationdate', 'paidon', 'transactiondate', 'receivedon'],
  fund: ['fund', 'designation', 'purpose'],
  campaign: ['campaign'],
  appeal: ['appeal', 'source', 'appealcode'],
  method: ['method', 'paymentmethod', 'paymenttype', 'paidby', 'tender'],
  cheque: ['checknumber', 'chequenumber', 'checkno', 'chequeno', 'check'],
  reference: ['reference', 'transactionid', 'transaction', 'orderid', 'confirmation', 'reftransaction'],
  note: ['note', 'notes', 'comment', 'comments', 'message', 'memo'],
  benefit: ['benefit', 'fairvalue', 'fairmarketvalue', 'goodsandservices', 'valueofgoodsandservices'],
  fee: ['fee', 'fees', 'processorfee', 'processingfee', 'transactionfee', 'cardfee'],
};

/**
 * Where each column goes by its heading, or null where nothing fits; no place is used twice, the earlier column
 * wins. A custom field of the very name comes before ours.
 */
export function matchHeadings(headings: readonly string[], own: readonly CustomField[] = []): (IntakeColumn | null)[] {
  const taken = new Set<IntakeColumn>();
  const plainOf = (text: string): string => fold(text).replace(/[^\p{L}\p{N}]+/gu, '');
  const fields = Object.keys(HEADINGS) as IntakeField[];
  return headings.map((heading) => {
    const plain = plainOf(heading);
    const mine = own.find((field) => plain !== '' && plainOf(field.name) === plain && !taken.has(`field:${field.id}`));
    const field: IntakeColumn | null = mine
      ? `field:${mine.id}`
      : (fields.find((name) => !taken.has(name) && HEADINGS[name].includes(plain)) ?? null);
    if (field) taken.add(field);
    return field;
  });
}
