import { encodeFrame, uiFrame } from '../ax25/frame.js';
import { addTone } from '../modem/generator/faults.js';
import { addNoise } from '../modem/generator/noise.js';
import { seededDice } from '../network/dice.js';
import { Fourier } from './fourier.js';
import { HumMeter } from './hum.js';
import { dbfsOf, lineOf, SpectrumMeter } from './spectrum.js';
import { transmitterOf } from './transmitter.js';

it('the transform is the sum that defines it', () => {
  const length = 16;
  const dice = seededDice(1);
  const [re, im] = [0, 1].map(() => Float64Array.from({ length }, () => dice() - 0.5)) as [
    Float64Array,
    Float64Array,
  ];
  const expected = Array.from({ length }, (_, k) => {
    let [x, y] = [0, 0];
    for (let n = 0; n < length; n++) {
      const angle = (-2 * Math.PI * k * n) / length;
      x += (re[n] as number) * Math.cos(angle) - (im[n] as number) * Math.sin(angle);
      y += (re[n] as number) * Math.sin(angle) + (im[n] as number) * Math.cos(angle);
    }
    return [x, y] as const;
  });
  new Fourier(length).transform(re, im);
  expected.forEach(([x, y], k) => {
    expect(re[k]).toBeCloseTo(x, 10);
    expect(im[k]).toBeCloseTo(y, 10);
  });
  for (const odd of [0, 1, 12]) expect(() => new Fourier(odd)).toThrow(RangeError);
});

it.each([8000, 11_025, 44_100, 48_000])(
  'a full-scale sine stands at 0 dBFS, all else far below (%s Hz)',
  (rateHz) => {
    const meter = new SpectrumMeter(rateHz);
    const { binHz, lines } = meter.shape;
    const line = Math.round(1000 / binHz);
    const sine = new Float32Array(rateHz);
    addTone(sine, rateHz, line * binHz, 1);
    sine[17] = NaN;
    meter.push(sine);
    const spectrum = meter.read();
    expect(spectrum).toHaveLength(lines);
    expect(binHz).toBeGreaterThan(10);
    expect((lines - 1) * binHz).toBeLessThanOrEqual(Math.min(5000, rateHz / 2));
    expect(dbfsOf(spectrum[line] as number)).toBe(0);
    // von Hann: half of the amplitude beside, nothing beyond.
    expect(dbfsOf(spectrum[line + 1] as number)).toBe(-6);
    expect(dbfsOf(spectrum[line + 4] as number)).toBeLessThan(-90);
  },
);

it('a level as an octet, and what lies beyond', () => {
  expect([-127, -0.4, 0, 20, -500, -Infinity].map(lineOf)).toEqual([0, 127, 127, 127, 0, 0]);
  expect(dbfsOf(lineOf(-33))).toBe(-33);
});

it('no hum in ten minutes of noise, and a second by itself when it is there', () => {
  const rateHz = 8000;
  const meter = new HumMeter(rateHz);
  const dice = seededDice(7);
  for (let minute = 0; minute < 10; minute++) {
    const noise = new Float32Array(60 * rateHz);
    addNoise(noise, 0.1, dice);
    meter.push(noise);
  }
  expect(meter.take()).toEqual([]);
  const hum = new Float32Array(3 * rateHz);
  addTone(hum, rateHz, 50, 0.1);
  addTone(hum, rateHz, 150, 0.1);
  meter.push(hum.subarray(0, rateHz - 1));
  expect(meter.take()).toEqual([]);
  meter.push(hum.subarray(rateHz - 1));
  const found = meter.take();
  expect(found).toHaveLength(3);
  for (const { mainsHz, dbfs } of found) {
    expect(mainsHz).toBe(50);
    // arithmetic: two sines of 0.1.
    expect(dbfs).toBeCloseTo(-17, 0);
  }
  expect(meter.take()).toEqual([]);
});

it('who was on the air: the last digipeater that signed, else the sender', () => {
  const path = (...hops: string[]): string =>
    transmitterOf(
      encodeFrame(
        uiFrame(
          'QH7CTB-9',
          'APZMPK',
          hops.map((hop) => ({ call: hop.replace('*', ''), used: hop.endsWith('*') })),
          new Uint8Array(),
        ),
      ),
    );
  expect(path()).toBe('QH7CTB-9');
  expect(path('WIDE1-1')).toBe('QH7CTB-9');
  expect(path('QH5VEL-10*', 'WIDE2-1')).toBe('QH5VEL-10');
  expect(path('QH5VEL-10*', 'WIDE1*', 'WIDE2-1')).toBe('QH5VEL-10');
  expect(path('QH5VEL-10*', 'QH2RDG-3*', 'WIDE2*')).toBe('QH2RDG-3');
  expect(path('WIDE1*', 'WIDE2-1')).toBe('');
  expect(transmitterOf(new Uint8Array(3))).toBe('');
});
