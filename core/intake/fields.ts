import { WISHES } from '../wishes/index.ts';
import type { Wish } from '../wishes/index.ts';

/** A place that a column of a file may go to. */
export interface Destination {
  label: string;
  group: IntakeGroup;
  /** What it holds, and what a cell of it looks like. */
  says: string;
  example: string;
  /** How many such columns a file may have for one row; 1 where left out. */
  times?: number;
  /** Other words that it is looked for by. */
  also?: string;
}

/** The groups that places are offered in, in their order. */
export const INTAKE_GROUPS = ['Supporter', 'Contact', 'Wishes', 'Tags and notes', 'Ties', 'Gift', 'Promises'] as const;
export type IntakeGroup = (typeof INTAKE_GROUPS)[number];

const [WAYS, GIFTS] = [3, 9];
const place = (group: IntakeGroup, label: string, example: string, says: string, over: Partial<Destination> = {}) => ({
  ...{ group, label, example, says, ...over },
});
const supporter = (label: string, example: string, says: string, also?: string): Destination =>
  place('Supporter', label, example, says, also === undefined ? {} : { also });
const contact = (label: string, example: string, says: string, also = ''): Destination =>
  place('Contact', label, example, says, { times: WAYS, also });
const gift = (label: string, example: string, says: string, also = ''): Destination =>
  place('Gift', label, example, says, { times: GIFTS, also });
const promise = (label: string, example: string, says: string, also = ''): Destination =>
  place('Promises', label, example, says, { also });
const wish = (kind: Wish, says: string, also = ''): Destination =>
  place('Wishes', WISHES[kind].word, 'yes', says, { also });

/** Where a column of a file may go. */
export const INTAKE_FIELDS = {
  number: supporter('Supporter number', 'S-10482', 'Our number of somebody who is here', 'id'),
  outside: supporter(
    'Number elsewhere',
    'P-88213',
    'Their number where the file comes from; the next file from there finds them by it',
    'outside external id portal account member',
  ),
  asOf: supporter(
    'As of change',
    '10482',
    'As a list that was made to be brought back says it: only cells that were changed since then are taken',
    'round trip exported list back',
  ),
  wholeName: supporter('Whole name', 'Dr. Ana Cruz', 'A name in one cell, read into its parts; two people make a home'),
  prefix: supporter('Prefix', 'Dr.', 'What stands before the name', 'title honorific'),
  first: supporter('First name', 'Ana', 'The given name', 'forename'),
  middle: supporter('Middle name', 'Q.', 'A middle name or initial'),
  last: supporter('Last name', 'de la Cruz', 'The family name', 'surname'),
  suffix: supporter('Suffix', 'Jr.', 'What stands after the name'),
  nickname: supporter('Nickname', 'Nan', 'What somebody is called', 'preferred name'),
  formerLast: supporter('Former last name', 'Ortega', 'The last name before', 'maiden'),
  organization: supporter('Organization', 'Cobalt Ridge Bakery', 'The name of a firm, club or foundation', 'company'),
  birthday: supporter('Birthday', '3/14/1961', 'A day with or without its year', 'born birth'),
  deceasedOn: supporter('Day of death', '2/3/2026', 'Notes the supporter as deceased, since that day', 'died deceased'),
  email: contact('E-mail', 'ana@example.org', 'An e-mail address'),
  phone: contact('Telephone', '775-555-0142', 'A number with its area code', 'mobile cell'),
  street: contact('Street', '12 Perseid Place', 'House number and street, or a box', 'address'),
  unit: contact('Street, second line', 'Apt 4', 'What belongs under the street', 'address unit apartment'),
  city: contact('City', 'Elko', 'City or town', 'town'),
  region: contact('State', 'NV', 'State or province, as a word or its letters', 'province'),
  postal: contact('ZIP or postal code', '89801', 'ZIP, ZIP+4 or postal code', 'postcode'),
  country: contact('Country', 'United States', 'Country, as a word or its letters'),
  movedOn: place(
    'Contact',
    'Address from',
    '6/1/2026',
    'Since when the address holds; the one before ends the day before',
    { also: 'moved change of address effective date' },
  ),
  moveKind: place(
    'Contact',
    'Kind of move',
    'family',
    'Who moved: one alone (individual), all who share the home and the address (family), or a firm (business)',
    { also: 'move type household' },
  ),
  returned: place(
    'Contact',
    'Mail came back',
    'moved',
    'Why mail came back: the address is marked so that none goes there',
    { also: 'undeliverable returned bad' },
  ),
  noMail: wish('no_mail', 'Yes where nothing may come by mail', 'do not mail'),
  noEmail: wish('no_email', 'Yes where nothing may come by e-mail', 'do not email unsubscribed opt out'),
  noCalls: wish('no_calls', 'Yes where nobody may call', 'do not call phone'),
  noSolicitation: wish('no_solicitation', 'Yes where nobody may ask for gifts', 'do not solicit ask appeal'),
  receiptsOnly: wish('receipts_only', 'Yes where only receipts may go out'),
  onceAYear: wish('once_a_year', 'Yes where one letter a year is enough'),
  anonymous: wish('anonymous', 'Yes where the name is printed nowhere', 'public credit'),
  deceased: wish('deceased', 'Yes where the supporter has died', 'died dead'),
  tag: place('Tags and notes', 'Tags', 'volunteer; docent', 'Tags, several with a semicolon between', { times: 3 }),
  group: place('Tags and notes', 'Groups', 'Board', 'Groups, several with a semicolon between; new ones are made', {}),
  remark: place('Tags and notes', 'Note about them', 'Met at the star party', 'A note on the record', { times: 3 }),
  callResult: place('Tags and notes', 'What came of the call', 'Will give in spring', 'Kept as a call on the record', {
    also: 'result outcome telephone',
  }),
  callNote: place('Tags and notes', 'Note on the call', 'Asked after the telescope', 'What else was said', {}),
  calledOn: place('Tags and notes', 'Day of the call', '11/2/2026', 'When it was; today where it is empty', {}),
  spouse: place('Ties', 'Spouse', 'Bo Cruz', 'The whole name of a spouse or partner, who gets a record and a tie', {
    also: 'partner second person',
  }),
  second: place('Ties', 'Second person', 'Bo Cruz', 'The whole name of somebody else, who gets a record and a tie', {
    also: 'relative child parent sibling partner other',
  }),
  secondIs: place(
    'Ties',
    'Second person: they are the …',
    'sibling',
    'What the second person is to the supporter of the row: the … of them',
    { also: 'relationship role kind' },
  ),
  household: place(
    'Ties',
    'Household',
    'The Cruz Household',
    'The name of the home that they share: found or added, and they are a member of it',
    { also: 'home family lives with' },
  ),
  employer: place('Ties', 'Employer', 'Cobalt Ridge Bakery', 'Where they work: found or added, and tied', {
    also: 'company firm',
  }),
  jobTitle: place('Ties', 'Position', 'Manager', 'What they are at their employer', { also: 'job title role' }),
  tie: place(
    'Ties',
    'Tie: they are the …',
    'parent',
    'What the supporter of the row is to the other one: the … of them',
    { also: 'relation relationship role kind' },
  ),
  tieOther: place('Ties', 'Tie: … of this number', 'S-10483', 'Our number of the other one of the tie', {
    also: 'relation related second',
  }),
  amount: gift('Gift amount', '$25.00', 'What was given, above zero', 'donation'),
  date: gift('Gift date', '11/2/2026', 'The day of the gift', 'donation day'),
  fund: gift('Fund', 'Dark Ground', 'The name or code of one of our funds', 'designation'),
  campaign: gift('Campaign', 'Night Sky', 'The name or code of one of our campaigns'),
  appeal: gift('Appeal', 'Year-end letter', 'The name or code of one of our appeals', 'source'),
  method: gift('Payment method', 'check', 'How it was paid', 'paid by'),
  cheque: gift('Check number', '1042', 'The number on the check'),
  reference: gift('Outside reference', 'GP-10233', 'Its number elsewhere; one that is here is not taken twice', 'id'),
  note: gift('Gift note', 'In memory of Sol', 'A note on the gift', 'comment'),
  benefit: gift('Value of goods and services', '$40.00', 'What was received for it', 'fair value'),
  fee: gift('Processor fee', '$0.85', 'What the processor kept'),
  giftKind: gift(
    'Kind of gift',
    'pledge payment',
    'One-time, recurring, a pledge payment, or the number of the pledge that it pays',
    'type frequency installment recurring',
  ),
  pledge: promise('Pledge amount', '$600', 'What is promised: makes a pledge', 'promised'),
  pledgedOn: promise('Pledge date', '11/2/2026', 'The day of the promise; today where it is empty'),
  pledgeFund: promise('Fund of the pledge', 'Dark Ground', 'What a pledge or a recurring gift is for'),
  installments: promise('Installments', '12', 'In how many installments it is paid; one where it is empty'),
  pledgeEvery: promise('Installments: how often', 'monthly', 'Weekly, monthly, quarterly, yearly'),
  pledgeFirst: promise(
    'First installment',
    '12/1/2026',
    'When the first is due; the day of the pledge where it is empty',
  ),
  recurs: promise(
    'Recurring gift',
    '$25',
    'An amount that is given again and again, charged elsewhere or sent',
    'sustainer',
  ),
  recursEvery: promise('Recurring gift: how often', 'monthly', 'Weekly, monthly, quarterly, yearly', 'frequency'),
  recursFrom: promise(
    'Recurring gift: since',
    '1/5/2026',
    'The day of the first one; today where it is empty',
    'start',
  ),
} as const satisfies Readonly<Record<string, Destination>>;

export type IntakeField = keyof typeof INTAKE_FIELDS;
/** Where a column goes: a field of ours, its second or third (`email:2`), or a custom field by its id (`field:12`). */
export type IntakeColumn = IntakeField | `${IntakeField}:${number}` | `field:${number}`;
export const ownField = (column: IntakeColumn): number | null =>
  column.startsWith('field:') ? Number(column.slice('field:'.length)) : null;

/** The wishes that a column may say yes or no to. */
export const WISH_COLUMNS = {
  noMail: 'no_mail',
  noEmail: 'no_email',
  noCalls: 'no_calls',
  noSolicitation: 'no_solicitation',
  receiptsOnly: 'receipts_only',
  onceAYear: 'once_a_year',
  anonymous: 'anonymous',
  deceased: 'deceased',
} as const satisfies Partial<Record<IntakeField, Wish>>;

/** The field that a column holds, and the how manieth of its kind it is; null for a custom field. */
export function fieldIn(column: IntakeColumn): { field: IntakeField; nth: number } | null {
  const [field = '', nth = '1'] = column.split(':');
  return Object.hasOwn(INTAKE_FIELDS, field) ? { field: field as IntakeField, nth: Number(nth) } : null;
}

/** The nth column of a field. */
export const nthOf = (field: IntakeField, nth: number): IntakeColumn => (nth === 1 ? field : `${field}:${nth}`);

/** Whether a text names a place: of ours as often as it may be had, or a custom field. */
export function isIntakeColumn(text: string): text is IntakeColumn {
  if (/^field:\d{1,9}$/.test(text)) return true;
  const [name = '', nth, ...more] = text.split(':');
  if (!Object.hasOwn(INTAKE_FIELDS, name) || more.length > 0) return false;
  const { times = 1 }: Destination = INTAKE_FIELDS[name as IntakeField];
  return nth === undefined || (/^[2-9]$/.test(nth) && Number(nth) <= times);
}

/** Every place of ours in order; those that may be had several times come again after all of them. */
export const INTAKE_COLUMNS: readonly IntakeColumn[] = Object.entries<Destination>(INTAKE_FIELDS)
  .flatMap(([field, { times = 1 }]) =>
    Array.from({ length: times }, (_, at) => ({ column: nthOf(field as IntakeField, at + 1), further: at > 0 })),
  )
  .sort((a, b) => Number(a.further) - Number(b.further))
  .map(({ column }) => column);

/** What a place is called: `E-mail 2`, or the name of a custom field. */
export function columnLabel(column: IntakeColumn, own: readonly { id: number; name: string }[]): string {
  const found = fieldIn(column);
  if (!found) return own.find(({ id }) => id === ownField(column))?.name ?? column;
  return `${INTAKE_FIELDS[found.field].label}${found.nth === 1 ? '' : ` ${found.nth}`}`;
}
