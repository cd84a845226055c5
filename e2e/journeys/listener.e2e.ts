import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { logRows } from '../pages.js';

const bench = testBench('demo', '--at', ISLAND_AT);

const show = (page: Page, name: string) => page.getByRole('radio', { name, exact: true }).click();

test('the log: copies folded, a word in all that is kept, a file of what was found', async ({ page }) => {
  await page.goto(`${bench.running.address}/air?show=log`);
  const log = page.getByRole('region', { name: 'Log' });
  await test.step('copies of one packet are one row that opens', async () => {
    const copies = log.getByText(/^\d copies: /).first();
    await copies.click();
    await expect(log.locator('details[open]').getByRole('button').nth(1)).toBeVisible();
  });
  await test.step('a word of hours ago is found, and its frame opens', async () => {
    const before = await log.getByRole('status').textContent();
    expect(before).toMatch(/^\d+ frames at hand/);
    await log.getByLabel('Words').fill('tallies');
    await expect(log.getByRole('status')).toContainText('found in all that is kept');
    await expect(logRows(page, 'tallies to COUNTERS by seven').first()).toBeVisible();
    await expect(logRows(page, 'QH8CLA-7')).toHaveCount(0);
    await logRows(page, 'tallies').last().getByRole('button').first().click();
    await expect(page.getByRole('region', { name: 'The way of this frame' })).toContainText('QH3PRT-10');
  });
  await test.step('by station, kind and rule', async () => {
    await log.getByLabel('Words').fill('');
    await log.getByLabel('Station').fill('qh8btb');
    await log.getByLabel('against the rules').check();
    await expect(logRows(page, 'QH8BTB-8').first()).toBeVisible();
    await expect(logRows(page, 'QH7CTA-9')).toHaveCount(0);
    await log.getByLabel('Kind').selectOption('message');
    await expect(log.getByText('Nothing fits.')).toBeVisible();
  });
  await test.step('as monitor text', async () => {
    await log.getByLabel('Kind').selectOption('any');
    const saved = page.waitForEvent('download');
    await log.getByLabel('Save as').selectOption('monitor text');
    const text = readFileSync(await (await saved).path(), 'latin1');
    const lines = text.trim().split('\n');
    expect(lines.length).toBeGreaterThan(3);
    for (const line of lines) expect(line).toMatch(/^\d{4}-\d\d-\d\dT[\d:.]+Z QH8BTB-8>/);
  });
});

test('the weather board, the channel’s health, voice channels, the charts of a station', async ({ page }) => {
  await page.goto(`${bench.running.address}/air`);
  await show(page, 'Weather');
  const weather = page.getByRole('region', { name: 'Weather' });
  await expect(weather.getByRole('row', { name: /QH6WXA-13/ })).toContainText(/m\/s.*hPa/);
  await weather.getByLabel('Units').selectOption('imperial');
  await expect(weather.getByRole('row', { name: /QH6WXA-13/ })).toContainText(/mph.*inHg/);
  await expectNothingFound(page);

  await show(page, 'Channel');
  const channel = page.getByRole('region', { name: 'Channel', exact: true });
  await expect(channel).toContainText(/Held \d+ % of the time, at most \d+ % in a minute; QH/);
  await expect(channel.getByRole('region', { name: 'Against the rules' })).toContainText(
    'QH8BTB-8: it asks for 4 hops',
  );
  await expect(channel.getByRole('region', { name: 'Digipeaters' })).toContainText('QH1TOP');
  await expectNothingFound(page);

  await show(page, 'Voice channels');
  const voice = page.getByRole('region', { name: 'Voice channels' });
  await expect(voice.getByRole('listitem').filter({ hasText: '145.675' })).toContainText(
    '−0.6 MHz, tone 94.8 Hz',
  );
  await expectNothingFound(page);
  const saved = page.waitForEvent('download');
  await voice.getByRole('button', { name: 'Save as CSV' }).click();
  expect(readFileSync(await (await saved).path(), 'utf8')).toContain(
    '145.675,145.67500,145.07500,-600,94.8,no,,wide',
  );

  await page.goto(`${bench.running.address}/air/QH6WXA-13`);
  await expect(page.getByRole('region', { name: 'Weather it reported' })).toContainText(/Pressure.*hPa/);
  await expect(page.getByRole('region', { name: 'By the hour of the day' })).toContainText('of 24 hours');
  await expectNothingFound(page);
});

test('on the road, at a phone: who is near, which way, in reach or not', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${bench.running.address}/air?show=road`);
  const road = page.getByRole('region', { name: 'On the road' });
  await expect(road).toContainText('Not to be handled while driving.');
  const first = road.getByRole('list', { name: 'Nearest first' }).getByRole('listitem').first();
  await expect(first).toContainText(/m(?:\d{3}°, (?:comes|parts|stands|keeps)|where you are)/);
  await expect(first).toContainText(/in (?:direct )?voice reach/);
  await expectNothingFound(page);
});

test('a past hour passes again on the same screens, marked, and nothing is sent meanwhile', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/air`);
  await show(page, 'Replay');
  const form = page.getByRole('form', { name: 'Replay an hour' });
  await expectNothingFound(page);
  await form.getByLabel('Speed').selectOption('120');
  await form.getByRole('button', { name: 'Replay this hour' }).click();
  const note = page.getByRole('region', { name: 'Replay' });
  await expect(note).toContainText('Nothing is sent from here.');
  await expect(page.getByRole('banner').getByRole('button')).toHaveCount(0);
  // Two minutes of that hour pass in a second.
  await show(page, 'Log');
  await expect(logRows(page, 'QH7CTC-9').nth(2)).toBeVisible();
  await note.getByRole('button', { name: 'Pause' }).click();
  const shown = await logRows(page, 'QH').count();
  const clock = await note.locator('b').textContent();
  await page.waitForTimeout(1500);
  expect([await logRows(page, 'QH').count(), await note.locator('b').textContent()]).toEqual([shown, clock]);
  await page.getByRole('navigation', { name: 'Pages' }).getByRole('link', { name: 'Beacon' }).click();
  await expect(page.getByRole('button', { name: 'Save the beacon' })).toBeDisabled();
  await note.getByRole('button', { name: 'Back to now' }).click();
  await expect(note).toHaveCount(0);
  await expect(page.getByRole('banner').getByRole('button', { name: 'Receive only' })).toBeVisible();
});
