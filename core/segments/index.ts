import type { Calendar } from '../dates/index.ts';
import { FLAG } from '../facts/index.ts';
import type { Facts } from '../facts/index.ts';
import { Bits } from './bits.ts';
import type { Condition, Group } from './condition.ts';
import { GivingPass } from './giving.ts';
import { kindOf } from './kinds.ts';
import type { Asking, Explaining, Ready } from './kinds.ts';

export { Bits } from './bits.ts';
export { all, NOBODY } from './condition.ts';
export type { Condition, Group } from './condition.ts';
export type { FieldTest } from './field-test.ts';
export { filterOf, MEASURE_NAMES, MEASURES } from './giving.ts';
export type { GiftsAsked, GiftsCondition, Measure } from './giving.ts';
export { describeCondition } from './kinds.ts';
export type { Explaining, Wording } from './kinds.ts';
export { giftsIn, givenIn, hasTag, lastGiftDay, within } from './measures.ts';

/** A part that is ready to be asked of one supporter after another. */
interface Test {
  costly: boolean;
  holds: (slot: number) => boolean;
}

/**
 * The supporters that match, as slots of `facts`. Records in the trash never match. Cost is one pass over the
 * supporters, and over the gifts of those of whom something about gifts is still to be known, however many conditions.
 */
export function evaluate(group: Group, facts: Facts, calendar: Calendar): Bits {
  const asking = askingOf(facts, calendar);
  const { holds } = testOf(group, asking);
  const out = new Bits(facts.size);
  for (let slot = 0; slot < facts.size; slot++) {
    if ((facts.flags[slot] as number) & FLAG.trashed) continue;
    asking.pass.goTo(slot);
    if (holds(slot)) out.add(slot);
  }
  return out;
}

/** How many match in all, and what each part of the group does to that. */
export interface PartCounts {
  count: number;
  /** How many match each part by itself. */
  parts: number[];
  /** How many each part alone leaves out where all must hold, or alone lets in where any will do. */
  alone: number[];
}

/** Counts a group and its parts, all in one pass. */
export function countParts(group: Group, facts: Facts, calendar: Calendar): PartCounts {
  const asking = askingOf(facts, calendar);
  const tests = group.parts.map((part) => testOf(part, asking));
  const parts = tests.map(() => 0);
  const alone = tests.map(() => 0);
  const isAll = group.join === 'all';
  let count = 0;
  for (let slot = 0; slot < facts.size; slot++) {
    if ((facts.flags[slot] as number) & FLAG.trashed) continue;
    asking.pass.goTo(slot);
    let met = 0;
    /** The last part that does not hold where all must, or that holds where any will do. */
    let deciding = 0;
    for (let at = 0; at < tests.length; at++) {
      const holds = (tests[at] as Test).holds(slot);
      if (holds !== isAll) deciding = at;
      if (!holds) continue;
      met++;
      parts[at] = (parts[at] as number) + 1;
    }
    if (isAll || tests.length === 0 ? met === tests.length : met > 0) count++;
    if (tests.length > 0 && met === (isAll ? tests.length - 1 : 1)) alone[deciding] = (alone[deciding] as number) + 1;
  }
  return { count, parts, alone };
}

const askingOf = (facts: Facts, calendar: Calendar): Asking => ({
  facts,
  calendar,
  pass: new GivingPass(facts, calendar),
});

function readyOf(condition: Condition, asking: Asking): Ready {
  return kindOf(condition).ready(condition, asking);
}

function testOf(part: Condition | Group, asking: Asking): Test {
  if (part.kind !== 'group') {
    const { holds, costly = false } = readyOf(part, asking);
    return { costly, holds: part.not ? (slot) => !holds(slot) : holds };
  }
  // What costs least is asked first: often nothing else needs to be.
  const parts = part.parts.map((inner) => testOf(inner, asking)).sort((a, b) => Number(a.costly) - Number(b.costly));
  const tests = parts.map(({ holds }) => holds);
  const stop = part.join === 'any';
  return {
    costly: parts.some(({ costly }) => costly),
    holds(slot) {
      for (let at = 0; at < tests.length; at++) if ((tests[at] as Test['holds'])(slot) === stop) return stop;
      return !stop || tests.length === 0;
    },
  };
}

/** One condition's answer for one supporter, with the value that it saw, in words. */
export type Explanation =
  | { kind: 'group'; join: 'all' | 'any'; matches: boolean; parts: Explanation[] }
  | { kind: 'condition'; condition: Condition; matches: boolean; saw: string };

/** Why a supporter does or does not match, condition by condition. */
export function explain(part: Condition | Group, facts: Facts, slot: number, setting: Explaining): Explanation {
  return explained(part, askingOf(facts, setting.calendar), slot, setting);
}

function explained(part: Condition | Group, asking: Asking, slot: number, setting: Explaining): Explanation {
  if (part.kind === 'group') {
    const parts = part.parts.map((inner) => explained(inner, asking, slot, setting));
    const matches =
      parts.length === 0 ||
      (part.join === 'all' ? parts.every((inner) => inner.matches) : parts.some((inner) => inner.matches));
    return { kind: 'group', join: part.join, matches, parts };
  }
  const ready = readyOf(part, asking);
  // Whatever was asked of gifts since is read anew.
  asking.pass.goTo(slot);
  const met = ready.holds(slot);
  return { kind: 'condition', condition: part, matches: part.not ? !met : met, saw: ready.saw(slot, setting) };
}
