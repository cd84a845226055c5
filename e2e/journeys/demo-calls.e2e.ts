import { expect, test } from '@playwright/test';
import { TcpPeer } from '../peers/kiss-peer.js';
import { addNetworkLink, goTo } from '../pages.js';
import { Running } from '../running.js';

test('a demo call is refused on a link that is not a stand-in, with the reason', async ({ page }) => {
  const demo = await Running.start('demo');
  const peer = await TcpPeer.listen();
  await page.goto(demo.address);
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Close the link' }).click();
  await addNetworkLink(page, 'a real one', peer.port);
  await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
  await page.getByLabel('Call in force').fill('QH4MPK-7');
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await expect(page.getByRole('dialog')).toContainText('A demo call was not sent.');
  await expect(page.getByRole('dialog')).toContainText('they may reach a stand-in only');
  expect(peer.received).not.toContain('c000');
  await peer.close();
  await demo.stopAndForget();
});
