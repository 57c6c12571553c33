import type { WebArea } from '../ui/area.ts';

export const todayArea: WebArea = {
  routes: [{ path: '/', load: () => import('./TodayPage.tsx') }],
  places: [{ name: 'Today', path: '/', in: 'strip' }],
};
