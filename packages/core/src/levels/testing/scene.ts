import { Demodulator } from '../../modem/demodulator.js';
import { addNoise } from '../../modem/generator/noise.js';
import { inventedFrames, joined, transmission, type Sending } from '../../modem/generator/track.js';
import { CarrierSense } from '../../modem/sensing/carrier-sense.js';
import { seededDice } from '../../network/dice.js';
import { Gathering, type Heard } from '../heard.js';
import { SoundWatch } from '../sound-watch.js';

export const RATE_HZ = 11_025;
const BLOCK_MS = 20;

/** The sound, through carrier sense, modem and watch, as an owner of a sound card runs them. */
export function hear(sound: Float32Array, rateHz = RATE_HZ): Heard {
  const demodulator = new Demodulator(rateHz, 'light');
  const sense = new CarrierSense(rateHz);
  const watch = new SoundWatch(rateHz, 1200);
  const gathering = new Gathering(watch.shape);
  const block = Math.round((rateHz * BLOCK_MS) / 1000);
  for (let at = 0; at < sound.length; at += block) {
    const part = sound.subarray(at, at + block);
    sense.push(part);
    watch.push(part, sense.busy, demodulator.push(part));
  }
  gathering.take(watch.take());
  return gathering.heard;
}

/** twists: of the stations in turn. after: what the way to the input does to all of it. */
export interface Scene extends Partial<Sending> {
  readonly packets?: number;
  readonly noiseDbfs?: number;
  readonly twists?: readonly number[];
  readonly after?: (sound: Float32Array) => void;
  readonly seed?: number;
}

/** One packet of each of so many stations, with pauses, in noise. */
export function scene({
  packets = 4,
  noiseDbfs = -45,
  twists = [0],
  after,
  seed = 1,
  ...sending
}: Scene): Float32Array {
  const dice = seededDice(seed);
  const sound = joined(
    inventedFrames(packets, dice, { from: 20, to: 50 }).map((frame, i) =>
      transmission([frame], {
        rateHz: RATE_HZ,
        levelDbfs: -16,
        txDelayMs: 300,
        pauseMs: 700,
        twistDb: twists[i % twists.length] as number,
        ...sending,
      }),
    ),
  );
  addNoise(sound, 10 ** (noiseDbfs / 20) / Math.SQRT2, dice);
  after?.(sound);
  return sound;
}
