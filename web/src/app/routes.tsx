import { createBrowserRouter, redirect } from 'react-router';
import { LostPage } from './lost-page';

/** A part of the page that is fetched when its address is asked for first. */
const page = (load: () => Promise<() => React.ReactNode>) => async () => ({ Component: await load() });

/**
 * Every stage of every project has an address: /p/PROJECT/STAGE?option=a&at=2026-03-21T12:00. The board comes with a
 * project, the map and the zones with Site; the list of projects needs neither.
 */
export const router = createBrowserRouter([
  {
    path: '/',
    loader: async () => redirect(await (await import('./first-start')).openFirst()),
    element: null,
    errorElement: <LostPage />,
    hydrateFallbackElement: <Fetching />,
  },
  {
    path: '/projects',
    lazy: page(async () => (await import('./projects-page')).ProjectsPage),
    hydrateFallbackElement: <Fetching />,
  },
  {
    path: '/p/:projectId',
    lazy: page(async () => (await import('./project-page')).ProjectPage),
    errorElement: <LostPage />,
    hydrateFallbackElement: <Fetching />,
    children: [
      { index: true, loader: () => redirect('sun') },
      { path: 'site', lazy: page(async () => (await import('../site/site-sheet')).SiteSheet) },
      { path: 'climate', lazy: page(async () => (await import('../climate/climate-sheet')).ClimateSheet) },
      { path: 'form', lazy: page(async () => (await import('../form/form-sheet')).FormSheet) },
      {
        path: 'envelope',
        lazy: page(async () => (await import('../envelope/envelope-sheet')).EnvelopeSheet),
      },
      {
        path: 'openings',
        lazy: page(async () => (await import('../openings/openings-sheet')).OpeningsSheet),
      },
      { path: 'sun', lazy: page(async () => (await import('../sun/sun-sheet')).SunSheet) },
      { path: 'studies', lazy: page(async () => (await import('../studies/studies-sheet')).StudiesSheet) },
      { path: 'shading', lazy: page(async () => (await import('../shading/shading-sheet')).ShadingSheet) },
      { path: 'compare', lazy: page(async () => (await import('../compare/compare-sheet')).CompareSheet) },
    ],
  },
  { path: '*', element: <LostPage /> },
]);

function Fetching() {
  return <div className="full-page visually-quiet">Opening …</div>;
}
