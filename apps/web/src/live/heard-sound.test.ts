import type { SoundReport } from '@mistpeak/link/watched-tnc';
import { HeardSound, KEPT_MS } from './heard-sound';

const report = (heardMs: number, atMs: number[]): SoundReport => ({
  news: {
    stretches: atMs.map((at) => ({
      atMs: at,
      rmsDbfs: -20,
      peakDbfs: -10,
      offset: 0,
      clippedShare: 0,
      spectrum: new Uint8Array(),
    })),
    packets: [],
    hum: [],
  },
  heardMs,
  passedMs: heardMs,
  shape: { binHz: 20, lines: 200 },
  isKeyed: false,
  waiting: 0,
  lost: 0,
});

it('puts what was heard on the clock, and keeps a minute of it', () => {
  const heard = new HeardSound();
  heard.take(report(500, [450, 500]), 1_000_000);
  expect(heard.stretches.map(({ clockMs }) => clockMs)).toEqual([999_950, 1_000_000]);
  heard.take(report(600, [550, 600]), 1_000_000 + KEPT_MS);
  expect(heard.stretches.map(({ clockMs }) => clockMs)).toEqual([1_059_950, 1_060_000]);
  expect(heard.shape?.lines).toBe(200);
  heard.clear();
  expect(heard.stretches).toEqual([]);
});

it('tells each report to who listens, until he stops', () => {
  const heard = new HeardSound();
  const told: number[] = [];
  const stop = heard.listen(({ heardMs }) => told.push(heardMs));
  heard.take(report(1, []), 1);
  stop();
  heard.take(report(2, []), 2);
  expect(told).toEqual([1]);
});
