import { decodeFrame, encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { formatMonitorText, parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isDemoCall } from '@mistpeak/core/callsign/callsign';
import { viewFrame, type FrameView } from '@mistpeak/core/stations/view';
import { firstWorld, OPERATOR_SET } from './first-world.js';
import { VirtualClock } from './virtual-clock.js';

const HOUR_MS = 3_600_000;
const START_MS = Date.UTC(2026, 9, 12, 8);

function heardIn(ms: number, seed: number, send?: { atMs: number; line: string }): Ax25Frame[] {
  const clock = new VirtualClock(START_MS);
  const world = firstWorld(clock, seed);
  const heard: Ax25Frame[] = [];
  const set = {
    name: OPERATOR_SET,
    hear: (raw: Uint8Array) => void heard.push(decodeFrame(raw) as Ax25Frame),
  };
  world.channel.attach(set);
  if (send)
    clock.after(send.atMs, () =>
      world.channel.send(set, encodeFrame(parseMonitorText(send.line) as Ax25Frame)),
    );
  clock.advance(ms);
  world.end();
  expect([world.leftovers(), clock.leftovers()]).toEqual([0, 0]);
  return heard;
}

describe('the first world', () => {
  it('is the same from the same seed, another from another', () => {
    const text = (seed: number): string[] => heardIn(HOUR_MS / 6, seed).map(formatMonitorText);
    expect(text(7)).toEqual(text(7));
    expect(text(7)).not.toEqual(text(8));
  });

  it('lets the hut hear three stations and the digipeater, two of them only by way of it', () => {
    const heard = heardIn(HOUR_MS, 1);
    const sources = new Set(heard.map(({ source }) => source));
    expect([...sources].sort()).toEqual(['QH1ANR', 'QH6WXA-13', 'QH7CTC-9', 'QH8CLA-7']);
    const cart = heard.filter(({ source }) => source === 'QH7CTC-9');
    expect(cart.length).toBeGreaterThan(100);
    expect(cart.every(({ path }) => path[0]?.call === 'QH1ANR' && path[0].used)).toBe(true);
  });

  it('sends nothing but demo calls and readable reports', () => {
    for (const frame of heardIn(HOUR_MS, 2)) {
      expect(isDemoCall(frame.source)).toBe(true);
      expect((viewFrame(encodeFrame(frame)) as FrameView).report?.type).toMatch(/position|weather|object/);
    }
  });

  it('repeats the operator once, by the published rule', () => {
    const heard = heardIn(60_000, 3, {
      atMs: 500,
      line: 'QH4MPK-7>APZMPK,WIDE1-1,WIDE2-1:!2937.92S/01124.30W-hut',
    });
    const own = heard.filter(({ source }) => source === 'QH4MPK-7').map(formatMonitorText);
    expect(own).toEqual(['QH4MPK-7>APZMPK,QH1ANR,WIDE1*,WIDE2-1:!2937.92S/01124.30W-hut']);
  });
});
