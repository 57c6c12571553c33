import { LISTED_NAMES } from '@tallystick/core/catalogue';
import { MEASURE_NAMES } from '@tallystick/core/segments';
import type { Condition as Known } from '@tallystick/core/segments';
import { z } from 'zod';
import { Credit, IsoDateText } from './common.ts';

const Unit = z.enum(['day', 'week', 'month', 'year']);
/** Whole spans back from the one that today lies in; below zero those to come. */
const Ago = z.number().int().min(-200).max(600);
/** A window that is told by itself. */
export const PlainWindow = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('ever') }),
  z.object({ kind: z.literal('between'), from: IsoDateText, to: IsoDateText }),
  z.object({ kind: z.literal('fiscal-year'), ago: z.number().int().min(0).max(50) }),
  z.object({ kind: z.literal('last-days'), days: z.number().int().min(1).max(40_000) }),
  z.object({ kind: z.literal('since'), from: IsoDateText }),
  z.object({ kind: z.literal('until'), to: IsoDateText }),
  z.object({ kind: z.literal('last'), many: z.number().int().min(1).max(2_000), unit: Unit }),
  z.object({ kind: z.literal('next'), many: z.number().int().min(1).max(2_000), unit: Unit }),
  z.object({ kind: z.literal('month'), ago: Ago }),
  z.object({ kind: z.literal('quarter'), ago: Ago }),
  z.object({ kind: z.literal('year'), ago: Ago }),
  z.object({ kind: z.literal('fiscal-quarter'), ago: Ago }),
  z.object({ kind: z.literal('to-date'), of: z.enum(['year', 'fiscal-year']), ago: z.number().int().min(0).max(50) }),
]);
/** A window, or one of those that the organization keeps by name. */
export const Window = z.union([PlainWindow, z.object({ kind: z.literal('kept'), id: z.number().int() })]);
const turnable = { not: z.boolean().optional(), off: z.boolean().optional() };
const Bound = z.number().nullable();
const Values = z.array(z.string().max(200)).max(500);
/** What is asked of a value; which tests a type of value can be put to, the catalogue says. */
const Test = z.union([
  z.object({ is: z.enum(['filled', 'empty']) }),
  z.object({ is: z.enum(['any-of', 'contains', 'begins', 'sounds']), values: Values }),
  z.object({ is: z.literal('between'), atLeast: Bound, atMost: Bound }),
  z.object({ is: z.literal('in'), window: Window }),
]);
export const Name = z.string().max(60);
const Where = z.object({ part: Name, test: Test, not: z.boolean().optional() });
export const Wheres = z.array(Where).max(20);
export const Condition = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('field'), field: Name, test: Test, ...turnable }),
  z.object({
    ...{ kind: z.literal('rows'), of: z.enum(LISTED_NAMES), where: Wheres, measure: z.enum(MEASURE_NAMES), test: Test },
    after: z.object({ of: z.enum(LISTED_NAMES), where: Wheres, days: z.number().int().min(0).max(40_000) }).optional(),
    ...{ against: Window.optional(), credit: Credit.optional(), together: z.boolean().optional(), ...turnable },
  }),
  z.object({
    ...{ kind: z.literal('related'), by: z.enum(['tie', 'household']), where: Wheres, ...turnable },
    get match(): z.ZodType<Group> {
      return Inner;
    },
  }),
  z.object({ kind: z.literal('people'), list: z.number().int(), ...turnable }),
  z.object({ kind: z.literal('segment'), segment: z.number().int(), ...turnable }),
]);
export type Condition = z.infer<typeof Condition>;
type None<Kind extends never> = Kind;
/** Does not compile while a shape of condition has no form here. */
export type Forgotten = None<Exclude<Known['kind'], Condition['kind']>>;
const MOST_CONDITIONS = 60;
const DEEPEST_GROUP = 10;
export interface Group {
  kind: 'group';
  join: 'all' | 'any' | 'none';
  parts: (Condition | Group)[];
  off?: boolean | undefined;
}
const Inner: z.ZodType<Group> = z
  .object({
    kind: z.literal('group'),
    join: z.enum(['all', 'any', 'none']),
    get parts(): z.ZodType<(Condition | Group)[]> {
      return z.array(z.union([Condition, Inner])).max(50);
    },
    off: z.boolean().optional(),
  })
  .meta({ id: 'Group' });
/** The groups right within a part: of a group those in it, of a condition about somebody related theirs. */
const groupsIn = (part: Condition | Group): Group[] =>
  part.kind === 'group'
    ? part.parts.flatMap((one) => (one.kind === 'group' ? [one] : groupsIn(one)))
    : part.kind === 'related'
      ? [part.match]
      : [];
const holds = (group: Group): number => group.parts.length + groupsIn(group).reduce((sum, one) => sum + holds(one), 0);
const depth = (group: Group): number => 1 + Math.max(0, ...groupsIn(group).map(depth));
/** What a segment asks: so many conditions at most, and groups within groups only so deep. */
export const Group: z.ZodType<Group> = Inner.refine(
  (group) => holds(group) <= MOST_CONDITIONS,
  `A segment asks ${MOST_CONDITIONS} conditions at most.`,
).refine((group) => depth(group) <= DEEPEST_GROUP, `Groups lie within groups ${DEEPEST_GROUP} deep at most.`);

/** What is asked: the conditions, and whose giving counts where they do not say. */
export const Asked = z.object({ conditions: Group, credit: Credit.default('legal') });
export type Asked = z.infer<typeof Asked>;
