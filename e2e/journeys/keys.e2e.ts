import { expect, test } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { goTo } from '../pages.js';

const bench = testBench('demo', '--at', ISLAND_AT);

test('every page and action by words and by key, and no key while something is typed', async ({ page }) => {
  await page.goto(bench.running.address);
  await expect(page.getByRole('heading', { name: /position beacon/ })).toBeVisible();

  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('A page or an action').fill('call');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/call-signs/);

  for (const [subject, address] of [
    ['squelch', /chain/],
    ['passcode', /call-signs/],
    ['txdelay', /tnc/],
  ] as const) {
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder('A page or an action').fill(subject);
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(address);
  }

  await page.keyboard.press('g');
  await page.keyboard.press('t');
  await expect(page).toHaveURL(/tnc/);

  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('Go to Air');
  await expectNothingFound(page);
  await page.keyboard.press('Escape');

  await goTo(page, 'Beacon');
  await page.getByLabel('Comment').pressSequentially('gag b');
  await expect(page).toHaveURL(/beacon/);
  await expect(page.getByLabel('Comment')).toHaveValue('gag b');
});

test('the key b sends one beacon, once the transmitter is armed and not before', async ({ page }) => {
  await page.goto(`${bench.running.address}/beacon`);
  await page.getByRole('button', { name: 'Save the beacon' }).click();
  await expect(page.getByRole('button', { name: 'Saved' })).toBeVisible();
  await page.locator('main').click({ position: { x: 5, y: 5 } });
  await page.keyboard.press('b');
  await expect(page.getByRole('region', { name: 'Sent' })).toContainText('Nothing has been sent from here.');
  await page.getByRole('button', { name: 'Arm the transmitter …' }).click();
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await expect(page.getByRole('banner')).toContainText('Armed as');
  await page.keyboard.press('b');
  await expect(page.getByRole('region', { name: 'Sent' })).toContainText('QH4MPK');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('A page or an action').fill('lock the');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('banner')).toContainText('Receive only');
});
