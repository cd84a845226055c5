/**
 * Sound with known faults, from a seed: what the tests and figures of the modem are made with. Tested against its own physics.
 */

/** Looked up once: the sample loops call them a million times a second. */
const { cos, sin, sqrt, log } = Math;

/** White noise of unit variance (Box and Muller 1958). */
export function gaussian(dice: () => number): () => number {
  let spare: number | undefined;
  return () => {
    if (spare !== undefined) {
      const value = spare;
      spare = undefined;
      return value;
    }
    const radius = sqrt(-2 * log(1 - dice()));
    const angle = 2 * Math.PI * dice();
    spare = radius * sin(angle);
    return radius * cos(angle);
  };
}

/**
 * Standard deviation of white noise for Eb/N0. Eb is the energy of a bit of the sound, signal power over bit rate; N0 the
 * one-sided density, so that the variance over half the sample rate is N0 · rate/2 (Proakis, Digital Communications).
 */
export function noiseDeviation(
  signalPower: number,
  { ebN0Db, baud, rateHz }: { readonly ebN0Db: number; readonly baud: number; readonly rateHz: number },
): number {
  const n0 = signalPower / baud / 10 ** (ebN0Db / 10);
  return sqrt((n0 * rateHz) / 2);
}

/** Adds white noise in place. */
export function addNoise(samples: Float32Array, deviation: number, dice: () => number): void {
  const roll = gaussian(dice);
  for (let i = 0; i < samples.length; i++) samples[i] = (samples[i] as number) + deviation * roll();
}
