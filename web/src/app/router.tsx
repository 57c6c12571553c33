import { lazy } from 'react';
import type { ComponentType } from 'react';
import { createBrowserRouter } from 'react-router';
import { AREAS } from './areas.ts';
import { Shell } from './Shell.tsx';
import { Broke, NotHere } from './NotHere.tsx';

const page = (load: () => Promise<{ default: ComponentType }>) => {
  const Page = lazy(load);
  return <Page />;
};

const areas = AREAS.flatMap(({ routes }) => routes).map(({ path, load }) =>
  path === '/' ? { index: true as const, element: page(load) } : { path, element: page(load) },
);
/** Every part of the design in every state, for who builds with them. */
const design = { path: 'design', element: page(() => import('../design/DesignPage.tsx')) };

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <Broke />,
    children: [
      // Within the frame, so that a page that breaks, or cannot be loaded, leaves the way to the others.
      { errorElement: <Broke />, children: [...areas, design, { path: '*', element: <NotHere /> }] },
    ],
  },
]);
