import { frameBits } from '../../hdlc/bit-stream.js';
import type { Baseband } from '../tones.js';
import { rmsDbfs } from './level.js';
import type { FrameMeasures } from './frame-gauge.js';
import type { SoundPast } from './sound-past.js';

/** Without tones there is the level: RMS of the frame, a full-scale sine is 0 dBFS (AES17). end: in samples. */
export function measureBaseband(
  past: SoundPast,
  end: number,
  raw: Uint8Array,
  { baud }: Baseband,
  rateHz: number,
): Pick<FrameMeasures, 'levelDbfs'> {
  const bits = frameBits(raw, 1, 1).length;
  const sound = past.slice(Math.floor(end - (bits * rateHz) / baud), Math.floor(end));
  const mean = sound.reduce((sum, one) => sum + one, 0) / sound.length;
  const square = sound.reduce((sum, one) => sum + (one - mean) ** 2, 0) / sound.length;
  return { levelDbfs: rmsDbfs(square) };
}
