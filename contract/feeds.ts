import { OFTEN } from '@tallystick/core/feeds';
import { z } from 'zod';
import { Id, IdParams, IsoDateText, keysOf, pageOf, Paging, Written } from './common.ts';
import { endpoint } from './endpoint.ts';

export const RUN_STATES = ['running', 'waiting', 'done', 'failed', 'stopped', 'rehearsed'] as const;
/** A campaign of the source that is told of gifts to one of our funds that did not come through it. */
export const Telling = z.object({
  campaign: z
    .string()
    .trim()
    .min(1)
    .max(60)
    .regex(/^(?!\.+$)/, 'A campaign has a name.'),
  fundId: Id,
});
export const FeedSetting = z.object({
  /** The recipe that what comes is read by; null: as its columns say. */
  recipeId: Id.nullable(),
  often: keysOf(OFTEN),
  /** The hour of the day, 0 to 23, of a feed that runs once a day. */
  atHour: z.number().int().min(0).max(23),
  tells: z
    .array(Telling)
    .max(50)
    .refine(
      (tells) => new Set(tells.map(({ campaign }) => campaign)).size === tells.length,
      'Each campaign is told of one fund.',
    ),
  /** The first day of the gifts that are told; null where none are. */
  tellsSince: IsoDateText.nullable(),
});
export type FeedSetting = z.infer<typeof FeedSetting>;
export const Feed = FeedSetting.extend({
  ...{ id: Id, version: z.number(), name: z.string() },
  /** Where it is reached; null where nothing is set up, so that it cannot run. */
  address: z.string().nullable(),
  /** The rows that wait for a person; null where none do. */
  waitingId: Id.nullable(),
  /** How the last run stands, and when it began; null before the first. */
  last: z.object({ state: z.enum(RUN_STATES), beganAt: z.string() }).nullable(),
  /** Refunds of the source that could not be noted. */
  openRefunds: z.number(),
});
export type Feed = z.infer<typeof Feed>;
const Figure = z.object({ gifts: z.number(), cents: z.number() });
export const FeedStanding = z.object({
  /** Every gift that ever came, and the three parts of that. */
  ...{ came: Figure, recorded: Figure, waiting: Figure, leftOut: Figure },
  /** Gifts that came again and came to something else then; what came first is kept. */
  otherwise: z.array(z.object({ item: z.string(), cents: z.number(), nowCents: z.number(), giftId: Id.nullable() })),
  /** What was given back at the source and is not in our books, each with why. */
  refunds: z.array(
    z.object({
      ...{ refund: z.string(), item: z.string(), cents: z.number(), why: z.string() },
      giftId: Id.nullable(),
    }),
  ),
});
export type FeedStanding = z.infer<typeof FeedStanding>;
export const FeedRun = z.object({
  ...{ id: Id, by: z.string(), beganAt: z.string(), endedAt: z.string().nullable() },
  /** `waiting`: the source does not answer, and is asked again. */
  state: z.enum(RUN_STATES),
  message: z.string(),
  /** Gifts that came and had not come before, and those that had. */
  ...{ came: z.number(), cameCents: z.number(), again: z.number() },
  /** Gifts brought in, and rows that were put aside for a person. */
  ...{ brought: z.number(), broughtCents: z.number(), aside: z.number() },
  ...{ refunds: z.number(), refundCents: z.number() },
  /** Gifts that the source was told of, or told anew. */
  told: z.number(),
});
export type FeedRun = z.infer<typeof FeedRun>;
export const FeedCampaign = z.object({
  ...{ id: z.string(), name: z.string(), goalCents: z.number(), onlineCents: z.number(), offlineCents: z.number() },
  /** What the source should have been told by what holds here; null where it is told of nothing. */
  oursCents: z.number().nullable(),
});
export type FeedCampaign = z.infer<typeof FeedCampaign>;

const area = 'feeds';
const OneFeed = { area, params: IdParams } as const;
export const listFeeds = endpoint({
  id: 'listFeeds',
  area,
  method: 'get',
  path: '/feeds',
  right: 'intakes.see',
  summary: 'The outside sources that gifts come from by themselves.',
  response: z.object({ items: z.array(Feed) }),
});
export const changeFeed = endpoint({
  ...OneFeed,
  id: 'changeFeed',
  method: 'put',
  path: '/feeds/:id',
  right: 'intakes.change',
  summary: 'Change how often a feed runs, by which recipe what comes is read, and what the source is told.',
  body: FeedSetting.extend({ version: z.number().int() }),
  response: Written,
});
export const runFeed = endpoint({
  ...OneFeed,
  id: 'runFeed',
  method: 'post',
  path: '/feeds/:id/run',
  right: 'intakes.money',
  summary:
    'Take what came since the last time, as a job: what is sure is brought in, what is not waits for a person, refunds are noted, and the source is told of gifts that did not come through it.',
  response: z.object({ jobId: Id }),
});
export const rehearseFeed = endpoint({
  ...OneFeed,
  id: 'rehearseFeed',
  method: 'post',
  path: '/feeds/:id/rehearse',
  right: 'intakes.money',
  summary: 'Do all of a run as a job and take it back at once: the log says what would come of it.',
  response: z.object({ jobId: Id }),
});
export const listFeedRuns = endpoint({
  ...OneFeed,
  id: 'listFeedRuns',
  method: 'get',
  path: '/feeds/:id/runs',
  right: 'intakes.see',
  summary: 'Every run of a feed, the newest first.',
  query: Paging,
  response: pageOf(FeedRun),
});
export const feedStanding = endpoint({
  ...OneFeed,
  id: 'feedStanding',
  method: 'get',
  path: '/feeds/:id/standing',
  right: 'intakes.see',
  summary: 'Where every gift that came stands: in the books, waiting for a person, or left out.',
  response: FeedStanding,
});
export const feedCampaigns = endpoint({
  ...OneFeed,
  id: 'feedCampaigns',
  method: 'get',
  path: '/feeds/:id/campaigns',
  right: 'intakes.see',
  summary: 'What each campaign of the source came to there, as it says now, beside what it should have been told.',
  response: z.object({ items: z.array(FeedCampaign) }),
});
export const lookAgain = endpoint({
  ...OneFeed,
  id: 'lookAgain',
  method: 'post',
  path: '/feeds/:id/look-again',
  right: 'intakes.change',
  summary: 'Put the gifts that came and were left out among the rows that wait for a person.',
  response: Written.extend({ rows: z.number(), intakeId: Id.nullable() }),
});
export const settleFeedRefund = endpoint({
  id: 'settleFeedRefund',
  area,
  method: 'post',
  path: '/feeds/:id/refunds/:refund/settle',
  right: 'intakes.money',
  summary: 'Say that a refund of the source is dealt with by hand, so that it is not noted any more.',
  params: z.object({ id: Id, refund: z.string().min(1).max(50) }),
  response: Written,
});
