export const CHANNELS = ['left', 'right', 'mix'] as const;
export type Channel = (typeof CHANNELS)[number];

/** One of the channels that stand in turn in samples, or their mean; of one channel always that. */
export function oneChannel(samples: Float32Array, channels: number, channel: Channel): Float32Array {
  if (channels === 1) return samples;
  const frames = Math.floor(samples.length / channels);
  if (channel === 'mix')
    return Float32Array.from({ length: frames }, (_, i) => {
      let sum = 0;
      for (let c = 0; c < channels; c++) sum += samples[i * channels + c] as number;
      return sum / channels;
    });
  const offset = channel === 'left' ? 0 : 1;
  return Float32Array.from({ length: frames }, (_, i) => samples[i * channels + offset] as number);
}
