import { expect, test } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { BAD, GOOD, statusFrame, TcpPeer, TORTURE } from '../peers/kiss-peer.js';
import { PtyPair } from '../peers/pty-pair.js';
import { addNetworkLink, begin, goTo, goToLog, logRows, tallies, TEST_CALL } from '../pages.js';

/** TXDELAY 300 ms, persistence 63, slot time 100 ms, tail 30 ms, full duplex off: the KISS paper's frames. */
const PARAMETERS = 'c0011ec0c0023fc0c0030ac0c00403c0c00500c0';

test.describe.configure({ mode: 'serial' });
const bench = testBench('start');

test('the first visit refuses wrong fields with what would be right', async ({ page }) => {
  await page.goto(bench.running.address);
  await page.getByLabel('Your call sign').fill('N0CALL');
  await page.getByLabel('Place').fill('95 N 11 W');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('N0CALL is a placeholder: enter the call on your licence.')).toBeVisible();
  await expect(page.getByText('Choose a region.')).toBeVisible();
  await expect(page.getByText('A latitude is at most 90°.')).toBeVisible();
  await expectNothingFound(page);
  await begin(page, bench.running.address);
});

test('a stream of good frames, noise and broken ones: each good frame once, each discard by its reason', async ({
  page,
}) => {
  await page.goto(bench.running.address);
  await addNetworkLink(page, 'torture', bench.peer.port);
  await expect.poll(() => bench.peer.received).toBe(PARAMETERS);
  for (const piece of TORTURE) await bench.peer.play(piece, piece.length > 4000 ? 997 : 1);
  await expect.poll(() => tallies(page)).toEqual({ 'frames that were read': GOOD.length, ...BAD });
  await goToLog(page);
  for (const text of GOOD) await expect(logRows(page, `status · ${text}`)).toHaveCount(1);
  await expect(logRows(page, 'discarded')).toHaveCount(6);
  await expect(logRows(page, 'not read')).toHaveCount(2);
});

test('every cut of one frame gives that frame', async ({ page }) => {
  await page.goto(bench.running.address);
  const frame = statusFrame('cut');
  // Each frame is sent in two segments, cut after every octet in turn.
  for (let cut = 2; cut < frame.length; cut += 2) {
    await bench.peer.play(frame.slice(0, cut), 1000);
    await bench.peer.play(frame.slice(cut), 1000);
  }
  await goTo(page, 'TNC');
  await expect
    .poll(async () => (await tallies(page))['frames that were read'])
    .toBe(GOOD.length + frame.length / 2 - 1);
});

test('the beacon leaves as these octets, and not before the lock is armed for its call', async ({ page }) => {
  await page.goto(bench.running.address);
  await goTo(page, 'Beacon');
  await page.getByLabel('Call with SSID').fill(`${TEST_CALL}-7`);
  await page.getByLabel('Path').fill('WIDE2-1');
  await page.getByRole('button', { name: 'Arm the transmitter …' }).click();
  await page.getByLabel('Call in force').fill('QH4MPK-7');
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await expect(page.getByRole('dialog')).toContainText('That call is not yours.');
  await page.getByLabel('Call in force').fill(`${TEST_CALL}-7`);
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await page.getByRole('button', { name: 'Send one beacon' }).click();
  await expect(page.getByRole('region', { name: 'Sent' })).toContainText('handed to the TNC');
  // to APZMPK (command), from 1X9TST-7, by WIDE2-1, UI, F0, `!2937.92S/01124.30W-`
  const info = Buffer.from('!2937.92S/01124.30W-').toString('hex');
  const beacon = `c00082a0b49aa096e062b072a8a6a86eae92888a64406303f0${info}c0`;
  await expect.poll(() => bench.peer.received).toBe(PARAMETERS + beacon);
});

test('wrong beacon fields are refused in the built page', async ({ page }) => {
  await page.goto(bench.running.address);
  await goTo(page, 'Beacon');
  await page.getByLabel('Path').fill('WIDE2-1,WIDE1-1');
  await expect(page.getByText(/WIDE1-1 belongs first/).first()).toBeVisible();
  await page.getByLabel('Place').fill('29 S 200 W');
  await expect(page.getByText('A longitude is at most 180°.', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Send one beacon' })).toBeDisabled();
});

test('a far end that hangs up is told in words, and taken again', async ({ page }) => {
  await page.goto(bench.running.address);
  await goTo(page, 'TNC');
  await expect(page.getByRole('article')).toContainText('hearing');
  const before = bench.peer.received.length;
  bench.peer.hangUp();
  await expect(page.getByRole('article')).toContainText('The far end closed the connection.');
  await expect.poll(() => bench.peer.received.slice(before)).toBe(PARAMETERS);
  await expect(page.getByRole('article')).toContainText('open and silent');
});

test('the same stream through a serial port, and the plug pulled', async ({ page }) => {
  const pair = await PtyPair.open();
  await page.goto(bench.running.address);
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Add a link' }).click();
  await page.getByLabel('Kind').selectOption('serial');
  await page.getByLabel('Name').fill('serial torture');
  await page.getByLabel('Port', { exact: true }).fill(pair.device);
  await page.getByRole('button', { name: 'Add and open the link' }).click();
  await expect.poll(() => pair.received).toBe(PARAMETERS);
  for (const piece of TORTURE) await pair.play(piece);
  await expect.poll(() => tallies(page)).toEqual({ 'frames that were read': GOOD.length, ...BAD });
  pair.unplug();
  await expect(page.getByRole('article')).toContainText('failed');
  await expect(page.getByRole('article')).toContainText(/The port went away|There is no such port/);
});

test('a port that does not exist and one that refuses', async ({ page }) => {
  await page.goto(bench.running.address);
  const gone = await TcpPeer.listen();
  await gone.close();
  await addNetworkLink(page, 'nobody', gone.port);
  await expect(page.getByRole('article')).toContainText('The far end refused the connection.');
  await expect(page.getByRole('article')).toContainText('compare the port on both sides');
});
