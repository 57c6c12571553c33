import { Bits } from '../facts/index.ts';
import type { Facts } from '../facts/index.ts';
import type { Condition, Group, Join } from './condition.ts';
import type { Explanation } from './explain.ts';
import { areFew } from './few.ts';
import { Masks } from './masks.ts';
import type { Mask } from './masks.ts';
import { askingOf, readyOf } from './shapes.ts';
import type { Asking, Setting } from './shapes.ts';
import { sifted, turned } from './test.ts';
import type { CodeTest, Telling } from './test.ts';

export { cellsOf, cellTypeOf, cellWords, listRows, rowIds, thingIds, valueTypeOf } from './cells.ts';
export type { Cell, Cells, CellType, Rows } from './cells.ts';
export { all, NOBODY } from './condition.ts';
export type { Explanation } from './explain.ts';
export type {
  After,
  Condition,
  FieldCondition,
  Group,
  Join,
  PeopleCondition,
  Question,
  RelatedCondition,
  RowsCondition,
  SegmentCondition,
  Where,
} from './condition.ts';
export * from './make.ts';
export { Masks } from './masks.ts';
export { MEASURE_NAMES, measureAs, MEASURES, measuresOf } from './measures.ts';
export type { Measure } from './measures.ts';
export { namedIn, renumbered } from './portable.ts';
export type { Definition, NamedKind } from './portable.ts';
export { readPasted } from './pasted.ts';
export type { Pasted } from './pasted.ts';
export { askingOf } from './shapes.ts';
export type { Asking, Setting } from './shapes.ts';
export { describeTest, TESTS } from './test.ts';
export type { Telling, Test } from './test.ts';
export {
  FIRST_VIEW,
  columnsOf,
  FOR_OFFICE,
  PICK_NAMES,
  PICKS,
  REACHED,
  REACHED_NAMES,
  ROW_KIND_NAMES,
  ROW_KINDS,
  rowWords,
  STANDING,
  standingAs,
  standingName,
  withRows,
} from './view.ts';
export type { Goes, Measured, Picked, Reached, RowKind, Shown, View, ViewColumn } from './view.ts';
export { describeCondition, describeGroup, describeNeeds, describeShown } from './words.ts';
export type { Wording } from './words.ts';

/** A part that is ready to be asked of one supporter after another. */
interface Ask {
  costly: boolean;
  holds: (slot: number) => boolean;
  /** Where nobody else can hold; somebody may be named twice. */
  among?: Uint32Array | undefined;
  /** What must hold beside `rest`, as tables of codes. */
  codes: readonly CodeTest[];
  /** What is left to be asked of those who pass the tables; null where nothing is. */
  rest: ((slot: number) => boolean) | null;
}

/** Goes over all of whom a part holds; over somebody twice, it may be. */
function over({ facts, pass }: Asking, { among, codes, rest }: Ask, each: (slot: number) => void): void {
  let slots = among;
  for (const code of codes) slots = sifted(code, facts.size, slots);
  const many = slots?.length ?? facts.size;
  for (let at = 0; at < many; at++) {
    const slot = slots === undefined ? at : (slots[at] as number);
    if (rest !== null) {
      pass.goTo(slot);
      if (!rest(slot)) continue;
    }
    each(slot);
  }
}

/**
 * The supporters that match, as slots of `facts`. Records in the trash never match. Cost is one pass over the
 * supporters, and over the rows of those of whom something about rows is still to be known, however many conditions;
 * nothing but putting together is left of parts whose `masks` are known.
 */
export function evaluate(group: Group, facts: Facts, setting: Setting, masks?: Masks): Bits {
  const out = new Bits(facts.size);
  const key = masks ? settingKey(setting) : '';
  if (masks?.knows(group, key)) {
    const mask = maskOf(group, facts, setting, masks, key);
    for (let slot = 0; slot < facts.size; slot++) if (mask[slot] === 1 && !facts.isGone(slot)) out.add(slot);
    return out;
  }
  const asking = askingOf(facts, setting);
  const ask = askOf(group, asking);
  over(asking, ask, (slot) => {
    if (!facts.isGone(slot)) out.add(slot);
  });
  return out;
}

/** Of whom a part holds: of a condition by a pass over all, of a group from those of its parts. */
function maskOf(part: Condition | Group, facts: Facts, setting: Setting, masks: Masks, key: string): Mask {
  if (part.kind !== 'group')
    return masks.of(part, key, () => {
      const asking = askingOf(facts, setting);
      const ask = askOf(part, asking);
      const mask = new Uint8Array(facts.size);
      over(asking, ask, (slot) => {
        mask[slot] = 1;
      });
      return mask;
    });
  const parts = part.parts.filter(({ off }) => !off).map((one) => maskOf(one, facts, setting, masks, key));
  const { wants, enough } = JOINS[part.join];
  const mask = new Uint8Array(facts.size).fill(enough && parts.length > 0 ? 0 : 1);
  const decides = wants === enough ? 1 : 0;
  const decided = enough ? 1 : 0;
  for (const one of parts)
    for (let slot = 0; slot < mask.length; slot++) if (one[slot] === decides) mask[slot] = decided;
  return mask;
}

/** What tells one setting from another; a list of people never changes, so its id stands for it. */
export const settingKey = ({ lists, segments, ...setting }: Setting): string =>
  JSON.stringify([setting, [...(lists?.keys() ?? [])], [...(segments ?? [])]]);

/** How many match in all, and what each part of the group does to that. */
export interface PartCounts {
  count: number;
  /** How many match each part by itself. */
  parts: number[];
  /** How many more would match if they were not in the trash. */
  trashed: number;
  /** How many each part alone leaves out, or alone lets in where any will do; 0 for one that is switched off. */
  alone: number[];
}

/** Counts a group and its parts, each by itself; those whose `masks` are known are not looked for again. */
export function countParts(group: Group, facts: Facts, setting: Setting, masks = new Masks(Infinity)): PartCounts {
  const key = settingKey(setting);
  const asks = group.parts.map((part) => maskOf(part, facts, setting, masks, key));
  const counts = group.parts.map(({ off }) => !off);
  const many = counts.filter(Boolean).length;
  const parts = asks.map(() => 0);
  const alone = asks.map(() => 0);
  const { wants, enough } = JOINS[group.join];
  let [count, trashed] = [0, 0];
  for (let slot = 0; slot < facts.size; slot++) {
    const gone = facts.isGone(slot);
    if (gone && facts.isErased(slot)) continue;
    let good = 0;
    /** The last part that decides by itself: the one that is not as all must be, or the one that is. */
    let deciding = 0;
    for (let at = 0; at < asks.length; at++) {
      const holds = (asks[at] as Mask)[slot] === 1;
      if (holds && !gone) parts[at] = (parts[at] as number) + 1;
      if (!counts[at]) continue;
      if (holds === wants) good++;
      if ((holds === wants) === enough) deciding = at;
    }
    const matches = many === 0 || (enough ? good > 0 : good === many);
    if (gone) {
      if (matches) trashed++;
      continue;
    }
    if (matches) count++;
    if (many > 0 && good === (enough ? 1 : many - 1)) alone[deciding] = (alone[deciding] as number) + 1;
  }
  return { count, trashed, parts, alone };
}

/** What each part is to be for a group to match, and whether one such part is enough. */
const JOINS: Record<Join, { wants: boolean; enough: boolean }> = {
  all: { wants: true, enough: false },
  any: { wants: true, enough: true },
  none: { wants: false, enough: false },
};

function askOf(part: Condition | Group, asking: Asking): Ask {
  if (part.kind !== 'group') {
    const ready = readyOf(part, asking, inner);
    if (ready === null) return { costly: false, holds: NEVER, among: new Uint32Array(0), codes: [], rest: NEVER };
    const { costly = false, among, codes } = ready;
    const holds = part.not ? (slot: number): boolean => !ready.holds(slot) : ready.holds;
    if (codes) return { costly, holds, codes: [part.not ? turned(codes) : codes], rest: null };
    return { costly, holds, among: part.not ? undefined : among, codes: [], rest: holds };
  }
  // What costs least is asked first: often nothing else needs to be.
  const parts = part.parts
    .filter(({ off }) => !off)
    .map((one) => askOf(one, asking))
    .sort((a, b) => Number(a.costly) - Number(b.costly));
  const costly = parts.some((one) => one.costly);
  const holds = joined(
    parts.map((one) => one.holds),
    part.join,
  );
  const known = parts.flatMap(({ among }) => (among ? [among] : []));
  if (part.join === 'all') {
    const rests = parts.flatMap(({ rest }) => rest ?? []);
    return {
      ...{ costly, holds, among: known.sort((a, b) => a.length - b.length)[0] },
      ...{ codes: parts.flatMap(({ codes }) => codes), rest: rests.length === 0 ? null : joined(rests, 'all') },
    };
  }
  // Whoever is named by several would be asked as often, so that only few are.
  const named = known.reduce((many, { length }) => many + length, 0);
  const few = part.join === 'any' && parts.length > 0 && known.length === parts.length;
  const among = few && areFew(named, asking.facts) ? together(known) : undefined;
  return { costly, holds, among, codes: [], rest: holds };
}

const NEVER = (): boolean => false;

function joined(tests: readonly Ask['holds'][], join: Join): Ask['holds'] {
  const { wants, enough } = JOINS[join];
  return (slot) => {
    for (let at = 0; at < tests.length; at++)
      if (((tests[at] as Ask['holds'])(slot) === wants) === enough) return enough;
    return !enough || tests.length === 0;
  };
}

function together(lists: readonly Uint32Array[]): Uint32Array {
  const all = new Uint32Array(lists.reduce((many, { length }) => many + length, 0));
  let many = 0;
  for (const list of lists) {
    all.set(list, many);
    many += list.length;
  }
  return all;
}

/** Of few all are asked at once, of many each as it comes. */
function inner(group: Group, asking: Asking): (slot: number) => boolean {
  const ask = askOf(group, asking);
  const { facts, pass } = asking;
  if (ask.rest === null || (ask.among && areFew(ask.among.length, facts))) {
    const holds = new Uint8Array(facts.size);
    over(asking, ask, (slot) => {
      holds[slot] = 1;
    });
    return (slot) => holds[slot] === 1;
  }
  const known = new Uint8Array(facts.size);
  return (slot) => {
    if (known[slot] === 0) {
      pass.goTo(slot);
      known[slot] = ask.holds(slot) ? 2 : 1;
    }
    return known[slot] === 2;
  };
}

/** Why a supporter does or does not match, condition by condition. */
export function explain(
  part: Condition | Group,
  facts: Facts,
  slot: number,
  setting: Setting & { telling: Telling },
): Explanation {
  return explained(part, askingOf(facts, { ...setting, told: true }), slot, setting.telling);
}

function explained(part: Condition | Group, asking: Asking, slot: number, telling: Telling): Explanation {
  if (part.kind === 'group') {
    const parts = part.parts.map((one) => explained(one, asking, slot, telling));
    const counting = parts.filter((one) => !(one.kind === 'group' ? one.off : one.condition.off));
    const { wants, enough } = JOINS[part.join];
    const good = (one: Explanation): boolean => one.matches === wants;
    const matches = counting.length === 0 || (enough ? counting.some(good) : counting.every(good));
    return { kind: 'group', join: part.join, off: part.off === true, matches, parts };
  }
  const ready = readyOf(part, asking, inner);
  if (ready === null) return { kind: 'condition', condition: part, matches: false, saw: 'no longer there' };
  // Whatever was asked of rows since is read anew.
  asking.pass.goTo(slot);
  const met = ready.holds(slot);
  return { kind: 'condition', condition: part, matches: part.not ? !met : met, saw: ready.saw(slot, telling) };
}
