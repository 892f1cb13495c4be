import { createBrowserRouter, redirect } from 'react-router';
import { later, whyMissed } from './later';
import { LostPage } from './lost-page';

type Load = () => Promise<() => React.ReactNode>;

/** A page that is fetched when its address is asked for first. */
const page = (load: Load) => async () => {
  const Component = await load().catch(async () => {
    throw new Error(await whyMissed('This page', 'Try it again when it answers.'));
  });
  return { Component };
};

/**
 * The sheet of a stage, fetched like a page. Where it cannot be had, the project stays open and it is told; the sheet comes
 * when the server answers.
 */
const sheet = (load: Load) => async () => ({ Component: await load().catch(() => later(load)) });

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
    errorElement: <LostPage />,
    hydrateFallbackElement: <Fetching />,
  },
  {
    path: '/p/:projectId',
    lazy: page(async () => (await import('./project-page')).ProjectPage),
    errorElement: <LostPage />,
    hydrateFallbackElement: <Fetching />,
    children: [
      { index: true, loader: () => redirect('sun') },
      { path: 'site', lazy: sheet(async () => (await import('../site/site-sheet')).SiteSheet) },
      { path: 'climate', lazy: sheet(async () => (await import('../climate/climate-sheet')).ClimateSheet) },
      { path: 'form', lazy: sheet(async () => (await import('../form/form-sheet')).FormSheet) },
      {
        path: 'envelope',
        lazy: sheet(async () => (await import('../envelope/envelope-sheet')).EnvelopeSheet),
      },
      {
        path: 'openings',
        lazy: sheet(async () => (await import('../openings/openings-sheet')).OpeningsSheet),
      },
      { path: 'sun', lazy: sheet(async () => (await import('../sun/sun-sheet')).SunSheet) },
      { path: 'studies', lazy: sheet(async () => (await import('../studies/studies-sheet')).StudiesSheet) },
      { path: 'shading', lazy: sheet(async () => (await import('../shading/shading-sheet')).ShadingSheet) },
      { path: 'compare', lazy: sheet(async () => (await import('../compare/compare-sheet')).CompareSheet) },
    ],
  },
  { path: '*', element: <LostPage /> },
]);

function Fetching() {
  return <div className="full-page visually-quiet">Opening …</div>;
}
