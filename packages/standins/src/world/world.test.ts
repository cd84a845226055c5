import { decodeFrame, encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { formatMonitorText, parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isDemoCall } from '@mistpeak/core/callsign/callsign';
import { decodePcap, type CapturedPacket } from '@mistpeak/core/pcap/pcap';
import { PACKET_THRESHOLD_DBM } from '@mistpeak/core/propagation/reach';
import { viewFrame, type FrameView } from '@mistpeak/core/stations/view';
import { history } from './history.js';
import { VirtualClock } from './virtual-clock.js';
import { makeLand, makeWorld, OPERATOR_SET } from './world.js';

const MINUTE_MS = 60_000;
const START_MS = Date.UTC(2026, 9, 12, 14);
const land = makeLand();

function heardIn(ms: number, seed: number, send?: { atMs: number; line: string }): Ax25Frame[] {
  const clock = new VirtualClock(START_MS);
  const world = makeWorld(clock, seed, land);
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

const repeaters = ({ path }: Ax25Frame): string[] =>
  path.filter(({ call, used }) => used && call.startsWith('QH')).map(({ call }) => call);

describe('the island on the air', () => {
  const hour = heardIn(60 * MINUTE_MS, 1);
  const of = (call: string): Ax25Frame[] => hour.filter(({ source }) => source === call);

  it('is the same from the same seed, another from another', () => {
    const text = (seed: number): string[] => heardIn(3 * MINUTE_MS, seed).map(formatMonitorText);
    expect(text(7)).toEqual(text(7));
    expect(text(7)).not.toEqual(text(8));
  });

  it('sends nothing but demo calls and readable reports', () => {
    for (const frame of hour) {
      expect(isDemoCall(frame.source)).toBe(true);
      // What passes between the two ends of a connection is no report.
      if (frame.control.kind !== 'UI') continue;
      expect((viewFrame(encodeFrame(frame)) as FrameView).report?.type).toMatch(
        /^(position|mic-e|weather|object|message|bulletin|ack|capabilities|third-party)$/,
      );
    }
  });

  it('lets the hut hear its neighbours direct, and those behind the ridge only by way of a digipeater', () => {
    expect(of('QH7CTC-9').some((frame) => repeaters(frame).length === 0)).toBe(true);
    expect(of('QH8CLA-7').length).toBeGreaterThan(20);
    expect(of('QH8CLA-7').every((frame) => repeaters(frame).length > 0)).toBe(true);
    expect(of('QH2FIL-1').every((frame) => repeaters(frame).length > 0)).toBe(true);
  });

  it('has the fill-in lift what the valley sends', () => {
    const filled = heardIn(75 * MINUTE_MS, 4).filter((frame) => repeaters(frame)[0] === 'QH2FIL-1');
    expect(filled.length).toBeGreaterThan(0);
    expect(new Set(filled.map(({ source }) => source))).toContain('QH7CTF-9');
  });

  it('is as full as a busy weekend, and not fuller', () => {
    expect(hour.length).toBeGreaterThan(600);
    expect(hour.length).toBeLessThan(1800);
  });

  it('repeats the operator, once by each digipeater at most', () => {
    const own = heardIn(30_000, 3, {
      atMs: 500,
      line: 'QH4MPK-7>APZMPK,WIDE1-1,WIDE2-1:!2937.92S/01124.30W-hut',
    }).filter(({ source }) => source === 'QH4MPK-7');
    expect(own.length).toBeGreaterThan(0);
    const last = own.map((frame) => repeaters(frame).at(-1));
    expect(new Set(last).size).toBe(last.length);
  });

  it('has team A call on the operator’s mailbox, by way of the peak', () => {
    const calls = of('QH8CLA-5').filter(({ control }) => control.kind === 'SABM');
    expect(calls.length).toBeGreaterThan(7);
    expect(calls.every((frame) => repeaters(frame).join() === 'QH1TOP')).toBe(true);
  });

  it('acknowledges the counts of team B', () => {
    const acks = hour
      .map((frame) => viewFrame(encodeFrame(frame)) as FrameView)
      .filter(({ report }) => report?.type === 'ack');
    expect(acks.length).toBeGreaterThan(0);
    expect(
      acks.every(
        ({ frame, report }) => frame.source === 'QH3PRT-10' && report?.message?.addressee === 'QH8CLB-7',
      ),
    ).toBe(true);
  });
});

describe('what was heard before', () => {
  it('is a capture of those hours, in order of time, that leads up to the start', () => {
    const packets = decodePcap(history(land, 1, START_MS, 0.5)) as CapturedPacket[];
    const times = packets.map(({ atMs }) => atMs);
    expect(times.length).toBeGreaterThan(200);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    expect(times[0]).toBeGreaterThan(START_MS - 31 * MINUTE_MS);
    expect(times.at(-1)).toBeGreaterThan(START_MS - MINUTE_MS);
    expect(packets.every(({ packet }) => packet[0] === 0)).toBe(true);
  });

  it('the balloon flies late in the day only', () => {
    const calls = (hourUtc: number): Set<string> => {
      const until = Date.UTC(2026, 9, 12, hourUtc, 40);
      const packets = decodePcap(history(land, 1, until, 0.3)) as CapturedPacket[];
      return new Set(packets.map(({ packet }) => (decodeFrame(packet.subarray(1)) as Ax25Frame).source));
    };
    expect(calls(12).has('QH9BLN-11')).toBe(false);
    expect(calls(16).has('QH9BLN-11')).toBe(true);
  });
});

describe('who hears whom', () => {
  it('follows from the ground: Nether Quill is in the shadow of the hut, and the peak hears it', () => {
    const { ears, end } = makeWorld(new VirtualClock(START_MS), 1, land);
    const level = (to: string, from: string): number => ears.hear(to, from, START_MS);
    expect(level(OPERATOR_SET, 'QH2FIL-1')).toBeLessThan(PACKET_THRESHOLD_DBM);
    expect(level('QH1TOP', 'QH2FIL-1')).toBeGreaterThan(PACKET_THRESHOLD_DBM + 20);
    expect(level('QH1ANR', OPERATOR_SET)).toBeGreaterThan(PACKET_THRESHOLD_DBM + 20);
    expect(level('nobody', 'QH1TOP')).toBeLessThan(-200);
    end();
  });
});
