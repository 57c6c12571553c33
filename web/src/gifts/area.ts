import { listGifts, recordGift } from '@tallystick/contract/gifts';
import { ask } from '../ui/api.ts';
import { waiting } from '../ui/area.ts';
import type { WebArea } from '../ui/area.ts';
import { openGiftDialog, openGiftOfInSight } from './asking.ts';

export const giftsArea: WebArea = {
  routes: [
    { path: 'gifts', load: () => import('./GiftsPage.tsx') },
    { path: 'gifts/totals', load: () => import('./TotalsPage.tsx') },
    { path: 'gifts/:id', load: () => import('./GiftPage.tsx') },
  ],
  places: [
    { name: 'Gifts', path: '/gifts', in: 'strip' },
    { name: 'Totals', path: '/gifts/totals' },
  ],
  adds: [{ label: 'Gift', order: 10, keys: 'g', needs: recordGift, go: () => openGiftDialog(null) }],
  keys: [{ key: 'g', says: 'Record a gift', needs: recordGift, run: openGiftOfInSight }],
  waits: [
    waiting(
      40,
      () => ask(listGifts, { query: { kind: 'receipt', limit: 1 } }),
      ({ total }) => [
        {
          to: '/gifts?kind=receipt',
          figure: total,
          words: `${total === 1 ? 'receipt' : 'receipts'} to void after a correction`,
        },
      ],
    ),
  ],
};
