import { mergeRecords } from '@tallystick/contract/duplicates';
import type { WebArea } from '../ui/area.ts';

export const duplicatesArea: WebArea = {
  routes: [
    { path: 'duplicates', load: () => import('./DuplicatesPage.tsx') },
    { path: 'duplicates/merge', load: () => import('./MergePage.tsx') },
  ],
  places: [{ name: 'Duplicates', path: '/duplicates', in: 'menu', needs: mergeRecords }],
  keys: [
    { key: 'm', says: 'Merge the records that are compared' },
    { key: 'n', says: 'Say that they are not the same' },
    { key: '1 … 9', says: 'Choose which of them stays' },
  ],
};
