import { expect, test, type Page } from '@playwright/test';
import { LIBRARY } from '@mistpeak/core/kit/library';
import { testBench } from '../bench.js';
import { addNetworkLink, goTo, TEST_CALL } from '../pages.js';

test.describe.configure({ mode: 'serial' });
const bench = testBench('start');

const HANDHELD = LIBRARY['two-pin-handheld'].name;

async function kitNames(page: Page): Promise<string[]> {
  const answer = await page.request.get(`${bench.running.address}/api/v1/kit`);
  return ((await answer.json()) as { items: { name: string }[] }).items.map(({ name }) => name);
}

const itemForm = (page: Page) =>
  page.getByRole('button', { name: 'Save the item' }).locator('xpath=ancestor::form');

test('who lives elsewhere and does not say where begins with a channel of his own', async ({ page }) => {
  await page.goto(bench.running.address);
  await page.getByLabel('Your call sign').fill(TEST_CALL);
  await page.getByLabel('Region').selectOption('other');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('Give the frequency of your APRS channel in MHz, as 144.800.')).toBeVisible();
  await page.getByLabel('Frequency of your APRS channel, MHz').fill('145,525');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Bench', exact: true })).toBeVisible();
  await expect(page.getByRole('banner')).toContainText('145.525');
  await goTo(page, 'Beacon');
  await page.getByLabel('Place').fill('29°37′55″S 11°24′18″W');
  await page.getByRole('button', { name: 'Save the beacon' }).click();
  await expect(page.getByLabel('Place')).toHaveValue('29.631944 S 11.405 W');
});

test('a double press adds one thing; numbers take a comma; refusals are in words', async ({ page }) => {
  await page.goto(`${bench.running.address}/kit`);
  await page.getByRole('button', { name: `Add ${HANDHELD}` }).dblclick();
  await expect(page.getByRole('button', { name: `Change ${HANDHELD}` })).toHaveCount(1);
  await page.getByRole('button', { name: `Change ${HANDHELD}` }).click();
  const form = itemForm(page);
  await form.getByLabel('Draw, mA').fill('many');
  await expect(form).toContainText('The draw in mA must be a number from 0 to 1,000,000.');
  await expect(form.getByRole('button', { name: 'Save the item' })).toBeDisabled();
  await form.getByLabel('Draw, mA').fill('412,5');
  await form.getByRole('button', { name: 'Save the item' }).dblclick();
  await expect(form).toHaveCount(0);
  await page.getByRole('button', { name: `Change ${HANDHELD}` }).click();
  await expect(form.getByLabel('Draw, mA')).toHaveValue('412.5');
  expect(await kitNames(page)).toEqual(['Mistpeak', HANDHELD]);
});

test('a draft stays, and two windows on one item both stand there', async ({ page, context }) => {
  await page.goto(`${bench.running.address}/kit`);
  await page.getByRole('button', { name: `Change ${HANDHELD}` }).click();
  await itemForm(page).getByLabel('Name').fill('Team A handheld');
  await goTo(page, 'Chain');
  await page.reload();
  await goTo(page, 'Kit');
  await page.getByRole('button', { name: `Change ${HANDHELD}` }).click();
  await expect(itemForm(page).getByLabel('Name')).toHaveValue('Team A handheld');
  await expect(itemForm(page)).toContainText('What you began before stands here');

  const other = await context.newPage();
  await other.goto(`${bench.running.address}/kit`);
  await other.evaluate(() => localStorage.clear());
  await other.reload();
  await other.getByRole('button', { name: `Change ${HANDHELD}` }).click();
  await itemForm(other).getByLabel('Name').fill('Blue handheld');
  await itemForm(other).getByRole('button', { name: 'Save the item' }).click();
  await expect(other.getByRole('button', { name: 'Change Blue handheld' })).toBeVisible();

  const form = itemForm(page);
  const note = form.getByRole('alert');
  await expect(note).toContainText('It was changed elsewhere meanwhile');
  await expect(note.getByRole('row', { name: 'Name' })).toHaveText(/Team A handheld.*Blue handheld/);
  await expect(form.getByRole('button', { name: 'Save the item' })).toBeDisabled();
  await note.getByRole('button', { name: 'Keep mine' }).click();
  await form.getByRole('button', { name: 'Save the item' }).click();
  await expect(page.getByRole('button', { name: 'Change Team A handheld' })).toBeVisible();
  expect(await kitNames(page)).toEqual(['Mistpeak', 'Team A handheld']);
});

test('a link that is open in two windows: untouched fields follow, the touched one is told', async ({
  page,
  context,
}) => {
  await page.goto(bench.running.address);
  await addNetworkLink(page, 'pocket TNC', bench.peer.port);
  await page.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('TXDELAY, ms').fill('400');
  const other = await context.newPage();
  await other.goto(`${bench.running.address}/tnc`);
  await other.getByRole('button', { name: 'Change' }).click();
  await other.getByLabel('Name').fill('pocket TNC, blue');
  await other.getByLabel('Persistence').fill('0,5');
  await other.getByLabel('TXDELAY, ms').fill('350');
  await other.getByRole('button', { name: 'Save the link' }).click();
  const note = page.getByRole('alert');
  await expect(note).toContainText('It was changed elsewhere meanwhile');
  await expect(page.getByLabel('Persistence')).toHaveValue('0.5');
  await expect(page.getByLabel('Name')).toHaveValue('pocket TNC, blue');
  await expect(note.getByRole('row')).toHaveCount(2);
  await expect(note.getByRole('row', { name: 'TXDELAY' })).toHaveText(/400.*350/);
  await note.getByRole('button', { name: 'Take the other' }).click();
  await expect(page.getByLabel('TXDELAY, ms')).toHaveValue('350');
});

test('a server that stands still is told within ten seconds on every page, nothing stays green, and no press is done unseen', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/kit`);
  await expect(page.getByRole('button', { name: 'Change Team A handheld' })).toBeVisible();
  const green = (): Promise<string> =>
    page.evaluate(() => getComputedStyle(document.documentElement).getPropertyValue('--proved').trim());
  const ink = (): Promise<string> =>
    page.evaluate(() => getComputedStyle(document.documentElement).getPropertyValue('--ink2').trim());
  expect(await green()).not.toBe(await ink());
  await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  const lock = page.getByRole('banner').getByRole('button', { name: /Armed as/ });
  await expect(lock).toBeVisible();
  bench.running.signalServer('SIGSTOP');
  try {
    await lock.click();
    await expect(page.getByRole('banner')).toContainText('Locking …');
    await page.getByRole('button', { name: 'Add from the library' }).click();
    await page.getByRole('button', { name: `Add ${HANDHELD}` }).click();
    await expect(page.getByRole('button', { name: `Add ${HANDHELD}` })).toBeDisabled();
    await expect(page.getByText('Mistpeak does not answer.').first()).toBeVisible();
    expect(await green()).toBe(await ink());
    await expect(page.getByRole('banner')).toContainText('not known now; was');
    await expect(page.getByRole('banner')).toContainText('Not locked yet: no answer.');
    // Given up by the page: told, and the button is back.
    await expect(page.getByRole('button', { name: `Add ${HANDHELD}` })).toBeEnabled();
    for (const name of ['Bench', 'Call signs', 'TNC', 'Beacon', 'Air', 'Logbook', 'Settings'] as const) {
      await goTo(page, name);
      await expect(page.getByText('Mistpeak does not answer.').first()).toBeVisible();
    }
  } finally {
    bench.running.signalServer('SIGCONT');
  }
  await expect(page.getByText('Mistpeak does not answer.')).toHaveCount(0);
  expect(await green()).not.toBe(await ink());
  // What makes it silent is done all the same, as soon as it can be.
  await expect(page.getByRole('banner').getByRole('button', { name: 'Receive only' })).toBeVisible();
  expect(await kitNames(page)).toEqual(['Mistpeak', 'Team A handheld']);
});

test('a page that does not come leaves all else as it is, and is fetched when it can be', async ({
  page,
}) => {
  let isGiven = false;
  await page.route(/call-signs-page/, (route) => (isGiven ? route.continue() : route.abort()));
  await page.goto(`${bench.running.address}/kit`);
  await goTo(page, 'Call signs');
  await expect(page.getByRole('heading', { name: 'This page is not here yet' })).toBeVisible();
  await goTo(page, 'TNC');
  await expect(page.getByRole('heading', { name: 'TNC', exact: true })).toBeVisible();
  // A part of a page that does not come takes no more with it than its page.
  await page.route(/station-map/, (route) => route.abort());
  await goTo(page, 'Air');
  await expect(page.getByRole('heading', { name: 'This page cannot be shown' })).toBeVisible();
  await expect(page.getByRole('banner')).toBeVisible();
  isGiven = true;
  await goTo(page, 'Call signs');
  await expect(page.getByRole('heading', { name: /^Call signs of/ })).toBeVisible();
  // One that is only slow is shown when it comes.
  await page.route(/field-page/, async (route) => {
    await new Promise((over) => setTimeout(over, 5000));
    await route.continue();
  });
  await goTo(page, 'Field');
  await expect(page.getByRole('heading', { name: 'This page is not here yet' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Field', exact: true })).toBeVisible();
  // Where the frame itself fails there are words too, and a way back.
  await page.route('**/api/v1/access', (route) => route.fulfill({ json: null }));
  await page.reload();
  await expect(page.getByRole('heading', { name: 'This page cannot be shown' })).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('switch the radio off');
  await page.unroute('**/api/v1/access');
  await page.getByRole('button', { name: 'Load all of it anew' }).click();
  await expect(page.getByRole('heading', { name: 'Field', exact: true })).toBeVisible();
});
