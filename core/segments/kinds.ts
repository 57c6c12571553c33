import { dateOfDay, describeWindow, formatDate } from '../dates/index.ts';
import type { Calendar, Window } from '../dates/index.ts';
import type { Facts } from '../facts/index.ts';
import { showField } from '../fields/index.ts';
import type { CustomField } from '../fields/index.ts';
import { PAYMENT_METHODS } from '../gifts/index.ts';
import { formatMoney } from '../money/index.ts';
import type { Formats } from '../money/index.ts';
import { withArticle } from '../names/index.ts';
import { kindOfCode, SUPPORTER_KINDS } from '../supporters/index.ts';
import { WISHES } from '../wishes/index.ts';
import { counted } from '../words/index.ts';
import type { Condition } from './condition.ts';
import { above, describeFieldTest, isUpsideDown, meets } from './field-test.ts';
import type { FieldTest } from './field-test.ts';
import { boundsOf, MEASURES } from './giving.ts';
import type { GiftsAsked, GiftsCondition, GivingPass, Tally } from './giving.ts';
import { hasTag, inGroup } from './measures.ts';

/** What conditions are answered from: facts, and the pass over gifts that all of them share. */
export interface Asking {
  facts: Facts;
  calendar: Calendar;
  pass: GivingPass;
}

/** What an explanation is given in. */
export interface Explaining {
  calendar: Calendar;
  formats: Formats;
  fields: readonly CustomField[];
}

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

/**
 * A kind of condition. What it asks is made ready once; then each supporter is tested, and of one supporter it is told
 * what it saw: both from the same reading, so that a list and its explanation cannot disagree.
 */
interface Kind<C> {
  ready: (condition: C, asking: Asking) => Ready;
  /** As a sentence, without what is said where it is turned round. */
  says: (condition: C, wording: Wording) => string;
  /** The sentence where it is turned round; `not: ` before the other where it is left out. */
  saysNot?: (condition: C, wording: Wording) => string;
  /** What is said where its bounds are the wrong way round: that nobody can meet it, and why. */
  nobody?: (condition: C) => string | null;
}
export interface Ready {
  /** True where gifts are read, which costs more than anything else. */
  costly?: true;
  /** Whether it holds of a supporter, which for gifts is the one that the pass is at. */
  holds: (slot: number) => boolean;
  saw: (slot: number, setting: Explaining) => string;
}

type Of<K extends Condition['kind']> = Extract<Condition, { kind: K }>;

const UPSIDE_DOWN = 'nobody can: the least is more than the most';
const ENDS_FIRST = 'nobody can: it ends before it begins';
/** Of a measure that is nothing where there are no gifts: those of whom nothing is asked still meet it. */
const NO_GIFT = 'no gift can be in it: it ends before it begins';

/** ` to Telescope Van in Annual Fund for Fall letter by card last fiscal year (FY2026)`. */
function whichGifts(asked: GiftsAsked, wording: Wording): string {
  const parts = [
    asked.fund === null ? '' : `to ${wording.fundName(asked.fund)}`,
    asked.campaign ? `in ${wording.campaignName(asked.campaign)}` : '',
    asked.appeal ? `for ${wording.appealName(asked.appeal)}` : '',
    asked.method ? `by ${PAYMENT_METHODS[asked.method].toLowerCase()}` : '',
    describeWindow(asked.window, wording.calendar, wording.formats),
  ];
  return parts
    .filter(Boolean)
    .map((part) => ` ${part}`)
    .join('');
}

/** `at least $5.00 and at most $10.00`; empty where neither bounds. */
function betweenWords(
  least: number | null | undefined,
  most: number | null | undefined,
  show: (value: number) => string,
) {
  return [least == null ? '' : `at least ${show(least)}`, most == null ? '' : `at most ${show(most)}`]
    .filter(Boolean)
    .join(' and ');
}

const isBackwards = (window: Window | null | undefined): boolean =>
  window?.kind === 'between' && above(window.from, window.to);

/** A figure of gifts within bounds. */
const measured = (
  tally: Tally,
  low: number,
  high: number,
  saw: (value: number, setting: Explaining) => string,
): Ready => ({
  costly: true,
  holds: () => {
    const value = tally.value();
    return value >= low && value <= high;
  },
  saw: (_slot, setting) => saw(tally.value(), setting),
});

function sawFigure(condition: GiftsCondition, value: number, { formats }: Explaining): string {
  if (Number.isNaN(value)) return 'no such gift';
  const measure = MEASURES[condition.measure];
  if (measure.type === 'money') return formatMoney(value, formats);
  if (measure.type === 'date') return formatDate(dateOfDay(value), formats);
  return counted(value, 'unit' in measure ? measure.unit : 'gift');
}

const fieldSays = ({ field, test }: { field: number; test: FieldTest }, wording: Wording): string => {
  const { name, kind } = wording.field(field);
  return `${name} ${describeFieldTest(test, kind, wording.formats)}`;
};
const fieldNobody = ({ test }: { test: FieldTest }): string | null =>
  isUpsideDown(test) ? (test.is === 'dates' ? ENDS_FIRST : UPSIDE_DOWN) : null;

/** Every kind of condition, once. */
export const KINDS: { [K in Condition['kind']]: Kind<Of<K>> } = {
  region: {
    ready({ regions }, { facts }) {
      const wanted = new Uint8Array(facts.regions.words.length);
      for (const region of regions) {
        const code = facts.regions.find(region);
        if (code >= 0) wanted[code] = 1;
      }
      return {
        holds: (slot) => wanted[facts.region[slot] as number] === 1,
        saw: (slot) => facts.regions.words[facts.region[slot] ?? 0] || 'no state on record',
      };
    },
    says: ({ regions }) => `state is ${regions.join(' or ') || 'none'}`,
  },
  tag: {
    ready: ({ tag }, { facts }) => ({
      holds: (slot) => hasTag(facts, slot, tag),
      saw: (slot) => (hasTag(facts, slot, tag) ? 'has the tag' : 'does not have the tag'),
    }),
    says: ({ tag }, { tagName }) => `has the tag ${tagName(tag)}`,
    saysNot: ({ tag }, { tagName }) => `does not have the tag ${tagName(tag)}`,
  },
  gave: {
    ready: ({ kind: _kind, ...asked }, { pass }) =>
      measured(pass.ask({ ...asked, kind: 'gifts', measure: 'number' }), 1, Infinity, (many) => counted(many, 'gift')),
    says: (condition, wording) => `gave${whichGifts(condition, wording)}`,
    saysNot: (condition, wording) => `did not give${whichGifts(condition, wording)}`,
    nobody: ({ window }) => (isBackwards(window) ? ENDS_FIRST : null),
  },
  total: {
    ready({ kind: _kind, credit = 'legal', atLeast, atMost, ...asked }, { pass }) {
      const tally =
        credit === 'legal' ? pass.ask({ ...asked, kind: 'gifts', measure: 'sum' }) : pass.credited(asked, credit);
      return measured(tally, atLeast ?? -Infinity, atMost ?? Infinity, (sum, { formats }) => formatMoney(sum, formats));
    },
    says(condition, wording) {
      const amount = betweenWords(condition.atLeast, condition.atMost, (cents) => formatMoney(cents, wording.formats));
      const verb = { legal: 'gave', recognition: 'is recognised for', both: 'gave or is recognised for' };
      return `${verb[condition.credit ?? 'legal']} ${amount || 'any amount'}${whichGifts(condition, wording)}`;
    },
    nobody: ({ window, atLeast, atMost }) =>
      isBackwards(window) ? NO_GIFT : above(atLeast, atMost) ? UPSIDE_DOWN : null,
  },
  gifts: {
    ready(condition, { pass, calendar }) {
      const { low, high } = boundsOf(condition, calendar);
      return measured(pass.ask(condition), low, high, (value, setting) => sawFigure(condition, value, setting));
    },
    says(condition, wording) {
      const { calendar, formats } = wording;
      const { measure, cents, against, atLeast, atMost, within } = condition;
      const money = (value: number): string => formatMoney(value, formats);
      const { says, type } = MEASURES[measure];
      const each = betweenWords(cents?.atLeast, cents?.atMost, money);
      const from = measure === 'change' && against ? ` against ${describeWindow(against, calendar, formats)}` : '';
      const asked = `${says}${each && ` of ${each} each`}${whichGifts(condition, wording)}${from}`;
      if (type === 'date') return `${asked} was ${within ? describeWindow(within, calendar, formats) : 'on any date'}`;
      return `${asked} is ${betweenWords(atLeast, atMost, type === 'money' ? money : String) || 'anything'}`;
    },
    nobody: ({ window, within, against, cents, atLeast = null, atMost = null }) => {
      if (isBackwards(within)) return ENDS_FIRST;
      if (isBackwards(window) || isBackwards(against)) return NO_GIFT;
      return above(atLeast, atMost) || (cents && above(cents.atLeast, cents.atMost)) ? UPSIDE_DOWN : null;
    },
  },
  'last-gift': {
    ready({ from, to }, { pass, calendar }) {
      const within: Window = { kind: 'between', from: from ?? '0001-01-01', to: to ?? '9999-12-31' };
      const asked: GiftsCondition = { kind: 'gifts', measure: 'last', fund: null, window: { kind: 'ever' }, within };
      const { low, high } = boundsOf(asked, calendar);
      return measured(pass.ask(asked), low, high, (day, { formats }) =>
        Number.isNaN(day) ? 'no gift yet' : formatDate(dateOfDay(day), formats),
      );
    },
    says({ from, to }, { formats }) {
      const begins = from === null ? '' : ` on or after ${formatDate(from, formats)}`;
      const ends = to === null ? '' : ` on or before ${formatDate(to, formats)}`;
      return `last gift${begins}${ends || (begins ? '' : ' on any date')}`;
    },
    nobody: ({ from, to }) => (above(from, to) ? ENDS_FIRST : null),
  },
  kind: {
    ready({ kinds }, { facts }) {
      const wanted = kinds.reduce((bits, kind) => bits | (1 << SUPPORTER_KINDS[kind].code), 0);
      return {
        holds: (slot) => (wanted & (1 << (facts.kind[slot] as number))) !== 0,
        saw: (slot) => kindOfCode(facts.kind[slot] ?? 0),
      };
    },
    says: ({ kinds }) => `is ${kinds.map(withArticle).join(' or ') || 'a supporter of no kind'}`,
    saysNot: ({ kinds }) => `is not ${kinds.map(withArticle).join(' or ') || 'a supporter of no kind'}`,
  },
  wish: {
    ready({ wish }, { facts }) {
      const { bit, word } = WISHES[wish];
      const holds = (slot: number): boolean => ((facts.flags[slot] as number) & bit) !== 0;
      return { holds, saw: (slot) => (holds(slot) ? word.toLowerCase() : 'no such wish') };
    },
    says: ({ wish }) => WISHES[wish].word.toLowerCase(),
  },
  'in-group': {
    ready: ({ group }, { facts }) => ({
      holds: (slot) => inGroup(facts, slot, group),
      saw: (slot) => (inGroup(facts, slot, group) ? 'is in the group' : 'is not in the group'),
    }),
    says: ({ group }, { groupName }) => `is in the group ${groupName(group)}`,
    saysNot: ({ group }, { groupName }) => `is not in the group ${groupName(group)}`,
  },
  field: {
    ready({ field, test }, { facts }) {
      const values = facts.fields.get(field);
      return {
        holds: (slot) => {
          const value = values?.get(slot);
          return value !== undefined && meets(test, value);
        },
        saw(slot, { fields, formats }) {
          const value = values?.get(slot);
          if (value === undefined) return 'nothing filled in';
          return showField(fields.find((one) => one.id === field) ?? { kind: 'text' }, value, formats);
        },
      };
    },
    says: fieldSays,
    nobody: fieldNobody,
  },
  'gift-field': {
    ready({ field, test }, { facts }) {
      const values = facts.giftFields.get(field);
      const fitting = (slot: number): number => (values?.get(slot) ?? []).filter((value) => meets(test, value)).length;
      return { holds: (slot) => fitting(slot) > 0, saw: (slot) => counted(fitting(slot), 'such gift') };
    },
    says: (condition, wording) => `has a gift whose ${fieldSays(condition, wording)}`,
    saysNot: (condition, wording) => `has no gift whose ${fieldSays(condition, wording)}`,
    nobody: fieldNobody,
  },
};

/** A condition's own kind; the one place where a condition and its declaration meet without the compiler. */
export const kindOf = <C extends Condition>(condition: C): Kind<C> => KINDS[condition.kind] as unknown as Kind<C>;

/** A condition as a sentence: `gave at least $500.00 to Telescope Van last fiscal year (FY2026)`. */
export function describeCondition(condition: Condition, wording: Wording): string {
  const { says, saysNot, nobody } = kindOf(condition);
  const sentence = !condition.not
    ? says(condition, wording)
    : (saysNot?.(condition, wording) ?? `not: ${says(condition, wording)}`);
  const why = nobody?.(condition) ?? null;
  return why === null ? sentence : `${sentence}; ${why}`;
}
