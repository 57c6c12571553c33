import { listRuns, listUnthanked } from '@tallystick/contract/thanks';
import { ask } from '../ui/api.ts';
import { waiting } from '../ui/area.ts';
import type { WebArea } from '../ui/area.ts';

export const thanksArea: WebArea = {
  routes: [
    { path: 'thanks', load: () => import('./ThanksPage.tsx') },
    { path: 'thanks/issued', load: () => import('./IssuedPage.tsx') },
    { path: 'thanks/letters/:letter?', load: () => import('./LettersPage.tsx') },
  ],
  places: [
    { name: 'Thanks', path: '/thanks', in: 'strip' },
    { name: 'Receipts issued', path: '/thanks/issued' },
    { name: 'Letters', path: '/thanks/letters' },
  ],
  waits: [
    waiting(
      10,
      () => ask(listUnthanked, { query: { limit: 1 } }),
      ({ sum }, { money }) => [{ to: '/thanks', figure: sum.count, words: `gifts to thank, ${money(sum.cents)}` }],
    ),
    waiting(
      70,
      () => ask(listRuns),
      ({ items }) => [
        {
          to: '/thanks/issued?list=issues',
          figure: items.reduce((sum, run) => sum + run.notReached, 0),
          words: 'receipts not reached',
        },
      ],
    ),
  ],
};
