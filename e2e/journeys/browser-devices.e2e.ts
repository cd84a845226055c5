import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { begin, goTo, tallies } from '../pages.js';
import { disturb, piecesTo, playFrom, scriptDevices, unplug, writtenTo } from '../peers/browser-devices.js';
import { BAD, GOOD, statusFrame, TORTURE } from '../peers/kiss-peer.js';

/** TXDELAY 300 ms, persistence 63, slot time 100 ms, tail 30 ms, full duplex off: the KISS paper's frames. */
const PARAMETERS = 'c0011ec0c0023fc0c0030ac0c00403c0c00500c0';

test.describe.configure({ mode: 'serial' });
const bench = testBench('start');

async function addLink(page: Page, name: string, kind: string): Promise<void> {
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Add a link' }).click();
  await page.getByLabel('Kind').selectOption(kind);
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Add the link' }).click();
}

test('a serial port at the browser: the same stream, a reload, the plug pulled', async ({ page }) => {
  await scriptDevices(page);
  await begin(page, bench.running.address);
  await addLink(page, 'USB at the browser', 'page-serial');
  await page.getByRole('button', { name: 'Choose the port' }).click();
  await expect(page.getByText('USB port 1209:0001 is lent')).toBeVisible();
  await expect.poll(() => writtenTo(page)).toBe(PARAMETERS);
  for (const piece of TORTURE) await playFrom(page, piece, 64);
  await expect.poll(() => tallies(page)).toEqual({ 'frames that were read': GOOD.length, ...BAD });
  // Noise on the line ends nothing.
  await disturb(page);
  await playFrom(page, statusFrame('after noise'), 64);
  await expect.poll(async () => (await tallies(page))['frames that were read']).toBe(GOOD.length + 1);
  // What the operator closes stays closed, and the device waits for it to be opened again.
  await page.getByRole('button', { name: 'Close the link' }).click();
  await expect(page.getByText('USB port 1209:0001 waits')).toBeVisible();
  await page.waitForTimeout(2500);
  await expect(page.getByRole('button', { name: 'Open the link' })).toBeVisible();
  await page.getByRole('button', { name: 'Open the link' }).click();
  await expect(page.getByText('USB port 1209:0001 is lent')).toBeVisible();
  // The phone turned, or the page was thrown out of memory: it lends the port again without asking.
  await page.reload();
  await expect(page.getByText('USB port 1209:0001 is lent')).toBeVisible();
  await expect.poll(() => writtenTo(page)).toBe(PARAMETERS);
  await unplug(page);
  await expect(page.getByText('The browser says: The device has been lost.')).toBeVisible();
  await expect(page.getByRole('article')).toContainText('The port went away while it was open.');
});

test('a Bluetooth LE TNC: frames cross notifications, writes fit the least that a connection carries', async ({
  page,
}) => {
  await scriptDevices(page);
  await page.goto(bench.running.address);
  await addLink(page, 'pocket TNC', 'page-bluetooth');
  await page.getByRole('button', { name: 'Choose the Bluetooth TNC' }).click();
  await expect(page.getByText('pocket TNC is lent')).toBeVisible();
  await expect.poll(() => writtenTo(page)).toBe(PARAMETERS);
  expect((await piecesTo(page)).every((piece) => piece.length <= 40)).toBe(true);
  for (const piece of TORTURE) await playFrom(page, piece, 7);
  await expect.poll(() => tallies(page)).toEqual({ 'frames that were read': GOOD.length, ...BAD });
  await page.getByRole('button', { name: 'Take the device back' }).click();
  await expect(page.getByRole('article')).toContainText('No page lends its device.');
});

test('where the browser has no such interface, it says so and what to use instead', async ({ page }) => {
  await scriptDevices(page, { has: false });
  await page.goto(bench.running.address);
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: /pocket TNC/ }).click();
  const device = page.getByRole('region', { name: 'Device at this browser' });
  await expect(device).toContainText('This browser gives pages no Bluetooth.');
  await expect(device).toContainText('pair the TNC with the machine of Mistpeak');
  await expect(page.getByRole('button', { name: 'Choose the Bluetooth TNC' })).toBeDisabled();
  await expectNothingFound(page);
});
