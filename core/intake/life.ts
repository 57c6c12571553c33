import { parseBirthday } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import { yesOrNo } from '../fields/index.ts';
import type { Wish } from '../wishes/index.ts';
import { readFileDate, TWO_DIGIT_YEAR } from './dates.ts';
import { WISH_COLUMNS } from './fields.ts';
import type { IntakeColumn, IntakeField } from './fields.ts';
import type { RowSetting } from './rows.ts';

/* When somebody was born and died, and what they wish. */

/** A wish that a row says yes or no to; of somebody who died the day, where it says that. */
export interface FiledWish {
  kind: Wish;
  on: boolean;
  happenedOn: IsoDate | null;
}

/** What a row says of a life. */
interface Life {
  birthday: string;
  wishes: readonly FiledWish[];
}

/** The fields that say something of wishes. */
export const WISH_FIELDS = [...(Object.keys(WISH_COLUMNS) as IntakeField[]), 'deceasedOn' as const];

/** A birthday so few years ago that is written with two digits may be of a century before. */
const YOUNG = 16;

/** A birthday as it is kept, `1961-03-14` or `--03-14`; empty where it cannot be read, of which `problem` is told. */
export function readBirthday(
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

/** What a row says yes or no to, and of somebody who died. */
export function wishesIn(
  at: (field: IntakeColumn) => string,
  setting: RowSetting,
  problem: (field: IntakeColumn, reason: string) => void,
): FiledWish[] {
  const wishes = new Map<Wish, FiledWish>();
  for (const [column, kind] of Object.entries(WISH_COLUMNS) as [keyof typeof WISH_COLUMNS, Wish][]) {
    if (at(column) === '') continue;
    const on = yesOrNo(at(column)) ?? outOrIn(column, at(column));
    const died = on === null && kind === 'deceased' ? dayOfDeath(at(column), setting.today, problem) : null;
    if (died === 'told') continue;
    if (died !== null) wishes.set(kind, { kind, on: true, happenedOn: died });
    else if (on === null) problem(column, `“${at(column)}” is neither yes nor no.`);
    else wishes.set(kind, { kind, on, happenedOn: null });
  }
  const whether = yesOrNo(at('deceasedOn'));
  if (whether !== null) {
    const happenedOn = wishes.get('deceased')?.happenedOn ?? null;
    if (wishes.get('deceased')?.on === !whether)
      problem('deceasedOn', 'The row says both that they died and that they did not.');
    else wishes.set('deceased', { kind: 'deceased', on: whether, happenedOn });
  } else if (at('deceasedOn') !== '') {
    const died = readFileDate(at('deceasedOn'), setting.dateOrder, setting.today);
    if (!died.ok) problem('deceasedOn', died.reason);
    else if (died.date > setting.today) problem('deceasedOn', `“${at('deceasedOn')}” is in the future.`);
    else if (wishes.get('deceased')?.on === false)
      problem('deceasedOn', 'The row says both that they died and that they did not.');
    else wishes.set('deceased', { kind: 'deceased', on: true, happenedOn: died.date });
  }
  return [...wishes.values()];
}

/**
 * The day of a death that stands where a yes or no was looked for; null where it is no day. Which number is the month is
 * known only of columns of days, so that one that may be two days is told of.
 */
function dayOfDeath(
  text: string,
  today: IsoDate,
  problem: (field: IntakeColumn, reason: string) => void,
): IsoDate | 'told' | null {
  const days = new Set(
    (['mdy', 'dmy'] as const).flatMap((order) => {
      const read = readFileDate(text, order, today);
      return read.ok ? [read.date] : [];
    }),
  );
  const [date] = days;
  if (date === undefined) return null;
  if (days.size === 1 && date <= today) return date;
  const why = days.size > 1 ? 'is a day; bring the column in as the day of death' : 'is in the future';
  problem('deceased', `“${text}” ${why}.`);
  return 'told';
}

/** What a wish to be left alone says where it is neither yes nor no: `Opted out`, `Unsubscribed`. */
function outOrIn(column: IntakeColumn, text: string): boolean | null {
  if (!column.startsWith('no')) return null;
  if (/^(?:opt(?:ed)?[\s-]?out|out|unsubscribed?|stop|do not\b.*|no (?:mail|e-?mails?|calls?|phone))$/i.test(text))
    return true;
  return /^(?:opt(?:ed)?[\s-]?in|in|subscribed?)$/i.test(text) ? false : null;
}

/** Hardly anybody lives for more years. */
const OLDEST = 110;

/** Tells what cannot be of a life, and what hardly can. */
export function lookAtLife(
  life: Life,
  today: IsoDate,
  problem: (field: IntakeColumn, reason: string) => void,
  warn: (field: IntakeColumn, reason: string) => void,
): void {
  const years = yearsOf(life, today);
  if (years === null) return;
  // A birthday to come is told of by itself.
  if (years < 0 && life.birthday > today) return;
  if (years < 0) problem('deceasedOn', 'The row says that they died before they were born.');
  else if (years > OLDEST) warn('birthday', `It makes them ${years} years old.`);
}

/** How many years somebody lived until they died, or until today; below zero where they died before; null without a year of birth. */
function yearsOf({ birthday, wishes }: Life, today: IsoDate): number | null {
  if (birthday === '' || birthday.startsWith('--')) return null;
  const until = wishes.find(({ kind, on }) => kind === 'deceased' && on)?.happenedOn ?? today;
  if (until < birthday) return -1;
  return Number(until.slice(0, 4)) - Number(birthday.slice(0, 4));
}
