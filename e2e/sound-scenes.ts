import { writeFileSync } from 'node:fs';
import { seededDice } from '@mistpeak/core/network/dice';
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
}

export function soundOf({ stations = 4, noiseDbfs = -50, after, ...sending }: SoundScene): Float32Array {
  const dice = seededDice(11);
  const sound = joined(
    inventedFrames(stations, dice, { from: 20, to: 40 }).map((frame) =>
      transmission([frame], {
        rateHz: MICROPHONE_HZ,
        levelDbfs: -16,
        txDelayMs: 250,
        pauseMs: 500,
        ...sending,
      }),
    ),
  );
  addNoise(sound, 10 ** (noiseDbfs / 20) / Math.SQRT2, dice);
  after?.(sound);
  return sound;
}

export function writeWav(path: string, sound: Float32Array): void {
  writeFileSync(
    path,
    Buffer.concat([wavHeader(MICROPHONE_HZ, 1, 2 * sound.length), samples16(sound)]),
  );
}
