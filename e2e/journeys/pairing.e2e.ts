import { expect, test } from '@playwright/test';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { goTo } from '../pages.js';

const bench = testBench('demo', '--at', ISLAND_AT, '--lan');
/** The phone has not installed the authority yet: its operator passes the warning. */
const PHONE = { ignoreHTTPSErrors: true, viewport: { width: 390, height: 844 } };

test('a phone is paired by the picture, over HTTPS, once', async ({ page, browser }) => {
  await page.goto(bench.running.address);
  await goTo(page, 'Settings');
  const devices = page.getByRole('region', { name: 'Other devices' });
  await devices.getByLabel('The device comes in as').selectOption('watcher');
  await devices.getByLabel('What you call it').fill('phone in the cart');
  await devices.getByRole('button', { name: 'Make a pairing code' }).click();
  const address =
    /Opens (\S+) with/.exec((await devices.locator('svg title').textContent()) ?? '')?.[1] ?? '';
  expect(address).toMatch(/^https:\/\/[\d.]+:\d+$/);
  const code = (await devices.getByText(/^[A-Z2-9]{5} [A-Z2-9]{5}$/).textContent()) ?? '';

  const phone = await (await browser.newContext(PHONE)).newPage();
  await phone.goto(`${address}/pair#${code.replace(' ', '')}`);
  expect(await phone.evaluate(() => window.isSecureContext)).toBe(true);
  await expect(phone.getByLabel('Pairing code')).toHaveValue(code.replace(' ', ''));
  await phone.getByRole('button', { name: 'Pair this device' }).click();
  await expect(phone.getByRole('navigation', { name: 'The climb' })).toBeVisible();
  await expect(phone.getByText('Everything is shown; nothing is changed or sent from here.')).toBeVisible();
  expect(phone.url()).not.toContain('#');
  // What is heard arrives there too.
  await expect(phone.getByRole('banner')).toContainText('hearing');

  const other = await (await browser.newContext(PHONE)).newPage();
  await other.goto(address);
  await other.getByLabel('Pairing code').fill(code);
  await other.getByRole('button', { name: 'Pair this device' }).click();
  await expect(other.getByText('That code lets nobody in.')).toBeVisible();

  await test.step('the operator ends what was let in; the phone is asked for a code again', async () => {
    const row = devices.getByRole('listitem').filter({ hasText: 'phone in the cart' });
    await expect(row).toContainText('watcher, by pairing code');
    await row.getByRole('button', { name: 'End it' }).click();
    await expect(row).toHaveCount(0);
    await expect(phone.getByRole('button', { name: 'Pair this device' })).toBeVisible();
  });
});
