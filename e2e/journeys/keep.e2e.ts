import { readFile } from 'node:fs/promises';
import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { begin, goTo } from '../pages.js';

const bench = testBench('start');

test('two drills; a trip, from the list before leaving to its own page; what changed; a copy of all', async ({
  page,
}) => {
  await begin(page, bench.running.address);
  await practise(page);
  await goTo(page, 'Field');
  await page.getByRole('link', { name: 'Before I leave' }).click();
  const list = page.getByRole('list', { name: 'Before I leave' });
  await expect(list).toContainText('nobody is in the directory');
  await page.getByLabel('Done: Spare fuses of each rating').click();
  await expect(list.getByRole('listitem').filter({ hasText: 'Spare fuses' })).toContainText('done 0 s ago');
  await page.getByRole('button', { name: 'I pull the plug now' }).click();
  await expect(page.getByText('Pull the plug now.')).toBeVisible();
  await page.getByRole('button', { name: 'Not now' }).click();
  await expect(page.getByText('Pull the plug now.')).toBeHidden();
  await expectNothingFound(page);

  await goTo(page, 'Logbook');
  const parts = page.getByRole('navigation', { name: 'Parts' });
  await parts.getByRole('link', { name: 'Trips' }).click();
  await page.getByRole('button', { name: 'Begin a trip' }).click();
  await page.getByLabel('Name of the trip').fill('The hide below Anrick');
  await page.getByLabel('Where to').fill('IG40hj');
  await page.getByRole('button', { name: 'Begin it' }).click();
  await expect(page.getByRole('link', { name: /The hide below Anrick.*goes on/ })).toBeVisible();

  await parts.getByRole('link', { name: 'All of it' }).click();
  await page.getByLabel('Note', { exact: true }).fill('The mast is up; wind from the west');
  await page.getByRole('button', { name: 'Write it down' }).click();
  const entries = page.getByRole('list', { name: /^Entries of/ });
  await expect(entries.first()).toContainText('The mast is up');
  await page.getByRole('button', { name: 'messages', exact: true }).click();
  await expect(page.getByText('Nothing of that in the record.')).toBeVisible();
  await page.getByRole('button', { name: 'messages', exact: true }).click();
  await expectNothingFound(page);

  await parts.getByRole('link', { name: 'Trips' }).click();
  await page.getByRole('link', { name: /The hide below Anrick/ }).click();
  await expect(page.getByText('The mast is up; wind from the west')).toBeVisible();
  await page.getByRole('button', { name: 'End the trip now' }).click();
  await expect(page.getByRole('button', { name: 'End the trip now' })).toBeHidden();
  await page.getByRole('button', { name: 'Change …' }).click();
  await page.getByLabel('What to do better').fill('Two more metres of mast');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('region', { name: 'To do better' })).toContainText('Two more metres of mast');
  await expectNothingFound(page);
  const markdown = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as Markdown' }).click();
  const text = await readFile(await (await markdown).path(), 'utf8');
  expect(text).toMatch(/^# The hide below Anrick\n/);
  expect(text).toContain('## To do better\n\nTwo more metres of mast');

  await parts.getByRole('link', { name: 'What changed?' }).click();
  await expect(page.getByText('Nothing has worked yet: there is nothing to compare with.')).toBeVisible();
  await parts.getByRole('link', { name: 'Backup' }).click();
  const backup = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the backup' }).click();
  const file = await (await backup).path();
  await page.getByLabel('Backup file').setInputFiles(file);
  await expect(page.getByText(/It is whole\./)).toBeVisible();
  await expectNothingFound(page);
  await page.getByRole('button', { name: 'Put it in place of everything here' }).click();
  await expect(page.getByText(/entries are restored/)).toBeVisible();
  // The server starts again by itself, and has what it had.
  await parts.getByRole('link', { name: 'Trips' }).click();
  await expect(
    page.getByText('After “The hide below Anrick” you wrote: Two more metres of mast'),
  ).toBeVisible();
});

/** The squelch found by two tests, then a wrong name explained; the record tells both. */
async function practise(page: Page): Promise<void> {
  await goTo(page, 'Drills');
  await page.getByRole('button', { name: /^Drill 3/ }).click();
  await expect(page.getByText('This is a drill')).toBeVisible();
  await page.getByRole('button', { name: /^Look at the meter/ }).click();
  await page.getByRole('button', { name: /^Compare every setting/ }).click();
  await expect(page.getByRole('region', { name: 'Findings' }).locator('ol > li')).toHaveCount(2);
  // It goes on after a reload.
  await page.reload();
  await expect(page.getByText(/2 tests, 5 min, 0 packets so far/)).toBeVisible();
  await expectNothingFound(page);
  await page.getByLabel(/The squelch is too tight/).check();
  await page.getByRole('button', { name: 'That is it' }).click();
  await expect(page.getByText(/^Found\. \d+ of 100\.$/)).toBeVisible();
  await page.getByRole('button', { name: 'Another drill' }).click();

  await page.getByRole('button', { name: /^Drill 7/ }).click();
  await page.getByLabel('The call is mistyped').check();
  await page.getByRole('button', { name: 'That is it' }).click();
  await expect(page.getByText(/^Not quite\./)).toBeVisible();
  await expect(page.getByText('No digipeater serves the path').first()).toBeVisible();
  await page.getByRole('button', { name: 'Another drill' }).click();
  const record = page.getByRole('region', { name: 'My record' });
  await expect(record.getByRole('row')).toHaveCount(3);
  await expect(page.getByText('You miss most often: No digipeater serves the path.')).toBeVisible();
  await expectNothingFound(page);
}
