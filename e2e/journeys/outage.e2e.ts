import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { testBench } from '../bench.js';
import { Cluster } from '../../apps/launcher/src/cluster.js';
import { statusFrame } from '../peers/kiss-peer.js';
import { addNetworkLink, begin, goTo, goToLog, logRows } from '../pages.js';

const bench = testBench('start');

test('PostgreSQL stops while traffic flows: the page says so, frames are kept and stored when it returns', async ({
  page,
}) => {
  const cluster = new Cluster(bench.running.data);
  const port = Number(
    /"-p" "(\d+)"/.exec(
      readFileSync(join(bench.running.data, 'postgres/cluster/postmaster.opts'), 'utf8'),
    )?.[1],
  );
  await begin(page, bench.running.address);
  await addNetworkLink(page, 'peer', bench.peer.port);
  await goToLog(page);
  await bench.peer.play(statusFrame('before'), 50);
  await expect(logRows(page, 'before')).toHaveCount(1);
  await expect(logRows(page, 'not stored yet')).toHaveCount(0);

  cluster.stop();
  await expect(page.getByRole('alert')).toContainText('The database has not answered');
  for (let i = 0; i < 20; i++) await bench.peer.play(statusFrame(`during ${i} `), 50);
  await expect(logRows(page, 'during')).toHaveCount(20);
  await expect(logRows(page, 'not stored yet')).toHaveCount(20);
  await expect(page.getByRole('alert')).toContainText('20 wait in memory');
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Change' }).click();
  await page.getByRole('button', { name: 'Save the link' }).click();
  await expect(page.getByRole('article')).toContainText('The database does not answer.');

  cluster.startAgain(port);
  await expect(page.getByRole('alert').filter({ hasText: 'has not answered' })).toHaveCount(0, {
    timeout: 20_000,
  });
  await goToLog(page);
  await expect(logRows(page, 'not stored yet')).toHaveCount(0);
  const frames = (await (
    await page.request.get(`${bench.running.address}/api/v1/frames`)
  ).json()) as unknown[];
  expect(frames).toHaveLength(21);
});
