import type { IsoDate } from '../dates/index.ts';
import { FIRST_GIFT_DAY, paymentMethodOf } from '../gifts/index.ts';
import { parseGiftAmount, typedMoney } from '../money/index.ts';
import type { Cents } from '../money/index.ts';
import { fold } from '../names/index.ts';
import { installmentsOf, MOST_INSTALLMENTS, pledgeNumber } from '../pledges/index.ts';
import { FREQUENCIES, frequencyOf } from '../schedule/index.ts';
import type { Frequency } from '../schedule/index.ts';
import { counted } from '../words/index.ts';
import { readFileDate } from './dates.ts';
import type { IntakeColumn } from './fields.ts';
import type { DraftGift, RowSetting } from './rows.ts';

/* What a row promises for later, a pledge or a recurring gift, and which promise a gift of it keeps. */

/** A pledge as a row makes it: laid out in equal installments. */
export interface DraftPledge {
  cents: Cents;
  pledgedOn: IsoDate;
  fundId: number;
  count: number;
  every: Frequency;
  first: IsoDate;
}

/** A recurring gift as a row begins it; what is charged elsewhere is paid in another way here. */
export interface DraftRecurring {
  cents: Cents;
  every: Frequency;
  from: IsoDate;
  fundId: number;
  method: 'bank' | 'cheque' | 'cash' | 'other';
}

/** A promise of a supporter, of those who are here or of an earlier row, with what is open of it. */
export interface OpenPledge {
  id: number | null;
  made: DraftPledge | null;
  cents: Cents;
  open: Cents;
  pledgedOn: IsoDate;
  fundId: number;
}

type At = (field: IntakeColumn) => string;
type Refuse = (field: IntakeColumn, reason: string) => void;

/** Reads the pledge that a row makes; null where it makes none, or where something of it cannot be read. */
export function readPledge(at: At, setting: RowSetting, problem: Refuse): DraftPledge | null {
  if (at('pledge') === '') return null;
  const amount = parseGiftAmount(at('pledge'), setting.decimal, setting.currency);
  if (!amount.ok) problem('pledge', amount.reason);
  const pledgedOn = dayIn(at, 'pledgedOn', setting, problem, setting.today);
  if (pledgedOn > setting.today) problem('pledgedOn', `“${at('pledgedOn')}” is in the future.`);
  const first = dayIn(at, 'pledgeFirst', setting, problem, pledgedOn);
  const count = at('installments') === '' ? 1 : Number(at('installments'));
  if (!Number.isInteger(count) || count < 1 || count > MOST_INSTALLMENTS) {
    problem('installments', `“${at('installments')}” is no number of installments, 1 to ${MOST_INSTALLMENTS}.`);
    return null;
  }
  const every = everyIn(at, 'pledgeEvery', problem);
  if (!amount.ok || every === null) return null;
  const laid = installmentsOf(amount.cents, {
    kind: 'count',
    count,
    schedule: { start: first, every, lastDay: false },
  });
  if (!laid.ok) {
    problem('installments', laid.reason);
    return null;
  }
  return { cents: amount.cents, pledgedOn, fundId: fundIn(at, 'pledgeFund', setting, problem), count, every, first };
}

/** Reads the recurring gift that a row begins; null where it begins none, or where something cannot be read. */
export function readRecurring(at: At, setting: RowSetting, problem: Refuse): DraftRecurring | null {
  if (at('recurs') === '') return null;
  const amount = parseGiftAmount(at('recurs'), setting.decimal, setting.currency);
  if (!amount.ok) problem('recurs', amount.reason);
  const every = everyIn(at, 'recursEvery', problem);
  const from = dayIn(at, 'recursFrom', setting, problem, setting.today);
  const read = at('method') === '' ? null : paymentMethodOf(at('method'));
  const method = read === 'bank' || read === 'cheque' || read === 'cash' ? read : 'other';
  if (!amount.ok || every === null) return null;
  return { cents: amount.cents, every, from, method, fundId: fundIn(at, 'pledgeFund', setting, problem) };
}

/** Which of their pledges a gift pays: the one that it names, else of those open then the one of its fund, the oldest first. */
function pledgeOf({ kind, date, fundId }: DraftGift, pledges: readonly OpenPledge[]): OpenPledge | string {
  const wanted = kind?.is === 'payment' ? kind.pledge : null;
  const mine = wanted === null ? pledges : pledges.filter(({ id }) => id === wanted);
  if (mine.length === 0)
    return wanted === null
      ? 'Its supporter has no pledge that it could pay.'
      : `${pledgeNumber(wanted)} is no open pledge of its supporter.`;
  const then = mine.filter(({ pledgedOn }) => pledgedOn <= date);
  if (then.length === 0) return 'It is dated before the pledge that it would pay.';
  const open = then.filter((one) => one.open > 0);
  const [oldest] = open;
  if (!oldest) return wanted === null ? 'All of their pledges are paid.' : `${pledgeNumber(wanted)} is paid.`;
  return open.find((one) => one.fundId === fundId) ?? oldest;
}

/** What a gift of a row keeps; `nth` is its place in the row. */
export type Keeps = { nth: number; pledge: OpenPledge } | { nth: number; recurring: number | DraftRecurring };

/**
 * Finds what the gifts of a row keep of what is promised, and takes it off what is open. `fault` is the reason where a
 * payment has no pledge; `remark` that a recurring one is recorded by itself, or that more is paid than is open.
 */
export function keptBy(
  gifts: readonly DraftGift[],
  record: { pledges: OpenPledge[]; recurring: readonly (number | DraftRecurring)[] },
): { keeps: Keeps[]; fault: string | null; remark: string | null } {
  const keeps: Keeps[] = [];
  let remark: string | null = null;
  for (const [nth, gift] of gifts.entries()) {
    if (gift.kind?.is === 'recurring') {
      const [only, ...others] = record.recurring;
      if (only !== undefined && others.length === 0) keeps.push({ nth, recurring: only });
      else
        remark = `Recorded by itself: its supporter has ${only === undefined ? 'no' : 'several'} recurring gifts here.`;
    }
    if (gift.kind?.is !== 'payment') continue;
    const pledge = pledgeOf(gift, record.pledges);
    if (typeof pledge === 'string') return { keeps: [], fault: pledge, remark: null };
    if (gift.cents > pledge.open)
      remark = `It is more than the ${typedMoney(pledge.open)} that is open of its pledge; the rest is a gift beyond it.`;
    pledge.open -= Math.min(pledge.open, gift.cents);
    keeps.push({ nth, pledge });
  }
  return { keeps, fault: null, remark };
}

export const pledgeInWords = ({ cents, count, every, first }: DraftPledge): string =>
  count === 1
    ? `${typedMoney(cents)}, due ${first}`
    : `${typedMoney(cents)} in ${counted(count, 'installment')}, ${FREQUENCIES[every].word} from ${first}`;
export const recurringInWords = ({ cents, every, from }: DraftRecurring): string =>
  `${typedMoney(cents)} ${FREQUENCIES[every].word} from ${from}`;

function dayIn(at: At, field: IntakeColumn, setting: RowSetting, problem: Refuse, otherwise: IsoDate): IsoDate {
  if (at(field) === '') return otherwise;
  const read = readFileDate(at(field), setting.dateOrder, setting.today);
  if (!read.ok) problem(field, read.reason);
  else if (read.date < FIRST_GIFT_DAY) problem(field, `“${at(field)}” is before 1900; look at the year.`);
  return read.ok ? read.date : otherwise;
}

function everyIn(at: At, field: IntakeColumn, problem: Refuse): Frequency | null {
  if (at(field) === '') return 'month';
  const every = frequencyOf(at(field));
  if (every === null) problem(field, `“${at(field)}” is not how often, such as monthly or every quarter.`);
  return every;
}

function fundIn(at: At, field: IntakeColumn, { funds, fund }: RowSetting, problem: Refuse): number {
  if (at(field) === '') return fund.id;
  const wanted = fold(at(field));
  const found = funds.find((one) => fold(one.name) === wanted || fold(one.code) === wanted);
  if (!found) problem(field, `There is no fund named “${at(field)}”.`);
  else if (found.closed) problem(field, `The fund “${found.name}” is closed; choose an open one.`);
  return found?.id ?? fund.id;
}
