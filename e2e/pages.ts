import { expect, type Locator, type Page } from '@playwright/test';

/** A call of a series that is not allotted, for loopback peers only; it does not begin with Q. */
export const TEST_CALL = '1X9TST';

/** The first visit, filled in. */
export async function begin(page: Page, address: string): Promise<void> {
  await page.goto(address);
  await page.getByLabel('Your call sign').fill(TEST_CALL);
  await page.getByLabel('Region').selectOption('europe-africa');
  await page.getByLabel('Place').fill('29.632 S 11.405 W');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Bench', exact: true })).toBeVisible();
}

export async function goTo(
  page: Page,
  name:
    | 'Bench'
    | 'Levels'
    | 'Path'
    | 'Kit'
    | 'Chain'
    | 'Call signs'
    | 'TNC'
    | 'Beacon'
    | 'Air'
    | 'Watch'
    | 'Messages'
    | 'Terminal'
    | 'Mail'
    | 'Ways'
    | 'Gateways'
    | 'Logbook'
    | 'Field'
    | 'Drills'
    | 'Settings',
): Promise<void> {
  const pages = page.getByRole('navigation', { name: 'Pages' });
  await expect(pages).toBeVisible();
  const link = pages.getByRole('link', { name: new RegExp(`^${name}`) });
  if ((await link.count()) > 0) await link.click();
  else await goByGroup(page, name);
  // A page is fetched at its first visit; until then the one before it stands there, with fields of the same names.
  const shown = name.toLowerCase().replace(' ', '-');
  await expect(page.locator(`main[data-page="${shown}"]`)).toBeVisible();
}

/** On a phone a group of several pages opens as a list. */
async function goByGroup(page: Page, name: string): Promise<void> {
  const tune = ['Levels', 'Path', 'Beacon'];
  const operate = ['Air', 'Watch', 'Messages', 'Terminal', 'Mail', 'Ways'];
  const keep = ['Gateways', 'Logbook', 'Field', 'Drills'];
  const groups = { Tune: tune, Operate: operate, Keep: keep };
  const group = Object.entries(groups).find(([, names]) => names.includes(name))?.[0] ?? 'Prepare';
  await page.getByRole('navigation', { name: 'Pages' }).getByRole('button', { name: group }).click();
  await page.getByRole('menuitem', { name }).click();
}

export async function goToLog(page: Page): Promise<void> {
  await goTo(page, 'Air');
  await page.getByRole('radio', { name: 'Log' }).click();
}

export async function addNetworkLink(page: Page, name: string, port: number): Promise<void> {
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Add a link' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Port', { exact: true }).fill(String(port));
  await page.getByRole('button', { name: 'Add and open the link' }).click();
  await expect(page.getByRole('button', { name: 'Close the link' })).toBeVisible();
}

/** On the island one beacon in five meets another frame at both digipeaters; five more tries leave one in ten thousand. */
const MOST_TRIES = 6;
/** Longer than a digipeater remembers a packet: sooner it would take the next try for a copy. */
const TRY_MS = 31_000;

/** Sends one beacon and waits for the words that an echo brings; if none comes, once more, as an operator does. Returns how many it took. */
export async function sendUntilRepeated(page: Page, told: Locator): Promise<number> {
  for (let tries = 1; ; tries++) {
    await page.getByRole('button', { name: 'Send one beacon' }).first().click();
    const isRepeated = await told.waitFor({ timeout: TRY_MS }).then(
      () => true,
      () => false,
    );
    if (isRepeated) return tries;
    expect(tries, 'tries without an echo').toBeLessThan(MOST_TRIES);
  }
}

/**
 * On the island two messages in five get no answer, and gaps that double leave three tries in three minutes: here they stay as
 * short as digipeaters allow, who take what comes sooner for a copy.
 */
export async function tryMessagesOften(address: string): Promise<void> {
  const url = `${address}/api/v1/messages`;
  const { settings } = (await (await fetch(url)).json()) as { settings: object };
  const answer = await fetch(`${url}/settings`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ ...settings, firstGapS: 31, longestGapS: 31, tries: 12 }),
  });
  expect(answer.status).toBe(200);
}

/** From the banner, with that call in force. */
export async function arm(page: Page, call: string): Promise<void> {
  await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
  await page.getByLabel('Call in force').fill(call);
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await expect(page.getByRole('banner')).toContainText(`Armed as ${call}`);
}

/** One part of the link that the TNC page shows. */
export async function openTncPart(page: Page, name: string): Promise<void> {
  await page.getByRole('navigation', { name: 'Parts of the link' }).getByRole('link', { name }).click();
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
