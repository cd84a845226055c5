import { expect, test } from '@playwright/test';
import { expectNothingFound, LIGHTS } from '../accessibility.js';
import { testBench } from '../bench.js';
import { goTo, logRows } from '../pages.js';

const bench = testBench('demo');

for (const light of LIGHTS) {
  for (const [name, viewport] of Object.entries({
    desk: { width: 1280, height: 800 },
    phone: { width: 390, height: 844 },
  })) {
    test(`every screen in the ${light} light at the ${name}`, async ({ page }) => {
      test.slow();
      await page.setViewportSize(viewport);
      await page.addInitScript((wanted) => localStorage.setItem('light', wanted), light);
      await page.goto(`${bench.running.address}/air?show=log`);
      await logRows(page, 'QH').first().getByRole('button').click({ timeout: 40_000 });
      await expectNothingFound(page, light);
      await page.getByRole('radio', { name: 'Map' }).click();
      await page
        .getByRole('region', { name: 'Stations' })
        .getByRole('button', { name: /QH7CTC-9/ })
        .click();
      await expectNothingFound(page, light);
      await page.getByRole('link', { name: /All that it sent/ }).click();
      await expect(page.getByRole('heading', { name: 'How it reached us' })).toBeVisible();
      await expectNothingFound(page, light);
      await goTo(page, 'Settings');
      await expectNothingFound(page, light);
      await goTo(page, 'Beacon');
      await expectNothingFound(page, light);
      await page.getByLabel('Path').fill('RELAY');
      await expect(page.getByText(/obsolete/).first()).toBeVisible();
      await expectNothingFound(page, light);
      await goTo(page, 'Call signs');
      await page.getByRole('button', { name: 'Use QH4MPK-3' }).click();
      await expectNothingFound(page, light);
      await goTo(page, 'TNC');
      await expectNothingFound(page, light);
      await page.getByRole('button', { name: 'Add a link' }).click();
      await expectNothingFound(page, light);
      await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
      await expect(page.getByRole('dialog')).toBeVisible();
      await expectNothingFound(page, light);
    });
  }
}

test('the keyboard alone reaches a frame and the lock', async ({ page }) => {
  await page.goto(`${bench.running.address}/air?show=log`);
  await logRows(page, 'QH').first().getByRole('button').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'The way of this frame' })).toBeVisible();
  await page.getByRole('button', { name: 'Receive only' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});
