import { fieldsWith, LISTED, partIn } from '../catalogue/index.ts';
import type { Field, OwnField } from '../catalogue/index.ts';
import { isGone } from '../dates/index.ts';
import type { Calendar } from '../dates/index.ts';
import type { Facts } from '../facts/index.ts';
import type { CreditChoice } from '../totals/index.ts';
import { counted } from '../words/index.ts';
import type { Condition, Group, Question, RowsCondition } from './condition.ts';
import { listOf, measureAs } from './measures.ts';
import { Pass } from './pass.ts';
import type { Tally } from './pass.ts';
import { areFew } from './few.ts';
import { mayHave, rowTest } from './where.ts';
import { asksGone, codePasses, codeTestOf, figureTest, showAt, showValue, testOf } from './test.ts';
import type { CodeTest, Telling } from './test.ts';

/** What conditions are asked with: the day, and what they name that is not in facts. */
export interface Setting {
  calendar: Calendar;
  /** Whose giving counts where neither the segment nor a condition says; legal donors where it is left out. */
  credit?: CreditChoice;
  own?: readonly OwnField[];
  /** Lists of people by their ids. */
  lists?: ReadonlyMap<number, ArrayLike<number>>;
  /** Other segments by their ids. */
  segments?: ReadonlyMap<number, Question>;
  /** Whether what conditions see is told, so that they look at all of it. */
  told?: boolean;
}

/** What conditions are answered from: facts, and the pass over rows that all of them share. */
export interface Asking {
  facts: Facts;
  setting: Setting;
  fields: ReadonlyMap<string, Field>;
  pass: Pass;
  /** The segments that this is asked within, so that none asks itself. */
  within: readonly number[];
  /** Other segments that were made ready, each once however often it is named. */
  made: Map<number, Ready>;
}

export function askingOf(
  facts: Facts,
  setting: Setting,
  within: readonly number[] = [],
  made = new Map<number, Ready>(),
): Asking {
  const { calendar, credit = 'legal', own = [] } = setting;
  return { facts, setting, fields: fieldsWith(own), pass: new Pass(facts, calendar, credit), within, made };
}

/** A condition that is ready to be asked of one supporter after another. */
export interface Ready {
  /** True where rows are read, which costs more than anything else. */
  costly?: boolean;
  /** Where nobody else can meet it: those who have rows, or a value, at all. */
  among?: Uint32Array | undefined;
  /** The same as a table of codes, where that tells all of it. */
  codes?: CodeTest;
  holds: (slot: number) => boolean;
  /** What it saw of a supporter, in words. */
  saw: (slot: number, telling: Telling) => string;
}
/** Answers a group of conditions within one, of each supporter once. */
export type Inner = (group: Group, asking: Asking) => (slot: number) => boolean;

const NOBODY: ReadonlyMap<number, unknown> = new Map();

type Of<K extends Condition['kind']> = Extract<Condition, { kind: K }>;

/**
 * Each shape of condition, once: made ready, it tests and tells what it saw by the same reading, so that a list and its
 * explanation cannot disagree. Null where it asks about something that there is not, which nobody meets.
 */
export const SHAPES: { [K in Condition['kind']]: (condition: Of<K>, asking: Asking, inner: Inner) => Ready | null } = {
  field({ field, test }, { facts, setting, fields }) {
    const known = fields.get(field);
    if (!known || asksGone(test, setting.calendar)) return null;
    const reading = known.read({ facts, calendar: setting.calendar, columns: facts.people });
    const saw = (slot: number, telling: Telling): string =>
      showAt(known.type, reading, slot, telling) || 'nothing filled in';
    const codes = codeTestOf(known.type, reading, test, setting.calendar, false);
    if (codes) return { codes, holds: (slot) => codePasses(codes, slot), saw };
    const holds = testOf(known.type, reading, test, setting.calendar);
    const of = 'kept' in reading && test.is !== 'empty' ? (reading.of ?? NOBODY) : null;
    return { ...(of && areFew(of.size, facts) ? { among: Uint32Array.from(of.keys()) } : {}), holds, saw };
  },

  rows(condition, { facts, pass, setting }) {
    const { of, measure, where } = condition;
    const listed = listOf(of, measure, where);
    const { calendar } = setting;
    const tests = [condition.test, ...[...where, ...(condition.after?.where ?? [])].map(({ test }) => test)];
    if (listed === null || tests.some((test) => asksGone(test, calendar))) return null;
    if (condition.against && isGone(condition.against, calendar)) return null;
    const tally = pass.ask(condition, setting.told ? Infinity : enoughFor(condition));
    const { type, unit } = measureAs(measure);
    const passes = figureTest({ is: type }, condition.test, calendar);
    const { test } = condition;
    const [low, high] = test.is === 'between' ? [test.atLeast ?? -Infinity, test.atMost ?? Infinity] : [0, 0];
    // Most are asked for bounds; what has no value lies in none.
    const holds = test.is === 'between' ? within(tally, low, high) : () => passes(tally.value());
    // Of who has no rows there is nothing to measure; recognition and what a home did stand with others.
    const own = !condition.together && (of !== 'gifts' || (condition.credit ?? setting.credit ?? 'legal') === 'legal');
    const needsSome = own && test.is === 'between' && !(low <= 0 && high >= 0);
    return {
      costly: true,
      ...(needsSome
        ? { among: mayHave(facts.listOf(of), of === 'gifts' ? [] : where, listed.parts, { facts, calendar }) }
        : {}),
      holds,
      saw(_slot, telling) {
        const value = tally.value();
        if (Number.isNaN(value)) return `no such ${listed.one}`;
        if (measure === 'number') return counted(value, listed.one, listed.many);
        return showValue(type === 'number' ? { is: type, ...(unit ? { unit } : {}) } : { is: type }, value, telling);
      },
    };
  },

  related({ by, where, match }, asking, inner) {
    const { facts, setting } = asking;
    const { ties } = facts.lists;
    if (where.some(({ part, test }) => !partIn(LISTED.ties.parts, part) || asksGone(test, setting.calendar)))
      return null;
    const met = inner(match, askingOf(facts, setting, asking.within, asking.made));
    const read = { facts, calendar: setting.calendar, columns: ties.columns };
    const passes = rowTest(where, LISTED.ties.parts, read);
    const others = ties.columns.other.values;
    /** Whoever of a home matches (its slot, and two more; 0 where it was not looked for yet), once for all who share it. */
    const inHome = new Int32Array(by === 'household' ? facts.size : 0);
    const findIn = (slot: number): number => {
      for (const one of facts.homeOf(slot)) if (!facts.isGone(one) && met(one)) return one;
      return -1;
    };
    const findInHome = (slot: number): number => {
      const shared = facts.sharedHome(slot);
      if (shared === 0) return met(slot) ? slot : -1;
      const home = facts.slotOf(shared);
      if (home < 0) return findIn(slot);
      if (inHome[home] === 0) inHome[home] = findIn(slot) + 2;
      return (inHome[home] as number) - 2;
    };
    const find = (slot: number): number => {
      if (by === 'household') return findInHome(slot);
      const from = ties.start[slot] as number;
      const end = from + (ties.count[slot] as number);
      for (let row = from; row < end; row++) {
        if (!passes(row)) continue;
        const other = facts.slotOf(others[row] as number);
        if (other >= 0 && !facts.isGone(other) && met(other)) return other;
      }
      return -1;
    };
    return {
      costly: true,
      ...(by === 'tie' ? { among: ties.owners() } : {}),
      holds: (slot) => find(slot) >= 0,
      saw(slot) {
        const found = find(slot);
        return found < 0 ? 'nobody who matches' : (facts.sortNames[found] ?? '');
      },
    };
  },

  people({ list }, { facts, setting }) {
    const ids = setting.lists?.get(list);
    if (ids === undefined) return null;
    const on = new Uint8Array(facts.size);
    const among = Uint32Array.from(ids, (id) => facts.slotOf(id)).filter((slot) => slot < facts.size);
    for (const slot of among) on[slot] = 1;
    return { among, holds: (slot) => on[slot] === 1, saw: (slot) => (on[slot] === 1 ? 'is on it' : 'is not on it') };
  },

  segment({ segment }, { facts, setting, within, made }, inner) {
    const known = made.get(segment);
    if (known) return known;
    const question = setting.segments?.get(segment);
    if (question === undefined || within.includes(segment)) return null;
    const theirs = askingOf(facts, { ...setting, credit: question.credit }, [...within, segment], made);
    const holds = inner(question.match, theirs);
    const ready: Ready = { costly: true, holds, saw: (slot) => (holds(slot) ? 'is in it' : 'is not in it') };
    made.set(segment, ready);
    return ready;
  },
};

function within({ value, of }: Tally, low: number, high: number): (slot: number) => boolean {
  if (of)
    return (slot) => {
      const figure = of(slot);
      return figure >= low && figure <= high;
    };
  return () => {
    const figure = value();
    return figure >= low && figure <= high;
  };
}

/** How many rows decide a condition: whoever has so many meets it, however many more there are. */
function enoughFor({ measure, test }: RowsCondition): number {
  if (measure !== 'number' || test.is !== 'between' || test.atMost !== null || test.atLeast === null) return Infinity;
  return Math.max(1, test.atLeast);
}

/** A condition made ready; the one place where a condition and its shape meet without the compiler. */
export function readyOf(condition: Condition, asking: Asking, inner: Inner): Ready | null {
  const shape = SHAPES[condition.kind] as ((...args: [Condition, Asking, Inner]) => Ready | null) | undefined;
  return shape === undefined ? null : shape(condition, asking, inner);
}
