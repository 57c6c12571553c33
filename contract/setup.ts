import type { Ref } from '@tallystick/core/catalogue';
import { KeptWindow } from './windows.ts';
import { z } from 'zod';
import { FORMS, PARTY_CASES, ruleFault } from '@tallystick/core/names';
import { endpoint } from './endpoint.ts';
import { Cents, Id, IsoDateText, Written, keysOf } from './common.ts';

/** A fund, campaign or appeal to choose from. Closed ones are never offered for new gifts. */
export const Choice = z.object({
  id: Id,
  version: z.number(),
  code: z.string(),
  name: z.string(),
  closed: z.boolean(),
  startsOn: z.string().nullable(),
  endsOn: z.string().nullable(),
  goalCents: z.number().nullable(),
});
export type Choice = z.infer<typeof Choice>;
export const AppealChoice = Choice.extend({ campaignId: Id.nullable() });
export const SourceChoice = Choice.extend({ appealId: Id.nullable() });
/** The kind that gifts go to, by the name they have in the API. */
export const GIFT_CODES = { funds: 'fund', campaigns: 'campaign', appeals: 'appeal', sources: 'source code' } as const;
export type GiftCodeKind = keyof typeof GIFT_CODES;
const GiftCodeDraft = z.object({
  code: z.string().trim().min(1, 'Give it a code.').max(30),
  name: z.string().trim().min(1, 'Give it a name.').max(120),
  closed: z.boolean().default(false),
  startsOn: IsoDateText.nullable().default(null),
  endsOn: IsoDateText.nullable().default(null),
  goalCents: Cents.nullable().default(null),
  /** The campaign of an appeal, the appeal of a source code. */
  parentId: Id.nullable().default(null),
});
export type GiftCodeDraft = z.infer<typeof GiftCodeDraft>;
const codeParams = z.object({ kind: keysOf(GIFT_CODES) });

export const listGiftCodes = endpoint({
  id: 'listGiftCodes',
  area: 'settings',
  method: 'get',
  path: '/gift-codes/:kind',
  right: 'giftCodes.see',
  summary: 'Funds, campaigns, appeals or source codes with what they brought.',
  params: codeParams,
  response: z.object({
    items: z.array(
      Choice.extend({
        parentId: Id.nullable(),
        gifts: z.number(),
        cents: z.number(),
        /** What of it came in between its first and its last day. */
        towardGoalCents: z.number(),
      }),
    ),
  }),
});
export const addGiftCode = endpoint({
  id: 'addGiftCode',
  area: 'settings',
  method: 'post',
  path: '/gift-codes/:kind',
  right: 'giftCodes.add',
  summary: 'Add a fund, campaign, appeal or source code.',
  params: codeParams,
  body: GiftCodeDraft,
  response: Written.extend({ id: Id }),
});
export const changeGiftCode = endpoint({
  id: 'changeGiftCode',
  area: 'settings',
  method: 'put',
  path: '/gift-codes/:kind/:id',
  right: 'giftCodes.change',
  summary: 'Change it, close it or open it again; closed ones are never offered for new gifts.',
  params: codeParams.extend({ id: Id }),
  body: GiftCodeDraft.extend({ version: z.number() }),
  response: Written,
});
export const deleteGiftCode = endpoint({
  id: 'deleteGiftCode',
  area: 'settings',
  method: 'delete',
  path: '/gift-codes/:kind/:id',
  right: 'giftCodes.delete',
  summary: 'Delete one that nothing was ever given to; one in use is refused with the figures, and can be closed.',
  params: codeParams.extend({ id: Id }),
  response: Written,
});

export const Tag = z.object({ id: Id, name: z.string(), count: z.number() });

export const listChoices = endpoint({
  id: 'listChoices',
  area: 'settings',
  method: 'get',
  path: '/choices',
  right: 'supporters.see',
  summary:
    'Funds, campaigns, appeals, tags, groups, segments, colleagues, mailings and the states in use: what forms and conditions choose from.',
  response: z.object({
    funds: z.array(Choice),
    campaigns: z.array(Choice),
    appeals: z.array(AppealChoice),
    sources: z.array(SourceChoice),
    tags: z.array(Tag),
    groups: z.array(Tag),
    segments: z.array(z.object({ id: Id, name: z.string(), folder: z.string() })),
    users: z.array(z.object({ id: Id, name: z.string() })),
    /** What the other of a tie may be: the kind of tie * 2, and 1 more for its second word. */
    roles: z.array(z.object({ id: Id, name: z.string() })),
    mailings: z.array(z.object({ id: Id, name: z.string() })),
    intakes: z.array(z.object({ id: Id, name: z.string() })),
    /** Windows of days that are kept by name. */
    windows: z.array(KeptWindow),
    /** The newest batches. */
    batches: z.array(z.object({ id: Id, name: z.string() })),
    /** The states and provinces of addresses: the code, and its name (the text itself where it is no code). */
    regions: z.array(z.object({ code: z.string(), name: z.string() })),
  }),
});

/** Which list has what a value of the catalogue refers to. */
export const CHOICES_OF = {
  ...{ tag: 'tags', group: 'groups', fund: 'funds', campaign: 'campaigns', appeal: 'appeals', source: 'sources' },
  ...{ batch: 'batches', user: 'users', role: 'roles', mailing: 'mailings', intake: 'intakes' },
} as const satisfies Record<Ref, keyof z.infer<typeof listChoices.response>>;

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
  right: 'addressing.see',
  summary: 'The rules by which addressees and salutations are made.',
  response: z.object({ rules: AddressingRules }),
});
export const setAddressingRules = endpoint({
  id: 'setAddressingRules',
  area: 'settings',
  method: 'put',
  path: '/addressing',
  right: 'addressing.change',
  summary: 'Change those rules. Texts written by hand stay.',
  body: z.object({ rules: AddressingRules }),
  response: Written,
});
