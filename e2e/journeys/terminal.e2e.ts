import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound, expectNothingFoundInAnyLight } from '../accessibility.js';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { arm, goTo } from '../pages.js';

// An afternoon on which team A stands where the hut is heard; at other hours it may be behind the ridge, as in life.
const bench = testBench('demo', '--at', ISLAND_AT);
test.describe.configure({ mode: 'serial' });

/** On the island's channel a frame may have to be sent again, and others send too. */
const SLOW = { timeout: 300_000 };
const PHONE = { width: 390, height: 844 };

const transcript = (page: Page) => page.getByRole('log', { name: /^What was said/ });
/** A line of mine, with how far it has come. */
const mine = (page: Page, text: string) => page.locator('[data-side=mine]').filter({ hasText: text }).last();
const prompted = (page: Page): Promise<void> =>
  expect(page.getByRole('region', { name: 'Mailbox' })).toContainText('It waits for a command', SLOW);

async function call(page: Page, station: string): Promise<void> {
  await page.goto(`${bench.running.address}/terminal`);
  await page
    .getByRole('region', { name: 'Saved stations' })
    .getByRole('button', { name: `Call ${station}` })
    .click();
  await expect(page.getByRole('heading', { name: `QH4MPK ↔ ${station}` })).toBeVisible();
  await expect(page.locator('[data-phase=connected]')).toBeVisible(SLOW);
}

test('my mailbox is visited by a caller, and read here without radio', async ({ page }) => {
  await page.goto(`${bench.running.address}/terminal/mailbox`);
  await expect(
    page.getByText('Nobody can call it now: the transmitter of its link is locked.'),
  ).toBeVisible();
  await arm(page, 'QH4MPK');
  await expect(page.getByText('QH4MPK-1 takes calls.')).toBeVisible();
  const letter = page
    .getByRole('region', { name: 'Letters' })
    .getByRole('button', { name: /tally of team A/ })
    .first();
  // Team A calls every four minutes; on the island's channel a call may be lost.
  await expect(letter).toBeVisible({ timeout: 470_000 });
  await letter.click();
  await expect(page.getByRole('region', { name: 'Letters' })).toContainText('41 terns, 6 gannets on nests');
  const answer = page.getByRole('form', { name: 'Leave a letter here' });
  await answer.getByLabel('Text').fill('Thank you; soup at seven.');
  await answer.getByRole('button', { name: 'Keep it for QH8CLA' }).click();
  await expect(page.getByRole('region', { name: 'Letters' })).toContainText('waits to be fetched');
  await expect(page.getByRole('region', { name: 'Callers' })).toContainText('QH8CLA-5');
  await expectNothingFound(page);
});

test('a mailbox: list, read, delete, leave a message, confirm by listing again, good-bye', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/terminal`);
  await page
    .getByRole('banner')
    .getByRole('button', { name: /^Armed as/ })
    .click();
  // What may key waits for the lock.
  await page.getByRole('button', { name: 'Call QH2HUT-1' }).click();
  await expect(page.getByRole('alert')).toContainText('The transmitter is locked.');
  await page.getByLabel('Station', { exact: true }).fill('QH2HUT-2');
  await expect(page.getByText(/QH2HUT-2 was never heard here; did you mean/)).toBeVisible();
  await page.getByRole('button', { name: 'QH2HUT-1', exact: true }).click();
  await expect(page.getByLabel('Station', { exact: true })).toHaveValue('QH2HUT-1');
  await arm(page, 'QH4MPK');
  await call(page, 'QH2HUT-1');
  await prompted(page);
  await page.getByRole('button', { name: /^List/ }).click();
  const row = (subject: string) => page.getByRole('row').filter({ hasText: subject });
  await row('lamps').getByRole('button', { name: /^Read/ }).click(SLOW);
  await expect(transcript(page)).toContainText('Two lamps are left, where to?', SLOW);
  await expect(mine(page, 'R 43')).toContainText('has it', SLOW);
  await prompted(page);
  await row('lamps')
    .getByRole('button', { name: /^Delete/ })
    .click();
  await expect(transcript(page)).toContainText('Killed 43.', SLOW);
  await prompted(page);
  await page.getByRole('button', { name: /^Leave a message/ }).click();
  const letter = page.getByRole('form', { name: 'Leave a message' });
  await letter.getByLabel('To').fill('QH7CTA');
  await letter.getByLabel('Subject').fill('one to the hide');
  await letter.getByLabel('Text').fill('One lamp to hide 3,\nthe other stays.');
  await letter.getByRole('button', { name: 'Send it to the mailbox' }).click();
  await expect(transcript(page)).toContainText(/Stored as \d+\./, SLOW);
  await prompted(page);
  await page.getByRole('button', { name: /^List/ }).click();
  await expect(row('one to the hide')).toBeVisible(SLOW);
  await expect(row('lamps')).toHaveCount(0);
  await expectNothingFoundInAnyLight(page);
  // Away and back: the same screen.
  await goTo(page, 'Air');
  await goTo(page, 'Terminal');
  await page.getByRole('button', { name: 'Open QH2HUT-1' }).click();
  await expect(transcript(page)).toContainText('Killed 43.');
  await prompted(page);
  await page.getByRole('button', { name: /^Bye/ }).click();
  await expect(page.locator('[data-phase=disconnected]')).toContainText('ended by QH2HUT-1', SLOW);
  await goTo(page, 'Bench');
  await goTo(page, 'Terminal');
  await page.getByLabel('Words that were said').fill('the other stays');
  await page.getByRole('button', { name: 'Find' }).click();
  await expect(page.getByRole('region', { name: 'Past sessions' })).toContainText('ended by QH2HUT-1');
});

test('a phone: control keys, a password only after its caution, a challenge answered here', async ({
  page,
}) => {
  await page.setViewportSize(PHONE);
  await call(page, 'QH2NOD-4');
  await expect(transcript(page)).toContainText('NOD4>', SLOW);
  await page.getByRole('button', { name: /^Ctrl-C/ }).click();
  await page.getByRole('button', { name: /^Esc/ }).click();
  await page.getByLabel('Say to QH2NOD-4').fill('LOGIN');
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(transcript(page)).toContainText('Unknown', SLOW);
  await page.getByLabel('Say to QH2NOD-4').fill('LOGIN');
  await page.keyboard.press('Enter');
  await expect(transcript(page)).toContainText('login:', SLOW);
  await page.getByLabel('Say to QH2NOD-4').fill('mpk');
  await page.keyboard.press('Enter');
  const caution = page.getByRole('form', { name: 'Password' });
  await expect(caution).toContainText('goes in clear over the air', SLOW);
  await caution.getByLabel('Password', { exact: true }).fill('seabird');
  await expect(caution.getByRole('button', { name: 'Send it in clear' })).toBeDisabled();
  await caution.getByLabel('I know').check();
  await expectNothingFound(page);
  await caution.getByRole('button', { name: 'Send it in clear' }).click();
  await expect(transcript(page)).toContainText('Not known here.', SLOW);
  await expect(transcript(page)).not.toContainText('seabird');
  await page.getByLabel('Say to QH2NOD-4').fill('OTP');
  await page.keyboard.press('Enter');
  await caution.getByLabel('Pass phrase').fill('a phrase of mine', SLOW);
  await expect(caution).toContainText(/answer: [0-9A-F]{4} [0-9A-F]{4} [0-9A-F]{4} [0-9A-F]{4}/);
  await caution.getByRole('button', { name: 'Send the answer' }).click();
  await expect(page.getByLabel('Say to QH2NOD-4')).toBeVisible(SLOW);
  await page.getByRole('button', { name: 'End with QH2NOD-4' }).click();
  await expect(page.locator('[data-phase=disconnected]')).toContainText('ended here', SLOW);
});

test('a visit that was planned off the air runs by itself and proves each step', async ({ page }) => {
  await page.goto(`${bench.running.address}/terminal/visits`);
  const plan = page.getByRole('form', { name: 'Plan a visit' });
  await plan.getByLabel('A saved mailbox').selectOption('Hut mailbox');
  await plan.getByRole('button', { name: 'Add a message to leave' }).click();
  await plan.getByLabel('To', { exact: true }).fill('QH8CLA');
  await plan.getByLabel('Subject').fill('soup');
  // Left in mid-form, it stands there again.
  await page.reload();
  await plan.getByLabel('Text').fill('Soup at seven.');
  await plan.getByLabel('deletes there what it has read').check();
  await plan.getByRole('button', { name: 'Visit QH2HUT-1 now' }).click();
  // The page may close meanwhile.
  await goTo(page, 'Air');
  await goTo(page, 'Terminal');
  await page.getByRole('link', { name: 'Visits' }).click();
  const visit = page.getByRole('article', { name: 'Visit to QH2HUT-1' });
  await expect(visit).toContainText('done: every step is proved', { timeout: 300_000 });
  await expect(visit).toContainText('listed: all as planned');
  await visit.getByText('read it').first().click();
  await expect(visit).toContainText('41 terns, 6 gannets on nests.');
  await expectNothingFound(page);
});

test('nobody answers: tries, what was heard meanwhile, and the causes, each with its test', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/terminal`);
  const form = page.getByRole('form', { name: 'Call a station' });
  await form.getByLabel('Station', { exact: true }).fill('QH5QUI-3');
  await form.getByText(/^PACLEN, MAXFRAME/).click();
  await form.getByLabel('T1, s').fill('2');
  await form.getByLabel('N2').fill('1');
  await form.getByRole('button', { name: 'Call QH5QUI-3' }).click();
  await expect(page.locator('[data-phase]')).toContainText(/calling QH5QUI-3: try \d of 2, next in/);
  await expect(page.locator('[data-phase=disconnected]')).toContainText('no answer from QH5QUI-3', SLOW);
  const causes = page.getByRole('region', { name: 'Why nobody answers' });
  await expect(causes).toContainText('QH5QUI-3 was never heard here');
  await expect(causes).toContainText('Test:');
  await expectNothingFound(page);
});
