import { expect, test, type Page } from '@playwright/test';
import { testBench } from '../bench.js';
import { goTo, goToLog, logRows, sendUntilRepeated } from '../pages.js';
import { Running } from '../running.js';

const bench = testBench('demo');
/** A cart in reach, by way of the head digipeater. */
const viaAnrick = (page: Page) => logRows(page, /QH7CTC-9.*APZMPK QH1ANR WIDE1 WIDE2-1/);

test('from a fresh database to "repeated by", and it is there after a restart', async ({ page }) => {
  test.slow();
  let tries = 0;
  await page.goto(`${bench.running.address}/air?show=log`);
  await expect(page.getByText('144.800')).toBeVisible();
  // Each copy by itself: which of them comes first is the air's.
  await page.getByLabel('fold copies').uncheck();
  await expect(viaAnrick(page).first()).toBeVisible();

  await test.step('the way of a frame is explained hop by hop', async () => {
    await viaAnrick(page).first().getByRole('button').click();
    const way = page.getByRole('region', { name: 'The way of this frame' });
    await expect(way).toContainText('Not heard direct: QH1ANR repeated it. One hop is left.');
    await expect(way.getByRole('list', { name: 'Hops' })).toHaveText('QH7CTC-9QH1ANRme');
  });

  await test.step('stations are listed, nearest first', async () => {
    const names = page.getByRole('region', { name: 'Stations' }).locator('li b');
    await expect(names.filter({ hasText: 'QH7CTC-9' })).toBeVisible();
    const rows = await page.getByRole('region', { name: 'Stations' }).locator('li').allInnerTexts();
    const distances = rows.map((text) => {
      const [, figure, unit] = /^([\d.]+) (k?m) \d{3}°/m.exec(text) ?? [];
      return figure === undefined ? Infinity : Number(figure) * (unit === 'm' ? 0.001 : 1);
    });
    expect(distances).toEqual([...distances].sort((a, b) => a - b));
  });

  await test.step('the exact frame is shown before it is sent', async () => {
    await goTo(page, 'Beacon');
    await page.getByLabel('Call with SSID').fill('QH4MPK-7');
    await page.getByLabel('Comment').fill('base hut');
    await expect(page.getByTestId('monitor')).toHaveText(
      'QH4MPK-7>APZMPK,WIDE1-1,WIDE2-1:!2937.92S/01124.30W-base hut',
    );
    await expect(page.getByTestId('octets')).toHaveAttribute('data-hex', /^82a0b49aa096e0a290689aa0966e/);
    await expect(page.getByText(/0\.\d\d s on the air/)).toBeVisible();
  });

  await test.step('it is sent only after the transmitter is armed', async () => {
    await expect(page.getByRole('button', { name: 'Send one beacon' })).toHaveCount(0);
    await page.getByRole('button', { name: 'Arm the transmitter …' }).click();
    await expect(page.getByRole('dialog')).toContainText('An antenna or a dummy load is connected.');
    await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
    await expect(page.getByRole('banner')).toContainText('Armed as QH4MPK-7');
    const sent = page.getByRole('region', { name: 'Sent' });
    tries = await sendUntilRepeated(
      page,
      sent.getByText(/repeated by QH1(ANR|TOP) after \d+\.\d\d s/).first(),
    );
  });

  await test.step('sent and come back stand in the log', async () => {
    await goToLog(page);
    await expect(logRows(page, 'sent').filter({ hasText: 'QH4MPK-7' })).toHaveCount(tries);
    await expect(logRows(page, 'own, come back').first()).toBeVisible();
  });

  await test.step('after a restart all of it is there, and the transmitter is locked', async () => {
    await bench.running.stop();
    await expect(page.getByRole('alert')).toContainText('Mistpeak does not answer.');
    bench.running = await Running.start('demo', bench.running.data);
    await expect(page.getByRole('banner')).toContainText('Receive only');
    await expect(logRows(page, 'own, come back').first()).toBeVisible();
    await goTo(page, 'Beacon');
    await expect(page.getByRole('region', { name: 'Sent' })).toContainText(/repeated by QH1(ANR|TOP)/);
    await expect(page.getByLabel('Comment')).toHaveValue('base hut');
  });
});

test('a second launcher on the same folder is refused', async () => {
  await expect(Running.start('demo', bench.running.data)).rejects.toThrow(/mistpeak ended/);
});
