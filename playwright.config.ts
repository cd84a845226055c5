import { defineConfig } from '@playwright/test';

/** Journeys that wait for the island's slow channel, or for sound: begun first, so that none of them is left alone at the end. */
const LONG = ['terminal', 'levels', 'mail', 'messages'].map((name) => `**/${name}.e2e.ts`);

export default defineConfig({
  testDir: 'e2e/journeys',
  globalSetup: './e2e/global-setup.ts',
  projects: [
    { name: 'long', testMatch: LONG },
    { name: 'short', testMatch: '**/*.e2e.ts', testIgnore: LONG },
  ],
  // They mostly wait; with a third, what goes by sound has too little of a shared machine.
  workers: 2,
  timeout: 900_000,
  // A machine that is shared may stand still for a minute, or be a fifth as fast as usual for many; none of these measures it.
  expect: { timeout: 120_000 },
  forbidOnly: Boolean(process.env.CI),
  reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_FILE ? [['list'], ['json']] : [['list']],
  use: {
    // A page that does not answer for so long answers no more.
    actionTimeout: 180_000,
    navigationTimeout: 180_000,
    viewport: { width: 1280, height: 800 },
    colorScheme: 'light',
    // Each test is a browser of its own: keeping the page for later would fetch all of it each time.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
