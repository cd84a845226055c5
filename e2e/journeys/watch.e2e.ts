import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { addNetworkLink, begin, goTo } from '../pages.js';
import { positionFrame } from '../peers/kiss-peer.js';

const bench = testBench('start');
test.describe.configure({ mode: 'serial' });

const LIST = [
  'call,label,group,every_min,leg,off_m,finish,due',
  '1X9TST-9,"Cart D, tents",carts,5,peak track,400,29.5639 S 11.5445 W,00:00',
  '1X9TST-8,Boat B,boats,10,,,,',
].join('\n');
const TRACK = JSON.stringify({
  type: 'Feature',
  properties: { name: 'peak track' },
  geometry: {
    type: 'LineString',
    coordinates: [
      [-11.405, -29.632],
      [-11.4361, -29.5684],
    ],
  },
});

const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
const rows = (page: Page) => page.getByRole('region', { name: 'Looked after' }).getByRole('listitem');
const alarm = (page: Page) => page.getByRole('region', { name: 'Alarm' });

test('a list from a file; a cart is late, an alarm is acknowledged, and the log tells it', async ({
  page,
}) => {
  await begin(page, bench.running.address);
  await addNetworkLink(page, 'pocket TNC', bench.peer.port);
  await goTo(page, 'Watch');
  await expect(page.getByText('Nobody is looked after yet.')).toBeVisible();
  await page.getByRole('link', { name: 'The list' }).click();

  await test.step('what is wrong in a file is named by its line, and nothing of it is taken', async () => {
    await page.getByLabel('CSV file of the list').setInputFiles(file('bad.csv', `${LIST}\n1X9TST-8,Boat B`));
    await expect(page.getByText(/line 4: 1X9TST-8 is there twice/)).toBeVisible();
    await expect(page.getByRole('button', { name: 'Saved' })).toBeDisabled();
  });

  await page.getByLabel('Name of the event').fill('Seabird Count');
  await page.getByLabel('CSV file of the list').setInputFiles(file('list.csv', LIST));
  await page.getByLabel('File of ways, GPX or GeoJSON').setInputFiles(file('way.geojson', TRACK));
  // Left in mid-form, it is there again.
  await goTo(page, 'Air');
  await goTo(page, 'Watch');
  await page.getByRole('link', { name: 'The list' }).click();
  await expect(page.getByText('way of 2 points')).toBeVisible();
  await page.getByRole('button', { name: 'Save the list' }).click();
  await expect(page.getByRole('button', { name: 'Saved' })).toBeVisible();
  await expectNothingFound(page);

  await page.getByRole('link', { name: 'The desk' }).click();
  await expect(alarm(page)).toContainText('Cart D, tents: late');
  await bench.peer.play(positionFrame('1X9TST-9', -29.6, -11.35));
  await expect(rows(page).first()).toContainText(/late.*off the way/);
  await expectNothingFound(page);
  await page.getByLabel('What was done').fill('rang them: flat tyre');
  await page.getByRole('button', { name: 'Acknowledge' }).click();
  await expect(alarm(page)).toContainText('Cart D, tents: off the way');
  await page.getByRole('button', { name: 'Acknowledge' }).click();
  await expect(alarm(page)).toContainText('No alarm.');
  await expect(rows(page).first()).toContainText('acknowledged: rang them: flat tyre');

  await test.step('back on the way, it is over by itself; a note about the boat', async () => {
    await bench.peer.play(positionFrame('1X9TST-9', -29.6, -11.42));
    await expect(rows(page).first()).not.toContainText('off the way');
    await rows(page).filter({ hasText: 'Boat B' }).getByRole('button').click();
    await page.getByLabel('Note for the log, about Boat B').fill('stays in the harbour');
    await page.getByRole('button', { name: 'Write it down' }).click();
    await page.getByRole('link', { name: 'Log', exact: true }).click();
    const log = page.getByRole('list', { name: 'Duty log' });
    for (const words of [
      'alarm: is late at the finish',
      'acknowledged: is late at the finish – rang them: flat tyre',
      'over: is off the leg',
      'Boat B note – stays in the harbour',
    ])
      await expect(log).toContainText(words);
    await expectNothingFound(page);
    const saved = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as Markdown' }).click();
    const text = readFileSync(await (await saved).path(), 'utf8');
    expect(text).toContain('# Duty log: Seabird Count');
    expect(text).toContain('| Boat B, 1X9TST-8 | note – stays in the harbour |');
  });
});

test('at a phone, and by a watcher, who acknowledges and sets nothing', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${bench.running.address}/settings`);
  const entry = page.getByRole('region', { name: 'Who may enter' });
  await entry.getByLabel('Password of the watcher').fill('seabird count');
  await entry.getByRole('button', { name: 'Let a watcher in' }).click();
  await expect(entry).toContainText(/watcher/);
  // Another browser: it knows the password alone.
  await page.context().clearCookies();
  await page.goto(bench.running.address);
  await page.getByLabel('Password', { exact: true }).fill('seabird count');
  await page.getByRole('button', { name: 'Log in' }).click();
  await expect(page.getByText('Everything is shown; nothing is changed or sent from here.')).toBeVisible();
  await bench.peer.play(positionFrame('1X9TST-9', -29.6, -11.35));
  await goTo(page, 'Watch');
  await expect(alarm(page)).toContainText('off the way');
  await expectNothingFound(page);
  await page.getByRole('button', { name: 'Acknowledge' }).click();
  await expect(alarm(page)).toContainText('No alarm.');
  await page.getByRole('link', { name: 'The list' }).click();
  await expect(page.getByRole('button', { name: 'Begin the watch anew' })).toBeDisabled();
  await expect(page.getByLabel('Name of the event')).toBeDisabled();
});
