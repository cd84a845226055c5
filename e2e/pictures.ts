import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { HOME } from '../apps/launcher/src/home.js';
import { sendUntilRepeated } from './pages.js';
import { Running } from './running.js';
import { soundOf, writeWav } from './sound-scenes.js';

/** The pictures of docs/screenshots, from the demo at a fixed time of the island: `npm run pictures`, or some by their names. */
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

/** A sound card at the browser as a link, heard for a while, and the verdict on it. */
async function checkTheSound(page: Page): Promise<void> {
  await page
    .getByRole('button', { name: /^Listen/ })
    .first()
    .click();
  await page.waitForTimeout(22_000);
  const check = page.getByRole('region', { name: 'Receive check' });
  await check.getByRole('button', { name: 'Check what is heard' }).click();
  await page.waitForTimeout(12_000);
  await check.getByRole('button', { name: 'Judge what was heard so far' }).click();
  await page.evaluate(() => window.scrollTo(0, 0));
}

async function addTheCable(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/tnc/new`);
  await page.getByLabel('Name').fill('cable at the phone');
  await page.getByLabel('Kind').selectOption('page-sound');
  await page.getByRole('button', { name: 'Add the link' }).click();
  await page.getByRole('button', { name: 'Open the sound card' }).waitFor();
}

async function comparePaths(page: Page): Promise<void> {
  await page.getByLabel('Antenna height, m').fill('1.5');
  await page.getByLabel('Power, W').fill('5');
  await page.getByLabel('Antenna gain, dBi').fill('-5');
  await page.getByLabel('Trees, houses, dB').fill('16');
  await page.getByLabel('From').fill('29.6125 S 11.492 W');
  await page.getByRole('button', { name: 'Compare the paths' }).click();
  await page.getByTestId('paths').waitFor();
  await page.locator('h1').scrollIntoViewIfNeeded();
}

async function tryPlans(page: Page): Promise<void> {
  await page.getByLabel('The track of').selectOption('QH7CTB-9');
  await page.getByTestId('plans').waitFor();
  await page.waitForTimeout(1500);
}

/** One that is answered, and one to a cart that is deaf. */
async function writeMessages(page: Page): Promise<void> {
  const form = page.getByRole('form', { name: 'New message' });
  for (const [to, text] of [
    ['QH7CTD-9', 'soup waits at the hut'],
    ['QH7CTA-9', 'how many lamps are left?'],
  ] as const) {
    await form.getByLabel('To', { exact: true }).fill(to);
    await form.getByLabel('Message', { exact: true }).fill(text);
    await form.getByRole('button', { name: 'Send the message' }).click();
    await page.waitForTimeout(1500);
  }
  await page.locator('[data-heard]').first().waitFor({ timeout: 200_000 });
}

const SLOW = { timeout: 150_000 };

/** The hut's mailbox: listed, and one message read. */
async function talkToTheHut(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Call QH2HUT-1' }).click();
  const helper = page.getByRole('region', { name: 'Mailbox' });
  await helper.getByRole('button', { name: /^List/ }).click(SLOW);
  await helper
    .getByRole('row')
    .filter({ hasText: 'terns' })
    .getByRole('button', { name: /^Read/ })
    .click(SLOW);
  await page.getByText('41 terns, 6 gannets on nests.').waitFor(SLOW);
  await page.getByText('It waits for a command').waitFor(SLOW);
  await page.getByLabel('Say to QH2HUT-1').fill('R 42');
  await page.keyboard.press('Enter');
  await page.waitForTimeout(600);
  await toTop(page);
}

const toTop = (page: Page): Promise<void> =>
  page.getByRole('heading', { level: 1 }).evaluate((heading) => heading.scrollIntoView({ block: 'end' }));

const PICTURES: readonly Picture[] = [
  { name: 'bench', path: '/bench' },
  { name: 'chain', path: '/chain?for=mail' },
  { name: 'tnc', path: '/tnc' },
  { name: 'path', path: '/path', before: comparePaths },
  { name: 'beacon', path: '/beacon/plans', before: tryPlans },
  { name: 'air', path: '/air', before: select(/QH8BTB-8/) },
  { name: 'station', path: '/air/QH6WXA-13' },
  { name: 'messages', path: '/messages', before: writeMessages },
  { name: 'terminal', path: '/terminal', before: talkToTheHut },
  { name: 'mail-session', path: '/mail', before: exchangeMail },
  { name: 'levels', path: '/levels', before: checkTheSound },
  { name: 'watch', path: '/watch', before: acknowledgeOne },
  { name: 'field', path: '/field' },
  { name: 'gateways', path: '/gateways', light: 'dusk', before: openTheSilentOne },
  { name: 'logbook', path: '/logbook/all' },
  { name: 'trip', path: '/logbook/trips', before: openTheTrip },
  { name: 'drills', path: '/drills', before: drillTheSquelch },
  { name: 'road', path: '/air?show=road', viewport: PHONE },
  { name: 'replay', path: '/air?show=replay', light: 'red', before: replayAnHour },
];

async function openTheSilentOne(page: Page): Promise<void> {
  await page.waitForTimeout(1500);
  await page
    .locator('ol[aria-label="In the order to call"]')
    .getByRole('button', { name: /QH5SAL-10/ })
    .click();
  await page.waitForTimeout(500);
  await toTop(page);
}

async function openTheTrip(page: Page): Promise<void> {
  await page.getByRole('link', { name: /hide below Anrick/ }).click();
  await page.getByRole('application').waitFor();
  await page.waitForTimeout(2500);
}

async function drillTheSquelch(page: Page): Promise<void> {
  await page.getByLabel(/^On the real pages/).uncheck();
  await page.getByRole('button', { name: 'Drill 3' }).click();
  for (const test of [/^Look at the meter/, /^Listen to the port/, /^Look for other programs/])
    await page.getByRole('button', { name: test }).click();
  await toTop(page);
}

/** The boat is off its water as well, and somebody has seen to the cart. */
async function acknowledgeOne(page: Page): Promise<void> {
  await page.getByLabel('What was done').fill('called on 145.500, no answer yet');
  await page.waitForTimeout(1500);
}

async function replayAnHour(page: Page): Promise<void> {
  await page.getByLabel('Speed').selectOption('60');
  await page.getByRole('button', { name: 'Replay this hour' }).click();
  await page.getByRole('application').waitFor();
  await page.waitForTimeout(12_000);
  await page.getByRole('button', { name: 'Pause' }).click();
  await page
    .getByRole('button', { name: /QH7CTE-9/ })
    .first()
    .click();
  await page.waitForTimeout(1000);
}

/** Two letters and a self-test, until one of them is on its way. */
async function exchangeMail(page: Page): Promise<void> {
  const letter = {
    to: ['QH7CTA'],
    cc: [],
    files: [],
    beyondLatin1: 'utf-8',
    precedence: 'routine',
    onlyInternet: false,
    box: 'outbox',
  };
  const api = `${new URL(page.url()).origin}/api/v1/mail`;
  const tally = Array.from(
    { length: 14 },
    (_, i) => `Hide ${(i % 6) + 1}: ${11 + ((i * 17) % 40)} terns, ${(i * 5) % 9} gannets on nests`,
  ).join('\n');
  for (const more of [
    { to: ['QH3PRT'], subject: 'Evening tally, all hides', text: tally },
    {
      subject: 'Lamps to hide 3, please',
      text: 'Both lamps to hide 3. Thank you, cart A.',
      precedence: 'priority',
    },
  ])
    await page.request.post(`${api}/messages`, { data: { ...letter, ...more } });
  await page.getByRole('button', { name: 'Post a self-test' }).click();
  await page.getByRole('button', { name: /^Send and receive with/ }).click();
  await page.getByRole('button', { name: /^The radio is on/ }).click();
  const bar = page.getByRole('region', { name: 'The session' }).getByRole('progressbar').first();
  await bar.waitFor(SLOW);
}

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

// Six stations on de-emphasised audio.
const SOUND = join(mkdtempSync(join(tmpdir(), 'mistpeak-pictures-')), 'heard.wav');
writeWav(SOUND, soundOf({ stations: 6, twistDb: -5, noiseDbfs: -36, pauseMs: 900 }));
const running = await Running.start('demo', undefined, ['--at', AT]);
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--use-fake-device-for-media-stream',
    '--use-fake-ui-for-media-stream',
    `--use-file-for-fake-audio-capture=${SOUND}`,
  ],
});
try {
  const first = await browser.newPage({ viewport: DESK });
  await proveAll(first, running.address);
  await first.close();
  const names = process.argv.slice(2);
  for (const { name, path, light = 'day', viewport = DESK, before } of PICTURES) {
    if (names.length > 0 && !names.includes(name)) continue;
    const page = await browser.newPage({ viewport, reducedMotion: 'reduce', timezoneId: 'UTC' });
    await page.addInitScript((wanted) => {
      localStorage.setItem('light', wanted);
      localStorage.setItem('first-steps', 'seen');
    }, light);
    if (name === 'levels') await addTheCable(page, running.address);
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
