import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { HOME } from '../apps/launcher/src/home.js';
import { freePort } from '../apps/launcher/src/free-port.js';
import { openTncPart, sendUntilRepeated } from './pages.js';
import { OtherProgram } from './peers/other-program.js';
import { PtyPair } from './peers/pty-pair.js';
import { Running } from './running.js';

/** The pictures of docs/screenshots, from the demo at a fixed time of the island: `npm run pictures`. */
const AT = '2026-10-12T14:05:00Z';
const FOLDER = join(HOME, 'docs/screenshots');
/** To APZMPK (command), from QH4MPK-5, UI, F0, a status: as another program would write it. */
const ITS_FRAME = `82a0b49aa096e0a29068 9aa0966b03f0${Buffer.from('>on the ridge').toString('hex')}`.replace(
  ' ',
  '',
);
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
    .getByRole('button', { name: /(?:Make|Open) the setup sheet/ })
    .first()
    .click();
  for (const step of ['Antenna', 'Frequency'])
    await page.getByRole('checkbox', { name: `${step}: done` }).check();
}

/** Two programs at the shared TNC; one asks for another TXDELAY, the other sends. */
async function shareTheTnc(page: Page): Promise<void> {
  const port = await freePort(8001);
  await openTncPart(page, 'Other programs');
  const sharing = page.getByRole('region', { name: 'Sharing' });
  await sharing.getByLabel('Port for them').fill(String(port));
  await sharing.getByRole('button', { name: 'Share this TNC' }).click();
  await sharing.getByText('shared at').waitFor();
  const [map, mail] = [await OtherProgram.at(port), await OtherProgram.at(port)];
  map.send('c00128c0');
  mail.send(`c000${ITS_FRAME}c0`);
  await sharing.getByRole('button', { name: 'Let it transmit' }).nth(1).click();
  await sharing.getByText('asked for TXDELAY').waitFor();
  mail.send(`c000${ITS_FRAME}c0`);
  await sharing.getByText('1 sent').waitFor();
  await sharing.getByRole('listitem').last().scrollIntoViewIfNeeded();
  await page.evaluate(() => document.querySelector('main')?.scrollBy(0, 400));
}

/** The ports of this machine, and a pseudo-terminal on which a satellite receiver speaks. */
async function listenToPorts(page: Page): Promise<void> {
  const pair = await PtyPair.open();
  await page.getByRole('button', { name: 'Find the port' }).click();
  const finder = page.getByRole('region', { name: 'Port finder' });
  await finder.getByRole('button', { name: 'Take the first list' }).click();
  await finder.getByLabel('A port that is not listed').fill(pair.device);
  await finder
    .getByRole('button', { name: `Listen to ${pair.device}` })
    .last()
    .click();
  await finder.getByText('listening at').waitFor();
  await pair.play(
    Buffer.from('$GPGGA,140500,2937.92,S,01124.30,W,1,08,0.9,61.4,M,,M,,*5C\r\n').toString('hex'),
  );
  await finder.getByText('position sentences, at').waitFor();
  pair.unplug();
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
  { name: 'tnc-phone', path: '/tnc', viewport: PHONE },
  { name: 'sharing', path: '/tnc', before: shareTheTnc },
  { name: 'port-finder', path: '/tnc', before: listenToPorts },
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
