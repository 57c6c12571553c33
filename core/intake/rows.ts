import type { IsoDate, ParsedDate } from '../dates/index.ts';
import { chequeNumberIn, FIRST_GIFT_DAY, isBanked, oddDay, paymentMethodOf } from '../gifts/index.ts';
import type { PaymentMethod } from '../gifts/index.ts';
import { parseAmount, parseGiftAmount } from '../money/index.ts';
import type { Cents, ParsedAmount } from '../money/index.ts';
import { lately } from '../lately/index.ts';
import { placeKept, regionCode } from '../regions/index.ts';
import { nameIn } from './names.ts';
import type { NamedMember } from './names.ts';
import { digitsOf, emailSlip, emailRemark, fold, normalEmail } from '../names/index.ts';
import type { NameParts } from '../names/index.ts';
import { readField, typed } from '../fields/index.ts';
import type { CustomField, Kept } from '../fields/index.ts';
import { readFileDate } from './dates.ts';
import type { DateOrder } from './dates.ts';
import { nthOf, ownField } from './fields.ts';
import type { IntakeColumn, IntakeField } from './fields.ts';
import { cellsAt, eachOf, isOdd, planOf, streetOf, takenForNothing } from './cells.ts';
import { nobodyIn, readsAsSum } from './nobody.ts';
import { isCutOff } from './made.ts';
import { giftKindOf } from './kinds.ts';
import type { GiftKind } from './kinds.ts';
import type { RelationKind } from '../relations/index.ts';
import { supporterIdOf } from '../supporters/index.ts';
import { counted } from '../words/index.ts';

/** What stops a row, or a part of it, from being brought in: which field, what it held, and what to do. */
export interface RowProblem {
  field: IntakeColumn | null;
  value: string;
  reason: string;
  /** What the cell would be better written as, where that is known. */
  better?: string;
}

export interface DraftGift {
  /** Null, or left out: a gift by itself. */
  kind?: GiftKind | null;
  cents: Cents;
  date: IsoDate;
  fundId: number;
  campaignId: number | null;
  appealId: number | null;
  method: PaymentMethod;
  cheque: string;
  reference: string;
  note: string;
  /** The fair value of goods and services received for the gift. */
  benefitCents: Cents;
  /** What the processor kept of it. */
  feeCents: Cents;
  /** Values of custom fields of gifts, by field id. */
  own: readonly (readonly [field: number, value: Kept])[];
}

/** A row of a file as it would be written. `gift` is null where the file has no gift columns or the row no amount. */
export interface DraftRow {
  supporterId: number | null;
  /** Their number where the file comes from; empty where it has none. */
  outside?: string;
  name: NameParts;
  nickname: string;
  formerLast: string;
  /** Who lives in a new household that the row names. */
  members: readonly NamedMember[];
  email: string | null;
  phone: string;
  street: string;
  city: string;
  region: string;
  postal: string;
  country: string;
  tag: string;
  /** Values of custom fields, by field id, in the form they are kept. */
  own: readonly (readonly [field: number, value: Kept])[];
  gift: DraftGift | null;
  /** Whether it is of a list made here that comes back, whose names may be of then. */
  listed?: boolean;
  /** The labels of its e-mail, telephone and street; `home` where there is none. */
  labels?: Readonly<Partial<Record<IntakeColumn, string>>>;
}

export interface Choice {
  id: number;
  name: string;
  code: string;
  closed: boolean;
}

/** What reading a row needs besides its cells. `fund` is used where the row names none. */
export interface RowSetting {
  decimal: '.' | ',';
  /** Null while it is open which order dates in numbers have. */
  dateOrder: DateOrder | null;
  /** ISO 4217: what amounts are in that name no currency. */
  currency: string;
  today: IsoDate;
  /** The time zone that days are of; none where no text has a time and a zone. */
  zone?: string;
  /** ISO code of the country that addresses without one are in. */
  home: string;
  fund: Choice;
  method: PaymentMethod;
  funds: readonly Choice[];
  campaigns: readonly Choice[];
  appeals: readonly Choice[];
  /** The kinds of ties that a row may name. */
  ties?: readonly RelationKind[];
  /** The custom fields of supporters, and those of gifts. */
  own: readonly CustomField[];
  ownOfGifts: readonly CustomField[];
}

export const LONGEST_NAME = 120;
/** An address in one cell: street, city, state and ZIP; the last comma may be missing before a state in two letters. */
const WHOLE_ADDRESS =
  /^(.+?),(?!\s*(?:[Ss]uite|[Ss]te|[Aa]pt|[Uu]nit|[Ff]loor)\b)\s*([^,\d]+?)(?:,\s*([A-Za-z][A-Za-z. ]*?)|\s([A-Z]{2})),?\s+(\d{5}(?:-\d{4})?)$/;
/** A city with its state: `Elko, NV`. */
const CITY_AND_STATE = /^(.+?),\s*([A-Za-z][A-Za-z. ]+)$/;
/** What gifts and people are known by is never cut: two that begin alike would be one. */
const KNOWN_BY = /^(?:reference|cheque|outside)(?::\d)?$/;

/** Letters that came to harm: `Bj?rn`, a sign for what could not be read, and Unicode read as if it were not. */
const GARBLED = /\p{L}\?\p{L}|\uFFFD|[ÃÂ][\u0080-\u00BF]|â€/u;
const SPREADSHEET_ERROR = /^#(?:N\/A|REF!|VALUE!|NAME\?|DIV\/0!|NUM!|NULL!|SPILL!|CALC!)$/i;

/**
 * Reads one row by its columns. Every problem is found, not only the first; a row with any problem is not
 * brought in, one with warnings is. Cells beyond the columns are a problem of the whole row, missing ones at the end
 * are empty. `width` is how many of the columns are the file's own.
 */
export function readRow(
  columns: readonly (IntakeColumn | null)[],
  cells: readonly string[],
  setting: RowSetting,
  width = columns.length,
): { draft: DraftRow; problems: RowProblem[]; warnings: RowProblem[] } {
  const problems: RowProblem[] = [];
  const at = cellsAt(columns, cells);
  const plan = planOf(columns);
  const odd = isOdd(cells);
  const problem = (field: IntakeColumn | null, reason: string): void => {
    problems.push({ field, value: field === null ? '' : at(field), reason });
  };
  const has = (many: number): string => `The row has ${counted(many, 'cell')} where the heading has ${width}`;
  if (cells.length > columns.length && cells.slice(columns.length).some((cell) => cell.trim() !== ''))
    problem(null, `${has(cells.length - columns.length + width)}; check its separators.`);
  if (isCutOff(columns, cells)) problem(null, `${has(cells.length)}: its amount is cut off.`);
  const named = (['wholeName', 'first', 'last', 'organization'] as const).filter((field) => at(field) !== '');
  const [sum] = named;
  if (sum && named.length === 1 && readsAsSum(at(sum)) && at('email') === '')
    problem(sum, `“${at(sum)}” reads as a sum of other rows, not as a supporter. Leave the row out.`);

  const { name, nickname, formerLast, members, doubts } = nameIn(at, plan.at.has('asOf'));
  const warnings: RowProblem[] = [];
  // A last name alone may be Cash or Guest.
  const wholes = { last: `${at('first')} ${at('last')}`.trim(), first: at('last') === '' ? at('first') : null };
  for (const field of named) {
    const whole = field === 'last' || field === 'first' ? wholes[field] : at(field);
    const of = field === 'organization' ? 'firm' : name.kind === 'organization' ? 'either' : 'person';
    const nobody = nobodyIn(at(field), whole, of);
    if (nobody?.stops) problem(field, nobody.reason);
    else if (nobody) warnings.push({ field, value: at(field), reason: nobody.reason });
  }
  const person = name.kind === 'person' && (name.first !== '' || name.last !== '');
  const organization = name.organization;
  for (const field of ['first', 'middle', 'last', 'organization', 'wholeName'] as const)
    if (at(field).length > LONGEST_NAME)
      problem(field, `The name has ${at(field).length} characters; the longest kept is ${LONGEST_NAME}.`);

  const supporterId = at('number') === '' ? null : supporterIdOf(at('number'));
  if (at('number') !== '' && supporterId === null) problem('number', 'This is not a supporter number such as S-10482.');
  const email = at('email') === '' ? null : normalEmail(at('email'));
  if (at('email') !== '' && email === null) problem('email', `“${at('email')}” is not an e-mail address.`);
  if (at('phone') !== '' && digitsOf(at('phone')).length < 7)
    problem('phone', `“${at('phone')}” has too few digits for a telephone number.`);
  // What is remembered of a choice begins with that sign, and no number does.
  const outside = at('outside')
    .replace(/^[=\s]+/, '')
    .slice(0, LONGEST_OUTSIDE);
  if (!person && organization === '' && supporterId === null && email === null && outside === '')
    problem('last', 'The row has no name, number or e-mail, so nobody to record it for.');

  const [street, city] = [at('street'), at('city')];
  const inOneCell =
    at('postal') !== '' || (city !== '' && at('region') !== '')
      ? null
      : WHOLE_ADDRESS.exec(city === '' ? street : `${street}, ${city}`);
  // Two capitals at the end of a street may be of that: `5th Ave, Rm NW 12345`.
  const inOne = inOneCell?.[4] && regionCode(inOneCell[4], 'US') === null ? null : inOneCell;
  const withState = inOne === null && at('region') === '' ? CITY_AND_STATE.exec(city) : null;
  const inTwo = withState && regionCode(withState[2] ?? '', setting.home) !== null ? withState : null;
  const region = inOne?.[3] ?? inOne?.[4] ?? inTwo?.[2] ?? at('region');
  const place = placeKept({ region: region.slice(0, 60), country: at('country').slice(0, 60) }, setting.home);
  const draft: DraftRow = {
    supporterId,
    outside,
    name,
    nickname: nickname.slice(0, LONGEST_NAME),
    formerLast: formerLast.slice(0, LONGEST_NAME),
    members,
    email,
    phone: at('phone').slice(0, 40),
    street: inOne ? streetOf((part) => (part === 'street' ? (inOne[1] ?? '') : at(part))) : streetOf(at),
    city: (inOne?.[2] ?? inTwo?.[1] ?? at('city')).slice(0, 100),
    postal: (inOne?.[5] ?? at('postal')).slice(0, 20),
    region: place.region,
    country: place.country,
    tag: at('tag').slice(0, 60),
    own: ownIn(columns, at, setting.own, problem),
    gift: plan.at.has('amount') ? readGift(columns, at, setting, problem) : null,
  };
  const day = draft.gift === null || at('date') === '' ? null : oddDay(draft.gift.date, setting.today);
  // What is kept as it was typed needs no remark.
  const kept = email === null || email === at('email') ? null : emailRemark(at('email'));
  if (odd)
    for (const [column, index] of plan.places)
      if (cells[index]?.startsWith('#') && SPREADSHEET_ERROR.test(at(column)))
        problem(column, `“${at(column)}” is what a spreadsheet shows where a formula failed.`);
  for (const [column, index, longest] of plan.limits)
    // On one line a cell is shorter than it was, but where its signs are put together otherwise.
    if ((odd || (cells[index]?.length ?? 0) > longest) && at(column).length > longest) {
      const reason = `It has ${at(column).length} characters; the longest kept is ${longest}.`;
      if (KNOWN_BY.test(column)) problem(column, reason);
      else warnings.push({ field: column, value: at(column), reason: `${reason} The rest is cut off.` });
    }
  if (odd) {
    for (const field of named)
      if (at(field).startsWith('='))
        warnings.push({ field, value: at(field), reason: `“${at(field)}” reads as a formula.` });
    for (const field of ['wholeName', 'first', 'last', 'organization', 'street', 'city'] as const)
      if (GARBLED.test(at(field)))
        warnings.push({
          field,
          value: at(field),
          reason: `“${at(field)}” lost or changed a letter before it came here.`,
        });
  }
  warnings.push(...takenForNothing(columns, cells));
  const [said = 'wholeName'] = named;
  for (const reason of doubts) warnings.push({ field: said, value: at(said), reason });
  if (kept !== null) warnings.push({ field: 'email', value: at('email'), reason: kept });
  if (email !== null) warnings.push(...slipIn('email', email));
  if (day !== null) warnings.push({ field: 'date', value: at('date'), reason: day });
  return { draft, problems, warnings };
}

/** What is said of the nth gift of a row whose column of dates is empty. */
export function undated(
  columns: readonly (IntakeColumn | null)[],
  at: (field: IntakeColumn) => string,
  today: IsoDate,
  nth: number,
): RowProblem[] {
  const field = nthOf('date', nth);
  if (!planOf(columns).at.has(field) || at(field) !== '') return [];
  return [{ field, value: '', reason: `The gift has no date; it is taken for one of today, ${today}.` }];
}

/** What is said of an e-mail address whose domain looks like a slip. */
export function slipIn(field: IntakeColumn, email: string): RowProblem[] {
  const better = emailSlip(email);
  return better === null ? [] : [{ field, value: email, reason: `Is ${better} meant?`, better }];
}

/** A number where the file comes from is so long at most. */
const LONGEST_OUTSIDE = 120;

function ownIn(
  columns: readonly (IntakeColumn | null)[],
  at: (field: IntakeColumn) => string,
  own: readonly CustomField[],
  problem: (field: IntakeColumn, reason: string) => void,
): DraftRow['own'] {
  return eachOf(planOf(columns).own, (column) => {
    const id = ownField(column);
    const field = own.find((one) => one.id === id);
    if (!field) return null;
    const read = readField(field, typed(at(column)));
    if (!read.ok) problem(column, read.reason);
    return read.ok && read.value !== '' ? ([field.id, read.value] as const) : null;
  });
}

/** What a file with several gifts in a row writes where there is none. */
const NO_GIFT = /^(?:[^\d]*0+(?:[.,]0+)?|[-–—]|n\/?a|none)$/i;
/** What all gifts of a row share where they have no column of their own. */
const SHARED: readonly IntakeField[] = ['date', 'fund', 'campaign', 'appeal', 'method'];

/** How the amounts and days of gifts are read by a setting. */
interface Readers {
  amountOf: (text: string) => ParsedAmount;
  dayOf: (text: string) => ParsedDate;
}
const readers = new WeakMap<RowSetting, Readers>();
function readersOf(setting: RowSetting): Readers {
  const known = readers.get(setting);
  if (known) return known;
  const { decimal, currency, dateOrder, today } = setting;
  const made = {
    amountOf: lately((text) => parseGiftAmount(text, decimal, currency)),
    dayOf: lately((text) => readFileDate(text, dateOrder, today)),
  };
  readers.set(setting, made);
  return made;
}

/** Reads the nth gift of a row; null where it has none. Of the first, the organisation's own fields too. */
export function readGift(
  columns: readonly (IntakeColumn | null)[],
  cell: (field: IntakeColumn) => string,
  setting: RowSetting,
  refuse: (field: IntakeColumn, reason: string) => void,
  nth = 1,
): DraftGift | null {
  const columnOf = (field: IntakeField): IntakeColumn =>
    nth > 1 && SHARED.includes(field) && !planOf(columns).at.has(nthOf(field, nth)) ? field : nthOf(field, nth);
  const at = (field: IntakeField): string => cell(columnOf(field));
  const problem = (field: IntakeField, reason: string): void => refuse(columnOf(field), reason);
  const several = nth > 1 || planOf(columns).at.has('amount:2');
  if (several && (at('amount') === '' || NO_GIFT.test(at('amount')))) return null;
  if (at('amount') === '' && at('date') === '') return null;
  const { amountOf, dayOf } = readersOf(setting);
  const amount = amountOf(at('amount'));
  if (!amount.ok) problem('amount', amount.reason);
  const date = at('date') === '' ? ({ ok: true, date: setting.today } as const) : dayOf(at('date'));
  if (!date.ok) problem('date', date.reason);
  else if (date.date > setting.today) problem('date', `“${at('date')}” is in the future.`);
  else if (date.date < FIRST_GIFT_DAY) problem('date', `“${at('date')}” is before 1900; look at the year.`);
  const choose = (field: 'fund' | 'campaign' | 'appeal', choices: readonly Choice[]): number | null => {
    if (at(field) === '') return null;
    const wanted = fold(at(field));
    const choice = choices.find((one) => fold(one.name) === wanted || fold(one.code) === wanted);
    if (!choice) problem(field, `There is no ${field} named “${at(field)}”.`);
    else if (choice.closed) problem(field, `The ${field} “${choice.name}” is closed; choose an open one.`);
    return choice?.id ?? null;
  };
  const fundId = choose('fund', setting.funds);
  const campaignId = choose('campaign', setting.campaigns);
  const appealId = choose('appeal', setting.appeals);
  const method = at('method') === '' ? setting.method : paymentMethodOf(at('method'));
  if (method === null) problem('method', `“${at('method')}” is not a payment method known here.`);
  if (method === 'in_kind' && at('note') === '')
    problem('note', 'Say what was given in kind: the receipt describes it.');
  const benefit =
    at('benefit') === ''
      ? ({ ok: true, cents: 0 } as const)
      : parseAmount(at('benefit'), setting.decimal, setting.currency);
  if (!benefit.ok) problem('benefit', benefit.reason);
  else if (benefit.cents < 0) problem('benefit', 'The value of goods and services cannot be below zero.');
  const fee =
    at('fee') === '' ? ({ ok: true, cents: 0 } as const) : parseAmount(at('fee'), setting.decimal, setting.currency);
  // Some files have a fee below zero, since it is taken off.
  const feeCents = fee.ok ? Math.abs(fee.cents) : 0;
  if (!fee.ok) problem('fee', fee.reason);
  else if (amount.ok && feeCents > amount.cents) problem('fee', 'The fee is more than the gift.');
  else if (feeCents > 0 && method !== null && !isBanked(method))
    problem('fee', 'No processor keeps a part of stock or goods.');
  const kind = giftKindOf(at('giftKind'));
  if (kind === undefined)
    problem('giftKind', `“${at('giftKind')}” is neither one-time, nor recurring, nor a pledge payment.`);
  const own = nth > 1 ? [] : ownIn(columns, cell, setting.ownOfGifts, refuse);
  if (!amount.ok || !date.ok) return null;
  const gift: DraftGift = {
    cents: amount.cents,
    date: date.date,
    fundId: fundId ?? setting.fund.id,
    campaignId,
    appealId,
    method: method ?? setting.method,
    cheque: (at('cheque') || chequeNumberIn(at('method'))).slice(0, 30),
    reference: at('reference').slice(0, 60),
    note: at('note').slice(0, 1000),
    benefitCents: benefit.ok ? benefit.cents : 0,
    feeCents,
    own,
  };
  if (kind) gift.kind = kind;
  return gift;
}
