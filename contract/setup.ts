import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Id } from './common.ts';

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
  summary: 'Funds, campaigns, appeals, tags and the states in use: what forms and conditions choose from.',
  response: z.object({
    funds: z.array(Choice),
    campaigns: z.array(Choice),
    appeals: z.array(AppealChoice),
    tags: z.array(Tag),
    regions: z.array(z.string()),
  }),
});
