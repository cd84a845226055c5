import { expect, test } from '@playwright/test';
import { expectNothingFoundInAnyLight, expectNothingFoundInShape } from '../accessibility.js';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { goTo, logRows } from '../pages.js';

const bench = testBench('demo', '--at', ISLAND_AT);

/** A light changes nothing but colours, and a phone's width none of them. */
for (const [name, viewport, check] of [
  ['at the desk, in each light', { width: 1280, height: 800 }, expectNothingFoundInAnyLight],
  ['on a phone', { width: 390, height: 844 }, expectNothingFoundInShape],
] as const)
  test(`every screen ${name}`, async ({ page }) => {
    test.slow();
    await page.setViewportSize(viewport);
    await page.addInitScript(() => localStorage.setItem('light', 'day'));
    await page.goto(`${bench.running.address}/air?show=log`);
    await logRows(page, 'QH').first().getByRole('button').first().click();
    await check(page);
    await page.getByRole('radio', { name: 'Map' }).click();
    await page
      .getByRole('region', { name: 'Stations' })
      .getByRole('button', { name: /QH7CTC-9/ })
      .click();
    await check(page);
    await page.getByRole('link', { name: /All that it sent/ }).click();
    await expect(page.getByRole('heading', { name: 'How it reached us' })).toBeVisible();
    await check(page);
    await goTo(page, 'Settings');
    await check(page);
    await goTo(page, 'Beacon');
    await check(page);
    await page.getByLabel('Path').fill('RELAY');
    await expect(page.getByText(/obsolete/).first()).toBeVisible();
    await check(page);
    await goTo(page, 'Call signs');
    await page.getByRole('button', { name: 'Use QH4MPK-3' }).click();
    await check(page);
    await goTo(page, 'TNC');
    await check(page);
    await page.getByRole('button', { name: 'Add a link' }).click();
    await check(page);
    await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await check(page);
  });

test('the keyboard alone reaches a frame and the lock', async ({ page }) => {
  await page.goto(`${bench.running.address}/air?show=log`);
  await logRows(page, 'QH').first().getByRole('button').first().focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'The way of this frame' })).toBeVisible();
  await page.getByRole('button', { name: 'Receive only' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});
