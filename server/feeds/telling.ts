import { toTell } from '@tallystick/core/feeds';
import { giftNumber } from '@tallystick/core/gifts';
import { counted } from '@tallystick/core/words';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { FeedRecord } from './feed.entity.ts';
import { tellsOf } from './feeds.service.ts';
import type { Feeds } from './feeds.service.ts';
import { add } from './log.ts';
import type { Run } from './log.ts';
import { MOST_TOLD, PortalRefused } from './portal.ts';

/** Tells the source of gifts that did not come through it. */
export class Telling {
  constructor(
    private readonly sql: Sql,
    private readonly feeds: Feeds,
  ) {}

  /** What each campaign of the source must be told, so that it knows of the gifts that did not come through it. */
  async toTell(feed: FeedRecord) {
    const tells = tellsOf(feed);
    const before = await this.sql.rows<{ campaign: string; id: number; cents: number; day: string }>(
      'SELECT campaign, gift_id AS id, cents, day FROM feed_told WHERE feed_id = ?',
      [feed.id],
    );
    const since = feed.tells_since;
    const campaigns = new Set([...tells.map(({ campaign }) => campaign), ...before.map(({ campaign }) => campaign)]);
    return Promise.all(
      [...campaigns].map(async (campaign) => {
        const told = tells.find((one) => one.campaign === campaign);
        const holds = told && since !== null ? await this.feeds.elsewhere(feed.id, told.fundId, since) : [];
        const entry = ({ id, cents, day }: { id: number; cents: number; day: string }) => ({
          key: giftNumber(id),
          cents,
          day,
        });
        const ids = new Map([...before, ...holds].map(({ id }) => [giftNumber(id), id]));
        const gifts = toTell(
          before.filter((one) => one.campaign === campaign).map(entry),
          holds.map(({ date: day, ...gift }) => entry({ ...gift, day })),
        );
        return { campaign, gifts: gifts.map((gift) => ({ ...gift, id: ids.get(gift.key) ?? 0 })) };
      }),
    );
  }

  /** Tells every campaign; one that will not hear is said in the end, and keeps no other from being told. */
  async all(run: Run): Promise<void> {
    const deaf: string[] = [];
    for (const { campaign, gifts } of await this.toTell(run.feed))
      await this.tell(run, campaign, gifts).catch((error: unknown) => {
        if (!(error instanceof PortalRefused)) throw error;
        deaf.push(`The campaign ${campaign} could not be told of ${counted(gifts.length, 'gift')}. ${error.message}`);
      });
    if (deaf.length > 0) throw new PortalRefused(deaf.join(' '));
  }

  /** Tells a campaign of gifts; what it was told is kept after each lot, so that no more than one is told again. */
  private async tell(
    { id: runId, feed, portal, alive }: Run,
    campaign: string,
    gifts: readonly { id: number; key: string; cents: number; day: string }[],
  ): Promise<void> {
    for (const lot of chunks(gifts, MOST_TOLD)) {
      await portal.tell(
        campaign,
        lot.map(({ key, cents, day }) => ({ key, cents, day })),
      );
      await this.sql.run(
        `INSERT INTO feed_told (feed_id, campaign, gift_id, cents, day) VALUES ?
         ON DUPLICATE KEY UPDATE cents = VALUES(cents), day = VALUES(day)`,
        [lot.map(({ id, cents, day }) => [feed.id, campaign, id, cents, day])],
      );
      await add(this.sql, runId, { told: lot.length });
      await alive(`Told ${campaign} of ${counted(lot.length, 'gift')}`);
    }
  }
}
