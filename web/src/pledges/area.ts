import { listRecurring, listReminders, makePledge, makeRecurring } from '@tallystick/contract/pledges';
import { ask } from '../ui/api.ts';
import { waiting } from '../ui/area.ts';
import type { WebArea } from '../ui/area.ts';

export const pledgesArea: WebArea = {
  routes: [
    { path: 'gifts/pledges', load: () => import('./PledgesPage.tsx') },
    { path: 'gifts/pledges/:id', load: () => import('./PledgePage.tsx') },
    { path: 'gifts/recurring', load: () => import('./RecurringPage.tsx') },
    { path: 'gifts/recurring/:id', load: () => import('./RecurringGiftPage.tsx') },
  ],
  places: [
    { name: 'Pledges', path: '/gifts/pledges' },
    { name: 'Recurring gifts', path: '/gifts/recurring' },
  ],
  adds: [
    { label: 'Pledge, grant or match', order: 30, needs: makePledge, go: '/gifts/pledges?add=1' },
    { label: 'Recurring gift', order: 40, needs: makeRecurring, go: '/gifts/recurring?add=1' },
  ],
  waits: [
    waiting(
      20,
      () => ask(listReminders, { query: { days: 0 } }),
      ({ sum }, { money }) => [
        {
          to: '/gifts/pledges?reminders=1',
          figure: sum.count,
          words: `${sum.count === 1 ? 'installment' : 'installments'} overdue or due today, ${money(sum.cents)}`,
        },
      ],
    ),
    waiting(
      30,
      () => ask(listRecurring, { query: { show: 'failing' } }),
      ({ items: { length } }) => [
        {
          to: '/gifts/recurring?show=failing',
          figure: length,
          words: `recurring ${length === 1 ? 'gift that fails' : 'gifts that fail'}`,
        },
      ],
    ),
  ],
};
