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
  { index: true, element: page(() => import('../today/TodayPage.tsx')) },
  { path: 'supporters', element: page(() => import('../supporters/SupportersPage.tsx')) },
  { path: 'supporters/tags', element: page(() => import('../supporters/TagsPage.tsx')) },
  { path: 'supporters/:id', element: page(() => import('../supporters/RecordPage.tsx')) },
  { path: 'gifts', element: page(() => import('../gifts/GiftsPage.tsx')) },
  { path: 'gifts/pledges', element: page(() => import('../pledges/PledgesPage.tsx')) },
  { path: 'gifts/recurring', element: page(() => import('../pledges/RecurringPage.tsx')) },
  { path: 'gifts/sheets', element: page(() => import('../sheets/SheetsPage.tsx')) },
  { path: 'gifts/sheets/:id', element: page(() => import('../sheets/SheetPage.tsx')) },
  { path: 'gifts/deposits', element: page(() => import('../deposits/DepositsPage.tsx')) },
  { path: 'gifts/ledger', element: page(() => import('../deposits/LedgerPage.tsx')) },
  { path: 'gifts/totals', element: page(() => import('../gifts/TotalsPage.tsx')) },
  { path: 'gifts/places', element: page(() => import('../settings/PlacesPage.tsx')) },
  { path: 'gifts/:id', element: page(() => import('../gifts/GiftPage.tsx')) },
  { path: 'segments', element: page(() => import('../segments/SegmentsPage.tsx')) },
  { path: 'segments/:id', element: page(() => import('../segments/SegmentPage.tsx')) },
  { path: 'outreach', element: page(() => import('../outreach/OutreachPage.tsx')) },
  { path: 'outreach/:id', element: page(() => import('../outreach/MailingPage.tsx')) },
  { path: 'thanks', element: page(() => import('../thanks/ThanksPage.tsx')) },
  { path: 'thanks/issued', element: page(() => import('../thanks/IssuedPage.tsx')) },
  { path: 'thanks/letters', element: page(() => import('../thanks/LettersPage.tsx')) },
  { path: 'intake', element: page(() => import('../intake/IntakesPage.tsx')) },
  { path: 'intake/:id', element: page(() => import('../intake/IntakePage.tsx')) },
  { path: 'changes', element: page(() => import('../settings/ChangesPage.tsx')) },
  { path: 'settings', element: page(() => import('../settings/SettingsPage.tsx')) },
  { path: 'settings/fields', element: page(() => import('../settings/FieldsPage.tsx')) },
  { path: 'settings/addressing', element: page(() => import('../settings/AddressingPage.tsx')) },
];
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
