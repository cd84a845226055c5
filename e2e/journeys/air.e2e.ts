import { expect, test } from '@playwright/test';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { goTo } from '../pages.js';

const bench = testBench('demo', '--at', ISLAND_AT);

test('history is there at the first look; one selection goes across list, lanes, map and log', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/air`);
  const stations = page.getByRole('region', { name: 'Stations' });
  await expect(stations).toContainText(/2\d heard in the last 30 min/);
  await expect(page.locator('canvas').first()).toBeVisible();

  await test.step('a station of the list, behind the ridge: its card, its way', async () => {
    const row = stations.getByRole('button', { name: /QH8CLA-7/ });
    await row.click();
    await expect(row).toHaveAttribute('aria-pressed', 'true');
    const card = page.getByRole('region', { name: 'The selected station' });
    await expect(card).toContainText('person on foot');
    await expect(page.getByRole('list', { name: 'Hops' })).toContainText('QH1');
  });

  await test.step('the block of that frame is marked in the lanes, its row in the log', async () => {
    await page.getByRole('radio', { name: 'Log' }).click();
    await expect(page.getByRole('region', { name: 'Log' }).locator('[aria-pressed="true"]')).toContainText(
      'QH8CLA-7',
    );
    await expect(page.locator('rect[stroke="var(--ink)"]')).toHaveCount(1);
  });

  await test.step('a frame of the log selects its station', async () => {
    const row = page
      .getByRole('region', { name: 'Log' })
      .getByRole('button', { name: /QH7CTC-9/ })
      .first();
    await row.click();
    await expect(stations.getByRole('button', { name: /QH7CTC-9/ })).toHaveAttribute('aria-pressed', 'true');
    await page.getByRole('radio', { name: 'Map' }).click();
    await expect(page.getByRole('region', { name: 'The selected station' })).toContainText('cart C');
  });

  await test.step('its own page: ways, times, frames', async () => {
    await page.getByRole('link', { name: /All that it sent/ }).click();
    await expect(page).toHaveURL(/air\/QH7CTC-9/);
    const ways = page.getByRole('region', { name: 'How it reached us' }).getByRole('row');
    await expect(ways.filter({ hasText: /^QH1ANR\d+$/ })).toHaveCount(1);
    await expect(ways.filter({ hasText: /^direct\d+$/ })).toHaveCount(1);
    const sent = page.getByRole('region', { name: 'What it sent' }).getByRole('button');
    await expect(sent).toHaveCount(100);
    await sent.nth(3).click();
    await expect(page.getByRole('region', { name: 'The way of this frame' })).toContainText('QH7CTC-9');
  });

  await test.step('a path that goes against the published rule says so, and which', async () => {
    await page.goto(`${bench.running.address}/air/QH8BTB-8`);
    const rule = page.getByRole('list', { name: 'Against the rule' });
    await expect(rule).toContainText('it asks for 4 hops in all');
    await expect(rule).toContainText('New n-N paradigm');
  });

  await test.step('what a gateway passed on is shown as not heard itself, with its frequency', async () => {
    await page.goto(`${bench.running.address}/air/QH5OST-10`);
    await expect(page.locator('main')).toContainText('not heard itself: QH3PRT-10 passed it on');
    await expect(page.locator('main')).toContainText('144.875 MHz');
  });

  await test.step('an object says who tells of it; a name never heard says so', async () => {
    await page.goto(`${bench.running.address}/air/H2`);
    await expect(page.locator('main')).toContainText('told by QH3PRT-10');
    await page.goto(`${bench.running.address}/air/QH0NIL-3`);
    await expect(page.locator('main')).toContainText('Nothing has been heard of QH0NIL-3');
  });
});

test('a click on the map selects what stands there', async ({ page }) => {
  await page.goto(`${bench.running.address}/air`);
  const map = page.getByRole('application', { name: /^Map/ });
  await expect(page.locator('canvas').first()).toBeVisible();
  await page.waitForTimeout(1500);
  const box = await map.boundingBox();
  if (!box) throw new Error('the map has no place');
  // The map begins with my place in its middle. The head digipeater stands 13.85 km east and 7.93 km north of it; at
  // zoom 11 a pixel is 76.437 m · cos 29.6° (the Web Mercator scale, OGC 06-042 annex E; by hand).
  const metres = 76.437 * Math.cos((29.6 * Math.PI) / 180);
  const at = { x: box.width / 2 + 13_851 / metres, y: box.height / 2 - 7_926 / metres };
  await map.click({ position: at });
  await expect(page.getByRole('region', { name: 'The selected station' })).toContainText(/QH1ANR|145\.675/);
});

test('units and coordinates follow the settings at once', async ({ page }) => {
  await page.goto(`${bench.running.address}/air`);
  const row = page.getByRole('region', { name: 'Stations' }).getByRole('button', { name: /QH3PRT-10/ });
  await expect(row).toContainText('8.8 km');
  await goTo(page, 'Settings');
  await page.getByLabel('Units').selectOption('nautical');
  await page.getByLabel('Coordinates').selectOption('locator');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await goTo(page, 'Air');
  await row.click();
  // 8.8 km / 1.852.
  await expect(row).toContainText('4.8 nmi');
  await expect(page.getByRole('region', { name: 'The selected station' })).toContainText('IG40');
});
