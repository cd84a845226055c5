import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound, expectNothingFoundInAnyLight } from '../accessibility.js';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { arm, goTo } from '../pages.js';
import { mapPicture } from '../peers/picture.js';

const bench = testBench('demo', '--at', ISLAND_AT);
// A session takes minutes on the island's channel, as it does in life; the longest here has four gateways to call.
test.describe.configure({ mode: 'serial' });

/** On the island's channel a frame may have to be sent again, and others send too. */
const SLOW = { timeout: 300_000 };
const PHONE = { width: 390, height: 844 };
const TURNED = { width: 844, height: 390 };

const section = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const status = (page: Page) => section(page, 'The session').getByRole('status');

/** In this order, and so often each. */
async function tryInOrder(page: Page, calls: readonly string[], tries: number): Promise<void> {
  await page.goto(`${bench.running.address}/mail/ways`);
  const profile = page.getByRole('group', { name: 'Island gateways' });
  for (const [i, call] of calls.entries()) await profile.getByLabel(`Call ${i + 1}`).fill(call);
  const out = profile.getByRole('button', { name: 'Out', exact: true });
  while ((await out.count()) > calls.length) await out.last().click();
  await profile.getByLabel('Tries').fill(String(tries));
  await page.getByRole('button', { name: 'Save the ways' }).click();
  await expect(profile.getByLabel(`Call ${calls.length}`)).toHaveValue(calls.at(-1) as string);
  await goTo(page, 'Mail');
}

/** A call may be lost on the island's channel three times: then the next gateway is tuned to, as an operator does. */
async function tuneUntilDone(page: Page): Promise<void> {
  const tick = page.getByRole('button', { name: /^The radio is on/ });
  await expect(async () => {
    // It may vanish as it is looked at: the one before was pressed a moment ago.
    if (await tick.isVisible()) await tick.click({ timeout: 1000 });
    await expect(status(page).filter({ hasText: 'All was exchanged' })).toBeVisible({ timeout: 1000 });
  }).toPass({ timeout: 2 * SLOW.timeout });
}

test('from an empty box to the self-test’s answer; two gateways are of no use, the third is', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/mail`);
  await expect(section(page, 'To go')).toContainText('Nothing. What you post waits here');
  await tryInOrder(page, ['QH5SAL-10', 'QH5QUI-10', 'QH5VEL-10', 'QH5OST-10'], 3);
  await expectNothingFound(page);
  await page.getByRole('button', { name: 'Post a self-test' }).click();
  await expect(section(page, 'To go')).toContainText('Self-test T1');
  await page.getByRole('button', { name: 'Send and receive with QH5SAL-10' }).click();
  await expect(page.getByRole('alert')).toContainText('The transmitter is locked.');
  await arm(page, 'QH4MPK');
  await page.getByRole('button', { name: 'Send and receive with QH5SAL-10' }).click();
  await page.getByRole('button', { name: 'The radio is on 144.850 MHz' }).click();
  await expect(section(page, 'The session')).toContainText('QH5SAL-10: no answer from QH5SAL-10', SLOW);
  await page.getByRole('button', { name: 'The radio is on 144.875 MHz' }).click();
  // In its valley it may not be heard at all: of no use either way.
  await expect(section(page, 'The session')).toContainText(
    /QH5QUI-10: (?:\*\*\* The mail service is out of reach|no answer)/,
    SLOW,
  );
  await page.getByRole('button', { name: 'The radio is on 144.900 MHz' }).click();
  // Somebody walks with the phone, and turns it, while it goes on.
  await page.setViewportSize(PHONE);
  await expect(status(page)).toBeVisible();
  await page.setViewportSize(TURNED);
  await expect(status(page)).toBeVisible();
  await page.setViewportSize({ width: 1280, height: 800 });
  await tuneUntilDone(page);
  await expect(section(page, 'Self-test')).toContainText('taken; the answer is due on the next connection');
  await expect(section(page, 'Came')).toContainText('Soup until seven');
  await expectNothingFoundInAnyLight(page);
  await page.getByRole('link', { name: 'Timeline and literal lines' }).click();
  await page.getByText(/^Word for word/).click();
  const lines = page.getByRole('list', { name: 'Lines' });
  for (const text of [';FW: QH4MPK', '[Mistpeak-1-B2FHM$]', 'FS +', 'FQ'])
    await expect(lines).toContainText(text);
  await expect(lines).not.toContainText('seabird');
  await expectNothingFound(page);
  await goTo(page, 'Mail');
  await page.getByLabel('By which way').selectOption({ label: 'Mail service by cable' });
  await page.getByRole('button', { name: 'Send and receive with 127.0.0.1' }).click();
  await expect(section(page, 'Self-test')).toContainText('sending and receiving are proved');
  await expect(section(page, 'Came')).toContainText('Re: Self-test T1');
});

test('a letter with a picture: addresses, signs, minutes, the picture made smaller; posted, and on its way it is cut off and goes on', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/mail/write/new`);
  const letter = page.getByRole('form', { name: 'Letter' });
  await letter.getByLabel('To', { exact: true }).fill('qh4mpk');
  await expect(letter).toContainText('Nobody can mail himself');
  await letter.getByRole('button', { name: 'TEST', exact: true }).click();
  await expect(letter.getByLabel('To', { exact: true })).toHaveValue('TEST');
  await letter.getByLabel('To', { exact: true }).fill('QH7CTA');
  await letter.getByLabel('Subject').fill('Path to hide 3');
  await letter.getByLabel('Text').fill('The path to hide 3, 5 € for the map.');
  await expect(letter.getByLabel(/€ is not among the letters/)).toBeVisible();
  await letter
    .getByLabel('Add a file')
    .setInputFiles({ name: 'path.bmp', mimeType: 'image/bmp', buffer: mapPicture(640, 400) });
  const minutes = page.getByTestId('minutes');
  await expect(minutes).toContainText(/h|min/);
  await expect(letter).toContainText('more than the 15 minutes that you allow');
  await letter.getByRole('button', { name: 'Post it' }).click();
  await expect(page.getByRole('alert')).toContainText('takes longer than you have allowed');
  const shrink = page.getByRole('region', { name: 'Make path.bmp smaller' });
  await shrink.getByLabel('Longest side').selectOption('200');
  await shrink.getByLabel('Quality').selectOption({ label: 'rough' });
  await expect(shrink.getByText(/200 × 125/)).toBeVisible();
  await shrink.getByRole('button', { name: 'Take the smaller one' }).click();
  await expect(letter).toContainText('path.jpg');
  await expect(minutes).toContainText(/^\d+ s$/);
  await expectNothingFound(page);
  // Left in mid-form, it is there again.
  await goTo(page, 'Air');
  await page.goto(`${bench.running.address}/mail/write/new`);
  await expect(letter.getByLabel('Subject')).toHaveValue('Path to hide 3');
  await letter.getByRole('button', { name: 'Post it' }).click();
  await expect(section(page, 'To go')).toContainText('Path to hide 3');
  await tryInOrder(page, ['QH5VEL-10'], 8);
  await page.getByRole('button', { name: 'Send and receive with QH5VEL-10' }).click();
  const ticked = page.getByRole('button', { name: /^The radio is on/ });
  await ticked.click({ timeout: 5000 }).catch(() => undefined);
  const bar = section(page, 'The session').getByRole('progressbar').first();
  await expect(bar).toHaveAttribute('aria-valuenow', /[1-9]/, SLOW);
  await page.getByRole('button', { name: 'Stop politely' }).click();
  await page.getByRole('button', { name: 'Cut it off' }).click();
  await expect(status(page)).toContainText('You stopped it.', SLOW);
  await expect(section(page, 'To go')).toContainText('Path to hide 3');
  await page.getByRole('button', { name: 'Send and receive with QH5VEL-10' }).click();
  await expect(status(page)).toContainText('All was exchanged', SLOW);
  await expect(section(page, 'To go')).not.toContainText('Path to hide 3');
  await page.getByRole('link', { name: 'Timeline and literal lines' }).click();
  await page.getByText(/^Word for word/).click();
  // What was there already, in part or whole, did not go again.
  await expect(page.getByRole('list', { name: 'Lines' })).toContainText(/FS (?:!\d+|-)/);
});

test('forms, letters read and answered, and the page at a phone', async ({ page }) => {
  await page.setViewportSize(PHONE);
  await page.goto(`${bench.running.address}/mail/forms`);
  await page.getByText('Evening tally').click();
  await page.getByLabel('Terns').fill('41');
  await expect(page.getByLabel('Text of the form')).toContainText('Terns: 41');
  await expectNothingFound(page);
  await page.getByRole('button', { name: 'Make a letter of it' }).click();
  await expect(page.locator('textarea')).toHaveValue(/Terns: 41\nGannets on nests: 0/);
  await page.getByRole('button', { name: 'Keep as a draft' }).click();
  await expect(section(page, 'To go')).toContainText(/Tally of .*, hide 1/);
  await section(page, 'Came').getByRole('link', { name: /Lamps/ }).click();
  await expect(page.getByRole('article')).toContainText('Shall they go to hide 3?');
  await expectNothingFound(page);
  await page.getByRole('button', { name: 'Answer with its text' }).click();
  await expect(page.getByLabel('To', { exact: true })).toHaveValue('QH7CTA');
  await expect(page.locator('textarea')).toHaveValue(/> Two lamps are left/);
  await page.getByRole('button', { name: 'Post it' }).click();
  await page.goto(`${bench.running.address}/mail/letters/inbox`);
  await page.getByLabel('Find').fill('lamps');
  await expect(page.getByRole('list', { name: 'Letters' }).getByRole('link')).toHaveCount(1);
  await expect(page.getByRole('list', { name: 'Letters' })).toContainText('answered');
  await page.goto(`${bench.running.address}/mail/account`);
  await expect(page.getByRole('region', { name: 'Account' })).toContainText('a login with it was accepted');
  await expectNothingFound(page);
});
