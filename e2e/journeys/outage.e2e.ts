import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { testBench } from '../bench.js';
import { statusFrame } from '../peers/kiss-peer.js';
import { addNetworkLink, begin, goTo, goToLog, logRows } from '../pages.js';

const bench = testBench('start');

const postmaster = (): number =>
  Number(readFileSync(join(bench.running.data, 'postgres/cluster/postmaster.pid'), 'utf8').split('\n')[0]);

/** Every process of the database, so that it neither answers nor hangs up. */
function signalDatabase(signal: 'SIGSTOP' | 'SIGCONT'): void {
  const main = postmaster();
  const children = execFileSync('ps', ['--ppid', String(main), '-o', 'pid='], { encoding: 'utf8' });
  for (const pid of [main, ...children.trim().split(/\s+/).map(Number)])
    try {
      process.kill(pid, signal);
    } catch {
      // One of its helpers may have ended by itself.
    }
}

const stored = async (page: Page): Promise<unknown[]> =>
  (await (await page.request.get(`${bench.running.address}/api/v1/frames`)).json()) as unknown[];

test('PostgreSQL hangs while traffic flows: the page says so, frames are kept and stored when it answers; killed, it is started again', async ({
  page,
}) => {
  await begin(page, bench.running.address);
  await addNetworkLink(page, 'peer', bench.peer.port);
  await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await expect(page.getByRole('banner')).toContainText('Armed as');
  await goToLog(page);
  await bench.peer.play(statusFrame('before'), 50);
  await expect(logRows(page, 'before')).toHaveCount(1);
  await expect(logRows(page, 'not stored yet')).toHaveCount(0);

  signalDatabase('SIGSTOP');
  try {
    const alert = page.getByRole('alert');
    await expect(alert).toContainText('The database does not answer.');
    for (let i = 0; i < 20; i++) await bench.peer.play(statusFrame(`during ${i} `), 50);
    await expect(logRows(page, 'during')).toHaveCount(20);
    await expect(logRows(page, 'not stored yet')).toHaveCount(20);
    await expect(alert).toContainText(/2\d entries wait in memory/);
    await goTo(page, 'TNC');
    await page.getByRole('button', { name: 'Change' }).click();
    await page.getByRole('button', { name: 'Save the link' }).click();
    await expect(page.getByRole('article')).toContainText('The database does not answer.');

    await test.step('who is let in stays so, also after a reload, and the transmitter can be locked', async () => {
      await page.reload();
      await page
        .getByRole('banner')
        .getByRole('button', { name: /Armed as/ })
        .click();
      await expect(page.getByRole('banner')).toContainText('Receive only');
    });
  } finally {
    signalDatabase('SIGCONT');
  }
  await expect(page.getByRole('alert')).toHaveCount(0);
  await goToLog(page);
  await expect(logRows(page, 'not stored yet')).toHaveCount(0);
  expect(await stored(page)).toHaveLength(21);

  const before = postmaster();
  process.kill(before, 'SIGKILL');
  await expect(page.getByRole('alert')).toContainText('The database does not answer.');
  await bench.peer.play(statusFrame('while it was dead'), 50);
  await expect(page.getByRole('alert')).toHaveCount(0);
  expect(postmaster()).not.toBe(before);
  await expect.poll(async () => (await stored(page)).length).toBe(22);
});
