import { createBrowserRouter, redirect } from 'react-router';
import { LostPage } from './lost-page';
import { openFirst } from './first-start';
import { ProjectPage } from './project-page';
import { ProjectsPage } from './projects-page';
import { FormSheet } from '../form/form-sheet';
import { OpeningsSheet } from '../openings/openings-sheet';
import { SiteSheet } from '../site/site-sheet';
import { StudiesSheet } from '../studies/studies-sheet';
import { SunSheet } from '../sun/sun-sheet';

/** Every stage of every project has an address: /p/PROJECT/STAGE?option=a&at=2026-03-21T12:00 */
export const router = createBrowserRouter([
  { path: '/', loader: async () => redirect(await openFirst()), element: null, errorElement: <LostPage /> },
  { path: '/projects', element: <ProjectsPage /> },
  {
    path: '/p/:projectId',
    element: <ProjectPage />,
    errorElement: <LostPage />,
    children: [
      { index: true, loader: () => redirect('sun') },
      { path: 'site', element: <SiteSheet /> },
      { path: 'form', element: <FormSheet /> },
      { path: 'openings', element: <OpeningsSheet /> },
      { path: 'sun', element: <SunSheet /> },
      { path: 'studies', element: <StudiesSheet /> },
    ],
  },
  { path: '*', element: <LostPage /> },
]);
