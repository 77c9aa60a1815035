import { createBrowserRouter } from 'react-router';
import type { RouteObject } from 'react-router';
import { fetched } from './fetched.ts';
import { OfflineNotice } from './OfflineNotice.tsx';
import { NoSuchPage, RouteError } from './RouteError.tsx';
import { Shell } from './Shell.tsx';
import { WithTerms } from './WithTerms.tsx';
import { BenchPage } from '../bench/BenchPage.tsx';

/** The bench comes with the first load; every other page is fetched when it is opened. */
const pages: RouteObject[] = [
  { index: true, Component: BenchPage },
  {
    path: 'jobs/new',
    lazy: async () => ({
      Component: (await import('../job/intake/NewJobPage.tsx')).NewJobPage,
    }),
  },
  {
    path: 'jobs/:id',
    lazy: async () => ({ Component: (await import('../job/JobPage.tsx')).JobPage }),
  },
  {
    path: 'jobs/:id/report',
    lazy: async () => ({
      Component: (await import('../job/report/ReportPage.tsx')).ReportPage,
    }),
  },
  {
    path: 'jobs/:id/fit/read',
    lazy: async () => ({
      Component: (await import('../job/fit/ReadingPage.tsx')).ReadingPage,
    }),
  },
  {
    path: 'jobs/:id/fault',
    lazy: async () => ({ Component: (await import('../job/fault/FaultPage.tsx')).FaultPage }),
  },
  {
    path: 'jobs/:id/:step',
    lazy: async () => ({ Component: (await import('../job/JobPage.tsx')).JobPage }),
  },
  {
    path: 'machines',
    lazy: async () => ({
      Component: (await import('../library/MachinesPage.tsx')).MachinesPage,
    }),
  },
  {
    path: 'machines/:id',
    lazy: async () => ({ Component: (await import('../library/MachinePage.tsx')).MachinePage }),
  },
  {
    path: 'machines/:id/cover',
    lazy: async () => ({ Component: (await import('../library/CoverPage.tsx')).CoverPage }),
  },
  {
    path: 'ledger',
    lazy: async () => ({ Component: (await import('../ledger/LedgerPage.tsx')).LedgerPage }),
  },
  {
    path: 'returns',
    lazy: async () => ({ Component: (await import('../stock/ReturnsPage.tsx')).ReturnsPage }),
  },
  {
    path: 'makers',
    lazy: async () => ({ Component: (await import('../library/MakersPage.tsx')).MakersPage }),
  },
  {
    path: 'modules',
    lazy: async () => ({
      Component: (await import('../library/CataloguePage.tsx')).CataloguePage,
    }),
  },
  {
    path: 'drawer',
    lazy: async () => ({ Component: (await import('../stock/DrawerPage.tsx')).DrawerPage }),
  },
  {
    path: 'count',
    lazy: async () => ({ Component: (await import('../stock/CountPage.tsx')).CountPage }),
  },
  {
    path: 'gone',
    lazy: async () => ({ Component: (await import('../stock/GonePage.tsx')).GonePage }),
  },
  {
    path: 'suppliers',
    lazy: async () => ({
      Component: (await import('../stock/SuppliersPage.tsx')).SuppliersPage,
    }),
  },
  {
    path: 'drawer/:pieceId',
    lazy: async () => ({ Component: (await import('../stock/DrawerPage.tsx')).DrawerPage }),
  },
  {
    path: 'orders',
    lazy: async () => ({ Component: (await import('../stock/OrdersPage.tsx')).OrdersPage }),
  },
  {
    path: 'shop',
    lazy: async () => ({ Component: (await import('../stock/ShopPage.tsx')).ShopPage }),
  },
  {
    path: 'month',
    lazy: async () => ({ Component: (await import('../month/MonthPage.tsx')).MonthPage }),
  },
  {
    path: 'customers',
    lazy: async () => ({
      Component: (await import('../access/CustomersPage.tsx')).CustomersPage,
    }),
  },
  {
    path: 'people',
    lazy: async () => ({ Component: (await import('../access/PeoplePage.tsx')).PeoplePage }),
  },
  {
    path: 'network',
    lazy: async () => ({ Component: (await import('../access/NetworkPage.tsx')).NetworkPage }),
  },
  {
    path: 'changes',
    lazy: async () => ({ Component: (await import('../access/ChangesPage.tsx')).ChangesPage }),
  },
  {
    path: 'me',
    lazy: async () => ({ Component: (await import('../access/MePage.tsx')).MePage }),
  },
  {
    path: 'batches/:id',
    lazy: async () => ({ Component: (await import('../stock/BatchPage.tsx')).BatchPage }),
  },
  {
    path: 'practice',
    lazy: async () => ({
      Component: (await import('../practice/PracticePage.tsx')).PracticePage,
    }),
  },
  {
    path: 'sandbox',
    lazy: async () => ({
      Component: (await import('../practice/SandboxPage.tsx')).SandboxPage,
    }),
  },
  {
    path: 'practice/:exerciseId',
    lazy: async () => ({
      Component: (await import('../practice/ExercisePage.tsx')).ExercisePage,
    }),
  },
  {
    path: 'practice/:exerciseId/edit',
    lazy: async () => ({
      Component: (await import('../practice/EditExercisePage.tsx')).EditExercisePage,
    }),
  },
  {
    path: 'calculators',
    lazy: async () => ({
      Component: (await import('../calculators/CalculatorsPage.tsx')).CalculatorsPage,
    }),
  },
  { path: '*', Component: NoSuchPage },
];

/** Fetched as soon as the bench is there; meanwhile the page before it stays. */
const waitedFor = (page: RouteObject): RouteObject => {
  const { lazy } = page;
  return typeof lazy === 'function' ? { ...page, lazy: () => fetched(lazy) } : page;
};

/** Pages that show or take amounts as they open. What a new job may cost is read as it is sent. */
const PRICED: ReadonlySet<string | undefined> = new Set([
  ...['modules', 'drawer', 'drawer/:pieceId', 'gone', 'suppliers', 'orders', 'month'],
  'changes',
]);

export const router = createBrowserRouter([
  {
    ...{ path: '/', Component: Shell, ErrorBoundary: RouteError, HydrateFallback: OfflineNotice },
    children: [
      ...pages.filter(({ path }) => !PRICED.has(path)).map(waitedFor),
      {
        Component: WithTerms,
        children: pages.filter(({ path }) => PRICED.has(path)).map(waitedFor),
      },
    ],
  },
]);
