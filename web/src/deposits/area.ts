import type { WebArea } from '../ui/area.ts';

export const depositsArea: WebArea = {
  routes: [
    { path: 'gifts/deposits', load: () => import('./DepositsPage.tsx') },
    { path: 'gifts/ledger', load: () => import('./LedgerPage.tsx') },
  ],
  places: [
    { name: 'Deposits', path: '/gifts/deposits' },
    { name: 'Ledger', path: '/gifts/ledger' },
  ],
};
