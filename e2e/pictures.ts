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

/** The setup sheet of the first chain, with two steps done. */
async function openSheet(page: Page): Promise<void> {
  await page
    .getByRole('button', { name: /(?:Make|Open) the setup sheet/ })
    .first()
    .click();
  for (const step of ['Antenna', 'Frequency'])
    await page.getByRole('checkbox', { name: `${step}: done` }).check();
}

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

async function benchOfTheCable(page: Page): Promise<void> {
  const chains = await page.evaluate(
    () =>
      new Promise<string[]>((resolve) => {
        const socket = new WebSocket(`ws://${location.host}/api/v1/live`);
        socket.onmessage = ({ data }: MessageEvent<string>) => {
          const { data: snapshot } = JSON.parse(data) as { data: { chains: { id: string }[] } };
          resolve(snapshot.chains.map(({ id }) => id));
          socket.close();
        };
      }),
  );
  for (const id of chains) await page.request.delete(`${new URL(page.url()).origin}/api/v1/chains/${id}`);
  // Until they cannot be brought back, which is offered over the picture.
  await page.waitForTimeout(62_000);
  await page.getByRole('button', { name: /cable at the phone/ }).click();
  await page.getByRole('button', { name: 'Work with this one' }).click();
  await page.getByRole('button', { name: 'Open the sound card' }).click();
  await page.waitForTimeout(6000);
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
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

/** The internet side, until a gate has brought in a beacon of ours. */
async function connect(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Connect to the internet side' }).click();
  const { origin } = new URL(page.url());
  await page.goto(`${origin}/beacon`);
  await page.getByRole('button', { name: 'Send one beacon' }).first().click();
  await page.goto(`${origin}/ways/internet`);
  await page
    .getByText(/by radio/)
    .first()
    .waitFor({ timeout: 60_000 });
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

/** The same session, on a phone; then it is let go. */
async function goOnWithTheHut(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Open QH2HUT-1' }).click();
  await page.getByText('It waits for a command').waitFor(SLOW);
  await page.getByRole('log').evaluate((log) => log.scrollIntoView({ block: 'start' }));
  await page.waitForTimeout(500);
}

/** Read, left, deleted and proved. */
async function visitTheHut(page: Page): Promise<void> {
  await page.goto(`${new URL(page.url()).origin}/terminal`);
  await page.getByRole('button', { name: 'Open QH2HUT-1' }).click();
  await page.getByRole('button', { name: 'End with QH2HUT-1' }).click();
  await page.locator('[data-phase=disconnected]').waitFor(SLOW);
  await page.goto(`${new URL(page.url()).origin}/terminal/visits`);
  const plan = page.getByRole('form', { name: 'Plan a visit' });
  const fill = async (): Promise<void> => {
    await plan.getByLabel('A saved mailbox').selectOption('Hut mailbox');
    await plan.getByRole('button', { name: 'Add a message to leave' }).click();
    await plan.getByLabel('To', { exact: true }).fill('QH8CLA');
    await plan.getByLabel('Subject').fill('soup');
    await plan.getByLabel('Text').fill('Soup at seven, bring bowls.');
    await plan.getByLabel('deletes there what it has read').check();
  };
  await fill();
  await plan.getByRole('button', { name: 'Visit QH2HUT-1 now' }).click();
  await page.locator('[data-outcome=done]').waitFor({ timeout: 230_000 });
  await toTop(page);
}

/** What team A has left. */
async function readTheTally(page: Page): Promise<void> {
  const letter = page.getByRole('button', { name: /tally of team A/ }).first();
  await letter.waitFor({ timeout: 540_000 });
  await letter.click();
  await page.waitForTimeout(500);
}

const PICTURES: readonly Picture[] = [
  { name: 'bench', path: '/bench' },
  { name: 'chain', path: '/chain?for=mail' },
  { name: 'sheet', path: '/chain?for=mail', before: openSheet },
  { name: 'call-signs', path: '/call-signs' },
  { name: 'tnc', path: '/tnc' },
  { name: 'path', path: '/path', before: comparePaths },
  { name: 'beacon', path: '/beacon/plans', before: tryPlans },
  { name: 'air', path: '/air', before: select(/QH8BTB-8/) },
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
  { name: 'messages', path: '/messages', before: writeMessages },
  { name: 'terminal', path: '/terminal', before: talkToTheHut },
  { name: 'terminal-phone', path: '/terminal', viewport: PHONE, before: goOnWithTheHut },
  { name: 'visit', path: '/terminal/visits', before: visitTheHut },
  { name: 'mailbox', path: '/terminal/mailbox', before: readTheTally },
  { name: 'internet', path: '/ways/internet', before: connect },
  { name: 'ways', path: '/ways' },
  { name: 'levels', path: '/levels', before: checkTheSound },
  // The level is a rung where sound passes: with the link of this browser on the Bench.
  { name: 'bench-dusk', path: '/tnc', light: 'dusk', before: benchOfTheCable },
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

// Six stations on de-emphasised audio.
const SOUND = join(mkdtempSync(join(tmpdir(), 'mistpeak-pictures-')), 'heard.wav');
writeWav(SOUND, soundOf({ stations: 6, twistDb: -5, noiseDbfs: -36, pauseMs: 900 }));
const running = await Running.start('demo', undefined, ['--at', AT]);
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
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
