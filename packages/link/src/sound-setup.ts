import type { DecoderName } from '@mistpeak/core/modem/demodulator';
import { modulationOf } from '@mistpeak/core/modem/tones';
import type { SoundTncSettings } from './sound-tnc.js';

/** What of a set-up concerns the modem. */
export interface ModemSetup {
  readonly decoder: DecoderName;
  readonly levelDbfs: number;
  readonly twistDb: number;
  readonly keying: string;
  readonly toneHz?: number;
  readonly soundAboveDbfs?: number;
}

/** The modem of a set-up, at the sample rate that the card has. Throws RangeError for a rate on the air that has no modem. */
export function tncSettings(
  { decoder, levelDbfs, twistDb, keying, toneHz, soundAboveDbfs }: ModemSetup,
  rateHz: number,
  baud: number,
): SoundTncSettings {
  return {
    rateHz,
    decoder,
    modulation: modulationOf(baud),
    levelDbfs,
    twistDb,
    ...(soundAboveDbfs !== undefined && { soundAboveDbfs }),
    ...(keying === 'tone' && toneHz !== undefined && { keyingTone: { hz: toneHz, levelDbfs } }),
  };
}

/** On which channel data goes out; the tone that holds the key has the other. */
export type DataChannel = 'left' | 'right' | 'both';

export function stereo<Sound>(sendsOn: DataChannel, data: Sound, tone: Sound): [left: Sound, right: Sound] {
  if (sendsOn === 'both') return [data, data];
  return sendsOn === 'left' ? [data, tone] : [tone, data];
}

/** Owners cut the sound so, and tell of every third block. */
export const BLOCKS_A_SECOND = 50;
export const REPORT_EVERY_BLOCKS = 3;
