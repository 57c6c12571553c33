import { lazy } from 'react';
import type { ComponentType } from 'react';
import { createBrowserRouter } from 'react-router';
import { Shell } from './Shell.tsx';
import { NotHere } from './NotHere.tsx';

const page = (load: () => Promise<{ default: ComponentType }>) => {
  const Page = lazy(load);
  return <Page />;
};

const areas = [
  { index: true, element: page(() => import('../today/index.tsx')) },
  { path: 'supporters', element: page(() => import('../supporters/index.tsx')) },
  { path: 'supporters/:id', element: page(() => import('../supporters/RecordPage.tsx')) },
  { path: 'gifts', element: page(() => import('../gifts/index.tsx')) },
  { path: 'gifts/:id', element: page(() => import('../gifts/GiftPage.tsx')) },
  { path: 'segments', element: page(() => import('../segments/index.tsx')) },
  { path: 'segments/:id', element: page(() => import('../segments/SegmentPage.tsx')) },
  { path: 'outreach', element: page(() => import('../outreach/index.tsx')) },
  { path: 'outreach/:id', element: page(() => import('../outreach/MailingPage.tsx')) },
  { path: 'thanks', element: page(() => import('../thanks/index.tsx')) },
  { path: 'thanks/issued', element: page(() => import('../thanks/IssuedPage.tsx')) },
  { path: 'thanks/letters', element: page(() => import('../thanks/LettersPage.tsx')) },
  { path: 'intake', element: page(() => import('../intake/index.tsx')) },
  { path: 'intake/:id', element: page(() => import('../intake/IntakePage.tsx')) },
  { path: 'changes', element: page(() => import('../settings/ChangesPage.tsx')) },
  { path: 'settings', element: page(() => import('../settings/index.tsx')) },
];
const development = import.meta.env.DEV ? [{ path: 'design', element: page(() => import('../design/index.tsx')) }] : [];

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <NotHere />,
    children: [...areas, ...development, { path: '*', element: <NotHere /> }],
  },
]);
