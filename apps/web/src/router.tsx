import { createBrowserRouter, Navigate } from 'react-router';
import { Frame } from './pieces/frame';
import { HOME_PATH, PAGES } from './routes';

export const router = createBrowserRouter([
  {
    element: <Frame />,
    children: [
      ...PAGES.map(({ path, page: Page }) => ({ path, element: <Page /> })),
      { path: '*', element: <Navigate to={HOME_PATH} replace /> },
    ],
  },
]);
