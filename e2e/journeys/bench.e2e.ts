import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound, expectNothingFoundInAnyLight } from '../accessibility.js';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { statusFrame } from '../peers/kiss-peer.js';
import { addNetworkLink, begin, goTo, sendUntilRepeated, TEST_CALL } from '../pages.js';

const camp = (page: Page, name: RegExp) =>
  page.getByRole('region', { name: 'The climb' }).getByRole('button', { name });

test.describe('the climb on the demo island', () => {
  const bench = testBench('demo', '--at', ISLAND_AT);

  test('is lit by what happened, each camp opens its evidence, and the next step leads to the top', async ({
    page,
  }) => {
    test.slow();
    await page.goto(bench.running.address);
    await expect(page.getByRole('heading', { name: 'Base hut computer, position beacon' })).toBeVisible();
    await expect(page.getByRole('link', { name: /The climb: proved up to “packet decoded”/ })).toBeVisible();
    await camp(page, /Packet decoded/).click();
    await expect(page.getByText(/^QH\w+(-\d+)? heard, /)).toBeVisible();
    await expect(page.getByText(/^QH[\w-]+>\w+/)).toBeVisible();

    const next = page.getByRole('region', { name: 'Next step' });
    await expect(next).toContainText('Next: send one beacon and wait for an echo');
    await next.getByRole('link', { name: 'Set up the beacon' }).click();
    await page.getByRole('button', { name: 'Save the beacon' }).click();
    await goTo(page, 'Bench');
    await next.getByRole('button', { name: 'Arm the transmitter …' }).click();
    await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
    await sendUntilRepeated(page, next.getByText('All of it is proved'));
    await camp(page, /Keyed/).click();
    await expect(
      page.getByText(/repeated by QH1(?:ANR|TOP) after .* \(“repeated” proves this too\)/),
    ).toBeVisible();
  });

  test('another purpose is another climb on the same evidence', async ({ page }) => {
    await page.goto(bench.running.address);
    await page.getByLabel('Purpose').selectOption('receive only');
    await expect(page.getByRole('heading', { name: 'Base hut computer, receive only' })).toBeVisible();
    await expect(camp(page, /Handed to the TNC/)).toHaveCount(0);
    await page.getByLabel('Purpose').selectOption('position beacon');
    await expect(camp(page, /Handed to the TNC/)).toBeVisible();
  });

  test('nothing is found by the accessibility check, at the desk in each light and upright on a phone', async ({
    page,
  }) => {
    await page.addInitScript(() => localStorage.setItem('light', 'day'));
    for (const [viewport, check] of [
      [{ width: 1280, height: 800 }, expectNothingFoundInAnyLight],
      [{ width: 390, height: 844 }, expectNothingFound],
    ] as const) {
      await page.setViewportSize(viewport);
      await page.goto(bench.running.address);
      await camp(page, /Port open/).click();
      await check(page);
    }
  });
});

for (const [fault, step, cause] of [
  ['deaf', 'Next: decode one packet', 'Nothing comes out of the receiver: another frequency or band'],
  ['kiss-off', 'Next: hear the TNC talk', 'What comes is no KISS: packets as text.'],
] as const)
  test.describe(`the climb with a stand-in TNC that is ${fault}`, () => {
    const bench = testBench('demo', '--at', ISLAND_AT, '--fault', fault);

    test('names the step that fails and its likeliest cause', async ({ page }) => {
      await page.goto(bench.running.address);
      const next = page.getByRole('region', { name: 'Next step' });
      await expect(next).toContainText(step);
      await expect(next.getByRole('listitem').first()).toContainText(cause);
      if (fault !== 'deaf') return;

      await test.step('the test that tells most is offered, and its answer turns the order', async () => {
        const test = next.getByRole('region', { name: 'The test that tells most' });
        await expect(test).toContainText('look at the meter and the receive level');
        await test.getByRole('button', { name: 'Cut at its start' }).click();
        const causes = next.getByRole('list', { name: 'Causes, likeliest first' }).getByRole('listitem');
        await expect(causes.first()).toContainText('The squelch is tight');
        await page.reload();
        await expect(causes.first()).toContainText('The squelch is tight');
        await next.getByRole('button', { name: /^Take back: Look at the meter/ }).click();
        await expect(causes.first()).toContainText(cause);
      });
    });
  });

test.describe('the climb with a TNC that does not key', () => {
  const bench = testBench('demo', '--at', ISLAND_AT, '--fault', 'not-keying');

  test('comes to doubt, and the radio that did not key is the likeliest cause', async ({ page }) => {
    await page.goto(`${bench.running.address}/beacon`);
    await page.getByRole('button', { name: 'Save the beacon' }).click();
    await expect(page.getByRole('button', { name: 'Saved' })).toBeVisible();
    await page.getByRole('button', { name: 'Arm the transmitter …' }).click();
    await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
    await page.getByRole('button', { name: 'Send one beacon' }).click();
    await goTo(page, 'Bench');
    await expect(camp(page, /Keyed/)).toContainText('doubtful');
    await expect(page.getByRole('region', { name: 'Next step' }).getByRole('listitem').first()).toContainText(
      'The radio did not key.',
    );
  });
});

test.describe('the climb with a deaf far end', () => {
  const bench = testBench('start');

  test('a TNC that talks text is named as such', async ({ page }) => {
    await begin(page, bench.running.address);
    await addNetworkLink(page, 'text', bench.peer.port);
    await bench.peer.play(Buffer.from('cmd: cmd: cmd:\r\n').toString('hex'), 50);
    await goTo(page, 'Bench');
    const next = page.getByRole('region', { name: 'Next step' });
    await expect(next).toContainText('Next: hear the TNC talk');
    await expect(next.getByRole('listitem').first()).toContainText('What comes is no KISS: command prompt.');
  });

  test('30 s without an echo is a doubt, with the likeliest causes first; the operator may have seen it', async ({
    page,
  }) => {
    await page.goto(bench.running.address);
    await bench.peer.play(statusFrame('heard'), 50);
    await goTo(page, 'Beacon');
    await page.getByLabel('Call with SSID').fill(`${TEST_CALL}-7`);
    await page.getByLabel('Path').fill('');
    await page.getByRole('button', { name: 'Arm the transmitter …' }).click();
    await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
    await page.getByRole('button', { name: 'Send one beacon' }).click();
    await goTo(page, 'Bench');
    await expect(camp(page, /Handed to the TNC/)).toContainText('ago');
    await expect(camp(page, /Keyed/)).toContainText('doubtful');
    const next = page.getByRole('region', { name: 'Next step' });
    await expect(next.getByRole('listitem').first()).toContainText('The path asks nobody to repeat it');
    await next.getByRole('button', { name: 'I saw the radio transmit' }).click();
    await expect(camp(page, /Keyed/)).toContainText('ago');
    await camp(page, /Keyed/).click();
    await expect(page.getByText('the operator saw the radio transmit')).toBeVisible();
  });
});
