import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

/** The page comes up without any network; what it shows then is what it has kept. */
const installable = VitePWA({
  registerType: 'autoUpdate',
  injectRegister: null,
  manifest: {
    name: 'Mistpeak',
    short_name: 'Mistpeak',
    description: 'Plan, tune, prove and operate a packet radio chain',
    start_url: '/bench',
    display: 'standalone',
    background_color: '#e9eeec',
    theme_color: '#1e2b2c',
    icons: [{ src: '/mistpeak.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
  },
  workbox: {
    globPatterns: ['**/*.{js,css,html,svg,woff2}'],
    maximumFileSizeToCacheInBytes: 4 * 1024 * 1024,
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/(?:api|map|enter)(?:[/?]|$)/],
    runtimeCaching: [
      {
        urlPattern: /\/map\/island\.geojson$/,
        handler: 'NetworkFirst',
        options: { cacheName: 'land', networkTimeoutSeconds: 3 },
      },
      {
        urlPattern: /\/api\/v1\/elevation\/[\w.]+$/,
        handler: 'NetworkFirst',
        options: { cacheName: 'elevation', networkTimeoutSeconds: 3, expiration: { maxEntries: 40 } },
      },
    ],
  },
});

export default defineConfig({
  plugins: [react(), tailwindcss(), installable],
  resolve: { conditions: ['source', ...defaultClientConditions] },
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
});
