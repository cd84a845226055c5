import type { Page } from '@playwright/test';
import { encodePlainPosition } from '@mistpeak/core/aprs/plain-position';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { launchBrowser } from './browser.js';
import { Station } from './station.js';

const STATIONS = 5000;
const SYMBOLS = '>-[#&_YsOkvjb';
const DRAG_STEPS = 60;
const FRAMES_PER_SECOND = 50;
const TURNS = 10;
/** Twenty pictures a second while it is busy, and half a second from map to log. */
const AIM = { pictureMs: 50, turnMs: 500 };

interface Pace {
  readonly medianMs: number;
  readonly mostMs: number;
}

/**
 * The time between two pictures while the map is dragged: with five thousand stations against with none, and while
 * fifty frames come in each second; then the time from the press to the drawn log, and back.
 */
export async function mapBenchmark(): Promise<void> {
  const station = await Station.up();
  const browser = await launchBrowser();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${station.address}/air`);
  await page.locator('canvas').first().waitFor();
  await page.waitForTimeout(2000);
  const empty = await dragged(page);
  let next = 0;
  for (let i = 0; i < STATIONS; i++) station.peer.write(encodeKiss(frameOf(i)));
  await page.getByText(`${STATIONS} heard in the last 30 min`).waitFor();
  await page.waitForTimeout(2000);
  const full = await dragged(page);
  const traffic = setInterval(() => {
    station.peer.write(encodeKiss(frameOf(next++ % STATIONS, next)));
  }, 1000 / FRAMES_PER_SECOND);
  await page.waitForTimeout(3000);
  const busy = await dragged(page);
  const turnsMs = await turned(page);
  clearInterval(traffic);
  await browser.close();
  await station.down();
  const tell = ({ medianMs, mostMs }: Pace): string =>
    `median ${medianMs.toFixed(1)} ms, 95 % ${mostMs.toFixed(1)} ms`;
  console.log(`  between two pictures, no station: ${tell(empty)}; ${STATIONS} stations: ${tell(full)}`);
  console.log(`  95 % with ${STATIONS} against none: ratio ${(full.mostMs / empty.mostMs).toFixed(2)}`);
  console.log(`  with ${STATIONS} stations and ${FRAMES_PER_SECOND} frames/s: ${tell(busy)}`);
  console.log(
    `  95 % against the aim of ${AIM.pictureMs} ms: ratio ${(busy.mostMs / AIM.pictureMs).toFixed(2)} (aim below 1)`,
  );
  const slowest = Math.max(...turnsMs);
  console.log(`  map to log and back: ${turnsMs.map((ms) => ms.toFixed(0)).join(', ')} ms`);
  console.log(
    `  slowest against the aim of ${AIM.turnMs} ms: ratio ${(slowest / AIM.turnMs).toFixed(2)} (aim below 1)`,
  );
}

/** From each press to the picture that shows what was asked for. */
async function turned(page: Page): Promise<number[]> {
  const turns: number[] = [];
  for (let i = 0; i < TURNS; i++) {
    const [name, sign] = i % 2 === 0 ? ['Log', 'h2:text-is("Log")'] : ['Map', 'canvas >> visible=true'];
    const button = page.getByRole('radio', { name, exact: true });
    await button.evaluate((element) => {
      const page = window as unknown as { pressedAt: number };
      element.addEventListener('click', () => (page.pressedAt = performance.now()), {
        capture: true,
        once: true,
      });
    });
    await button.click();
    await page.locator(sign).first().waitFor();
    turns.push(
      await page.evaluate(
        () =>
          new Promise<number>((tell) =>
            requestAnimationFrame(() =>
              setTimeout(() =>
                tell(performance.now() - (window as unknown as { pressedAt: number }).pressedAt),
              ),
            ),
          ),
      ),
    );
    await page.waitForTimeout(700);
  }
  return turns;
}

function frameOf(i: number, turn = i): { port: 0; command: 'data'; payload: Uint8Array } {
  const place = {
    latitudeDeg: -29.632 + 0.4 * Math.sin(i * 12.9),
    longitudeDeg: -11.405 + 0.5 * Math.cos(i * 7.7),
  };
  const symbol = { table: '/', code: SYMBOLS.charAt(i % SYMBOLS.length) };
  const letter = (n: number): string => String.fromCharCode(65 + (Math.floor(n) % 26));
  const call = `QX${i % 10}${letter(i / 10)}${letter(i / 260)}-${i % 16}`;
  const line = `${call}>APZMPK,QH1ANR*:!${encodePlainPosition(place, symbol)}no ${turn}`;
  return { port: 0, command: 'data', payload: encodeFrame(parseMonitorText(line) as Ax25Frame) };
}

async function dragged(page: Page): Promise<Pace> {
  await page.evaluate(() => {
    const gaps: number[] = [];
    (window as unknown as { gaps: number[] }).gaps = gaps;
    let last = performance.now();
    const note = (now: number): void => {
      gaps.push(now - last);
      last = now;
      requestAnimationFrame(note);
    };
    requestAnimationFrame(note);
  });
  await page.mouse.move(600, 600);
  await page.mouse.down();
  for (let i = 1; i <= DRAG_STEPS; i++) {
    const swing = 200 * Math.sin((2 * Math.PI * i) / DRAG_STEPS);
    await page.mouse.move(600 + swing, 600 + swing / 2);
    await page.waitForTimeout(30);
  }
  await page.mouse.up();
  const gaps = await page.evaluate(() => (window as unknown as { gaps: number[] }).gaps);
  gaps.sort((a, b) => a - b);
  const at = (share: number): number => gaps[Math.floor(share * (gaps.length - 1))] ?? Infinity;
  return { medianMs: at(0.5), mostMs: at(0.95) };
}
