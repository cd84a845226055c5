import { mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { addNetworkLink, begin, goTo } from '../pages.js';

const bench = testBench('start');

const LIST = [
  'Station,Freq,Grid,Remarks',
  'QH5VEL-10,144.850,IG40hh,harbour',
  'QH5OST-10,144.875,IG40jj,=HYPERLINK("x")',
  ',144.9,,',
].join('\n');

test('a list is taken by its columns, a conflict decided, the silent near one sinks, the rest goes along', async ({
  page,
}) => {
  await begin(page, bench.running.address);
  await goTo(page, 'Gateways');
  await expect(page.getByText('Nobody is known yet')).toBeVisible();
  const parts = page.getByRole('navigation', { name: 'Parts' });
  await parts.getByRole('link', { name: 'Add' }).click();
  await test.step('a list of a gigabyte is refused before it is read', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'mistpeak-list-'));
    const huge = join(folder, 'huge.csv');
    writeFileSync(huge, 'call\n');
    truncateSync(huge, 2 ** 30);
    await page.getByLabel('List of gateways').setInputFiles(huge);
    await expect(page.getByText('huge.csv is longer than any list of gateways')).toBeVisible();
    rmSync(folder, { recursive: true });
  });
  const file = { name: 'island.csv', mimeType: 'text/csv', buffer: Buffer.from(LIST) };
  await page.getByLabel('List of gateways').setInputFiles(file);
  await page.getByLabel('What Station means').selectOption('call');
  await expect(page.getByText('Of the first 3 rows 2 can be read; row 3 not: no call.')).toBeVisible();
  await page.getByRole('button', { name: 'Take it into the directory' }).click();
  await expect(page.getByText('2 added, 0 completed or confirmed, 1 row left out.')).toBeVisible();

  // The same station, pasted with another place: both are shown, one is chosen.
  await page
    .getByLabel('A bulletin, a web page, a letter')
    .fill('QH5VEL-10 is QRV on 144.850 from IG40aa now');
  await page.getByRole('button', { name: 'Take 1 into the directory' }).click();
  const conflict = page.getByRole('region', { name: 'Told differently' });
  await expect(conflict).toContainText('QH5VEL-10 144.8500');
  await conflict.getByRole('button', { name: /^Keep/ }).click();
  await expect(conflict).toBeHidden();
  await expectNothingFound(page);

  await parts.getByRole('link', { name: 'In order' }).click();
  const order = page.locator('ol[aria-label="In the order to call"] > li');
  await expect(order.first()).toContainText('QH5VEL-10');
  await order.first().getByRole('button', { expanded: false }).click();
  await page.getByRole('button', { name: 'Note a try' }).click();
  await page.getByLabel('It answered').selectOption('no');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText(/silent in 1 try/)).toBeVisible();
  await expect(order.first()).toContainText('QH5OST-10');
  await expect(page.getByRole('main').getByRole('status').first()).toContainText('Call QH5OST-10 first');

  // A place as a locator, and only its neighbours.
  await page.getByLabel('From', { exact: true }).selectOption('another place …');
  await page.getByLabel('That place').fill('IG40hh');
  await page.getByLabel('Only in IG40hh and the squares round it').check();
  await expect(order).toHaveCount(1);
  await page.getByLabel('Only in IG40hh and the squares round it').uncheck();
  await expectNothingFound(page);

  await addNetworkLink(page, 'peer', bench.peer.port);
  await goTo(page, 'Gateways');
  await page.getByRole('button', { name: 'Put on Mail’s list' }).click();
  await expect(page.getByText(/is called first in “Gateways”, 2 in all/)).toBeVisible();
  await page.getByRole('button', { name: 'Save for the terminal' }).click();
  await expect(page.getByText('2 of them are new among the terminal’s stations.')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Channels as CSV' }).click();
  const csv = await readFile(await (await download).path(), 'utf8');
  expect(csv).toContain('QH5OST-10,144.875,,packet,');
  // No table program carries out what a stranger wrote into his notes.
  expect(csv).toContain(`"'=HYPERLINK(""x"")"`);
});
