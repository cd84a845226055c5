import { writeFileSync } from 'node:fs';
import { seededDice } from '@mistpeak/core/network/dice';
import { addTone, clip, scale } from '@mistpeak/core/modem/generator/faults';
import { addNoise } from '@mistpeak/core/modem/generator/noise';
import { inventedFrames, joined, transmission, type Sending } from '@mistpeak/core/modem/generator/track';
import { samples16, wavHeader } from '@mistpeak/core/wav/wav';

/** What Chromium's file-fed microphone delivers, whatever the file. */
export const MICROPHONE_HZ = 44_100;

/** stations: one packet of each in turn. after: what the way to the input does to all of it. */
export interface SoundScene extends Partial<Sending> {
  readonly stations?: number;
  readonly noiseDbfs?: number;
  readonly after?: (sound: Float32Array) => void;
  readonly seed?: number;
}

export function soundOf({
  stations = 4,
  noiseDbfs = -50,
  after,
  seed = 11,
  ...sending
}: SoundScene): Float32Array {
  const dice = seededDice(seed);
  const sound = joined(
    inventedFrames(stations, dice, { from: 20, to: 40 }).map((frame) =>
      transmission([frame], {
        rateHz: MICROPHONE_HZ,
        levelDbfs: -16,
        txDelayMs: 250,
        pauseMs: 300,
        ...sending,
      }),
    ),
  );
  addNoise(sound, 10 ** (noiseDbfs / 20) / Math.SQRT2, dice);
  after?.(sound);
  return sound;
}

const tone = (hz: number, amplitude: number) => (sound: Float32Array) =>
  addTone(sound, MICROPHONE_HZ, hz, amplitude);

/** A tone that is there only while somebody sends. */
const withPackets = (hz: number, amplitude: number) => (sound: Float32Array) => {
  const block = MICROPHONE_HZ / 100;
  const whole = new Float32Array(sound.length);
  tone(hz, amplitude)(whole);
  for (let at = 0; at < sound.length; at += block) {
    const part = sound.subarray(at, at + block);
    if (part.some((sample) => Math.abs(sample) > 0.08))
      part.forEach((sample, i) => (part[i] = sample + (whole[at + i] as number)));
  }
};

/** Each fault by itself, and what the page is to say of it. */
export const CASES: readonly {
  readonly name: string;
  readonly scene: SoundScene;
  readonly verdict: RegExp;
}[] = [
  { name: 'good', scene: {}, verdict: /^The level is in the window\.$/ },
  { name: 'under', scene: { levelDbfs: -39, noiseDbfs: -75 }, verdict: /^9 dB under the window\.$/ },
  { name: 'over', scene: { levelDbfs: -4 }, verdict: /^4 dB over the window\.$/ },
  {
    name: 'high tone weak',
    scene: { twistDb: -5 },
    verdict: /^The high tone is 5 dB weaker than the low one/,
  },
  { name: 'high tone strong', scene: { twistDb: 5 }, verdict: /^The high tone is 5 dB stronger/ },
  {
    name: 'late',
    scene: { preambleBits: 32 },
    verdict: /^The first 2\d\d ms of every packet are missing\.$/,
  },
  {
    name: 'clipped',
    scene: {
      after: (sound) => {
        scale(sound, 12);
        clip(sound, 0.999);
      },
    },
    verdict: /^The packets are clipped\.$/,
  },
  {
    name: 'hum',
    scene: {
      after: (sound) => {
        tone(50, 0.04)(sound);
        tone(150, 0.03)(sound);
      },
    },
    verdict: /^The mains hum at 50 Hz\.$/,
  },
  {
    name: 'a tone in the band',
    scene: { after: tone(3300, 0.02) },
    verdict: /^A tone of 3[23]\d\d Hz stays on\.$/,
  },
  {
    name: 'keying tone in the band',
    scene: { after: withPackets(3500, 0.03) },
    verdict: /^A tone of 35\d\d Hz stands beside the packets: a keying tone leaks\.$/,
  },
  {
    name: 'two stations',
    scene: { stations: 2, twistDb: -6 },
    verdict: /^The tones differ, but that says nothing of this receiver: only 2 stations were heard/,
  },
  { name: 'silence', scene: { levelDbfs: -140, noiseDbfs: -110 }, verdict: /^Nothing at all comes in\.$/ },
  {
    name: 'noise only',
    scene: { levelDbfs: -140, noiseDbfs: -18 },
    verdict: /^There is noise, but no packet\.$/,
  },
];

export function writeWav(path: string, sound: Float32Array): void {
  writeFileSync(path, Buffer.concat([wavHeader(MICROPHONE_HZ, 1, 2 * sound.length), samples16(sound)]));
}
