import { parseBirthday } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import { readParty } from '../fullnames/index.ts';
import { yesOrNo } from '../fields/index.ts';
import { digitsOf, normalEmail, oneLine, supporterParts } from '../names/index.ts';
import { placeKept } from '../regions/index.ts';
import type { Wish } from '../wishes/index.ts';
import { readFileDate, TWO_DIGIT_YEAR } from './dates.ts';
import { fieldIn, nthOf, WISH_COLUMNS } from './fields.ts';
import type { IntakeColumn, IntakeField } from './fields.ts';
import { cellsAt, severalIn, streetOf } from './cells.ts';
import { readGift } from './rows.ts';
import type { DraftGift, NamedMember, RowProblem, RowSetting } from './rows.ts';

/** An address as a file has it. */
export interface FiledAddress {
  street: string;
  city: string;
  region: string;
  postal: string;
  country: string;
  label: string;
}

/** A wish that a row says yes or no to; of somebody who died the day, where it says that. */
export interface FiledWish {
  kind: Wish;
  on: boolean;
  happenedOn: IsoDate | null;
}

/** All that a row says of its supporter, however often: what of it comes to the record is decided against that. */
export interface RowDetails {
  /** Only what the row fills. */
  names: Partial<Record<NameColumn, string>>;
  birthday: string;
  emails: { address: string; label: string }[];
  phones: { number: string; label: string }[];
  addresses: FiledAddress[];
  wishes: FiledWish[];
  tags: string[];
  groups: string[];
  remarks: string[];
  spouse: NamedMember | null;
  employer: { name: string; title: string } | null;
  /** The second and further gifts of the row. */
  gifts: DraftGift[];
}

export const NAME_COLUMNS = ['prefix', 'first', 'middle', 'last', 'suffix', 'nickname', 'formerLast'] as const;
export type NameColumn = (typeof NAME_COLUMNS)[number];

/** A birthday so few years ago that is written with two digits may be of a century before. */
const YOUNG = 16;
const LONGEST_REMARK = 5_000;

/**
 * Reads what a row says of its supporter beyond what `readRow` does: every e-mail, telephone and address with its label (by
 * column; `home` where none is given), wishes, tags, groups, notes, ties, and the second gift and those after it.
 */
export function readDetails(
  columns: readonly (IntakeColumn | null)[],
  cells: readonly string[],
  setting: RowSetting,
  labels: Readonly<Partial<Record<IntakeColumn, string>>> = {},
): { details: RowDetails; problems: RowProblem[]; warnings: RowProblem[] } {
  const [problems, warnings]: RowProblem[][] = [[], []] as [RowProblem[], RowProblem[]];
  const at = cellsAt(columns, cells);
  const problem = (field: IntakeColumn, reason: string): void =>
    void problems.push({ field, value: at(field), reason });
  const warn = (field: IntakeColumn, reason: string): void => void warnings.push({ field, value: at(field), reason });
  /** The columns of a field that the row fills, in their order. */
  const filled = (...fields: IntakeField[]): [IntakeColumn, number][] =>
    columns.flatMap((column) => {
      const found = column === null ? null : fieldIn(column);
      return found && column && fields.includes(found.field) && at(column) !== '' ? [[column, found.nth]] : [];
    });
  const label = (column: IntakeColumn): string => labels[column] ?? 'home';

  const emails = filled('email').flatMap(([column, nth]) => {
    const address = normalEmail(at(column));
    if (address === null && nth > 1) problem(column, `“${at(column)}” is not an e-mail address.`);
    return address === null ? [] : [{ address, label: label(column) }];
  });
  const phones = filled('phone').flatMap(([column, nth]) => {
    const few = digitsOf(at(column)).length < 7;
    if (few && nth > 1) problem(column, `“${at(column)}” has too few digits for a telephone number.`);
    return few ? [] : [{ number: at(column).slice(0, 40), label: label(column) }];
  });
  const places = [...new Set(filled('street', 'city', 'region', 'postal').map(([, nth]) => nth))].sort();
  const addresses = places.map((nth): FiledAddress => {
    const part = (field: IntakeField): string => at(nthOf(field, nth));
    return {
      street: streetOf(part),
      ...{ city: part('city').slice(0, 100), postal: part('postal').slice(0, 20) },
      ...placeKept({ region: part('region').slice(0, 60), country: part('country').slice(0, 60) }, setting.home),
      label: label(nthOf('street', nth)),
    };
  });

  const names: RowDetails['names'] = {};
  for (const column of NAME_COLUMNS) if (at(column) !== '') names[column] = at(column);
  const gifts = Array.from({ length: 8 }, (_, index) => index + 2).flatMap((nth) => {
    if (!columns.includes(nthOf('amount', nth))) return [];
    return readGift(columns, at, setting, problem, nth) ?? [];
  });
  const [title, firm] = [at('jobTitle').slice(0, 80), at('organization')];
  const aside = firm !== '' && at('first') + at('last') !== '';
  if (aside && at('employer') === '')
    warn(
      'organization',
      `“${firm}” stands beside a person, whom the row is recorded for, and is taken for their employer.`,
    );
  if (firm !== '' && !aside && at('wholeName') !== '' && at('wholeName') !== firm)
    warn(
      'wholeName',
      `“${at('wholeName')}” stands beside an organization, which the row is recorded for, and is left out.`,
    );
  const employer = at('employer') || (aside ? firm : '');
  if (title !== '' && employer === '') warn('jobTitle', `“${title}” has no employer beside it and is left out.`);
  const details: RowDetails = {
    ...{ names, emails, phones, addresses, gifts },
    birthday: at('birthday') === '' ? '' : readBirthday(at('birthday'), setting, problem, warn),
    wishes: wishesIn(at, setting, problem),
    tags: filled('tag').flatMap(([column]) => severalIn(at(column)).map((tag) => tag.slice(0, 60))),
    groups: filled('group').flatMap(([column]) => severalIn(at(column)).map((group) => group.slice(0, 80))),
    remarks: filled('remark').map(([column]) => at(column).slice(0, LONGEST_REMARK)),
    spouse: spouseIn(at('spouse'), (reason) => problem('spouse', reason)),
    employer: employer === '' ? null : { name: employer.slice(0, 120), title },
  };
  return { details, problems, warnings };
}

function readBirthday(
  text: string,
  { dateOrder, today }: RowSetting,
  problem: (field: IntakeColumn, reason: string) => void,
  warn: (field: IntakeColumn, reason: string) => void,
): string {
  const yearless = /^\d{1,2}[/-]\d{1,2}$/.test(text);
  const whole = readFileDate(yearless ? `${text}/2000` : text, dateOrder, today);
  if (!whole.ok) {
    // Without a year it is in words, or has points between.
    const birthday = /\p{L}|\.|^--/u.test(text) ? parseBirthday(text) : null;
    if (birthday === null) problem('birthday', whole.reason);
    return birthday ?? '';
  }
  if (yearless) return `--${whole.date.slice(5)}`;
  const short = TWO_DIGIT_YEAR.test(text);
  const year = Number(whole.date.slice(0, 4));
  const date = short && whole.date > today ? `${year - 100}${whole.date.slice(4)}` : whole.date;
  if (date > today) problem('birthday', `“${text}” is in the future.`);
  if (short && Number(today.slice(0, 4)) - Number(date.slice(0, 4)) < YOUNG)
    warn('birthday', `“${text}” is taken for ${date}; it may be a century before.`);
  return date;
}

function wishesIn(
  at: (field: IntakeColumn) => string,
  setting: RowSetting,
  problem: (field: IntakeColumn, reason: string) => void,
): FiledWish[] {
  const wishes = new Map<Wish, FiledWish>();
  for (const [column, kind] of Object.entries(WISH_COLUMNS) as [keyof typeof WISH_COLUMNS, Wish][]) {
    if (at(column) === '') continue;
    const on = yesOrNo(at(column));
    if (on === null) problem(column, `“${at(column)}” is neither yes nor no.`);
    else wishes.set(kind, { kind, on, happenedOn: null });
  }
  if (at('deceasedOn') !== '') {
    const died = readFileDate(at('deceasedOn'), setting.dateOrder, setting.today);
    if (!died.ok) problem('deceasedOn', died.reason);
    else if (died.date > setting.today) problem('deceasedOn', `“${at('deceasedOn')}” is in the future.`);
    else if (wishes.get('deceased')?.on === false)
      problem('deceasedOn', 'The row says both that they died and that they did not.');
    else wishes.set('deceased', { kind: 'deceased', on: true, happenedOn: died.date });
  }
  return [...wishes.values()];
}

function spouseIn(text: string, problem: (reason: string) => void): NamedMember | null {
  if (text === '') return null;
  const { people, kind } = readParty(text);
  const [one] = people;
  if (kind !== 'person' || !one) {
    problem(`“${text}” does not read as the name of one person.`);
    return null;
  }
  const { nickname, formerLast, aside: _aside, ...parts } = one;
  return { name: supporterParts({ ...parts, kind: 'person' }), nickname, formerLast: oneLine(formerLast) };
}
