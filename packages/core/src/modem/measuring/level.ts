/** RMS level of a mean square: a full-scale sine, whose mean square is a half, is 0 dBFS (AES17). */
export const rmsDbfs = (meanSquare: number): number => 10 * Math.log10(2 * meanSquare + Number.MIN_VALUE);

/** Mean square; of no samples 0. */
export const meanPower = (samples: Float32Array): number =>
  samples.reduce((sum, sample) => sum + sample * sample, 0) / Math.max(1, samples.length);
