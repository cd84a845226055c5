import 'reflect-metadata';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@fontsource-variable/atkinson-hyperlegible-next';
import './style.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { compareTime } from './live/compare-time';
import { fetchDirectory } from './live/directory';
import { followLive } from './live/connection';
import { followLinks } from './live/lending';
import { applyLight, followSilence } from './live/light';
import { followConnection } from './live/sheet-ticks';
import { keepState } from './live/kept-state';
import { router } from './router';
import { fetchPages } from './routes';
import { registerSW } from 'virtual:pwa-register';

const IDLE_MS = 1500;
/** The other pages are fetched once whoever came has seen what he came for. */
const SETTLED_MS = 8000;

applyLight();
followSilence();
followLive();
followConnection();
compareTime();
followLinks();
keepState();
registerSW({ immediate: true });
setTimeout(() => void fetchDirectory().catch(() => undefined), IDLE_MS);
setTimeout(() => void fetchPages(), SETTLED_MS);
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <RouterProvider router={router} />
  </StrictMode>,
);
