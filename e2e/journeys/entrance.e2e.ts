import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { HOME } from '../../apps/launcher/src/home.js';
import { testBench } from '../bench.js';
import { begin } from '../pages.js';

const bench = testBench('start');

test('on this machine only the browser is let in that opens the printed address, once', async ({
  page,
  browser,
}) => {
  await begin(page, bench.running.address);

  const other = await (await browser.newContext()).newPage();
  const answers: number[] = [];
  other.on('response', (response) => {
    if (response.url().includes('/api/')) answers.push(response.status());
  });
  await other.goto(`${bench.running.address}/air`);
  await expect(other.getByText('./mistpeak address')).toBeVisible();
  await expect(other.getByRole('navigation')).toHaveCount(0);
  await expect(other.getByLabel('Pairing code')).toHaveCount(0);
  expect(await other.evaluate(() => fetch('/api/v1/links').then(({ status }) => status))).toBe(401);

  const printed = execFileSync(join(HOME, 'mistpeak'), ['address', '--data', bench.running.data], {
    encoding: 'utf8',
  });
  const address = /http:\S+/.exec(printed)?.[0] ?? '';
  await other.goto(address);
  await expect(other.getByRole('heading', { name: 'Bench', exact: true })).toBeVisible();
  expect(other.url()).not.toContain('token');

  const third = await (await browser.newContext()).newPage();
  await third.goto(address);
  await expect(third.getByText('That address has been used')).toBeVisible();
  await expect(third.getByRole('navigation')).toHaveCount(0);
});
