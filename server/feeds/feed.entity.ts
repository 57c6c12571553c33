import type { Often } from '@tallystick/core/feeds';
import type { FeedRun } from '@tallystick/contract/feeds';
import { isFinal } from '../platform/changes.ts';
import { eraseAll, eraseFrom } from '../platform/erase-text.ts';
import { day, long, maybe, outside, ref, setUp, table, text, whole } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    feed: true;
  }
}
isFinal('feed', 'what came from outside is not sent away again; undo the intake that brought it in');

/** An outside source that gifts come from by themselves, and how. */
export const FeedTable = table('feed', setUp('feeds', 'Feed'), {
  name: text(60).says('Name'),
  recipe_id: maybe(ref),
  often: text<Often>(10).says('Runs'),
  at_hour: whole.says('At'),
  /** JSON: which campaign of the source is told of gifts to which of our funds. */
  tells: long,
  tells_since: maybe(day).says('Tells of gifts since'),
});
export type FeedRecord = RowOf<typeof FeedTable>;

/* The bookkeeping of feeds: what it leads to in the records is a change set of its own. */
outside('feed_place', 'how far each feed was read; going back there would take gifts twice');
outside('feed_item', 'which gifts came; forgetting one would take it twice');
outside(
  'feed_refund',
  'which refunds came; each is noted by a correction, which is the change',
  eraseAll(eraseFrom('feed_refund', 'reason'), eraseFrom('feed_refund', 'why')),
);
outside('feed_told', 'what a source was told, which cannot be untold');
outside('feed_run', 'the log of runs', eraseFrom('feed_run', 'message'));

export interface PlaceRecord {
  feed_id: number;
  /** Where to read on, as the source says it; empty at the beginning. */
  gifts: string;
  refunds: string;
  gathering_id: number | null;
  waiting_id: number | null;
  began_at: string;
}
export interface RefundRecord {
  id: number;
  refund: string;
  item: string;
  cents: number;
  reason: string;
  state: 'pending' | 'noted' | 'settled';
  why: string;
}
export interface RunRecord {
  id: number;
  actor: string;
  began_at: string;
  ended_at: string | null;
  state: FeedRun['state'];
  message: string;
  came: number;
  came_cents: number;
  again: number;
  brought: number;
  brought_cents: number;
  aside: number;
  refunds: number;
  refund_cents: number;
  told: number;
}
