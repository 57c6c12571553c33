import { z } from 'zod';
import { FORMS, PARTY_CASES, ruleFault } from '@tallystick/core/names';
import { endpoint } from './endpoint.ts';
import { Id, Written } from './common.ts';

/** A fund, campaign or appeal to choose from. Closed ones are never offered for new gifts. */
export const Choice = z.object({ id: Id, code: z.string(), name: z.string(), closed: z.boolean() });
export type Choice = z.infer<typeof Choice>;
export const AppealChoice = Choice.extend({ campaignId: Id.nullable() });
export const Tag = z.object({ id: Id, name: z.string(), count: z.number() });

export const listChoices = endpoint({
  id: 'listChoices',
  area: 'settings',
  method: 'get',
  path: '/choices',
  role: 'read',
  summary:
    'Funds, campaigns, appeals, tags, groups, segments, colleagues and the states in use: what forms and conditions choose from.',
  response: z.object({
    funds: z.array(Choice),
    campaigns: z.array(Choice),
    appeals: z.array(AppealChoice),
    tags: z.array(Tag),
    groups: z.array(Tag),
    segments: z.array(z.object({ id: Id, name: z.string() })),
    users: z.array(z.object({ id: Id, name: z.string() })),
    regions: z.array(z.string()),
  }),
});

const Rule = z
  .string()
  .max(500)
  .superRefine((rule, context) => {
    const fault = ruleFault(rule);
    if (fault !== null) context.addIssue({ code: 'custom', message: fault });
  });
const shapeOf = <T extends object>(keys: T, value: z.ZodType) =>
  z.object(Object.fromEntries(Object.keys(keys).map((key) => [key, value])) as Record<keyof T, z.ZodType>);
export const AddressingRules = shapeOf(PARTY_CASES, shapeOf(FORMS, Rule));

export const getAddressingRules = endpoint({
  id: 'getAddressingRules',
  area: 'settings',
  method: 'get',
  path: '/addressing',
  role: 'read',
  summary: 'The rules by which addressees and salutations are made.',
  response: z.object({ rules: AddressingRules }),
});
export const setAddressingRules = endpoint({
  id: 'setAddressingRules',
  area: 'settings',
  method: 'put',
  path: '/addressing',
  role: 'admin',
  summary: 'Change those rules. Texts written by hand stay.',
  body: z.object({ rules: AddressingRules }),
  response: Written,
});
