import { expect, test } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { begin, goTo } from '../pages.js';

const bench = testBench('start');

test('what goes along: hours left, a loaded voltage refused, a wire that is too thin, the distance', async ({
  page,
}) => {
  await begin(page, bench.running.address);
  await goTo(page, 'Field');
  await page.getByLabel('Ampere-hours').fill('20');
  const draws = page.getByRole('region', { name: 'What draws' });
  await draws.getByLabel('A 1').fill('2');
  await draws.getByLabel('% of the time 1').fill('50');
  // 20 Ah at the rated 1 A, half of it: 10 h; 12 % more load by Peukert 10/1.12^1.2, less 10/0.88.
  await expect(page.getByRole('main').getByRole('status').first()).toContainText(
    'It lasts 10 h more (8.7 h to 11 h), down to 50 %',
  );
  await page.getByRole('button', { name: 'Save what goes along' }).click();
  await expect(page.getByRole('button', { name: 'Saved' })).toBeVisible();
  const form = page.getByRole('form', { name: 'New reading' });
  await form.getByLabel('Volts').fill('12,2');
  await form.getByLabel('At rest for, h').fill('1');
  await form.getByRole('button', { name: 'Keep the reading' }).click();
  await expect(form).toContainText('measure it after 4 h without either');
  await form.getByLabel('At rest for, h').fill('5');
  await form.getByRole('button', { name: 'Keep the reading' }).click();
  await expect(page.getByRole('row', { name: /12\.2 V after 5 h of rest.*50 %/ })).toBeVisible();
  await expect(page.getByRole('main').getByRole('status').first()).toContainText(
    'It is below what should be taken from it',
  );
  await expectNothingFound(page);
  await page.getByRole('link', { name: 'Wires and fuses' }).click();
  const wires = page.getByRole('region', { name: 'Wires' });
  await wires.getByLabel('mm² 1').fill('0.5');
  await wires.getByLabel('A, keyed 1').fill('8');
  await expect(page.getByRole('main').getByRole('status').first()).toContainText(
    'No fuse fits “Battery to radio”',
  );
  await wires.getByLabel('mm² 1').fill('6');
  await expect(page.getByRole('main').getByRole('status').first()).toContainText('The wire holds.');
  await page.getByLabel('Starter battery, V').fill('12.7');
  await page.getByLabel('Equipment battery, V').fill('12.4');
  await expect(page.getByText('Apart: what the radio draws leaves the starter alone.')).toBeVisible();
  await expectNothingFound(page);
  // What is not saved stays, as a draft, over a reload.
  await page.reload();
  await expect(wires.getByLabel('mm² 1')).toHaveValue('6');
  await page.getByRole('link', { name: 'Distance from the antenna' }).click();
  await page.getByLabel('Held in the hand or worn').uncheck();
  await page.getByLabel('Power, W').fill('50');
  await page.getByLabel('Gain, dBi').fill('6');
  await page.getByLabel('Keyed, %').fill('100');
  await expect(page.getByRole('main').getByRole('status').first()).toContainText(
    'Stay 4.5 m away, 5.6 m to be sure everywhere.',
  );
  await expectNothingFound(page);
});

test('a computer that woke three hours behind is told so by the position receiver, and put right', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/beacon/ways`);
  await page.getByLabel('Receiver at Mistpeak’s machine').selectOption('network');
  await page.getByLabel('Port').fill(String(bench.peer.port));
  await page.getByRole('button', { name: 'Use this receiver' }).click();
  const aheadMs = 3 * 3_600_000;
  for (let i = 0; i < 3; i++) {
    const time = new Date(Date.now() + aheadMs).toISOString();
    const line = `${JSON.stringify({ class: 'TPV', mode: 3, lat: -29.6, lon: -11.4, time })}\n`;
    await bench.peer.play(Buffer.from(line).toString('hex'), line.length);
  }
  const note = page.getByRole('region', { name: 'The computer’s clock' });
  await expect(note).toContainText('This computer’s clock is 3.0 h behind, by the position receiver.');
  await expectNothingFound(page);
  await note.getByRole('button', { name: 'Take that time' }).click();
  await expect(note).toContainText('Mistpeak reckons with the right time until it is set');
  await expect(async () => {
    const now = new Date(Date.now() + aheadMs).toISOString().slice(11, 16);
    await expect(page.getByRole('banner')).toContainText(`${now}:`, { timeout: 500 });
  }).toPass();
  await note.getByRole('button', { name: 'Take it back' }).click();
  await expect(note).toBeHidden();
});
