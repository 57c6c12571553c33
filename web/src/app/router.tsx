import { lazy } from 'react';
import type { ComponentType } from 'react';
import { createBrowserRouter } from 'react-router';
import { AREAS } from './areas.ts';
import { Shell } from './Shell.tsx';
import { NotHere } from './NotHere.tsx';

const page = (load: () => Promise<{ default: ComponentType }>) => {
  const Page = lazy(load);
  return <Page />;
};

const areas = AREAS.flatMap(({ routes }) => routes).map(({ path, load }) =>
  path === '/' ? { index: true as const, element: page(load) } : { path, element: page(load) },
);
const development = import.meta.env.DEV
  ? [{ path: 'design', element: page(() => import('../design/DesignPage.tsx')) }]
  : [];

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <NotHere />,
    children: [...areas, ...development, { path: '*', element: <NotHere /> }],
  },
]);
