import { listedAs, listedIn, LISTED, partIn } from '../catalogue/index.ts';
import type { Field, Known, Listed } from '../catalogue/index.ts';
import { describeWindow } from '../dates/index.ts';
import { withArticle } from '../names/index.ts';
import { counted } from '../words/index.ts';
import type { Condition, Group, RowsCondition, Where } from './condition.ts';
import type { Explanation } from './explain.ts';
import { listOf, measureAs } from './measures.ts';
import { anyWords, betweenWords, describeTest, faultOf, isBackwards, isOpen } from './test.ts';
import type { Telling } from './test.ts';
import { PICKS, REACHED } from './view.ts';
import type { Measured, RowKind, Shown } from './view.ts';

/** What words about conditions need besides the conditions. */
export interface Wording extends Telling {
  fields: ReadonlyMap<string, Field>;
  listName: (id: number) => string;
  segmentName: (id: number) => string;
}

const lowered = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
/** The label as it stands within a sentence: what is written in capitals stays so. */
const within = (label: string): string => (/^[A-Z][A-Z]/.test(label) ? label : lowered(label));

/** What is asked of rows: ` to Dark Ground by card last fiscal year (FY2026), whose amount is at least $5.00`. */
function whichRows(where: readonly Where[], parts: Readonly<Record<string, Known>>, wording: Wording): string {
  const [short, long]: [string[], string[]] = [[], []];
  for (const { part, test, not = false } of where) {
    const known = partIn(parts, part);
    if (!known || isOpen(test)) continue;
    const { type, says, label } = known;
    if (type.is === 'yesno' && test.is === 'any-of') {
      const yes = test.values.includes('1') !== not;
      short.push(yes ? type.yes : type.no);
    } else if (part === 'day' && test.is === 'in') {
      short.push(`${not ? 'not ' : ''}${describeWindow(test.window, wording.calendar, wording.formats)}`);
    } else if (says !== undefined && test.is === 'any-of') {
      short.push([not ? 'not' : '', says, anyWords(type, test.values, wording)].filter(Boolean).join(' '));
    } else long.push(`${within(label)} ${describeTest(type, test, wording, not)}`);
  }
  const whose = long.length === 0 ? '' : ` whose ${long.join(' and ')}`;
  return `${short.map((one) => ` ${one}`).join('')}${whose}`;
}

/** ` within 60 days of the last sending of The van on the road`. */
function afterWords({ after }: Measured, wording: Wording): string {
  if (!after) return '';
  const { one, parts } = listedAs(after.of);
  return ` within ${counted(after.days, 'day')} of the last ${one}${whichRows(after.where, parts, wording)}`;
}

/** What is measured, in words but for its test: `total given to Dark Ground`. */
function figureWords(measured: Measured, listed: Listed, wording: Wording): string {
  const { measure, against } = measured;
  const from =
    measure === 'change' && against
      ? ` against ${describeWindow(against, wording.calendar, wording.formats).replace(/^in /, '')}`
      : '';
  const which = whichOnes(measured, listed, wording);
  return `${wholeHome(measured)}${measureAs(measure).says(listed)}${which}${from}${counting(measured)}`;
}
const whichOnes = (measured: Measured, listed: Listed, wording: Wording): string =>
  `${whichRows(measured.where, listed.parts, wording)}${afterWords(measured, wording)}`;
const wholeHome = ({ together }: Measured): string => (together ? 'the household together ' : '');
const counting = ({ credit }: Measured): string =>
  credit === 'recognition' ? ', by recognition' : credit === 'both' ? ', gifts and recognition' : '';

function rowsWords(condition: RowsCondition, wording: Wording, not: boolean): string {
  const { measure, test, where } = condition;
  const listed = listOf(condition.of, measure, where);
  if (listed === null) return GONE;
  if (measure === 'number' && test.is === 'between') {
    const [whose, which] = [wholeHome(condition), `${whichOnes(condition, listed, wording)}${counting(condition)}`];
    const { atLeast, atMost } = test;
    const has = listed.has ?? `has ${withArticle(listed.one)}`;
    const hasNo = listed.hasNo ?? `has no ${listed.one}`;
    if (atLeast === 1 && atMost === null) return `${whose}${not ? hasNo : has}${which}`;
    if (atMost === 0 && (atLeast ?? 0) === 0) return `${whose}${not ? has : hasNo}${which}`;
    const many = betweenWords(atLeast, atMost, (number) => counted(number, listed.one, listed.many));
    return `${not ? 'not: ' : ''}${whose}has ${many || `any number of ${listed.many ?? `${listed.one}s`}`}${which}`;
  }
  const { type } = measureAs(measure);
  const is =
    type === 'date' && test.is === 'in'
      ? `was ${describeWindow(test.window, wording.calendar, wording.formats)}`
      : describeTest(type === 'number' ? { is: 'number' } : { is: type }, test, wording);
  return `${not ? 'not: ' : ''}${figureWords(condition, listed, wording)} ${is}`;
}

/** What a column shows, as its heading where it has no other: `Total given to Dark Ground and total pledged`. */
export function describeShown(shown: Shown, rows: RowKind, wording: Wording): string {
  switch (shown.kind) {
    case 'field':
      return wording.fields.get(shown.field)?.label ?? GONE_COLUMN;
    case 'part':
      return partIn(listedIn(rows)?.parts ?? {}, shown.part)?.label ?? GONE_COLUMN;
    case 'reached':
      return REACHED[shown.part];
    case 'measure': {
      const figures = [shown, ...(shown.plus ?? [])].map((one) => {
        const listed = listOf(one.of, one.measure, one.where);
        return listed === null ? GONE_COLUMN : figureWords(one, listed, wording);
      });
      return raised(figures.join(' and '));
    }
    case 'values': {
      const listed = listedIn(shown.of);
      const known = listed && partIn(listed.parts, shown.part);
      if (!listed || !known) return GONE_COLUMN;
      const which = whichRows(shown.where, listed.parts, wording);
      const part = known.label === listed.label ? '' : `: ${within(known.label)}`;
      return `${listed.label}${which}${part}${shown.pick === 'all' ? '' : `, ${PICKS[shown.pick]}`}`;
    }
  }
}
const raised = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const GONE_COLUMN = 'No longer there';

const GONE = 'asks about something that is no longer there, which nobody meets';

function plainWords(condition: Condition, wording: Wording): string {
  const not = condition.not === true;
  switch (condition.kind) {
    case 'field': {
      const known = wording.fields.get(condition.field);
      if (!known) return GONE;
      const { type, label } = known;
      if (type.is === 'yesno' && condition.test.is === 'any-of')
        return condition.test.values.includes('1') !== not ? type.yes : type.no;
      return `${within(label)} ${describeTest(type, condition.test, wording, not)}`;
    }
    case 'rows':
      return rowsWords(condition, wording, not);
    case 'related': {
      const whom = describeGroup(condition.match, wording);
      if (condition.by === 'household')
        return `${not ? 'nobody' : 'somebody'} in the household, themselves included, matches (${whom})`;
      const { parts } = LISTED.ties;
      if (condition.where.some(({ part }) => !partIn(parts, part))) return GONE;
      const which = whichRows(condition.where, parts, wording);
      return `is ${not ? 'not ' : ''}tied${which} somebody who matches (${whom})`.replace(/ +/g, ' ');
    }
    case 'people':
      return `is ${not ? 'not ' : ''}on the list ${wording.listName(condition.list)}`;
    case 'segment':
      return `is ${not ? 'not ' : ''}in the segment ${wording.segmentName(condition.segment)}`;
  }
}

/** A condition as a sentence: `total given to Telescope Van last fiscal year (FY2026) is at least $500.00`. */
export function describeCondition(condition: Condition, wording: Wording): string {
  const why = whyNobody(condition);
  const words = plainWords(condition, wording);
  return `${condition.off ? '(switched off) ' : ''}${words}${why === null ? '' : `; ${why}`}`;
}

/** What is said where bounds are the wrong way round: that nobody can meet it, and why. */
function whyNobody(condition: Condition): string | null {
  if (condition.kind === 'people' || condition.kind === 'segment') return null;
  if (condition.kind !== 'related') {
    const fault = faultOf(condition.test);
    if (fault !== null) return `nobody can: ${fault}`;
  }
  if (condition.kind === 'field') return null;
  if (condition.kind === 'rows' && condition.against && isBackwards(condition.against))
    return 'nothing can be in it: it ends before it begins';
  const part = condition.where.map(({ test }) => faultOf(test)).find((fault) => fault !== null);
  return part === undefined ? null : `nothing can be in it: ${part}`;
}

const JOINED = { all: ' and ', any: ' or ', none: ' or ' } as const;

/** A group as a sentence: `gave last fiscal year and (state is NV or state is CA)`. */
export function describeGroup(group: Group, wording: Wording): string {
  const parts = group.parts.filter(({ off }) => !off);
  if (parts.length === 0) return 'everyone';
  const words = parts.map((part) =>
    part.kind === 'group' ? `(${describeGroup(part, wording)})` : describeCondition(part, wording),
  );
  return `${group.join === 'none' ? 'none of: ' : ''}${words.join(JOINED[group.join])}`;
}

/**
 * What would have to be so for an explanation to come out the other way, each with what is so now: `total given is at
 * least $500.00 (now $320.00)`; null where it is so already. `wanted` is what it is to come out as.
 */
export function describeNeeds(part: Explanation, wording: Wording, wanted = true): string | null {
  if (part.matches === wanted) return null;
  if (part.kind === 'condition') {
    const { condition, saw } = part;
    const words = describeCondition(wanted ? condition : { ...condition, not: !condition.not }, wording);
    return saw === '' ? words : `${words} (now ${saw})`;
  }
  const counting = part.parts.filter((one) => !(one.kind === 'group' ? one.off : one.condition.off));
  // Of none, each is to be what the group is not.
  const each = part.join === 'none' ? !wanted : wanted;
  const needs = counting.flatMap((one) => describeNeeds(one, wording, each) ?? []);
  const all = (part.join === 'any') !== wanted;
  const words = needs.map((one) => (needs.length > 1 && / (and|or) /.test(one) ? `(${one})` : one));
  return words.length === 0 ? null : words.join(all ? ' and ' : ' or ');
}
