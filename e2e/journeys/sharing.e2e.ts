import { expect, test } from '@playwright/test';
import { expectNothingFound } from '../accessibility.js';
import { testBench } from '../bench.js';
import { addNetworkLink, begin, goTo, openTncPart, TEST_CALL } from '../pages.js';
import { statusFrame } from '../peers/kiss-peer.js';
import { OtherProgram } from '../peers/other-program.js';

const bench = testBench('start');

/** To APZMPK (command), from 1X9TST-5, UI, F0, `>by another`: as another program would write it. */
const ITS_FRAME = `c00082a0b49aa096e062b072a8a6a86b03f0${Buffer.from('>by another').toString('hex')}c0`;

test('one TNC for two programs: what each hears, asks for and may send', async ({ page }) => {
  // Between the two on which Mistpeaks of this worker stand (see `Running`).
  const port = 20_000 + ((process.pid + 3000) % 12_000);
  await begin(page, bench.running.address);
  await addNetworkLink(page, 'pocket TNC', bench.peer.port);
  await openTncPart(page, 'Other programs');
  const sharing = page.getByRole('region', { name: 'Sharing' });
  await expect(sharing).toContainText('not shared');
  await expect(OtherProgram.at(port)).rejects.toThrow();

  await test.step('the network only when it is confirmed', async () => {
    await sharing.getByLabel('Port for them').fill(String(port));
    await sharing.getByLabel('For programs').selectOption('network');
    await sharing.getByRole('button', { name: 'Share this TNC' }).click();
    await expect(sharing).toContainText('Sharing on the network was not switched on.');
    await sharing.getByLabel('For programs').selectOption('loopback');
    await sharing.getByRole('button', { name: 'Share this TNC' }).click();
    await expect(sharing).toContainText(`shared at 127.0.0.1, port ${port}`);
  });

  const [map, mail] = [await OtherProgram.at(port), await OtherProgram.at(port)];
  await test.step('both hear what is heard', async () => {
    await expect(sharing.getByRole('listitem')).toHaveCount(2);
    await bench.peer.play(statusFrame('for all'), 16);
    for (const program of [map, mail]) await expect.poll(() => program.received).toBe(statusFrame('for all'));
    await expect(sharing.getByRole('listitem').first()).toContainText('1 heard, 0 sent');
  });

  await test.step('a parameter is asked for, kept from the TNC, and taken over by the operator', async () => {
    const before = bench.peer.received;
    map.send('c00128c0');
    await expect(sharing.getByRole('listitem').first()).toContainText('asked for TXDELAY 400 ms, not done');
    expect(bench.peer.received).toBe(before);
    await sharing.getByRole('button', { name: 'use it for all' }).click();
    await expect.poll(() => bench.peer.received.slice(before.length)).toContain('c00128c0');
  });

  await test.step('it sends behind the lock, and only when it is let', async () => {
    mail.send(ITS_FRAME);
    const second = sharing.getByRole('listitem').nth(1);
    await expect(second).toContainText('receive-only (1)');
    await second.getByRole('button', { name: 'Let it transmit' }).click();
    // The server has it before the program sends again.
    await expect(second.getByRole('button', { name: 'Let it only receive' })).toBeVisible();
    mail.send(ITS_FRAME);
    await expect(second).toContainText('transmitter locked (1)');
    expect(bench.peer.received).not.toContain(ITS_FRAME);
    await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
    await page.getByLabel('Call in force').fill(`${TEST_CALL}-7`);
    await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
    await expect(page.getByRole('banner')).toContainText('Armed as');
    mail.send(ITS_FRAME);
    await expect.poll(() => bench.peer.received).toContain(ITS_FRAME);
    await expect(second).toContainText('1 sent');
    // In the record as any own frame.
    await goTo(page, 'Beacon');
    await expect(page.getByRole('region', { name: 'Sent' })).toContainText('of another program, 127.0.0.1');
  });

  await test.step('nothing is found by the accessibility check, and the switch ends it', async () => {
    await goTo(page, 'TNC');
    await openTncPart(page, 'Other programs');
    await expectNothingFound(page);
    await sharing.getByRole('listitem').first().getByRole('button', { name: 'Disconnect it' }).click();
    await expect.poll(() => map.isClosed).toBe(true);
    await sharing.getByRole('button', { name: 'Stop sharing' }).click();
    await expect.poll(() => mail.isClosed).toBe(true);
    await expect(sharing).toContainText('not shared');
  });
});
