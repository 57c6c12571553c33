import * as contract from '@tallystick/contract/feeds';
import { area } from '../area.ts';
import { giftsArea } from '../gifts/index.ts';
import { intakeArea } from '../intake/index.ts';
import type { Http } from '../platform/http.ts';
import { settingsArea } from '../settings/index.ts';
import { Feeds } from './feeds.service.ts';
import { Portal } from './portal.ts';
import { FeedRuns } from './run.ts';

export type { PortalConfig } from './portal.ts';

function serveFeeds(http: Http, feeds: Feeds, runs: FeedRuns): void {
  http.on(contract.listFeeds, async () => ({ items: await feeds.list() }));
  http.on(contract.changeFeed, async ({ actor, params, body }) => {
    const { revision } = await feeds.change(actor, params.id, body);
    return { revision };
  });
  http.on(contract.runFeed, async ({ actor, params }) => ({ jobId: await runs.begin(actor, params.id, false) }));
  http.on(contract.rehearseFeed, async ({ actor, params }) => ({ jobId: await runs.begin(actor, params.id, true) }));
  http.on(contract.listFeedRuns, ({ params, query }) => feeds.runs(params.id, query));
  http.on(contract.feedStanding, ({ params }) => feeds.standing(params.id));
  http.on(contract.feedCampaigns, async ({ params }) => ({ items: await feeds.campaigns(params.id) }));
  http.on(contract.lookAgain, ({ actor, params }) => feeds.lookAgain(actor, params.id));
  http.on(contract.settleFeedRefund, ({ actor, params }) => feeds.settle(actor, params.id, params.refund));
}

/** Outside sources that gifts come from by themselves, and that are told of the others. */
export const feedsArea = area('feeds', ({ config, clock, source, changes, jobs, http, onListen }, of) => {
  const { settings } = of(settingsArea);
  const { corrections } = of(giftsArea);
  const { intakes, gathered } = of(intakeArea);
  const portal = config.portal ? new Portal(config.portal, config.portalPatience) : null;
  const feeds = new Feeds(source, changes, gathered, portal);
  const runs = new FeedRuns(source, changes, clock, settings, jobs, feeds, intakes, gathered, corrections, portal);
  intakes.askBeforeThrownAway((sql, id) => feeds.keeps(sql, id));
  serveFeeds(http, feeds, runs);
  if (portal)
    onListen(async () => {
      await feeds.ensure();
      const { time_zone: timeZone } = await settings.organization();
      await jobs.schedule('feeds each quarter of an hour', { at: '*/15 * * * *', timeZone }, () => runs.due());
    });
  return { feeds, feedRuns: runs };
});
