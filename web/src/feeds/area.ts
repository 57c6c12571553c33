import { listFeeds, runFeed } from '@tallystick/contract/feeds';
import { ask } from '../ui/api.ts';
import { waiting } from '../ui/area.ts';
import type { WebArea } from '../ui/area.ts';

export const feedsArea: WebArea = {
  routes: [{ path: 'intake/feeds', load: () => import('./FeedsPage.tsx') }],
  places: [{ name: 'Feeds', path: '/intake/feeds', needs: runFeed }],
  waits: [
    waiting(
      65,
      () => ask(listFeeds),
      ({ items }) =>
        items.flatMap(({ name, last, openRefunds }) => [
          { to: '/intake/feeds', figure: last?.state === 'failed' ? 1 : 0, words: `run of ${name} that failed` },
          { to: '/intake/feeds', figure: openRefunds, words: `refunds of ${name} to look at` },
        ]),
    ),
  ],
};
