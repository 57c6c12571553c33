import { listFindings, noteDeath } from '@tallystick/contract/upkeep';
import type { WebArea } from '../ui/area.ts';
import { ACTS } from './acts.ts';

export const upkeepArea: WebArea = {
  routes: [
    { path: 'upkeep', load: () => import('./UpkeepPage.tsx') },
    { path: 'upkeep/died', load: () => import('./DiedPage.tsx') },
    { path: 'upkeep/moved', load: () => import('./MovedPage.tsx') },
    { path: 'upkeep/parts', load: () => import('./PartsPage.tsx') },
    { path: 'upkeep/joins', load: () => import('./JoinsPage.tsx') },
    { path: 'upkeep/returned', load: () => import('./ReturnedPage.tsx') },
    { path: 'upkeep/:finding', load: () => import('./FindingPage.tsx') },
  ],
  places: [
    { name: 'Upkeep', path: '/upkeep', in: 'menu', needs: listFindings },
    ...ACTS.map(({ name, path }) => ({ name, path, needs: noteDeath })),
  ],
};
