import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { HOME } from '../apps/launcher/src/home.js';
import { sendUntilRepeated } from './pages.js';
import { Running } from './running.js';

/** The pictures of docs/screenshots, from the demo at a fixed time of the island: `npm run pictures`. */
const AT = '2026-10-12T14:05:00Z';
const FOLDER = join(HOME, 'docs/screenshots');
const DESK = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

interface Picture {
  readonly name: string;
  readonly path: string;
  readonly light?: 'day' | 'dusk' | 'red';
  readonly viewport?: typeof DESK;
  readonly before?: (page: Page) => Promise<unknown>;
}

const select =
  (name: RegExp) =>
  (page: Page): Promise<void> =>
    page.getByRole('region', { name: 'Stations' }).getByRole('button', { name }).click();

/** The setup sheet of the first chain, with two steps done. */
async function openSheet(page: Page): Promise<void> {
  await page
    .getByRole('button', { name: /Make the setup sheet/ })
    .first()
    .click();
  for (const step of ['Antenna', 'VFO or memory'])
    await page.getByRole('checkbox', { name: `${step}: done` }).check();
}

const PICTURES: readonly Picture[] = [
  { name: 'bench', path: '/bench' },
  { name: 'bench-dusk', path: '/bench', light: 'dusk' },
  { name: 'bench-phone', path: '/bench', viewport: PHONE },
  { name: 'kit', path: '/kit' },
  { name: 'chain', path: '/chain?for=mail' },
  { name: 'sheet', path: '/chain?for=mail', before: openSheet },
  { name: 'sheet-phone', path: '/chain?for=mail', viewport: PHONE, before: openSheet },
  { name: 'call-signs', path: '/call-signs' },
  { name: 'tnc', path: '/tnc' },
  { name: 'beacon', path: '/beacon' },
  { name: 'air', path: '/air', before: select(/QH8BTB-8/) },
  { name: 'air-red', path: '/air', light: 'red', before: select(/QH7CTC-9/) },
  { name: 'air-log', path: '/air?show=log', light: 'dusk' },
  {
    name: 'air-phone',
    path: '/air',
    viewport: PHONE,
    before: async (page) => {
      await select(/QH7CTC-9/)(page);
      await page.getByRole('application').scrollIntoViewIfNeeded();
      await page.evaluate(() => window.scrollTo(0, 270));
    },
  },
  { name: 'station', path: '/air/QH7CTC-9' },
  { name: 'settings', path: '/settings' },
];

/** The whole climb, as an operator does it. */
async function proveAll(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/beacon`);
  await page.getByLabel('Call with SSID').fill('QH4MPK');
  await page.getByLabel('Comment').fill('base hut, seabird count');
  await page.getByRole('button', { name: 'Save the beacon' }).click();
  await page.getByRole('button', { name: 'Arm the transmitter …' }).click();
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await sendUntilRepeated(page, page.getByText(/repeated by QH1/).first());
}

const running = await Running.start('demo', undefined, ['--at', AT]);
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-quic'],
});
try {
  const first = await browser.newPage({ viewport: DESK });
  await proveAll(first, running.address);
  await first.close();
  for (const { name, path, light = 'day', viewport = DESK, before } of PICTURES) {
    const page = await browser.newPage({ viewport, reducedMotion: 'reduce', timezoneId: 'UTC' });
    await page.addInitScript((wanted) => {
      localStorage.setItem('light', wanted);
      localStorage.setItem('first-steps', 'seen');
    }, light);
    await page.goto(running.address + path);
    await page.waitForTimeout(2500);
    await before?.(page);
    await page.waitForTimeout(800);
    await page.screenshot({ path: join(FOLDER, `${name}.png`) });
    await page.close();
    console.log(name);
  }
} finally {
  await browser.close();
  await running.stopAndForget();
}
