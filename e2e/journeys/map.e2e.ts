import { expect, test, type Page } from '@playwright/test';
import { expectNothingFound, expectNothingFoundInAnyLight } from '../accessibility.js';
import { testBench } from '../bench.js';
import { addNetworkLink, arm, begin, goTo, TEST_CALL } from '../pages.js';
import { mapFile, pictureFile } from '../peers/map-file.js';
import { positionFrame } from '../peers/kiss-peer.js';
import { Running } from '../running.js';

const bench = testBench('start');
test.describe.configure({ mode: 'serial' });
test.use({ serviceWorkers: 'allow' });

/** Far from any coast that ships: what is seen there is the file's. */
const MAP = mapFile(
  [
    {
      layer: 'earth',
      kind: 'earth',
      form: 'area',
      points: [
        [-11.6, -29.75],
        [-11.6, -29.5],
        [-11.2, -29.5],
        [-11.2, -29.75],
      ],
    },
    {
      layer: 'roads',
      kind: 'major_road',
      form: 'line',
      points: [
        [-11.5, -29.7],
        [-11.3, -29.55],
      ],
    },
    { layer: 'places', kind: 'locality', name: 'Port Velan', form: 'point', points: [[-11.42, -29.71]] },
  ],
  [-11.6, -29.75, -11.2, -29.5],
);

/** The colour in the middle of the island and in the sea beside it, as drawn. */
async function colours(page: Page): Promise<{ land: string; sea: string }> {
  return page.evaluate(() => {
    const canvases = [...document.querySelectorAll<HTMLCanvasElement>('.ol-layer canvas')];
    const at = (x: number, y: number): string => {
      for (const canvas of [...canvases].reverse()) {
        const box = canvas.getBoundingClientRect();
        const scale = canvas.width / box.width;
        const data = canvas
          .getContext('2d')
          ?.getImageData((x - box.left) * scale, (y - box.top) * scale, 1, 1).data;
        if (data && data[3] === 255) return [...data.slice(0, 3)].join(' ');
      }
      return 'nothing';
    };
    const box = (document.querySelector('[role=application]') as HTMLElement).getBoundingClientRect();
    return {
      land: at(box.left + box.width / 2 + 40, box.top + box.height / 2 + 40),
      sea: at(box.left + 8, box.top + 8),
    };
  });
}

test('a map file of one’s own, in the three lights; a place that is clicked; what lies on the map', async ({
  page,
}) => {
  await begin(page, bench.running.address);
  await addNetworkLink(page, 'pocket TNC', bench.peer.port);
  await goTo(page, 'Settings');
  const files = page.getByRole('region', { name: 'Map files' });
  await files
    .getByLabel('Map file, PMTiles')
    .setInputFiles({ name: 'bad.pmtiles', mimeType: '', buffer: Buffer.from('junk') });
  await expect(files).toContainText('This is not a map file that can be read.');
  await files
    .getByLabel('Map file, PMTiles')
    .setInputFiles({ name: 'hollin.pmtiles', mimeType: '', buffer: MAP });
  await expect(files.getByRole('listitem')).toContainText(/hollin.*vector/);
  await expectNothingFound(page);
  await bench.peer.play(positionFrame('1X9CRT-9', -29.62, -11.38));
  await goTo(page, 'Air');
  const seen = new Set<string>();
  for (const light of ['day', 'dusk', 'red']) {
    await page.evaluate((wanted) => document.documentElement.setAttribute('data-light', wanted), light);
    await expect(async () => {
      const { land, sea } = await colours(page);
      expect(land).not.toBe('nothing');
      expect(land).not.toBe(sea);
      expect([...seen]).not.toContain(land);
      seen.add(land);
    }).toPass();
  }
  const map = page.getByRole('application');
  const box = await map.boundingBox();
  await map.click({ position: { x: (box?.width ?? 0) / 2 + 120, y: (box?.height ?? 0) / 2 + 90 } });
  const place = page.getByRole('region', { name: 'The place' });
  await expect(place).toContainText(/29\.\d+°S.*29°\d+\.\d+′S.*IG40/s);
  await place.getByRole('button', { name: 'Measure from here' }).click();
  await map.click({ position: { x: (box?.width ?? 0) / 2 + 220, y: (box?.height ?? 0) / 2 + 90 } });
  await expect(place).toContainText(/Measured[\d.]+ k?m, 0\d\d°/);
  await page.getByRole('button', { name: 'What lies on the map' }).click();
  await page.getByLabel('Locator squares').check();
  await page.getByLabel('Rings of distance round me').check();
  await expect(page.getByLabel('Map hollin')).toBeChecked();
  await expectNothingFoundInAnyLight(page);
});

test('a map of pictures lies under it, and can be left off', async ({ page }) => {
  await page.goto(`${bench.running.address}/settings`);
  const files = page.getByRole('region', { name: 'Map files' });
  const picture = pictureFile([200, 120, 40], [-180, -85, 180, 85]);
  await files
    .getByLabel('Map file, PMTiles')
    .setInputFiles({ name: 'photo.pmtiles', mimeType: '', buffer: picture });
  await expect(files).toContainText(/photo.*pictures/);
  await goTo(page, 'Air');
  const box = await page.getByRole('application').boundingBox();
  const seen = async (): Promise<string> => {
    const clip = { x: (box?.x ?? 0) + 12, y: (box?.y ?? 0) + 12, width: 1, height: 1 };
    const shot = (await page.screenshot({ clip })).toString('base64');
    return page.evaluate(async (data) => {
      const image = new Image();
      image.src = `data:image/png;base64,${data}`;
      await image.decode();
      const canvas = document.createElement('canvas').getContext('2d') as CanvasRenderingContext2D;
      canvas.drawImage(image, 0, 0);
      return [...canvas.getImageData(0, 0, 1, 1).data.slice(0, 3)].join(' ');
    }, shot);
  };
  await expect.poll(seen).toBe('200 120 40');
  await page.getByRole('button', { name: 'What lies on the map' }).click();
  await page.getByLabel('Map photo', { exact: true }).uncheck();
  await expect.poll(seen).not.toBe('200 120 40');
});

test('an object is put where the map was clicked, waits for the lock, is told, and taken back', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/air`);
  const map = page.getByRole('application');
  const box = await map.boundingBox();
  await map.click({ position: { x: (box?.width ?? 0) / 2 + 150, y: (box?.height ?? 0) / 2 + 120 } });
  await page.getByRole('button', { name: 'Put an object here …' }).click();
  const form = page.getByRole('form', { name: 'A new object' });
  await expect(form.getByLabel('Place')).toHaveValue(/ S .* W/);
  await form.getByRole('button', { name: 'Put it on the map' }).click();
  await expect(form).toContainText('One to nine letters, digits and signs.');
  await form.getByLabel('Name').fill('SOUP');
  await form.getByLabel('Comment').fill('until seven');
  await form.getByLabel('Call with SSID').fill(`${TEST_CALL}-7`);
  await expectNothingFound(page);
  await form.getByRole('button', { name: 'Put it on the map' }).click();
  const objects = page.getByRole('region', { name: 'My objects' });
  await expect(objects.getByRole('listitem')).toContainText('waits for the lock');
  await arm(page, `${TEST_CALL}-7`);
  await expect(objects.getByRole('listitem')).toContainText('told once');
  const soup = Buffer.from(';SOUP     ', 'latin1').toString('hex');
  await expect.poll(() => bench.peer.received).toContain(`${soup}2a`);
  await objects.getByRole('button', { name: 'Take SOUP back' }).click();
  await expect.poll(() => bench.peer.received).toContain(`${soup}5f`);
  await expect(objects.getByRole('listitem')).toContainText('is being taken back');
  await expectNothingFound(page);
});

test('without the server the page comes up again, shows what it kept, and goes on when it is back', async ({
  page,
}) => {
  await page.goto(`${bench.running.address}/air`);
  await expect(page.getByRole('region', { name: 'Stations' })).toContainText('1X9CRT-9');
  // The worker that keeps the page has to be there before the server goes.
  await page.waitForFunction(() => navigator.serviceWorker.ready.then(() => true));
  await page.waitForFunction(async () => (await caches.keys()).some((name) => name.includes('precache')));
  await page.getByRole('button', { name: 'What lies on the map' }).click();
  const area = page.getByRole('region', { name: 'Area of hollin on this device' });
  await expect(area).toContainText('1 tile');
  await area.getByRole('button', { name: 'Keep what the map shows' }).click();
  await expect(area).toContainText(/Kept \d{4}-/);
  await page.waitForTimeout(2500);
  await bench.running.stop();
  await page.reload();
  await expect(page.getByRole('alert')).toContainText(/What you see was kept in this browser at \d{4}-/);
  await expect(page.getByRole('region', { name: 'Stations' })).toContainText('1X9CRT-9');
  await expect(async () => {
    const { land, sea } = await colours(page);
    expect(land).not.toBe('nothing');
    expect(land).not.toBe(sea);
  }).toPass();
  await goTo(page, 'Watch');
  await expect(page.getByText('Nobody is looked after yet.')).toBeVisible();
  bench.running = await Running.start('start', bench.running.data);
  await expect(page.getByRole('alert')).toHaveCount(0);
  await goTo(page, 'Settings');
  const kept = page.getByRole('list', { name: 'Kept on this device' });
  await expect(kept).toContainText(/A piece of hollin, on this device.*scales to 0/);
  await kept.getByRole('button', { name: 'Forget it' }).click();
  await expect(kept).toHaveCount(0);
});
