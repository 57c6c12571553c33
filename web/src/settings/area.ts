import { createUser, listAccesses } from '@tallystick/contract/session';
import type { WebArea } from '../ui/area.ts';

export const settingsArea: WebArea = {
  routes: [
    { path: 'changes', load: () => import('./ChangesPage.tsx') },
    { path: 'gifts/codes', load: () => import('./GiftCodesPage.tsx') },
    { path: 'settings/organization', load: () => import('./OrganizationPage.tsx') },
    { path: 'settings', load: () => import('./SettingsPage.tsx') },
    { path: 'settings/account', load: () => import('./AccountPage.tsx') },
    { path: 'settings/accesses', load: () => import('./AccessPage.tsx') },
    { path: 'settings/fields', load: () => import('./FieldsPage.tsx') },
    { path: 'settings/addressing', load: () => import('./AddressingPage.tsx') },
  ],
  places: [
    { name: 'All changes', path: '/changes', in: 'menu' },
    { name: 'Funds and appeals', path: '/gifts/codes', in: 'menu' },
    { name: 'The organization', path: '/settings/organization', in: 'menu' },
    { name: 'Fields', path: '/settings/fields', in: 'menu' },
    { name: 'How people are addressed', path: '/settings/addressing', in: 'menu' },
    { name: 'Your account', path: '/settings/account', in: 'menu' },
    { name: 'Access log', path: '/settings/accesses', in: 'menu', needs: listAccesses },
    { name: 'Users and tokens', path: '/settings', in: 'menu', needs: createUser },
  ],
};
