import { expect, test } from '@playwright/test';
import { testBench } from '../bench.js';
import { addNetworkLink, begin, goTo, TEST_CALL } from '../pages.js';
import { Running } from '../running.js';

/** 1X9TST-3 to APZMPK, status "hi", octet by octet: nothing here was sent by the product. */
const STRANGER = 'c00082a0b49aa096e062b072a8a6a86703f03e6869c0';

const bench = testBench('start');

test('stations are planned, collisions in the plan and on the air are told, and all is there after a restart', async ({
  page,
}) => {
  await begin(page, bench.running.address);
  await addNetworkLink(page, 'peer', bench.peer.port);
  await goTo(page, 'Call signs');
  // 1X9TST by the published hash, worked out by hand: 73E2 ^ 3158 ^ 3954 ^ 5354
  await expect(page.getByRole('region', { name: 'Passcode' })).toContainText(
    String(0x73e2 ^ 0x3158 ^ 0x3954 ^ 0x5354),
  );

  for (const device of ['handheld', 'phone app']) {
    await page
      .getByRole('button', {
        name: device === 'handheld' ? `Use ${TEST_CALL}-7` : `Change ${TEST_CALL}-7, handheld`,
      })
      .click();
    if (device === 'phone app') {
      await page.getByRole('button', { name: 'Cancel' }).click();
      await page.getByRole('button', { name: `Use ${TEST_CALL}-5` }).click();
      await page.getByLabel('SSID').fill('16');
      await page.getByRole('button', { name: 'Add the station' }).click();
      await expect(page.getByText('An SSID is a number from 0 to 15.')).toBeVisible();
      await page.getByLabel('SSID').fill('7');
    }
    await page.getByLabel('Device').fill(device);
    await page.getByRole('button', { name: 'Add the station' }).click();
    await expect(page.getByRole('button', { name: `Change ${TEST_CALL}-7, ${device}` })).toBeVisible();
  }
  await expect(page.getByRole('alert')).toContainText(`Two devices use ${TEST_CALL}-7 (handheld, phone app)`);

  await expect(page.getByRole('region', { name: 'My calls on the air' })).toContainText(
    'nobody else uses a call of yours',
  );
  await bench.peer.play(STRANGER, 100);
  await expect(page.getByRole('region', { name: 'My calls on the air' })).toContainText(
    `${TEST_CALL}-3 was heard, and none of your listed devices uses it.`,
  );

  await bench.running.stop();
  bench.running = await Running.start('start', bench.running.data);
  await page.goto(`${bench.running.address}/call-signs`);
  await page.getByRole('button', { name: `Change ${TEST_CALL}-7, phone app` }).click();
  await page.getByRole('button', { name: 'Remove the station' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
});
