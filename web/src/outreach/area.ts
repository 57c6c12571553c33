import { createMailing, listMailings } from '@tallystick/contract/outreach';
import { ask } from '../ui/api.ts';
import { waiting } from '../ui/area.ts';
import type { WebArea } from '../ui/area.ts';

export const outreachArea: WebArea = {
  routes: [
    { path: 'outreach', load: () => import('./OutreachPage.tsx') },
    { path: 'outreach/:id', load: () => import('./MailingPage.tsx') },
  ],
  places: [{ name: 'Outreach', path: '/outreach', in: 'strip' }],
  adds: [{ label: 'E-mail to a segment', order: 70, needs: createMailing, go: '/outreach/new' }],
  waits: [
    waiting(
      65,
      () => ask(listMailings),
      ({ items }) =>
        items.flatMap(({ id, name, state, counts }) => [
          ...(state === 'draft' ? [{ to: `/outreach/${id}`, figure: 1, words: `e-mail begun: ${name}` }] : []),
          { to: `/outreach/${id}?show=not`, figure: counts.notReached, words: `not reached by ${name}` },
        ]),
    ),
  ],
};
