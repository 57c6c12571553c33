import type { IsoDate } from '../dates/index.ts';
import { readParty } from '../fullnames/index.ts';
import { BAD_REASONS } from '../contact/index.ts';
import type { PostalAddress } from '../contact/index.ts';
import { yesOrNo } from '../fields/index.ts';
import { digitsOf, displayName, fold, normalEmail, oneLine, supporterParts } from '../names/index.ts';
import type { NameParts } from '../names/index.ts';
import { countryCode, placeKept } from '../regions/index.ts';
import type { RelationKind } from '../relations/index.ts';
import { supporterIdOf } from '../supporters/index.ts';
import { readFileDate } from './dates.ts';
import { nthOf } from './fields.ts';
import type { IntakeColumn, IntakeField } from './fields.ts';
import { ADDRESS_PARTS, cellsAt, eachOf, noneOf, planOf, severalIn, streetOf } from './cells.ts';
import { lookAtGift } from './gift-doubts.ts';
import { lookAtLife, readBirthday, WISH_FIELDS, wishesIn } from './life.ts';
import type { FiledWish } from './life.ts';
import { misplaced } from './misplaced.ts';
import { emailDoubt, phoneDoubt, placeDoubts } from './reached.ts';
import { readPledge, readRecurring } from './promises.ts';
import type { DraftPledge, DraftRecurring } from './promises.ts';
import { LONGEST_NAME, readGift, slipIn, undated } from './rows.ts';
import type { NamedMember } from './names.ts';
import type { DraftGift, DraftRow, RowProblem, RowSetting } from './rows.ts';

/** An address as a file has it. */
export interface FiledAddress extends PostalAddress {
  label: string;
}

/** A tie of a row: `first` where its supporter stands first in it, whom the name of the kind is of. */
export interface FiledTie {
  kind: number;
  first: boolean;
  role: string;
  other: number;
}

/** Somebody else whom a row names, and their tie; `first` where the supporter of the row stands first in it. */
export interface FiledSecond {
  member: NamedMember;
  kind: number;
  first: boolean;
  /** What they are to the supporter of the row. */
  role: string;
}

/** All that a row says of its supporter, however often: what of it comes to the record is decided against that. */
export interface RowDetails {
  /** Their number where the file comes from. */
  outside: string;
  /** Only what the row fills. */
  names: Partial<Record<NameColumn, string>>;
  birthday: string;
  emails: { address: string; label: string }[];
  phones: { number: string; label: string }[];
  addresses: FiledAddress[];
  /** Since when the first address holds, where the row says that. */
  movedOn: IsoDate | null;
  /** Whether all who share the home and the address moved there, too. */
  movedAll: boolean;
  /** Why mail came back from the address; null where it did not. */
  returned: string | null;
  wishes: FiledWish[];
  tags: string[];
  groups: string[];
  remarks: string[];
  /** What came of a call, with its day. */
  call: { text: string; date: IsoDate } | null;
  spouse: NamedMember | null;
  second: FiledSecond | null;
  /** The name of the home that they share; empty where the row says none. */
  household: string;
  employer: { name: string; title: string } | null;
  /** A tie to somebody by their number, and the role that the supporter of the row has in it. */
  tie: FiledTie | null;
  pledge: DraftPledge | null;
  recurring: DraftRecurring | null;
  /** The second and further gifts of the row. */
  gifts: DraftGift[];
  /**
   * Of a row of a list that was made to be brought back: at which change that was, which cells are empty, and which
   * parts of an address it has no column for.
   */
  back: {
    asOf: number;
    blank: ReadonlySet<NameColumn | 'birthday' | 'tag' | `field:${number}`>;
    lacks: ReadonlySet<keyof PostalAddress>;
  } | null;
}

const NONE: readonly (readonly [IntakeColumn, number])[] = [];
const ADDRESS = [...ADDRESS_PARTS, 'country'] as const;

export const NAME_COLUMNS = ['prefix', 'first', 'middle', 'last', 'suffix', 'nickname', 'formerLast'] as const;
export type NameColumn = (typeof NAME_COLUMNS)[number];

const partOf = ({ name, nickname, formerLast }: DraftRow, column: NameColumn): string =>
  column === 'nickname' ? nickname : column === 'formerLast' ? formerLast : name[column];

const LONGEST_REMARK = 5_000;
/** What no household and no organization has. */
const OF_A_PERSON = ['household', 'spouse', 'second', 'birthday', 'employer'] as const;
const NAMES = ['wholeName', 'first', 'last', 'organization'] as const;
/** What says nothing without a gift. */
const OF_A_GIFT = [
  'note',
  'reference',
  'cheque',
  'fund',
  'campaign',
  'appeal',
  'benefit',
  'fee',
  'method',
  'date',
] as const;

/**
 * Reads what a row says of its supporter beyond the draft that `readRow` made of it: every e-mail, telephone and address with its label (by
 * column; `home` where none is given), wishes, tags, groups, notes, ties, and the second gift and those after it.
 */
export function readDetails(
  draft: DraftRow,
  columns: readonly (IntakeColumn | null)[],
  cells: readonly string[],
  setting: RowSetting,
  labels: Readonly<Partial<Record<IntakeColumn, string>>> = {},
): { details: RowDetails; problems: RowProblem[]; warnings: RowProblem[] } {
  const [problems, warnings]: RowProblem[][] = [[], []] as [RowProblem[], RowProblem[]];
  const at = cellsAt(columns, cells);
  const plan = planOf(columns);
  const { of } = plan;
  const problem = (field: IntakeColumn, reason: string): void =>
    void problems.push({ field, value: at(field), reason });
  const warn = (field: IntakeColumn, reason: string): void => void warnings.push({ field, value: at(field), reason });
  /** The columns of a field that the row fills, in their order. */
  const filled = (field: IntakeField): readonly (readonly [IntakeColumn, number])[] =>
    of.has(field) ? eachOf(of.get(field) ?? NONE, (one) => (at(one[0]) === '' ? null : one)) : NONE;
  const label = (column: IntakeColumn): string => labels[column] ?? 'home';
  const several = (field: IntakeField, longest: number): string[] => {
    const cells = filled(field);
    return cells.length === 0
      ? noneOf()
      : cells.flatMap(([column]) => severalIn(at(column)).map((one) => one.slice(0, longest)));
  };

  const emails = eachOf(filled('email'), ([column, nth]) => {
    // What stands first is read already.
    const address = nth === 1 ? draft.email : normalEmail(at(column));
    if (address === null && nth > 1) problem(column, `“${at(column)}” is not an e-mail address.`);
    if (address !== null && nth > 1) warnings.push(...slipIn(column, address));
    const doubt = address === null ? null : emailDoubt(address);
    if (doubt !== null) warn(column, doubt);
    return address === null ? null : { address, label: label(column) };
  });
  const phones = eachOf(filled('phone'), ([column, nth]) => {
    const few = digitsOf(at(column)).length < 7;
    if (few && nth > 1) problem(column, `“${at(column)}” has too few digits for a telephone number.`);
    const doubt = few ? null : phoneDoubt(at(column), setting.home);
    if (doubt !== null) warn(column, doubt);
    return few ? null : { number: at(column).slice(0, 40), label: label(column) };
  });
  const addressAt = (nth: number, of: string): FiledAddress => {
    const { street, city, region, postal, country } = draft;
    if (nth === 1) return { street, city, region, postal, country, label: of };
    const part = (field: IntakeField): string => at(nthOf(field, nth));
    const place = { region: part('region').slice(0, 60), country: part('country').slice(0, 60) };
    const rest = { street: streetOf(part), city: part('city').slice(0, 100), postal: part('postal').slice(0, 20) };
    return { ...rest, ...placeKept(place, setting.home), label: of };
  };
  const addresses = eachOf(plan.addresses, ([nth, parts]): FiledAddress | null => {
    if (!parts.some((column) => at(column) !== '')) return null;
    const address = addressAt(nth, label(nthOf('street', nth)));
    for (const { field, value, reason } of placeDoubts(address, setting.home))
      warnings.push({ field: nthOf(field, nth), value, reason });
    return address;
  });
  // A number of ours is written S-10482; digits alone may be somebody's elsewhere.
  if (draft.supporterId !== null && /^\d+$/.test(at('number')) && draft.email === null && at('asOf') === '')
    if (NAMES.every((name) => at(name) === ''))
      warn(
        'number',
        `“${at('number')}” is taken for our number, and the row has no name or e-mail to hold against it.`,
      );
  const says = (field: IntakeField): boolean => at(field) !== '';
  for (const [field, column] of plan.looked) {
    const odd = at(column) === '' ? null : misplaced(field, at(column), says);
    if (odd !== null) warn(column, odd);
  }
  if (addresses.length === 0 && at('country') !== '' && countryCode(at('country'), setting.home) !== setting.home)
    warn('country', `“${at('country')}” stands without a place, and is left out.`);

  const names: RowDetails['names'] = {};
  if (draft.name.kind === 'person' && at('first') + at('last') !== '')
    for (const column of NAME_COLUMNS) {
      const part = partOf(draft, column);
      if (part !== '') names[column] = part;
    }
  // Of a row without a name what else it says of it.
  else if (draft.name.kind === 'person')
    for (const column of NAME_COLUMNS) if (of.has(column) && at(column) !== '') names[column] = at(column);
  const gifts = eachOf(of.get('amount') ?? NONE, ([, nth]) => {
    const gift = nth === 1 ? draft.gift : readGift(columns, at, setting, problem, nth);
    if (gift !== null) warnings.push(...undated(columns, at, setting.today, nth));
    if (gift !== null) lookAtGift(gift, nth, at, setting, warn);
    return nth === 1 ? null : gift;
  });
  const alone = draft.gift === null && gifts.length === 0 && at('amount') === '';
  const lost = alone ? OF_A_GIFT.find((field) => at(field) !== '') : undefined;
  if (lost !== undefined) warn(lost, `“${at(lost)}” is of a gift, and the row has none; left out.`);
  if (at('household') !== '' && draft.name.kind === 'organization')
    warn('household', `“${at('household')}” stands beside an organization, which shares no home, and is left out.`);
  else if (draft.name.kind !== 'person')
    for (const field of OF_A_PERSON) {
      const isMember = draft.members.some(({ name }) => fold(displayName(name)) === fold(at(field)));
      if (at(field) !== '' && !isMember)
        warn(
          field,
          `“${at(field)}” is of a person, and the row is recorded for ${draft.name.kind === 'household' ? 'a household' : 'an organization'}; left out.`,
        );
    }
  const [title, firm] = [at('jobTitle').slice(0, 80), at('organization')];
  const aside = firm !== '' && at('first') + at('last') !== '';
  if (aside && draft.name.kind !== 'person')
    warn('organization', `“${firm}” stands beside another name, which the row is recorded for, and is left out.`);
  else if (aside && at('employer') === '')
    warn(
      'organization',
      `“${firm}” stands beside a person, whom the row is recorded for, and is taken for their employer.`,
    );
  if (firm !== '' && !aside && at('wholeName') !== '' && at('wholeName') !== firm)
    warn(
      'wholeName',
      `“${at('wholeName')}” stands beside an organization, which the row is recorded for, and is left out.`,
    );
  const spouse = at('spouse') === '' ? null : personIn(at('spouse'), (reason) => problem('spouse', reason));
  if (spouse && sameName(spouse.name, draft.name))
    problem('spouse', `“${at('spouse')}” is the supporter of the row, who is nobody's own spouse.`);
  const second = of.has('second') || of.has('secondIs') ? secondIn(at, setting, problem) : null;
  if (second && sameName(second.member.name, draft.name))
    warn('second', `“${at('second')}” has the very name of the supporter of the row; make sure it is somebody else.`);
  const employer = at('employer') || (aside ? firm : '');
  if (title !== '' && employer === '') warn('jobTitle', `“${title}” has no employer beside it and is left out.`);
  // Written out, since an object of many parts that is put together from others is several times as slow to make.
  const details: RowDetails = {
    outside: draft.outside ?? '',
    names,
    emails,
    phones,
    addresses,
    gifts,
    movedOn: of.has('movedOn') ? movedIn(at, setting, problem) : null,
    movedAll: at('moveKind') !== '' && allMovedIn(at('moveKind'), problem),
    returned: returnedIn(at('returned')),
    birthday: at('birthday') === '' ? '' : readBirthday(at('birthday'), setting, problem, warn),
    wishes: WISH_FIELDS.some((field) => of.has(field)) ? wishesIn(at, setting, problem) : noneOf(),
    tags: several('tag', 60),
    groups: several('group', 80),
    remarks: eachOf(filled('remark'), ([column]) => at(column).slice(0, LONGEST_REMARK)),
    call: callIn(at, setting, problem, warn),
    spouse,
    second,
    tie: of.has('tie') || of.has('tieOther') ? tieIn(at, setting, problem) : null,
    pledge: of.has('pledge') ? readPledge(at, setting, problem) : null,
    recurring: of.has('recurs') ? readRecurring(at, setting, problem) : null,
    back: at('asOf') === '' ? null : backIn(columns, at, problem),
    household: at('household').slice(0, LONGEST_NAME),
    employer: employer === '' ? null : { name: employer.slice(0, 120), title },
  };
  lookAtLife(details, setting.today, problem, warn);
  return { details, problems, warnings };
}

function backIn(
  columns: readonly (IntakeColumn | null)[],
  at: (field: IntakeColumn) => string,
  problem: (field: IntakeColumn, reason: string) => void,
): RowDetails['back'] {
  if (!/^\d{1,12}$/.test(at('asOf'))) {
    problem('asOf', `“${at('asOf')}” is no number of a change, such as 10482.`);
    return null;
  }
  if (at('number') === '') problem('number', 'A row of a list that comes back needs its number.');
  const { at: places, own } = planOf(columns);
  const may = [...NAME_COLUMNS, 'birthday' as const, 'tag' as const].filter((column) => places.has(column));
  const blank = [...may, ...(own as `field:${number}`[])].filter((column) => at(column) === '');
  const lacks = ADDRESS.filter((part) => !places.has(part));
  return { asOf: Number(at('asOf')), blank: new Set(blank), lacks: new Set(lacks) };
}

/** What callers write where somebody wants no more calls; a wish is put down as one, not guessed. */
const NO_MORE =
  /\b(?:do not|don't|dont|never|stop|no more) (?:call|phone|ring)|\b(?:no more calls|take (?:me|them|him|her) off)\b/i;

function callIn(
  at: (field: IntakeColumn) => string,
  { dateOrder, today }: RowSetting,
  problem: (field: IntakeColumn, reason: string) => void,
  warn: (field: IntakeColumn, reason: string) => void,
): RowDetails['call'] {
  const [result, note] = [at('callResult'), at('callNote')];
  const text = [result, note].filter(Boolean).join('. ').slice(0, LONGEST_REMARK);
  if (text === '') return null;
  const of = NO_MORE.test(result) ? 'callResult' : 'callNote';
  if (NO_MORE.test(text) && at('noCalls') === '')
    warn(of, `“${at(of)}” reads as a wish not to be called; put it down as one, or it holds nothing back.`);
  const read = at('calledOn') === '' ? null : readFileDate(at('calledOn'), dateOrder, today);
  if (read && !read.ok) problem('calledOn', read.reason);
  if (read?.ok && read.date > today) problem('calledOn', `“${at('calledOn')}” is in the future.`);
  return { text, date: read?.ok ? read.date : today };
}

function movedIn(
  at: (field: IntakeColumn) => string,
  { dateOrder, today }: RowSetting,
  problem: (field: IntakeColumn, reason: string) => void,
): IsoDate | null {
  const text = at('movedOn');
  if (text === '') return null;
  // Files of moves have months alone: the first day is meant.
  const month = /^(\d{4})-?(\d{2})$/.exec(text);
  const read = month
    ? readFileDate(`${month[1] ?? ''}-${month[2] ?? ''}-01`, 'mdy', today)
    : readFileDate(text, dateOrder, today);
  if (!read.ok) problem('movedOn', read.reason);
  return read.ok ? read.date : null;
}

const ALL_MOVED = ['family', 'f', 'household', 'home', 'all'];
const ONE_MOVED = ['individual', 'i', 'person', 'single', 'alone', 'one', 'business', 'b', 'firm', 'organization'];

/** Whether a kind of move is one of all who live together. */
function allMovedIn(text: string, problem: (field: IntakeColumn, reason: string) => void): boolean {
  const kind = fold(text);
  if (![...ALL_MOVED, ...ONE_MOVED].includes(kind))
    problem('moveKind', `“${text}” is no kind of move known here: individual, family or business.`);
  return ALL_MOVED.includes(kind);
}

/** The kind of tie in which somebody is the … of another: what stands first is its name, or what the other end is called. */
const kindOf = (role: string, ties: readonly RelationKind[]): RelationKind | undefined =>
  ties.find(({ name }) => fold(name) === fold(role)) ?? ties.find(({ back }) => fold(back) === fold(role));
const noTie = (role: string, ties: readonly RelationKind[]): string =>
  `There is no tie in which somebody is the ${role} of another. There are: ${ties.flatMap(({ name, back }) => (name === back ? [name] : [name, back])).join(', ')}.`;

const sameName = (one: NameParts, other: NameParts): boolean =>
  other.kind === 'person' && fold(displayName({ ...one, prefix: '' })) === fold(displayName({ ...other, prefix: '' }));

function secondIn(
  at: (field: IntakeColumn) => string,
  { ties = [] }: RowSetting,
  problem: (field: IntakeColumn, reason: string) => void,
): FiledSecond | null {
  const [name, role] = [at('second'), at('secondIs')];
  // What somebody is who is not named says nothing.
  if (name === '') return null;
  const member = personIn(name, (reason) => problem('second', reason));
  const kind = kindOf(role, ties);
  if (!kind) {
    problem('secondIs', role === '' ? 'What the second person is to them is missing.' : noTie(role, ties));
    return null;
  }
  if (!member) return null;
  const first = fold(kind.name) !== fold(role);
  const ends = first ? [kind.from, kind.to] : [kind.to, kind.from];
  const mayBe = (end: readonly string[] | undefined): boolean => !end || end.length === 0 || end.includes('person');
  if (!ends.every(mayBe)) {
    problem('secondIs', `A person cannot be the ${role} of another.`);
    return null;
  }
  return { member, kind: kind.id, first, role };
}

function tieIn(
  at: (field: IntakeColumn) => string,
  { ties = [] }: RowSetting,
  problem: (field: IntakeColumn, reason: string) => void,
): FiledTie | null {
  const [role, number] = [at('tie'), at('tieOther')];
  if (role === '' && number === '') return null;
  const other = supporterIdOf(number);
  if (other === null)
    problem(
      'tieOther',
      number === '' ? 'The number of the other one is missing.' : `“${number}” is no number of a supporter.`,
    );
  const kind = kindOf(role, ties);
  if (!kind) problem('tie', role === '' ? 'What they are to the other one is missing.' : noTie(role, ties));
  return kind && other !== null ? { kind: kind.id, first: fold(kind.name) === fold(role), role, other } : null;
}

/** Why mail came back, as addresses say it; a yes alone says that it did. */
function returnedIn(text: string): string | null {
  const said = yesOrNo(text);
  if (text === '' || said === false) return null;
  return BAD_REASONS.find((reason) => reason === text.toLowerCase()) ?? (said ? 'returned' : text.slice(0, 60));
}

function personIn(text: string, problem: (reason: string) => void): NamedMember | null {
  const { people, kind } = readParty(text);
  const [one] = people;
  if (kind !== 'person' || !one) {
    problem(`“${text}” does not read as the name of one person.`);
    return null;
  }
  const { nickname, formerLast, aside: _aside, ...parts } = one;
  return { name: supporterParts({ ...parts, kind: 'person' }), nickname, formerLast: oneLine(formerLast) };
}
