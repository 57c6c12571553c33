import { createSegment } from '@tallystick/contract/segments';
import type { WebArea } from '../ui/area.ts';

export const segmentsArea: WebArea = {
  routes: [
    { path: 'segments', load: () => import('./SegmentsPage.tsx') },
    { path: 'segments/:id', load: () => import('./SegmentPage.tsx') },
  ],
  places: [{ name: 'Segments', path: '/segments', in: 'strip' }],
  adds: [{ label: 'Segment', order: 60, needs: createSegment, go: '/segments/new' }],
};
