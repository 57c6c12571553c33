import { counted } from '../words/index.ts';
import { dayNumber, dateOfDay, describeWindow, formatDate, spanOf } from '../dates/index.ts';
import type { Calendar, DaySpan, IsoDate, Window } from '../dates/index.ts';
import { FLAG } from '../facts/index.ts';
import type { Facts } from '../facts/index.ts';
import { showField } from '../fields/index.ts';
import type { CustomField } from '../fields/index.ts';
import { METHOD_CODES, PAYMENT_METHODS } from '../gifts/index.ts';
import type { PaymentMethod } from '../gifts/index.ts';
import { totalOf } from '../totals/index.ts';
import type { CreditChoice, GiftFilter } from '../totals/index.ts';
import { WISHES } from '../wishes/index.ts';
import type { Wish } from '../wishes/index.ts';
import { above, isUpsideDown, describeFieldTest, meets } from './field-test.ts';
import type { FieldTest } from './field-test.ts';
import { withArticle } from '../names/index.ts';
import { formatMoney } from '../money/index.ts';
import type { Formats } from '../money/index.ts';
import { Bits } from './bits.ts';
import { giftsIn, givenIn, hasTag, inGroup, lastGiftDay } from './measures.ts';
import type { SupporterKind } from '../supporters/index.ts';
import { SUPPORTER_KINDS, kindOfCode } from '../supporters/index.ts';

export { Bits } from './bits.ts';
export type { FieldTest } from './field-test.ts';
export { giftsIn, givenIn, hasTag, lastGiftDay, within } from './measures.ts';

/** Which gifts a condition asks about; what is null or left out is any. */
export interface GiftsAsked {
  fund: number | null;
  campaign?: number | null;
  appeal?: number | null;
  method?: PaymentMethod | null;
  window: Window;
}

/** One question about a supporter. Ids are database ids; amounts are cents; both ends of spans are included. */
export type Condition =
  | { kind: 'region'; regions: string[]; not?: boolean }
  | { kind: 'tag'; tag: number; not?: boolean }
  | (GiftsAsked & { kind: 'gave'; not?: boolean })
  | (GiftsAsked & {
      kind: 'total';
      /** Whose giving counts; legal donors where it is left out. */
      credit?: CreditChoice;
      atLeast: number | null;
      atMost: number | null;
      not?: boolean;
    })
  | { kind: 'last-gift'; from: IsoDate | null; to: IsoDate | null; not?: boolean }
  | { kind: 'kind'; kinds: SupporterKind[]; not?: boolean }
  | { kind: 'wish'; wish: Wish; not?: boolean }
  | { kind: 'in-group'; group: number; not?: boolean }
  | { kind: 'field'; field: number; test: FieldTest; not?: boolean }
  | { kind: 'gift-field'; field: number; test: FieldTest; not?: boolean };

/** Conditions joined by all or any; a group may hold groups. An empty group matches everyone. */
export interface Group {
  kind: 'group';
  join: 'all' | 'any';
  parts: (Condition | Group)[];
}

/** A group of which every part must hold. */
export const all = (...parts: Group['parts']): Group => ({ kind: 'group', join: 'all', parts });

/** What nobody matches, in place of conditions that cannot be read: no group is without a number. */
export const NOBODY: Group = all({ kind: 'in-group', group: 0 });

/**
 * The supporters that match, as slots of `facts`. Records in the trash never match. Cost is one pass over the
 * supporters for each condition, and over their gifts where the condition asks about gifts.
 */
export function evaluate(group: Group, facts: Facts, calendar: Calendar): Bits {
  return withoutTrash(evaluatePart(group, facts, calendar), facts);
}

/** How many match, and how many each part of the group by itself; each part is gone through once. */
export function countParts(group: Group, facts: Facts, calendar: Calendar): { count: number; parts: number[] } {
  const parts = group.parts.map((part) => withoutTrash(evaluatePart(part, facts, calendar), facts));
  const counts = parts.map((bits) => bits.count());
  const [first, ...rest] = parts;
  if (first === undefined) return { count: evaluate(group, facts, calendar).count(), parts: [] };
  const whole = rest.reduce((sum, bits) => (group.join === 'all' ? sum.and(bits) : sum.or(bits)), first);
  return { count: whole.count(), parts: counts };
}

function withoutTrash(out: Bits, facts: Facts): Bits {
  for (let slot = 0; slot < facts.size; slot++) if ((facts.flags[slot] as number) & FLAG.trashed) drop(out, slot);
  return out;
}

function drop(bits: Bits, slot: number): void {
  const word = slot >>> 5;
  bits.words[word] = (bits.words[word] ?? 0) & ~(1 << (slot & 31));
}

function evaluatePart(part: Condition | Group, facts: Facts, calendar: Calendar): Bits {
  if (part.kind !== 'group') return evaluateCondition(part, facts, calendar);
  if (part.parts.length === 0) return new Bits(facts.size).not();
  const [first, ...rest] = part.parts.map((inner) => evaluatePart(inner, facts, calendar));
  if (first === undefined) return new Bits(facts.size).not();
  return rest.reduce((sum, bits) => (part.join === 'all' ? sum.and(bits) : sum.or(bits)), first);
}

function evaluateCondition(condition: Condition, facts: Facts, calendar: Calendar): Bits {
  const out = new Bits(facts.size);
  switch (condition.kind) {
    case 'region': {
      const wanted = new Uint8Array(facts.regions.words.length);
      for (const region of condition.regions) {
        const code = facts.regions.find(region);
        if (code >= 0) wanted[code] = 1;
      }
      const region = facts.region;
      for (let slot = 0; slot < facts.size; slot++) if (wanted[region[slot] as number] === 1) out.add(slot);
      break;
    }
    case 'tag':
      for (let slot = 0; slot < facts.size; slot++) if (hasTag(facts, slot, condition.tag)) out.add(slot);
      break;
    case 'gave': {
      const asked = filterOf(condition, calendar);
      for (let slot = 0; slot < facts.size; slot++) if (giftsIn(facts, slot, asked) > 0) out.add(slot);
      break;
    }
    case 'total': {
      const asked = filterOf(condition, calendar);
      const credit = condition.credit ?? 'legal';
      const low = condition.atLeast ?? -Infinity;
      const high = condition.atMost ?? Infinity;
      for (let slot = 0; slot < facts.size; slot++) {
        const sum = credited(facts, slot, asked, credit);
        if (sum >= low && sum <= high) out.add(slot);
      }
      break;
    }
    case 'last-gift': {
      const today = dayNumber(calendar.today);
      const span = lastGiftSpan(condition);
      for (let slot = 0; slot < facts.size; slot++) {
        const day = lastGiftDay(facts, slot, today);
        if (day !== null && day >= span.from && day <= span.to) out.add(slot);
      }
      break;
    }
    case 'kind': {
      const wanted = kindBits(condition.kinds);
      for (let slot = 0; slot < facts.size; slot++) if (wanted & (1 << (facts.kind[slot] as number))) out.add(slot);
      break;
    }
    case 'wish': {
      const { bit } = WISHES[condition.wish];
      for (let slot = 0; slot < facts.size; slot++) if ((facts.flags[slot] as number) & bit) out.add(slot);
      break;
    }
    case 'in-group':
      for (let slot = 0; slot < facts.size; slot++) if (inGroup(facts, slot, condition.group)) out.add(slot);
      break;
    case 'field':
      for (const [slot, value] of facts.fields.get(condition.field) ?? [])
        if (meets(condition.test, value)) out.add(slot);
      break;
    case 'gift-field':
      for (const [slot, values] of facts.giftFields.get(condition.field) ?? [])
        if (values.some((value) => meets(condition.test, value))) out.add(slot);
      break;
    default:
      throw new Error(condition satisfies never);
  }
  return condition.not ? out.not() : out;
}

/** The gifts that a condition asks about, in the terms of facts. */
export const filterOf = (asked: GiftsAsked, calendar: Calendar): GiftFilter => ({
  span: spanOf(asked.window, calendar),
  fund: asked.fund,
  campaign: asked.campaign ?? null,
  appeal: asked.appeal ?? null,
  method: asked.method ? METHOD_CODES.indexOf(asked.method) : null,
});

const credited = (facts: Facts, slot: number, asked: GiftFilter, credit: CreditChoice): number =>
  credit === 'legal' ? givenIn(facts, slot, asked) : totalOf(facts, [slot], asked, credit).cents;

/** The codes of the kinds that a condition names, as a set of bits. */
const kindBits = (kinds: readonly SupporterKind[]): number =>
  kinds.reduce((bits, kind) => bits | (1 << SUPPORTER_KINDS[kind].code), 0);

function lastGiftSpan(condition: { from: IsoDate | null; to: IsoDate | null }): DaySpan {
  return {
    from: condition.from === null ? -Infinity : dayNumber(condition.from),
    to: condition.to === null ? Infinity : dayNumber(condition.to),
  };
}

/** One condition's answer for one supporter, with the value that it saw, in words. */
export type Explanation =
  | { kind: 'group'; join: 'all' | 'any'; matches: boolean; parts: Explanation[] }
  | { kind: 'condition'; condition: Condition; matches: boolean; saw: string };

/** What words about conditions need besides the conditions. */
export interface Wording {
  calendar: Calendar;
  formats: Formats;
  tagName: (id: number) => string;
  fundName: (id: number) => string;
  groupName: (id: number) => string;
  campaignName: (id: number) => string;
  appealName: (id: number) => string;
  field: (id: number) => Pick<CustomField, 'name' | 'kind'>;
}

/** What an explanation is given in. */
export interface Explaining {
  calendar: Calendar;
  formats: Formats;
  fields: readonly CustomField[];
}

/** Why a supporter does or does not match, condition by condition. */
export function explain(part: Condition | Group, facts: Facts, slot: number, setting: Explaining): Explanation {
  if (part.kind === 'group') {
    const parts = part.parts.map((inner) => explain(inner, facts, slot, setting));
    const matches =
      parts.length === 0 ||
      (part.join === 'all' ? parts.every((inner) => inner.matches) : parts.some((inner) => inner.matches));
    return { kind: 'group', join: part.join, matches, parts };
  }
  const { met, saw } = seen(part, facts, slot, setting);
  return { kind: 'condition', condition: part, matches: part.not ? !met : met, saw };
}

function seen(condition: Condition, facts: Facts, slot: number, setting: Explaining): { met: boolean; saw: string } {
  const { calendar, formats } = setting;
  switch (condition.kind) {
    case 'region': {
      const region = facts.regions.words[facts.region[slot] ?? 0] ?? '';
      return { met: condition.regions.includes(region), saw: region === '' ? 'no state on record' : region };
    }
    case 'tag': {
      const met = hasTag(facts, slot, condition.tag);
      return { met, saw: met ? 'has the tag' : 'does not have the tag' };
    }
    case 'gave': {
      const many = giftsIn(facts, slot, filterOf(condition, calendar));
      return { met: many > 0, saw: counted(many, 'gift') };
    }
    case 'total': {
      const sum = credited(facts, slot, filterOf(condition, calendar), condition.credit ?? 'legal');
      const met = sum >= (condition.atLeast ?? -Infinity) && sum <= (condition.atMost ?? Infinity);
      return { met, saw: formatMoney(sum, formats) };
    }
    case 'last-gift': {
      const day = lastGiftDay(facts, slot, dayNumber(calendar.today));
      const span = lastGiftSpan(condition);
      const met = day !== null && day >= span.from && day <= span.to;
      return { met, saw: day === null ? 'no gift yet' : formatDate(dateOfDay(day), formats) };
    }
    case 'kind': {
      const code = facts.kind[slot] ?? 0;
      const kind = kindOfCode(code);
      return { met: condition.kinds.includes(kind), saw: kind };
    }
    case 'wish': {
      const met = ((facts.flags[slot] ?? 0) & WISHES[condition.wish].bit) !== 0;
      return { met, saw: met ? WISHES[condition.wish].word.toLowerCase() : 'no such wish' };
    }
    case 'in-group': {
      const met = inGroup(facts, slot, condition.group);
      return { met, saw: met ? 'is in the group' : 'is not in the group' };
    }
    case 'gift-field': {
      const values = facts.giftFields.get(condition.field)?.get(slot) ?? [];
      const fitting = values.filter((value) => meets(condition.test, value)).length;
      return { met: fitting > 0, saw: counted(fitting, 'such gift') };
    }
    case 'field': {
      const field = setting.fields.find((one) => one.id === condition.field);
      const value = facts.fields.get(condition.field)?.get(slot);
      return {
        met: value !== undefined && meets(condition.test, value),
        saw: value === undefined ? 'nothing filled in' : showField(field ?? { kind: 'text' }, value, formats),
      };
    }
  }
}

/** Why nobody can meet a condition whose bounds are the wrong way round; null for any other. */
function nobodyMeets(condition: Condition): string | null {
  const amounts = condition.kind === 'total' && above(condition.atLeast, condition.atMost);
  const fields = (condition.kind === 'field' || condition.kind === 'gift-field') && isUpsideDown(condition.test);
  const days = condition.kind === 'last-gift' && above(condition.from, condition.to);
  const window =
    (condition.kind === 'gave' || condition.kind === 'total') &&
    condition.window.kind === 'between' &&
    above(condition.window.from, condition.window.to);
  if (days || window || (fields && 'test' in condition && condition.test.is === 'dates'))
    return 'it ends before it begins';
  return amounts || fields ? 'the least is more than the most' : null;
}

/** A condition as a sentence: `gave at least $500.00 last fiscal year (FY2026) to Telescope Van`. */
export function describeCondition(condition: Condition, wording: Wording): string {
  const why = nobodyMeets(condition);
  return why === null ? saidOf(condition, wording) : `${saidOf(condition, wording)}; nobody can: ${why}`;
}

function saidOf(condition: Condition, wording: Wording): string {
  const { calendar, formats } = wording;
  const not = condition.not ? 'not: ' : '';
  const to = (asked: GiftsAsked): string =>
    [
      asked.fund === null ? '' : ` to ${wording.fundName(asked.fund)}`,
      asked.campaign ? ` in ${wording.campaignName(asked.campaign)}` : '',
      asked.appeal ? ` for ${wording.appealName(asked.appeal)}` : '',
      asked.method ? ` by ${PAYMENT_METHODS[asked.method].toLowerCase()}` : '',
    ].join('');
  const fieldAsks = (asked: { field: number; test: FieldTest }): string => {
    const { name, kind } = wording.field(asked.field);
    return `${name} ${describeFieldTest(asked.test, kind, formats)}`;
  };
  switch (condition.kind) {
    case 'region':
      return `${not}state is ${condition.regions.join(' or ') || 'none'}`;
    case 'tag':
      return `${condition.not ? 'does not have' : 'has'} the tag ${wording.tagName(condition.tag)}`;
    case 'gave':
      return `${condition.not ? 'did not give' : 'gave'}${to(condition)} ${describeWindow(condition.window, calendar, formats)}`;
    case 'total': {
      const least = condition.atLeast === null ? '' : `at least ${formatMoney(condition.atLeast, formats)}`;
      const most = condition.atMost === null ? '' : `at most ${formatMoney(condition.atMost, formats)}`;
      const amount = [least, most].filter(Boolean).join(' and ') || 'any amount';
      const verb = { legal: 'gave', recognition: 'is recognised for', both: 'gave or is recognised for' };
      return `${not}${verb[condition.credit ?? 'legal']} ${amount}${to(condition)} ${describeWindow(condition.window, calendar, formats)}`;
    }
    case 'last-gift': {
      const from = condition.from === null ? '' : ` on or after ${formatDate(condition.from, formats)}`;
      const until = condition.to === null ? '' : ` on or before ${formatDate(condition.to, formats)}`;
      return `${not}last gift${from}${until || (from ? '' : ' on any date')}`;
    }
    case 'kind':
      return `is ${condition.not ? 'not ' : ''}${condition.kinds.map(withArticle).join(' or ') || 'a supporter of no kind'}`;
    case 'wish':
      return `${not}${WISHES[condition.wish].word.toLowerCase()}`;
    case 'in-group':
      return `${condition.not ? 'is not in' : 'is in'} the group ${wording.groupName(condition.group)}`;
    case 'gift-field':
      return `${condition.not ? 'has no gift' : 'has a gift'} whose ${fieldAsks(condition)}`;
    case 'field':
      return `${not}${fieldAsks(condition)}`;
  }
}
