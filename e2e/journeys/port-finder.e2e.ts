import { expect, test } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { begin, goTo } from '../pages.js';
import { statusFrame } from '../peers/kiss-peer.js';
import { PtyPair } from '../peers/pty-pair.js';

const bench = testBench('start');

test('a port that gives positions, then KISS, becomes a link', async ({ page }) => {
  const pair = await PtyPair.open();
  await begin(page, bench.running.address);
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Find the port' }).click();
  const finder = page.getByRole('region', { name: 'Port finder' });
  await finder.getByRole('button', { name: 'Take the first list' }).click();
  await expect(finder).toContainText(/\d+ ports?/);
  await finder.getByRole('button', { name: 'Take the list again' }).click();
  await expect(finder).toContainText('nothing new yet');
  // Pseudo-terminals stand in no list of serial ports: its path is typed.
  await finder.getByLabel('A port that is not listed').fill(pair.device);
  const row = finder.getByRole('listitem').filter({ hasText: pair.device });
  const listen = row.getByRole('button', { name: `Listen to ${pair.device}` });

  await listen.click();
  await expect(row).toContainText('listening at 9600 Bd');
  // NMEA 0183, a sentence that is widely printed (from memory).
  await pair.play(
    Buffer.from('$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47\r\n').toString('hex'),
  );
  await expect(row).toContainText('position sentences, at 9600 Bd');
  await expect(row).toContainText('switch the output of this port from position to KISS');

  await listen.click();
  await expect(row).toContainText('listening at 9600 Bd');
  await pair.play(statusFrame('here I am'));
  await expect(row).toContainText('KISS, at 9600 Bd');
  expect(pair.received).toBe('');
  await expectNothingFound(page);

  await row.getByRole('button', { name: `Make ${pair.device} a link` }).click();
  await page.getByLabel('Name').fill('found');
  await expect(page.getByLabel('Port', { exact: true })).toHaveValue(pair.device);
  await page.getByRole('button', { name: 'Add and open the link' }).click();
  await expect.poll(() => pair.received).toContain('c0011ec0');
  pair.unplug();
});
