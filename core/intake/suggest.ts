import { parseDate } from '../dates/index.ts';
import type { CustomField } from '../fields/index.ts';
import { parseAmount } from '../money/index.ts';
import { digitsOf, fold, normalEmail } from '../names/index.ts';
import { readParty } from '../fullnames/index.ts';
import { fieldIn, INTAKE_FIELDS, isIntakeColumn, nthOf } from './fields.ts';
import type { Destination, IntakeColumn, IntakeField } from './fields.ts';
import { heldAgainst } from './misplaced.ts';

/* Where the columns of a file go, by what stands over them and by what they hold. */

/** Words that stand in headings for a field, folded and without spaces. */
const HEADINGS: Partial<Record<IntakeField, readonly string[]>> = {
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
  asOf: ['asofchange'],
  outside: [
    'externalid',
    'outsideid',
    'outsidenumber',
    'numberelsewhere',
    'portalid',
    'customerid',
    'userid',
    'sourceid',
    ...['legacyid', 'legacynumber', 'oldid', 'oldnumber', 'externalnumber'],
  ],
  wholeName: [
    ...['name', 'fullname', 'wholename', 'donorname', 'supportername', 'contactname', 'guest', 'guestname'],
    ...['donor', 'payer', 'payername', 'giver', 'givenby', 'customer', 'customername', 'cardholdername'],
    ...['attendee', 'attendeename', 'bidder', 'biddername', 'winner', 'winnername', 'buyer', 'buyername'],
  ],
  prefix: ['prefix', 'title', 'honorific'],
  first: [
    ...['first', 'firstname', 'givenname', 'forename', 'donorfirstname', 'bidderfirst', 'bidderfirstname'],
    ...['guestfirstname', 'buyerfirstname', 'winnerfirstname'],
  ],
  middle: ['middle', 'middlename', 'middleinitial', 'mi'],
  last: [
    ...['last', 'lastname', 'surname', 'familyname', 'donorlastname', 'bidderlast', 'bidderlastname'],
    ...['guestlastname', 'buyerlastname', 'winnerlastname'],
  ],
  suffix: ['suffix'],
  organization: [
    ...['organization', 'organisation', 'company', 'companyname', 'business', 'businessname', 'org', 'orgname'],
    'organizationname',
  ],
  email: ['email', 'emailaddress', 'mail', 'donoremail'],
  phone: [
    ...['phone', 'telephone', 'phonenumber', 'mobile', 'cell', 'tel'],
    ...[
      'telephonenumber',
      'mobilenumber',
      'mobilephone',
      'cellnumber',
      'cellphone',
      'phoneno',
      'dayphone',
      'daytimephone',
      'eveningphone',
    ],
  ],
  street: ['street', 'address', 'streetaddress', 'address1', 'addressline1', 'mailingaddress', 'addr', 'addr1'],
  unit: ['address2', 'addressline2', 'street2', 'unit', 'apartment', 'apt', 'suite', 'addr2'],
  city: ['city', 'town', 'locality'],
  region: ['state', 'region', 'province', 'stateprovince'],
  postal: ['zip', 'zipcode', 'postal', 'postalcode', 'postcode'],
  country: ['country'],
  nickname: ['nickname', 'preferredname', 'goesby', 'knownas'],
  formerLast: ['formerlast', 'formerlastname', 'maidenname', 'birthname'],
  birthday: ['birthday', 'birthdate', 'dateofbirth', 'dob', 'born'],
  deceasedOn: ['dateofdeath', 'deathdate', 'dayofdeath', 'deceasedon', 'deceaseddate', 'died'],
  movedOn: ['movedon', 'moveddate', 'movedate', 'addressfrom', 'effectivedate', 'moveeffectivedate'],
  moveKind: ['movekind', 'movetype', 'typeofmove'],
  returned: ['mailcameback', 'returned', 'returnreason', 'undeliverable', 'mailreturned'],
  noMail: ['nomail', 'donotmail', 'nopostalmail'],
  noEmail: ['noemail', 'donotemail', 'emailoptout', 'optedoutofemail', 'unsubscribed'],
  noCalls: ['nocalls', 'donotcall', 'donotphone', 'nocall', 'nophone'],
  noSolicitation: ['nosolicitation', 'donotsolicit', 'donotask', 'noasking', 'noaskingforgifts', 'nosolicit'],
  receiptsOnly: ['receiptsonly'],
  onceAYear: ['onceayear', 'onceayearonly'],
  anonymous: ['anonymous', 'isanonymous', 'notnamedinpublic', 'giveanonymously'],
  deceased: ['deceased', 'isdeceased'],
  tag: ['tag', 'tags', 'label', 'keyword', 'keywords'],
  group: ['group', 'groups', 'committee'],
  remark: ['supporternote', 'donornote', 'notesonsupporter', 'biography', 'bio'],
  callResult: ['whatcameofit', 'callresult', 'calloutcome', 'whatcameofthecall'],
  callNote: ['noteonthecall', 'callnote', 'callnotes'],
  calledOn: ['dayofthecall', 'callday', 'calldate', 'calledon'],
  spouse: ['spouse', 'spousename', 'partner', 'partnername', 'spousefullname'],
  second: ['secondperson', 'secondname', 'otherperson', 'relativename'],
  secondIs: ['secondpersonis', 'secondrelationship', 'relationshipofsecond'],
  household: ['household', 'householdname'],
  employer: ['employer', 'employername', 'worksat'],
  tie: ['tie', 'relation', 'relationship', 'istheirto', 'relationtype'],
  tieOther: ['othernumber', 'relatednumber', 'relatedto', 'relatedid', 'secondnumber'],
  jobTitle: ['jobtitle', 'position', 'occupation'],
  amount: [
    'amount',
    'giftamount',
    'donation',
    'donationamount',
    'gift',
    'total',
    'grossamount',
    'gross',
    'winningbid',
    'bidamount',
    ...['amt', 'giftamt', 'sum', 'contribution', 'contributionamount', 'amountpaid', 'amountgiven', 'paymentamount'],
  ],
  date: [
    ...['date', 'giftdate', 'donationdate', 'paidon', 'transactiondate', 'receivedon', 'when', 'day', 'giftday'],
    ...['dateofgift', 'dateofdonation', 'dategiven', 'datereceived', 'datepaid', 'contributiondate', 'paymentdate'],
  ],
  fund: ['fund', 'designation', 'purpose', 'fundname', 'fundcode'],
  campaign: ['campaign', 'campaignname', 'campaigncode'],
  appeal: ['appeal', 'source', 'appealcode', 'appealname'],
  method: ['method', 'paymentmethod', 'paymenttype', 'paidby', 'paidwith', 'paymethod', 'howpaid', 'tender'],
  cheque: ['checknumber', 'chequenumber', 'checkno', 'chequeno', 'check'],
  reference: [
    'reference',
    'transactionid',
    'transaction',
    'orderid',
    'confirmation',
    'reftransaction',
    'transactionnumber',
    'confirmationnumber',
  ],
  note: ['note', 'notes', 'comment', 'comments', 'message', 'memo'],
  benefit: ['benefit', 'fairvalue', 'fairmarketvalue', 'goodsandservices', 'valueofgoodsandservices', 'fmv'],
  giftKind: ['gifttype', 'giftkind', 'kindofgift', 'transactiontype', 'donationtype', 'paymentfrequency', 'frequency'],
  pledge: ['pledgeamount', 'pledge', 'pledged', 'amountpledged'],
  pledgedOn: ['pledgedate', 'datepledged', 'pledgedon'],
  pledgeFund: ['pledgefund', 'fundofthepledge'],
  installments: ['installments', 'numberofinstallments', 'pledgeinstallments'],
  pledgeEvery: ['installmentfrequency', 'pledgefrequency', 'installmentshowoften'],
  pledgeFirst: ['firstinstallment', 'firstpaymentdate', 'firstdue'],
  recurs: ['recurringamount', 'monthlyamount', 'recurringgift', 'recurringgiftamount'],
  recursEvery: ['recurringfrequency', 'recurringgifthowoften'],
  recursFrom: ['recurringstart', 'recurringstartdate', 'recurringsince', 'recurringgiftsince'],
  fee: ['fee', 'fees', 'processorfee', 'processingfee', 'transactionfee', 'cardfee'],
};

/** Words of a heading that say which of several ways it is, and the label that such a way gets. */
const LABELS: Readonly<Record<string, string>> = {
  ...{ home: 'home', personal: 'home', primary: 'home', preferred: 'home', main: 'home' },
  ...{ work: 'work', business: 'work', office: 'work' },
  ...{ mobile: 'mobile', cell: 'mobile', cellular: 'mobile', cellphone: 'mobile' },
  ...{ seasonal: 'seasonal', summer: 'seasonal', winter: 'seasonal' },
  ...{ other: 'other', alternate: 'other', alt: 'other', secondary: 'other', second: 'other' },
};
/** A heading folded and without spaces; after a word `#` is a number of it. */
const plainOf = (text: string): string =>
  fold(text)
    .replace(/(?<=\p{L}\s*)#/u, ' number')
    .replace(/[^\p{L}\p{N}]+/gu, '');
const wordsIn = (heading: string): string[] =>
  fold(heading)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** The label that a heading gives a way: `Work e-mail` work; null where it gives none. */
export const labelIn = (heading: string): string | null =>
  wordsIn(heading).flatMap((word) => LABELS[word] ?? [])[0] ?? null;

const FIELDS = Object.entries(HEADINGS) as [IntakeField, readonly string[]][];
/** What the places are called themselves, which the guide to them shows. */
const OWN_NAMES = new Map(
  (Object.entries(INTAKE_FIELDS) as [IntakeField, Destination][]).map(([field, { label }]) => [plainOf(label), field]),
);
/** The third line of an address is no third address, and has no place of its own. */
const THIRD_LINE = /^(?:mailing)?(?:address|addr)(?:line)?[34]$/;
const fieldOf = (plain: string): IntakeField | null =>
  FIELDS.find(([, words]) => words.includes(plain))?.[0] ?? OWN_NAMES.get(plain) ?? null;

/** A field that a heading names, and which of its kind: `Gift 2 amount`, `E-mail 2`, `Work phone`. */
function named(heading: string): { field: IntakeField; nth: number; label: string | null } | null {
  if (THIRD_LINE.test(plainOf(heading))) return null;
  const whole = fieldOf(plainOf(heading));
  const label = labelIn(heading);
  if (whole) return { field: whole, nth: 1, label };
  const words = wordsIn(heading);
  const bare = fieldOf(words.filter((word) => LABELS[word] === undefined).join(''));
  if (bare) return { field: bare, nth: 1, label };
  const numbered = words.join(' ').match(/\d+/g) ?? [];
  const nth = Number(numbered[0]);
  if (numbered.length !== 1 || !(nth >= 1)) return null;
  const without = words.map((word) => word.replace(/\d+/g, '')).filter((word) => LABELS[word] === undefined);
  const field = fieldOf(without.join(''));
  return field ? { field, nth, label } : null;
}

/**
 * Where each column goes by its heading, or null where nothing fits; no place is used twice, the earlier column
 * wins. A further e-mail, telephone or address goes to the next such place only where its heading says that it is
 * another one (`Work e-mail`, `Phone 2`). A custom field of the very name comes before ours.
 */
export function matchHeadings(headings: readonly string[], own: readonly CustomField[] = []): (IntakeColumn | null)[] {
  const taken = new Map<IntakeColumn, string | null>();
  const free = (column: string): column is IntakeColumn => isIntakeColumn(column) && !taken.has(column);
  const places = headings.map((heading) => {
    const plain = plainOf(heading);
    if (plain === '') return null;
    const mine = own.find((field) => plainOf(field.name) === plain && free(`field:${field.id}`));
    const found = named(heading);
    let column: IntakeColumn | null = mine ? `field:${mine.id}` : null;
    if (column === null && found) {
      const first = nthOf(found.field, found.nth);
      const other = found.label !== null && found.nth === 1 && taken.get(found.field) !== found.label;
      column = free(first) ? first : other ? ([2, 3].map((nth) => nthOf(found.field, nth)).find(free) ?? null) : null;
    }
    if (column) taken.set(column, found?.label ?? null);
    return column;
  });
  // Without gifts a note is one about whom the row names, unless it says itself that it is of a gift.
  const noGifts = !places.includes('amount') && !taken.has('remark');
  const isOfThem = (place: IntakeColumn | null, at: number): boolean =>
    noGifts && place === 'note' && !wordsIn(headings[at] ?? '').includes('gift');
  return places.map((place, at) => (isOfThem(place, at) ? 'remark' : place));
}

/** So many rows are looked at to see whether headings are to be believed. */
const HELD_AGAINST = 500;

/**
 * The places of columns by their headings, without those that the cells gainsay: a column `Title` of positions goes to
 * those, one of nothing that fits to no place, and is asked about.
 */
export function believed(
  columns: readonly (IntakeColumn | null)[],
  rows: readonly (readonly string[])[],
): (IntakeColumn | null)[] {
  const some = rows.slice(0, HELD_AGAINST);
  return columns.map((column, at) => {
    const found = column === null ? null : fieldIn(column);
    if (column === null || !found) return column;
    const cells = some.flatMap((row) => (row[at] ?? '').trim() || []);
    const field = heldAgainst(found.field, cells);
    if (field === found.field) return column;
    if (field === null || columns.includes(field)) return null;
    // A position says nothing without whom it is at.
    const isAt = columns.includes('employer') || columns.includes('organization');
    return field === 'jobTitle' && !isAt ? null : field;
  });
}

/** So many cells of a column are looked at. */
const LOOKED_AT = 200;
/** So much of a column must be of a kind for it to be taken for that. */
const NEARLY_ALL = 0.9;

const KINDS: readonly (readonly [field: IntakeField, is: (cell: string) => boolean])[] = [
  ['number', (cell) => /^S-\d{1,9}$/i.test(cell)],
  ['email', (cell) => normalEmail(cell) !== null],
  ['postal', (cell) => /^\d{5}(-\d{4})?$/.test(cell)],
  ['date', (cell) => /\d\D\d|[a-z]{3}/i.test(cell) && parseDate(cell).ok],
  [
    'phone',
    (cell) => /^[+(\d][\d\s().-]+(x\s*\d+)?$/.test(cell) && digitsOf(cell).length >= 10 && digitsOf(cell).length <= 15,
  ],
  ['amount', (cell) => /^\p{Sc}|\d[.,]\d\d$/u.test(cell) && parseAmount(cell).ok],
  ['region', (cell) => /^[A-Z]{2}$/.test(cell)],
  ['street', (cell) => /^\d+\s+\p{L}|^p\.?\s?o\.? box/iu.test(cell)],
  ['wholeName', (cell) => /^\p{Lu}.*\s\p{Lu}/u.test(cell) && !/\d/.test(cell) && readParty(cell).unsure === null],
];

/** The field that the cells of a column look like, whatever stands over it; null where they look like none. */
export function fieldByContent(cells: readonly string[]): IntakeField | null {
  const filled = cells.filter((cell) => cell.trim() !== '').slice(0, LOOKED_AT);
  if (filled.length === 0) return null;
  for (const [field, is] of KINDS)
    if (filled.filter((cell) => is(cell.trim())).length >= NEARLY_ALL * filled.length) return field;
  return null;
}

/** Where the columns of a file without headings go, by what they hold; of two that look alike neither is placed. */
export function matchContent(rows: readonly (readonly string[])[], width: number): (IntakeColumn | null)[] {
  const found = Array.from({ length: width }, (_, at) => fieldByContent(rows.map((row) => row[at] ?? '')));
  return found.map((field) => (field !== null && found.filter((other) => other === field).length === 1 ? field : null));
}
