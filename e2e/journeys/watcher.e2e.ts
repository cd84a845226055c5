import { expect, test } from '@playwright/test';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { goTo } from '../pages.js';

const bench = testBench('demo', '--at', ISLAND_AT);

test('a watcher sees everything and transmits by no route: page, palette, key, REST, event stream', async ({
  page,
  context,
}) => {
  await page.goto(`${bench.running.address}/beacon`);
  await page.getByRole('button', { name: 'Save the beacon' }).click();
  await expect(page.getByRole('button', { name: 'Saved' })).toBeVisible();
  await page.getByRole('button', { name: 'Arm the transmitter …' }).click();
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await expect(page.getByRole('banner')).toContainText('Armed as');

  await test.step('the operator lets a watcher in, and becomes one', async () => {
    await goTo(page, 'Settings');
    const entry = page.getByRole('region', { name: 'Who may enter' });
    await entry.getByLabel('Password of the watcher').fill('short');
    await entry.getByRole('button', { name: 'Let a watcher in' }).click();
    await expect(entry).toContainText('At least 8 characters.');
    await entry.getByLabel('Password of the watcher').fill('seabird count');
    await entry.getByRole('button', { name: 'Let a watcher in' }).click();
    await entry.getByLabel('Password of the operator').fill('ridge and fog');
    await entry.getByRole('button', { name: 'Let an operator in' }).click();
    await entry.getByText('Make this browser a watcher').click();
    await entry.getByLabel('Password', { exact: true }).fill('seabird count');
    await entry.getByRole('button', { name: 'Log in' }).click();
    await expect(page.getByText('Everything is shown; nothing is changed or sent from here.')).toBeVisible();
  });

  await test.step('the page offers nothing', async () => {
    await expect(page.getByRole('banner')).toContainText('Armed as');
    await expect(page.getByRole('banner').getByRole('button')).toHaveCount(0);
    await expect(page.getByRole('button', { name: 'Save', exact: true })).toBeDisabled();
    await goTo(page, 'Beacon');
    await expect(page.getByRole('button', { name: 'Send one beacon' })).toBeDisabled();
    await goTo(page, 'Messages');
    await expect(page.getByRole('button', { name: 'Send the message' })).toBeDisabled();
    await goTo(page, 'Terminal');
    await expect(page.getByRole('button', { name: /^Call/ }).first()).toBeDisabled();
    // Of the mail he sees that there is some, and no word of it.
    await goTo(page, 'Mail');
    await expect(page.getByText('The mail is not shown to watchers.')).toBeVisible();
    await goTo(page, 'Ways');
    await expect(page.getByRole('button', { name: /Switch on: Receive gate/ })).toBeDisabled();
    await goTo(page, 'TNC');
    await expect(page.getByRole('button', { name: 'Close the link' })).toBeDisabled();
    await goTo(page, 'Air');
    await expect(page.getByRole('region', { name: 'Stations' }).getByRole('button').first()).toBeEnabled();
  });

  await test.step('nor do palette and keys', async () => {
    await page.keyboard.press('b');
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder('A page or an action').fill('beacon');
    await expect(page.getByRole('option', { name: 'Go to Beacon' })).toBeVisible();
    await expect(page.getByRole('option', { name: /Send/ })).toHaveCount(0);
    await page.keyboard.press('Escape');
  });

  await test.step('REST and the event stream refuse with the same cookie', async () => {
    const links = (await (await page.request.get(`${bench.running.address}/api/v1/links`)).json()) as [
      { id: string },
    ];
    const linkId = links[0].id;
    const data = { id: crypto.randomUUID(), linkId };
    const refused = await page.request.post(`${bench.running.address}/api/v1/beacon/transmissions`, { data });
    expect([refused.status(), ((await refused.json()) as { reason: string }).reason]).toEqual([
      403,
      'watcher-cannot',
    ]);
    const written = { from: 'QH4MPK', to: 'QH7CTA-9', text: 'hello', linkId, path: '' };
    for (const [path, body] of [
      ['messages', written],
      ['gating/settings', {}],
      ['internet/settings', {}],
    ] as const) {
      const method = path === 'messages' ? 'POST' : 'PUT';
      const answer = await page.request.fetch(`${bench.running.address}/api/v1/${path}`, {
        method,
        data: body,
        // Whoever may not is sent away with his connection: the next request may find it closing.
        maxRetries: 3,
      });
      expect([path, answer.status()]).toEqual([path, 403]);
    }
    await page.evaluate(async ({ id, linkId }) => {
      const socket = new WebSocket(`ws://${location.host}/api/v1/live`);
      await new Promise((resolve) => (socket.onmessage = resolve));
      socket.send(JSON.stringify({ event: 'transmit', data: { id, linkId } }));
      socket.send(JSON.stringify({ kind: 'transmission', data: { id, linkId } }));
    }, data);
    await page.waitForTimeout(500);
    await goTo(page, 'Beacon');
    await expect(page.getByRole('region', { name: 'Sent' })).toContainText(
      'Nothing has been sent from here.',
    );
  });

  await test.step('the cookie is out of reach of scripts and other sites', async () => {
    const [cookie] = await context.cookies();
    expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Strict' });
    expect(await page.evaluate(() => document.cookie)).toBe('');
  });

  await test.step('the watch is ended by logging out; a wrong password is one', async () => {
    await goTo(page, 'Settings');
    const entry = page.getByRole('region', { name: 'Who may enter' });
    await entry.getByLabel('Password', { exact: true }).fill('wrong one');
    await entry.getByRole('button', { name: 'Log in' }).click();
    await expect(entry).toContainText('That password is not known here.');
    await entry.getByRole('button', { name: 'Log out' }).click();
    await expect(page.getByRole('banner').getByRole('button', { name: /Armed as/ })).toBeVisible();
  });
});
