import { createBrowserRouter, redirect } from 'react-router';
import { Frame } from './frame/frame';
import { PageFailed } from './frame/page-failed';
import { HOME_PATH, PAGES } from './routes';

export const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <PageFailed isWhole />,
    HydrateFallback: () => null,
    children: [
      {
        errorElement: <PageFailed />,
        children: PAGES.map(({ path, more = '', page: Page }) => ({ path: path + more, element: <Page /> })),
      },
      // Before anything is drawn: a redirect by a drawn element would undo a click that came in the meantime.
      { path: '*', loader: () => redirect(HOME_PATH), element: null },
    ],
  },
]);
