import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { launchBrowser } from './browser.js';
import { Station } from './station.js';

const MINUTES = 5;
const FRAMES_PER_SECOND = 50;
const STATIONS = 200;
/** After the first minute, when the log is full and every station known, no more than this is gained in the others. */
const AIM_GROWTH = 1.1;

/** What the page holds, its garbage collected, minute by minute at fifty frames a second on the map and in its log. */
export async function memoryBenchmark(): Promise<void> {
  const station = await Station.up();
  const browser = await launchBrowser();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${station.address}/air`);
  await page.locator('canvas').first().waitFor();
  const devtools = await page.context().newCDPSession(page);
  const heldMb = async (): Promise<number> => {
    await devtools.send('HeapProfiler.collectGarbage');
    const { usedSize } = await devtools.send('Runtime.getHeapUsage');
    return usedSize / 2 ** 20;
  };
  const held: number[] = [];
  let sent = 0;
  for (let minute = 0; minute < MINUTES; minute++) {
    const until = performance.now() + 60_000;
    while (performance.now() < until) {
      station.peer.write(encodeKiss({ port: 0, command: 'data', payload: frameOf(sent++) }));
      await new Promise((resolve) => setTimeout(resolve, 1000 / FRAMES_PER_SECOND));
    }
    held.push(await heldMb());
  }
  await browser.close();
  await station.down();
  console.log(
    `  ${sent} frames in ${MINUTES} minutes; held: ${held.map((mb) => mb.toFixed(1)).join(', ')} MB`,
  );
  const growth = (held.at(-1) as number) / (held[0] as number);
  console.log(`  last minute against the first: ratio ${growth.toFixed(2)} (aim below ${AIM_GROWTH})`);
}

function frameOf(i: number): Uint8Array {
  // Each stands where it is: the way that a moving one has gone is kept for as long as the map shows tracks.
  const minutes = ((i % STATIONS) * 29) / 100;
  const position = `29${minutes.toFixed(2).padStart(5, '0')}S/01122.20W`;
  return encodeFrame(
    parseMonitorText(
      `QD${String(i % STATIONS).padStart(3, '0')}-9>APZMPK,QH1ANR*:!${position}>no ${i}`,
    ) as Ax25Frame,
  );
}
