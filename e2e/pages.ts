import { expect, type Page } from '@playwright/test';

/** A call of a series that is not allotted, for loopback peers only; it does not begin with Q. */
export const TEST_CALL = '1X9TST';

/** The first visit, filled in. */
export async function begin(page: Page, address: string): Promise<void> {
  await page.goto(address);
  await page.getByLabel('Your call sign').fill(TEST_CALL);
  await page.getByLabel('Region').selectOption('europe-africa');
  await page.getByLabel('Latitude').fill('29.632 S');
  await page.getByLabel('Longitude').fill('11.405 W');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Bench', exact: true })).toBeVisible();
}

export async function goTo(
  page: Page,
  name: 'Bench' | 'Call signs' | 'TNC' | 'Beacon' | 'Air',
): Promise<void> {
  await page.getByRole('navigation', { name: 'Pages' }).getByRole('link', { name }).first().click();
}

export async function addNetworkLink(page: Page, name: string, port: number): Promise<void> {
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Add a link' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Port', { exact: true }).fill(String(port));
  await page.getByRole('button', { name: 'Add and open the link' }).click();
  await expect(page.getByRole('button', { name: 'Close the link' })).toBeVisible();
}

/** The counts of the TNC page, by reason. */
export async function tallies(page: Page): Promise<Record<string, number>> {
  const rows = await page.getByRole('region', { name: 'What came in' }).locator('tbody tr').all();
  const entries = await Promise.all(
    rows.map(async (row) => {
      const reason = ((await row.locator('td').first().textContent()) ?? '').split(':')[0];
      return [reason, Number(await row.locator('td').nth(1).textContent())] as const;
    }),
  );
  return Object.fromEntries(entries);
}

export const logRows = (page: Page, text: string | RegExp) =>
  page.getByRole('region', { name: 'Log' }).getByRole('listitem').filter({ hasText: text });
