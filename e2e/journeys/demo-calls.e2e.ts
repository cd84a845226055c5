import { expect, test } from '@playwright/test';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { addNetworkLink, goTo } from '../pages.js';

const bench = testBench('demo', '--at', ISLAND_AT);

test('a demo call is refused on a link that is not a stand-in, with the reason', async ({ page }) => {
  await page.goto(bench.running.address);
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Close the link' }).click();
  await addNetworkLink(page, 'a real one', bench.peer.port);
  await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
  await page.getByLabel('Call in force').fill('QH4MPK-7');
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await expect(page.getByRole('dialog')).toContainText('A demo call was not sent.');
  await expect(page.getByRole('dialog')).toContainText('they may reach a stand-in only');
  expect(bench.peer.received).not.toContain('c000');
});
