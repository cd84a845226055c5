import { expect, test, type Page } from '@playwright/test';
import { addNetworkLink, arm, goTo } from '../pages.js';
import { Channel } from '../peers/channel.js';
import { Running } from '../running.js';

/** Of a series that is not allotted; loopback only. */
const CALLS = ['1X9TST', '1X9TSU'] as const;

async function begin(page: Page, running: Running, call: string, channel: Channel): Promise<void> {
  await page.goto(await running.newAddress());
  await page.getByLabel('Your call sign').fill(call);
  await page.getByLabel('Region').selectOption('europe-africa');
  await page.getByLabel('Place').fill('29.632 S 11.405 W');
  await page.getByRole('button', { name: 'Begin' }).click();
  await addNetworkLink(page, 'channel', channel.port);
  await arm(page, call);
}

async function post(page: Page, to: string, subject: string): Promise<void> {
  await goTo(page, 'Mail');
  await page.getByRole('button', { name: 'Write a letter' }).click();
  await page.getByLabel('To', { exact: true }).fill(to);
  await page.getByLabel('Subject').fill(subject);
  await page.locator('textarea').fill('From station to station.');
  await page.getByRole('button', { name: 'Post it' }).click();
  await expect(page.getByRole('region', { name: 'To go', exact: true })).toContainText(subject);
}

test('from station to station: one listens, the other calls, and each gets what the other had for it', async ({
  page,
  browser,
}) => {
  const channel = await Channel.listen();
  const [mine, theirs] = await Promise.all([Running.startFresh('start'), Running.startFresh('start')]);
  const other = await browser.newPage();
  try {
    await begin(page, mine, CALLS[0], channel);
    await begin(other, theirs, CALLS[1], channel);
    await post(page, CALLS[1], 'to the other');
    await post(other, CALLS[0], 'and back');
    await other.goto(`${theirs.address}/mail/account`);
    const rules = other.getByRole('form', { name: 'Rules of mail' });
    await rules.getByLabel('Take calls of stations that have mail').check();
    await rules.getByLabel('Link').selectOption({ label: 'channel' });
    await rules.getByRole('button', { name: 'Save addresses and limits' }).click();
    await expect(other.getByRole('alert')).toContainText('local rules');
    await rules.getByLabel(/My local rules allow/).check();
    await rules.getByRole('button', { name: 'Save addresses and limits' }).click();
    await expect(rules).toContainText('calls are taken.');
    await page.goto(`${mine.address}/mail/ways`);
    await page.getByRole('button', { name: 'Add a station' }).click();
    await page.getByLabel('Call 1').fill(CALLS[1]);
    await page.getByRole('button', { name: 'Save the ways' }).click();
    await goTo(page, 'Mail');
    await page.getByRole('button', { name: `Send and receive with ${CALLS[1]}` }).click();
    await expect(page.getByRole('status')).toContainText('All was exchanged');
    await expect(page.getByRole('region', { name: 'Came', exact: true })).toContainText('and back');
    await other.goto(`${theirs.address}/mail`);
    await expect(other.getByRole('region', { name: 'Came', exact: true })).toContainText('to the other');
    await expect(other.getByRole('region', { name: 'To go', exact: true })).not.toContainText('and back');
  } finally {
    await other.close();
    await Promise.all([mine.stopAndForget(), theirs.stopAndForget()]);
    await channel.close();
  }
});
