import { readFile } from 'node:fs/promises';
import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound, expectNothingFoundInAnyLight } from '../accessibility.js';
import { LIBRARY, type LibraryKind } from '@mistpeak/core/kit/library';
import { PURPOSES, type Purpose } from '@mistpeak/core/proof/ladder';
import { testBench } from '../bench.js';
import { addNetworkLink, begin, goTo, openTncPart } from '../pages.js';
import { Running } from '../running.js';

const bench = testBench('start');

/** Four unlike chains, part by part from the library to the paper; the sheets of all are read in sheets.e2e.ts. */
const BUILT: readonly (readonly [string, Purpose, readonly LibraryKind[]])[] = [
  [
    'a phone with a digital-only jack, by a keying cable',
    'messages',
    ['two-pin-handheld', 'keying-two-pin', 'vox-keying-cable', 'analogue-dongle', 'le-phone', 'phone-map-le'],
  ],
  [
    'a phone with LE only, by a bridge',
    'beacon',
    ['tnc-key-handheld', 'bluetooth-bridge', 'le-phone', 'phone-map-le'],
  ],
  [
    'a computer without a screen',
    'messages',
    ['fm-mobile', 'sound-interface', 'headless-12v', 'modem-program', 'phone', 'phone-map'],
  ],
  [
    'a serial TNC with a mailbox',
    'session',
    ['fm-mobile', 'tnc-six-pin', 'serial-tnc', 'serial-9-25', 'usb-serial', 'laptop', 'terminal'],
  ],
];

const EMPTY_KIT = JSON.stringify({ format: 'mistpeak-kit', version: 1, items: [] });

async function emptyKit(page: Page): Promise<void> {
  const answer = await page.request.put(`${bench.running.address}/api/v1/kit`, { data: { file: EMPTY_KIT } });
  expect(answer.ok()).toBe(true);
}

async function addFromLibrary(page: Page, kinds: readonly LibraryKind[]): Promise<void> {
  await goTo(page, 'Kit');
  const open = page.getByRole('button', { name: 'Add from the library' });
  const close = page.getByRole('button', { name: 'Close the library' });
  await expect(open.or(close)).toBeVisible();
  if (await open.isVisible()) await open.click();
  for (const kind of kinds.filter((one) => one !== 'mistpeak')) {
    const { name } = LIBRARY[kind];
    await page.getByLabel('Find in the library').fill(name);
    await page.getByRole('button', { name: `Add ${name}`, exact: true }).click();
    await expect(
      page.getByRole('button', { name: `Change ${LIBRARY[kind].name}`, exact: true }),
    ).toBeVisible();
  }
}

/** On paper nothing but the sheet is left, and nothing is cut off at the side, on A4 (210 mm) and Letter (8.5 in). */
async function expectPrintsCleanly(page: Page): Promise<void> {
  await page.emulateMedia({ media: 'print' });
  for (const width of [794 - 113, 816 - 113]) {
    await page.setViewportSize({ width, height: 1000 });
    await expect(page.getByRole('navigation', { name: 'Pages' })).toHaveCount(0);
    await expect(page.getByRole('banner')).toHaveCount(0);
    await expect(page.getByRole('button', { name: 'Print' })).toHaveCount(0);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
  }
  await page.emulateMedia({ media: 'screen' });
  await page.setViewportSize({ width: 1280, height: 800 });
  for (const format of ['A4', 'Letter']) {
    const pdf = await page.pdf({ format, preferCSSPageSize: false });
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect(pdf.length).toBeGreaterThan(15_000);
  }
}

test.beforeEach(async ({ page }) => {
  await page.goto(bench.running.address);
  const welcome = page.getByLabel('Your call sign');
  const isThere = welcome
    .or(page.getByRole('heading', { name: 'Bench', exact: true }))
    .or(page.getByRole('region', { name: 'Next step' }));
  await expect(isThere.first()).toBeVisible();
  if (await welcome.isVisible()) await begin(page, bench.running.address);
  await emptyKit(page);
});

for (const [what, purpose, parts] of BUILT)
  test(`${what}: from an empty kit to the printed sheet`, async ({ page }) => {
    await addFromLibrary(page, parts);
    await goTo(page, 'Chain');
    await page.getByLabel('Purpose').selectOption(purpose);
    const names = parts.map((kind) => LIBRARY[kind]);
    const chain = page.getByRole('article').filter({
      has: page.getByRole('list', { name: /^Chain \d+/ }).filter({
        hasText: new RegExp(
          names
            .filter(({ kind }) => kind !== 'cable')
            .map(({ name }) => name.replace(/[+()]/g, '\\$&'))
            .join('.*'),
        ),
      }),
    });
    await chain
      .getByRole('button', { name: /Make the setup sheet, \d+ steps/ })
      .first()
      .click();
    await expect(page.getByRole('heading', { name: `Setup sheet: ${PURPOSES[purpose].name}` })).toBeVisible();
    const radio = page.getByRole('region', { name: LIBRARY[parts[0] as LibraryKind].name });
    await radio.getByRole('checkbox').first().check();
    await expect(page.getByText(/1 of \d+ steps done/)).toBeVisible();
    await expectPrintsCleanly(page);
  });

test('a broken chain says where and what would mend it; the part is put in between', async ({ page }) => {
  await addFromLibrary(page, ['tnc-key-handheld', 'le-phone', 'phone-map-le']);
  await goTo(page, 'Chain');
  await page.getByLabel('Purpose').selectOption('APRS messages');
  const broken = page.getByRole('article').filter({ hasText: 'breaks here' }).first();
  await expect(broken).toContainText('phone gives apps no serial profile');
  await expect(broken).toContainText('Bluetooth-serial bridge dongle');
  await expect(broken.getByRole('button', { name: /Make the setup sheet/ })).toHaveCount(0);
  await addFromLibrary(page, ['bluetooth-bridge']);
  await goTo(page, 'Chain');
  await page.getByLabel('Purpose').selectOption('map for an event');
  await expect(page.getByRole('article').first()).toContainText('Bluetooth-serial bridge dongle');
  await expect(page.getByRole('article').first()).toContainText('switches away');
  await page.getByRole('article').first().getByRole('button', { name: 'Try other parts' }).click();
  const other = page.getByRole('region', { name: 'Other parts' });
  await other.getByRole('button', { name: 'Bluetooth-serial bridge dongle' }).click();
  await other.getByRole('button', { name: 'leave it out' }).click();
  await expect(other.getByText('As it is now')).toBeVisible();
  await expect(other.locator('h3').filter({ hasText: 'As it is now' })).toContainText('breaks here');
});

test('an empty kit is told the shortest list', async ({ page }) => {
  await goTo(page, 'Chain');
  await page.getByLabel('Purpose').selectOption('radio mail');
  await expect(page.getByRole('region', { name: 'What to get' }).getByRole('listitem')).not.toHaveCount(0);
});

test('the kit: an item is changed, refused, saved as a file, read again, removed', async ({ page }) => {
  await addFromLibrary(page, ['tnc-handheld']);
  const name = LIBRARY['tnc-handheld'].name;
  await page.getByRole('button', { name: `Change ${name}` }).click();
  await page.getByLabel('KISS', { exact: true }).selectOption('on');
  await page.getByLabel('Version').fill('1.4');
  await page.getByLabel('Name').fill('');
  await expect(page.getByText('The name must be given.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save the item' })).toBeDisabled();
  await page.getByLabel('Name').fill('Team B handheld');
  await page.getByRole('button', { name: 'Save the item' }).click();
  const row = page.getByRole('region', { name: 'Radios' }).getByRole('listitem');
  await expect(row).toContainText('Team B handheld 1.4');
  await expect(row).toContainText('KISS on');

  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the kit as a file' }).click();
  const file = await (await download).path();
  const json = await readFile(file, 'utf8');
  expect(JSON.parse(json)).toMatchObject({ format: 'mistpeak-kit', version: 1 });

  const chooser = page.getByLabel('Read a kit file in place of it');
  await chooser.setInputFiles({
    name: 'kit.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"x"}'),
  });
  await expect(page.getByRole('alert')).toContainText('nothing of it was taken');
  await expect(page.getByRole('alert')).toContainText('format must be “mistpeak-kit”');
  await page.getByRole('button', { name: 'Change Team B handheld' }).click();
  await page.getByRole('button', { name: 'Remove it from the kit' }).click();
  await expect(row).toHaveCount(0);
  await page
    .getByRole('status', { name: 'Just removed' })
    .filter({ hasText: 'Team B handheld' })
    .getByRole('button', { name: /Bring it back/ })
    .last()
    .click();
  await expect(row).toHaveCount(1);
  await page.getByRole('button', { name: 'Change Team B handheld' }).click();
  await page.getByRole('button', { name: 'Remove it from the kit' }).click();
  await expect(row).toHaveCount(0);
  await chooser.setInputFiles({ name: 'kit.json', mimeType: 'application/json', buffer: Buffer.from(json) });
  await expect(row).toContainText('Team B handheld');
  await page.getByRole('button', { name: 'Change Mistpeak' }).click();
  await expect(page.getByRole('button', { name: 'Remove it from the kit' })).toHaveCount(0);
});

test('a chain that ends in another app: the Bench asks for ticks; the trial goes into the record and the ranking', async ({
  page,
}) => {
  await addFromLibrary(page, ['two-pin-handheld', 'headset-cable', 'tablet', 'phone-map-le']);
  await goTo(page, 'Chain');
  await page.getByLabel('Purpose').selectOption('APRS messages');
  await page
    .getByRole('button', { name: /Make the setup sheet/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Put it on the Bench' }).click();
  await expect(page.getByRole('heading', { name: 'Tablet with headset jack, APRS messages' })).toBeVisible();
  const next = page.getByRole('region', { name: 'Next step' });
  for (const rung of ['port open', 'TNC talks', 'level in the window', 'packet decoded'])
    await next.getByRole('button', { name: `I saw “${rung}”` }).click();
  await expect(next).toContainText('Next: handed to the TNC');
  await next.getByRole('link', { name: 'Open the setup sheet' }).click();

  const trial = page.getByRole('region', { name: 'What came of it' });
  await trial.getByLabel('Result').selectOption('works with a trick');
  await trial.getByLabel('Trick').fill('volume two steps down');
  await trial.getByLabel('Receive level, dBFS').fill('5');
  await trial.getByRole('button', { name: 'Write it into the record' }).click();
  await expect(trial).toContainText('A level is −120 to 0 dBFS.');
  await trial.getByLabel('Receive level, dBFS').fill('−18.5');
  await trial.getByRole('button', { name: 'Write it into the record' }).click();
  await expect(trial).toContainText('Written into the record');
  await expect(page.getByRole('region', { name: 'Changed since it last worked' })).toContainText(
    'Nothing that is written down has changed since.',
  );
  await page.getByRole('region', { name: 'Schools' }).getByLabel('Squelch').selectOption('higher');
  await expect(page.getByRole('region', { name: 'Changed since it last worked' })).toContainText(
    'Squelch: one step above',
  );

  await goTo(page, 'Logbook');
  await page.getByLabel('Search').fill('trick tablet');
  const rows = page.getByRole('list', { name: /^Entries of/ }).locator('> li');
  await expect(rows).toHaveCount(1);
  await expect(rows).toContainText('-18.5 dBFS RMS; trick: volume two steps down');
  await page.getByLabel('Search').fill('no such thing');
  await expect(page.getByText('Nothing of that in the record.')).toBeVisible();
  await goTo(page, 'Chain');
  await page.getByLabel('Purpose').selectOption('APRS messages');
  await expect(page.getByRole('article').first()).toContainText('every joint was proved with these parts');
});

test('the sheet survives a reload, a turned phone and a server that is away in mid-list', async ({
  page,
}) => {
  test.slow();
  await page.setViewportSize({ width: 390, height: 844 });
  await emptyKit(page);
  for (const kind of ['fm-mobile', 'six-pin-cable', 'usb-packet-modem', 'laptop'] as const)
    await page.request.post(`${bench.running.address}/api/v1/kit/items`, {
      data: { item: { ...LIBRARY[kind], id: kind, isHere: true } },
    });
  await page.goto(`${bench.running.address}/chain?for=beacon`);
  await page
    .getByRole('button', { name: /Make the setup sheet/ })
    .first()
    .click();
  const radio = page.getByRole('region', { name: LIBRARY['fm-mobile'].name });
  await radio.getByRole('checkbox', { name: 'Antenna: done' }).check();
  await radio.getByRole('button', { name: 'Note on Squelch', exact: true }).click();
  await radio.getByLabel('Note', { exact: true }).fill('flutters at 1');
  await page.setViewportSize({ width: 844, height: 390 });
  await page.reload();
  await expect(radio.getByLabel('Note', { exact: true })).toHaveValue('flutters at 1');

  await bench.running.stop();
  await expect(page.getByRole('alert').first()).toContainText('Mistpeak does not answer.');
  await radio.getByRole('checkbox', { name: 'Squelch: done' }).check();
  await expect(page.getByText(/2 of \d+ steps done/)).toBeVisible();
  bench.running = await Running.start('start', bench.running.data);
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect
    .poll(() => page.evaluate(() => localStorage.getItem('sheet-memory')))
    .toContain('"waiting":[]');
  await page.evaluate(() => localStorage.clear());
  await page.reload();
  await expect(radio.getByRole('checkbox', { name: 'Squelch: done' })).toBeChecked();
  await expect(radio).toContainText('flutters at 1');
});

test('channel access is computed for the keying, told why, and sent in exact octets', async ({ page }) => {
  await addNetworkLink(page, 'peer', bench.peer.port);
  await openTncPart(page, 'Channel access');
  const computed = page.getByRole('region', { name: 'Computed' });
  await computed.getByLabel('Keyed by').selectOption('VOX');
  await expect(computed).toContainText('450 ms until a radio keyed by VOX is up, and 6 flags');
  await computed.getByLabel('Key-up time, ms').fill('a while');
  await expect(computed).toContainText('Milliseconds, below 10 000.');
  await computed.getByLabel('Key-up time, ms').fill('');
  await computed.getByRole('button', { name: 'Use the computed values' }).click();
  await expect(computed.getByRole('button', { name: 'These are in force' })).toBeDisabled();
  // TXDELAY 490 ms = 31 hex, persistence 0.25 = 3F, slot time 100 ms = 0A, tail 20 ms = 02, full duplex off (KISS paper).
  await expect.poll(() => bench.peer.received).toContain('c00131c0c0023fc0c0030ac0c00402c0c00500c0');
  await page.getByRole('button', { name: 'Remove' }).click();
});

test('nothing is found by the accessibility check, at the desk in each light and on a phone', async ({
  page,
}) => {
  test.slow();
  await addFromLibrary(page, [
    'two-pin-handheld',
    'tnc-key-handheld',
    'headset-cable',
    'le-phone',
    'tablet',
    'phone-mail',
  ]);
  await page.evaluate(() => localStorage.setItem('light', 'day'));
  for (const [viewport, check] of [
    [{ width: 1280, height: 800 }, expectNothingFoundInAnyLight],
    [{ width: 390, height: 844 }, expectNothingFound],
  ] as const) {
    await page.setViewportSize(viewport);
    await page.goto(`${bench.running.address}/kit`);
    await page.getByRole('button', { name: /^Change Dual-band/ }).click();
    await check(page);
    await page.goto(`${bench.running.address}/chain?for=mail`);
    await page.getByRole('button', { name: 'Try other parts' }).first().click();
    await check(page);
    await page
      .getByRole('button', { name: /Make the setup sheet/ })
      .first()
      .click();
    await expect(page.getByRole('heading', { name: /Setup sheet/ })).toBeVisible();
    await check(page);
    await page.goto(`${bench.running.address}/logbook`);
    await check(page);
  }
});
