import 'reflect-metadata';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@fontsource-variable/atkinson-hyperlegible-next';
import './style.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { followLive } from './live/connection';
import { followLinks } from './live/lending';
import { applyLight, followSilence } from './live/light';
import { followConnection } from './live/sheet-ticks';
import { router } from './router';

applyLight();
followSilence();
followLive();
followConnection();
followLinks();
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <RouterProvider router={router} />
  </StrictMode>,
);
