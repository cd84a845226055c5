import { expect, test } from '@playwright/test';
import { expectNothingFound, expectNothingFoundInAnyLight } from '../accessibility.js';
import { testBench } from '../bench.js';
import { ISLAND_AT } from '../template.js';
import { goTo } from '../pages.js';

const bench = testBench('demo', '--at', ISLAND_AT);
test.describe.configure({ mode: 'serial' });

/** Two legs with a corner, in an hour: from the hut to Sallomere and on to Ostrick. Places of the invented island. */
const GPX = `<?xml version="1.0"?><gpx version="1.1" creator="test" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>to Ostrick</name><trkseg>
<trkpt lat="-29.632" lon="-11.405"><time>2026-10-12T14:00:00Z</time></trkpt>
<trkpt lat="-29.5938" lon="-11.345"><time>2026-10-12T14:30:00Z</time></trkpt>
<trkpt lat="-29.5322" lon="-11.3068"><time>2026-10-12T15:00:00Z</time></trkpt></trkseg></trk></gpx>`;
const file = (name: string, text: string) => ({
  name,
  mimeType: 'application/gpx+xml',
  buffer: Buffer.from(text),
});

test('paths are compared on the island, and one packet is followed hop by hop', async ({ page }) => {
  await page.goto(bench.running.address);
  await goTo(page, 'Path');
  await expect(page.getByText(/^\d+ stations are known here/)).toBeVisible();
  await page.getByRole('button', { name: 'Compare the paths' }).click();
  const paths = page.getByTestId('paths');
  await expect(paths.locator('tbody tr')).toHaveCount(6);
  await expect(paths.getByText('recommended here')).toHaveCount(1);
  await paths.getByRole('button', { name: 'WIDE1-1,WIDE2-1' }).click();
  const cairns = page.getByTestId('cairns');
  await expect(cairns.locator('li').first()).toContainText('sends it and asks for 2 hops');
  await expect(cairns).toContainText(/QH1(TOP|ANR) repeats it, signs, and uses up WIDE1/);
  await expectNothingFoundInAnyLight(page);

  await test.step('the same seed gives the same answer', async () => {
    const before = await paths.innerText();
    await page.getByRole('button', { name: 'Compare the paths' }).click();
    await expect(page.getByRole('button', { name: 'Compare the paths' })).toBeEnabled();
    expect(await paths.innerText()).toBe(before);
  });

  await test.step('along a track from a file', async () => {
    await page.getByLabel('File of a track, GPX or GeoJSON').setInputFiles(file('bad.gpx', '<gpx><trk>'));
    await expect(page.getByText(/^bad.gpx is no track that can be read: .*unclosed tag/)).toBeVisible();
    await page.getByLabel('File of a track, GPX or GeoJSON').setInputFiles(file('ostrick.gpx', GPX));
    await expect(page.getByText('Along to Ostrick, 3 points')).toBeVisible();
    await page.getByRole('button', { name: 'Use one place' }).click();
  });
});

test('the ground, its best places, who repeats whom, and why a packet came twice', async ({ page }) => {
  await page.goto(`${bench.running.address}/path/reach`);
  await page.getByLabel('To', { exact: true }).selectOption('QH3PRT-10');
  await page.getByRole('button', { name: 'Reckon the way there' }).click();
  await expect(page.getByTestId('reach')).toContainText('ground between');
  await expect(page.getByRole('img', { name: /The ground from me to QH3PRT-10/ })).toBeVisible();
  await page.getByRole('button', { name: 'Look for better places' }).click();
  await expect(page.getByRole('row', { name: /spot 1/ })).toContainText(/dB/);
  await expectNothingFound(page);
  await page.getByRole('link', { name: 'Who repeats whom' }).click();
  await expect(page.locator('tr[data-call="QH1ANR"]')).toContainText('WIDE1');
  await expect(page.getByText('S30W012.hgt').first()).toBeVisible();
  const rows = 'call,role,latitude,longitude,note\nQH1NEW,digipeater,-29.6,-11.4,by file\n';
  await page
    .getByLabel('CSV file of stations')
    .setInputFiles({ name: 's.csv', mimeType: 'text/csv', buffer: Buffer.from(rows) });
  await expect(page.getByRole('row', { name: /QH1NEW/ })).toContainText('by file');
  await page.getByLabel('CSV file of stations').setInputFiles({
    name: 's.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(rows.replace('digipeater', 'king')),
  });
  await expect(page.getByText(/Nothing of s.csv was taken. Row 1: role/)).toBeVisible();
  await page.getByLabel('Elevation tiles').setInputFiles({
    name: 'hill.hgt',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from('no hill'),
  });
  await expect(page.getByText('This is not an elevation tile that can be read.')).toBeVisible();
  await expectNothingFound(page);
  await page.getByRole('link', { name: 'One packet of the log' }).click();
  await expect(page.getByTestId('copies').locator('li')).not.toHaveCount(0);
  await expectNothingFound(page);
});

test('a plan is compared on a track, scheduled, sent on the island and proved; a test interval turns back', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/beacon/plans`);
  await page.getByLabel('File of a track, GPX or GeoJSON').setInputFiles(file('ostrick.gpx', GPX));
  await expect(page.getByTestId('plans').locator('tbody tr')).toHaveCount(3);
  await page.getByTestId('plans').getByRole('button', { name: 'fixed interval' }).click();
  await expect(page.getByRole('status').filter({ hasText: '31 beacons in 1.0 h' })).toBeVisible();
  await page.getByLabel('Metres').fill('2000');
  await page.getByRole('button', { name: 'Find them' }).click();
  await expect(page.getByText(/^Found: \d+ beacons, \d+ m at most/)).toBeVisible();
  await expectNothingFound(page);

  await page.getByRole('link', { name: 'What goes out' }).click();
  await page.getByLabel('Call with SSID').fill('QH4MPK-9');
  await page.getByLabel('Comment').fill('cart');
  await page.getByLabel('Form').selectOption('smallest');
  await expect(page.getByTestId('monitor')).toContainText('QH4MPK-9>');
  await page.getByRole('button', { name: 'Save the beacon' }).click();
  await expect(page.getByRole('button', { name: 'Saved', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'What leaves by itself' }).click();
  await page.getByRole('button', { name: 'Let beacons leave by a plan …' }).click();
  await page.getByRole('button', { name: 'Save and begin' }).click();
  const way = page.locator('tr[data-way="QH4MPK-9"]');
  await expect(way).toContainText('waits for the transmitter to be armed');
  await expect(page.getByTestId('next-out')).toContainText('QH4MPK-9 is due');
  await expectNothingFoundInAnyLight(page);
  await page.getByRole('banner').getByRole('button', { name: 'Receive only' }).click();
  await page.getByLabel('Call in force').fill('QH4MPK-9');
  await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  await expect(way).toContainText('1 sent');
  await expect(way).toContainText(/leaves in (29|30) min/);

  await way.getByRole('button', { name: 'Test interval …' }).click();
  await way.getByLabel('Every, s').fill('20');
  await way.getByLabel('For, min').fill('1');
  await way.getByRole('button', { name: 'Begin the test' }).click();
  await expect(page.getByTestId('next-out')).toContainText(/test interval: \d+ s left/);
  await expect(way).toContainText(/[3-5] sent/);
  await expect(page.getByTestId('next-out')).not.toContainText('test interval');
  await expect(way).toContainText(/leaves in (29|30) min/);

  await page.getByRole('link', { name: 'What became of it' }).click();
  await expect(page.getByTestId('proved')).toContainText(
    /^Of [3-5] beacons [1-5] were repeated, most by QH1/,
  );
  await expect(page.getByRole('region', { name: 'By place' })).toContainText('Base hut');
  await expectNothingFound(page);
});
