import type { Page } from '@playwright/test';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { launchBrowser } from './browser.js';
import { Station } from './station.js';

const FRAMES_PER_SECOND = 20;
const FRAMES = 300;
const AIM_MS = 200;

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
    const frame = parseMonitorText(
      `QH7C${i % 60}-9>APZMPK,QH1ANR*:!2935.00S/01122.20W>no ${i}.`,
    ) as Ax25Frame;
    station.peer.write(encodeKiss({ port: 0, command: 'data', payload: encodeFrame(frame) }));
    await new Promise((resolve) => setTimeout(resolve, 1000 / FRAMES_PER_SECOND));
  }
  await page.waitForTimeout(1000);
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
