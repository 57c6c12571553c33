import { listSheets, openSheet } from '@tallystick/contract/sheets';
import { ask } from '../ui/api.ts';
import { waiting } from '../ui/area.ts';
import type { WebArea } from '../ui/area.ts';

export const sheetsArea: WebArea = {
  routes: [
    { path: 'gifts/sheets', load: () => import('./SheetsPage.tsx') },
    { path: 'gifts/sheets/:id', load: () => import('./SheetPage.tsx') },
  ],
  places: [{ name: 'Entry sheets', path: '/gifts/sheets' }],
  adds: [{ label: 'Sheet of gifts', order: 50, needs: openSheet, go: '/gifts/sheets?new=1' }],
  waits: [
    waiting(
      50,
      () => ask(listSheets),
      ({ items }, _formats, { user }) =>
        items
          .filter((sheet) => sheet.state === 'open' && sheet.ownerId === user.id)
          .map((sheet) => ({
            to: `/gifts/sheets/${sheet.id}`,
            figure: sheet.rows,
            words: `rows in your sheet ${sheet.name}`,
          })),
    ),
  ],
};
