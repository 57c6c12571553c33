import { listIntakes, uploadIntake } from '@tallystick/contract/intake';
import { ask } from '../ui/api.ts';
import { waiting } from '../ui/area.ts';
import type { WebArea } from '../ui/area.ts';

export const intakeArea: WebArea = {
  routes: [
    { path: 'intake', load: () => import('./IntakesPage.tsx') },
    { path: 'intake/guide', load: () => import('./GuidePage.tsx') },
    { path: 'intake/:id', load: () => import('./IntakePage.tsx') },
  ],
  places: [{ name: 'Intake', path: '/intake', in: 'strip' }],
  adds: [{ label: 'File of people and gifts', order: 80, needs: uploadIntake, go: '/intake' }],
  waits: [
    waiting(
      60,
      () => ask(listIntakes),
      ({ items }) =>
        items
          .filter((intake) => intake.state === 'open')
          .map((intake) => ({
            to: `/intake/${intake.id}`,
            figure: intake.rows,
            words: `rows of ${intake.name} to look at`,
          })),
    ),
  ],
};
