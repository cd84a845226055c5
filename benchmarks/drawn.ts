import type { Page } from '@playwright/test';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { launchBrowser } from './browser.js';
import { Station } from './station.js';

const FRAMES_PER_SECOND = 20;
const FRAMES = 300;
const BUSY_FRAMES_PER_SECOND = 50;
const BUSY_MS = 10_000;
const AIM_SHARE = 0.4;
const AIM_MS = 200;

const frameOf = (call: string, text: string): Uint8Array =>
  encodeFrame(parseMonitorText(`${call}-9>APZMPK,QH1ANR*:!2935.00S/01122.20W>${text}`) as Ax25Frame);

/** From a frame on the TNC's socket to its row drawn in the page, at 20 frames/s. */
export async function drawnBenchmark(): Promise<void> {
  const station = await Station.up();
  const browser = await launchBrowser();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${station.address}/air?show=log`);
  await page.getByRole('heading', { name: 'Log' }).waitFor();
  await watchRows(page);
  const sentAt = new Map<number, number>();
  for (let i = 0; i < FRAMES; i++) {
    sentAt.set(i, Date.now());
    const payload = frameOf(`QH7C${i % 60}`, `no ${i}.`);
    station.peer.write(encodeKiss({ port: 0, command: 'data', payload }));
    await new Promise((resolve) => setTimeout(resolve, 1000 / FRAMES_PER_SECOND));
  }
  await page.waitForTimeout(1000);
  const busy = await busyShare(page, station);
  const drawnAt = new Map(
    await page.evaluate(() => (window as unknown as { drawn: [number, number][] }).drawn),
  );
  await browser.close();
  await station.down();
  const delays = [...sentAt].map(([i, ms]) => (drawnAt.get(i) ?? Infinity) - ms).sort((a, b) => a - b);
  const at = (share: number): number => delays[Math.floor(share * (delays.length - 1))] ?? Infinity;
  console.log(
    `  heard to drawn at ${FRAMES_PER_SECOND} frames/s: median ${at(0.5)} ms, 95 % ${at(0.95)} ms, worst ${at(1)} ms`,
  );
  console.log(
    `  95 % against the aim of ${AIM_MS} ms: ratio ${(at(0.95) / AIM_MS).toFixed(2)} (aim below 1)`,
  );
  console.log(
    `  main thread at ${BUSY_FRAMES_PER_SECOND} frames/s with the log open: ${(busy.share * 100).toFixed(0)} % of its time ` +
      `(aim below ${AIM_SHARE * 100}); selecting a row changes ${busy.changed} of them`,
  );
}

/** How much of its time the page's main thread works at fifty frames a second with the log open, and rows changed by selecting one. */
async function busyShare(page: Page, station: Station): Promise<{ share: number; changed: number }> {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable');
  const workedMs = async (): Promise<number> => {
    const { metrics } = await devtools.send('Performance.getMetrics');
    return 1000 * (metrics.find(({ name }) => name === 'TaskDuration')?.value ?? 0);
  };
  const [before, begun] = [await workedMs(), performance.now()];
  for (let i = 0; performance.now() - begun < BUSY_MS; i++) {
    station.peer.write(
      encodeKiss({ port: 0, command: 'data', payload: frameOf(`QH7B${i % 60}`, `busy ${i}`) }),
    );
    await new Promise((resolve) => setTimeout(resolve, 1000 / BUSY_FRAMES_PER_SECOND));
  }
  const share = ((await workedMs()) - before) / (performance.now() - begun);
  await page.waitForTimeout(1500);
  return { share, changed: await rowsChangedBySelecting(page) };
}

/** Rows of the log in which anything changes when the tenth is pressed. */
async function rowsChangedBySelecting(page: Page): Promise<number> {
  await page.evaluate(() => {
    const changed = new Set<Element>();
    (window as unknown as { changed: Set<Element> }).changed = changed;
    const log = document.querySelector('section[aria-label="Log"] ol') as Element;
    new MutationObserver((changes) => {
      for (const { target } of changes) {
        const row = (target instanceof Element ? target : target.parentElement)?.closest('li');
        if (row) changed.add(row);
      }
    }).observe(log, { attributes: true, childList: true, characterData: true, subtree: true });
  });
  await page.getByRole('region', { name: 'Log' }).getByRole('listitem').nth(10).getByRole('button').click();
  await page.waitForTimeout(300);
  return page.evaluate(() => (window as unknown as { changed: Set<Element> }).changed.size);
}

/** Notes the time of the animation frame that shows each numbered row. Same machine, same clock. */
async function watchRows(page: Page): Promise<void> {
  await page.evaluate(() => {
    const seen = new Set<number>();
    const drawn: [number, number][] = [];
    (window as unknown as { drawn: [number, number][] }).drawn = drawn;
    new MutationObserver((changes) => {
      const text = changes
        .flatMap(({ addedNodes }) => [...addedNodes].map((node) => node.textContent))
        .join(' ');
      const fresh = [...text.matchAll(/no (\d+)\./g)]
        .map((match) => Number(match[1]))
        .filter((i) => !seen.has(i));
      fresh.forEach((i) => seen.add(i));
      requestAnimationFrame(() => fresh.forEach((i) => drawn.push([i, Date.now()])));
    }).observe(document.body, { childList: true, subtree: true });
  });
}
