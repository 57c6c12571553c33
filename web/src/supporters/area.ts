import { createSupporter } from '@tallystick/contract/supporters';
import type { WebArea } from '../ui/area.ts';

export const supportersArea: WebArea = {
  routes: [
    { path: 'supporters', load: () => import('./SupportersPage.tsx') },
    { path: 'tasks', load: () => import('./TasksPage.tsx') },
    { path: 'supporters/tags', load: () => import('./TagsPage.tsx') },
    { path: 'supporters/:id', load: () => import('./RecordPage.tsx') },
  ],
  places: [
    { name: 'Supporters', path: '/supporters', in: 'strip' },
    { name: 'Tags and groups', path: '/supporters/tags', in: 'menu' },
    { name: 'Tasks', path: '/tasks' },
    { name: 'Trash', path: '/supporters?trashed=yes' },
  ],
  adds: [{ label: 'Supporter', order: 20, needs: createSupporter, go: '/supporters?add=1' }],
  keys: [
    { key: 'e', says: 'Edit the record' },
    { key: 't', says: 'Tag the record' },
  ],
};
