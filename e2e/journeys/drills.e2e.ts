import { expect, test, type Page } from '@playwright/test';
import { testBench } from '../bench.js';
import { arm, goTo, tryMessagesOften } from '../pages.js';
import { ISLAND_AT } from '../template.js';

const bench = testBench('demo', '--at', ISLAND_AT);
test.beforeAll(() => tryMessagesOften(bench.running.address));

test('a fault is sought on the real pages, named, explained, and gone again', async ({ page }) => {
  await page.goto(`${bench.running.address}/drills`);
  await page.getByRole('button', { name: 'Drill 1', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'by the clock' })).toContainText('0 packets sent');

  await goTo(page, 'TNC');
  const note = page.getByRole('region', { name: 'Practice' });
  await expect(note).toContainText('Something in this world is faulty.');
  // The radio gives its packets as text.
  await expect(page.getByRole('region', { name: 'What came in' })).toContainText('outside a frame', {
    timeout: 300_000,
  });
  await note.getByRole('link', { name: 'Name the cause' }).click();
  await page.getByRole('button', { name: /Compare every setting with the sheet/ }).click();
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('Compare every setting');
  await page.getByLabel('KISS is off: the radio gives its other output').check();
  await page.getByRole('button', { name: 'That is it' }).click();
  await expect(page.getByText(/Found\. \d+ of 100\./)).toBeVisible();
  await page.getByRole('button', { name: 'Another drill' }).click();
  await expect(page.getByRole('region', { name: 'My record' })).toContainText('on the real pages');

  await goTo(page, 'TNC');
  await expect(page.getByText(/hearing, \d s ago/).first()).toBeVisible();
  await expect(note).toHaveCount(0);
});

test('two faults chosen for somebody else, on the made-up chain: one is found, one missed', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/drills`);
  await page.getByText('On the real pages:').click();
  await page.getByText('Choose the faults, for somebody else').click();
  const begin = page.getByRole('button', { name: /^Begin with/ });
  await expect(begin).toBeDisabled();
  await page.getByLabel('A plug is not seated: the sound is weak').check();
  await page.getByLabel('The squelch is too tight: it loses the start of each packet').check();
  await page.getByLabel('VOX keys late').check();
  await expect(begin).toBeDisabled();
  await page.getByLabel('VOX keys late').uncheck();
  await begin.click();

  await page.getByRole('button', { name: /Seat every plug anew/ }).click();
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('Seat every plug anew');
  await expect(page.getByRole('status').filter({ hasText: '1 test, 1 min, 0 packets' })).toBeVisible();
  // Who reloads goes on where he was.
  await page.reload();
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('Seat every plug anew');
  await page.getByLabel('A plug is not seated: the sound is weak').check();
  await page.getByLabel('VOX keys late').check();
  await page.getByRole('button', { name: 'That is it' }).click();
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText(
    'The squelch is too tight: it loses the start of each packet',
  );
});

const send = async (page: Page, to: string, text: string): Promise<void> => {
  const composer = page.getByRole('form', { name: 'New message' });
  await composer.getByLabel('To', { exact: true }).fill(to);
  await composer.getByLabel('Message', { exact: true }).fill(text);
  await composer.getByRole('button', { name: 'Send the message' }).click();
  // The composer is empty again: what is written sooner would go with it.
  await expect(page.locator('[data-message]').filter({ hasText: text })).toBeVisible();
};

test('a message is relayed by hand: each step is seen in the record', async ({ page }) => {
  await page.goto(`${bench.running.address}/drills`);
  await page.getByRole('button', { name: 'A message relayed by hand' }).click();
  const step = (words: RegExp) =>
    page.getByRole('list', { name: 'Steps' }).getByRole('listitem').filter({ hasText: words });
  await arm(page, 'QH4MPK');
  await expect(step(/QH8CLA-7 has asked/)).toContainText('seen', { timeout: 300_000 });

  await goTo(page, 'Messages');
  const asked = await page
    .getByText(/pse relay QH7CTC-9: /)
    .last()
    .textContent();
  const words = /pse relay QH7CTC-9: (.*? to hide \d)/.exec(asked ?? '')?.[1] ?? '';
  await send(page, 'QH7CTC-9', `QH8CLA-7: ${words}`);
  await send(page, 'QH8CLA-7', 'it has arrived');
  await page.getByRole('region', { name: 'Practice' }).getByRole('link', { name: 'What is done' }).click();
  for (const one of [
    /word for word/,
    /comes from QH8CLA-7/,
    /QH7CTC-9 has acknowledged/,
    /knows that it has arrived/,
  ])
    await expect(step(one)).toContainText('seen', { timeout: 300_000 });
  await page.getByRole('button', { name: 'Done: keep it' }).click();
  await expect(page.getByRole('region', { name: 'Exercises done' })).toContainText('yes');
});
