import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound, expectNothingFoundInAnyLight } from '../accessibility.js';
import { testBench } from '../bench.js';
import { arm, goTo, goToLog, logRows, tryMessagesOften } from '../pages.js';
import { Running } from '../running.js';

/** An afternoon on which the carts are where the hut is heard: at other hours one stands in a valley, as in life. */
const AT = Date.UTC(2026, 9, 12, 14, 5);
const begunMs = Date.now();
const islandTime = (): string => new Date(AT + Date.now() - begunMs).toISOString();
const bench = testBench('demo', '--at', islandTime());
// A packet may be lost on the island's channel several times, as in life.
test.describe.configure({ mode: 'serial' });

test.beforeAll(() => tryMessagesOften(bench.running.address));

const composer = (page: Page) => page.getByRole('form', { name: 'New message' });
const message = (page: Page, text: string) => page.locator('[data-message]').filter({ hasText: text });

async function write(page: Page, to: string, text: string, goodForMin?: number): Promise<void> {
  await composer(page).getByLabel('To', { exact: true }).fill(to);
  await composer(page).getByLabel('Message', { exact: true }).fill(text);
  if (goodForMin !== undefined) await composer(page).getByLabel('Good for, min').fill(String(goodForMin));
  await composer(page).getByRole('button', { name: 'Send the message' }).click();
  await expect(message(page, text)).toBeVisible();
}

test('a message waits for the transmitter, reaches a cart over two hops and is acknowledged; a mistyped call is caught', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/messages`);
  // Heard once, it can be told apart from a slip of the keyboard.
  await expect(async () => {
    await composer(page).getByLabel('To', { exact: true }).fill('QH7CAT-9');
    await expect(page.getByText(/QH7CAT-9 was never heard here; did you mean/)).toBeVisible({
      timeout: 1000,
    });
  }).toPass();
  await page.getByRole('button', { name: /^QH7CTA-9, heard/ }).click();
  await expect(composer(page).getByLabel('To', { exact: true })).toHaveValue('QH7CTA-9');
  await composer(page).getByLabel('Message', { exact: true }).fill('a{b');
  await expect(composer(page)).toContainText('“{” may not stand in a message');
  await composer(page).getByLabel('Message', { exact: true }).fill('x'.repeat(68));
  await expect(composer(page)).toContainText('68 octets, 1 too many');
  await composer(page).getByLabel('From').selectOption('QH4MPK-9');
  await write(page, 'QH7CTA-9', 'how many lamps are left?');
  await expect(message(page, 'how many')).toContainText(
    'queued, waits for the transmitter, armed as QH4MPK-9',
  );
  await arm(page, 'QH4MPK-9');
  await expect(message(page, 'how many')).toContainText(/acknowledged by QH7CTA-9 after .*, at try \d/, {
    timeout: 200_000,
  });
  await message(page, 'how many')
    .getByText(/^The ways? of its/)
    .click();
  await expect(message(page, 'how many')).toContainText(
    /along WIDE1-1,WIDE2-1: .*(heard back by QH1|not heard back)/,
  );
  await expect(page.locator('[data-heard]').filter({ hasText: 'two lamps left, where to?' })).toContainText(
    'Acknowledged',
    { timeout: 300_000 },
  );
  await expectNothingFoundInAnyLight(page);
});

test('two tabs are one book; what is sent goes on after a restart; a deaf recipient’s message expires', async ({
  page,
  context,
}) => {
  await page.goto(`${bench.running.address}/messages/rules`);
  await page.getByLabel('First gap, s').fill('15');
  await page.getByRole('button', { name: 'Save the rules' }).click();
  await page.goto(`${bench.running.address}/messages/talks/QH7CTD-9`);
  await write(page, 'QH7CTD-9', 'soup waits', 1);
  const other = await context.newPage();
  await other.goto(`${bench.running.address}/messages/talks/QH7CTD-9`);
  await expect(message(other, 'soup waits')).toContainText(/sent \d+ of 12/);
  await write(other, 'QH7CTD-9', 'blankets too');
  await expect(message(page, 'blankets too')).toContainText(/sent \d+ of 12/);
  await other.close();

  const tries = async (): Promise<number> =>
    Number(/sent (\d+)/.exec((await message(page, 'blankets too').textContent()) ?? '')?.[1] ?? 0);
  await bench.running.stop();
  await expect(page.getByRole('alert')).toContainText('Mistpeak does not answer.');
  const before = await tries();
  bench.running = await Running.start('demo', bench.running.data, ['--at', islandTime()]);
  await page.goto(`${bench.running.address}/messages/talks/QH7CTD-9`);
  await expect(message(page, 'blankets too')).toContainText(/sent \d+ of 12/);
  expect(await tries()).toBe(before);
  await arm(page, 'QH4MPK-9');
  await expect.poll(tries, { timeout: 200_000 }).toBeGreaterThan(before);
  await message(page, 'blankets too').getByRole('button', { name: 'Cancel it' }).click();
  await expect(message(page, 'blankets too')).toContainText(/cancelled, sent/);
  await expect(message(page, 'soup waits')).toContainText(/expired, sent \d+ of 12/, { timeout: 300_000 });
});

test('a service: a wrong number costs no air time; the right one is taken, delivered and answered', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/messages/services`);
  const service = page.getByRole('region', { name: 'Text to a phone' });
  await service.getByLabel('Number').fill('99901');
  await service.getByRole('textbox', { name: 'Text' }).fill('soup is ready');
  await service.getByRole('button', { name: 'Send to HTEXT' }).click();
  await expect(service).toContainText('5 digits; this service wants 7, without a country prefix');
  await expect(service.locator('[data-stage]')).toHaveCount(0);
  await service.getByLabel('Number').fill('999 0107');
  await expect(service).toContainText('goes out as “@9990107 soup is ready”');
  await service.getByRole('button', { name: 'Send to HTEXT' }).click();
  await expect(service.locator('[data-stage]')).toHaveAttribute('data-stage', 'answered', {
    timeout: 200_000,
  });
  await expect(service).toContainText('got it, thank you');
  await expect(service).toContainText(/worked 1 of 1 times/);
  await expectNothingFound(page);
});

test('the internet side proves the beacon at the gateway, and every copy says by which way it came', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/ways/internet`);
  await page.getByRole('button', { name: 'Connect to the internet side' }).click();
  await expect(page.getByText('Connected to HOLLIN1, a stand-in, verified.')).toBeVisible();
  await goTo(page, 'Beacon');
  await page.getByLabel('Call with SSID').fill('QH4MPK-9');
  await page.getByRole('button', { name: 'Save the beacon' }).click();
  await expect(page.getByRole('button', { name: 'Saved' })).toBeVisible();
  await expect(async () => {
    await page.getByRole('button', { name: 'Send one beacon' }).first().click();
    await expect(page.getByRole('region', { name: 'Sent' })).toContainText('at the gate QH3PRT-10', {
      timeout: 32_000,
    });
  }).toPass();
  await expect(page.getByRole('banner').locator('..')).toContainText(/proved to the top: at a gateway/);
  await goTo(page, 'Ways');
  await page.getByRole('link', { name: 'The internet side' }).click();
  await expect(page.getByRole('region', { name: 'My stations there' })).toContainText(
    /\d+ of \d+ by radio, (all )?through QH3PRT-10/,
  );
  await expectNothingFound(page);
  await goToLog(page);
  await page.getByLabel('fold copies').uncheck();
  const copy = logRows(page, 'own, on the internet side').first();
  await copy.getByRole('button').click();
  await expect(page.getByTestId('way-in')).toContainText('It was on the air: a gateway heard it on radio');
  await goTo(page, 'Ways');
  await page.getByRole('link', { name: 'What is passed on for others' }).click();
  await expect(page.getByTestId('preview')).toContainText(
    /in the last hour it would have repeated \d+ of \d+/,
  );
  await page.getByLabel(/^Repeat the first hop/).check();
  await page.getByRole('button', { name: 'Save what is passed on' }).click();
  await expect(page.getByText('say that your local rules allow sending while nobody is there')).toBeVisible();
  await expectNothingFound(page);
});

test('bulletins, nets and rules', async ({ page }) => {
  await page.goto(`${bench.running.address}/messages/nets`);
  const net = page.getByRole('region', { name: 'Evening count' });
  await expect(net).toContainText('“QH4MPK IG40');
  await net.getByRole('button', { name: 'Check in to Evening count' }).click();
  await expect(net).toContainText('You have checked in.');
  await expectNothingFound(page);
  await page.getByRole('link', { name: 'Rules' }).click();
  await page.getByLabel('Groups', { exact: true }).fill('COUNTERS BOATS');
  await page.getByLabel('whom I hear direct').check();
  await page.getByRole('button', { name: 'Save the rules' }).click();
  await page.reload();
  await expect(page.getByLabel('Groups', { exact: true })).toHaveValue('COUNTERS BOATS');
  await expect(page.getByLabel('whom I hear direct')).toBeChecked();
  await expectNothingFound(page);
});
