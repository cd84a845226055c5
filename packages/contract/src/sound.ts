import 'reflect-metadata';
import { IsIn, IsInt, IsNumber, IsOptional, Matches, Max, MaxLength, Min, ValidateIf } from 'class-validator';
import { DEVICE_PATH } from './validators.js';
import { DECODERS, type DecoderName } from '@mistpeak/core/modem/branches';
import { CHANNELS, type Channel } from '@mistpeak/core/wav/one-channel';

/** How the radio is made to transmit: not at all, by the sound itself, by a tone on the other channel, by a line, by a pin. */
export const SOUND_KEYINGS = ['none', 'vox', 'tone', 'line', 'pin'] as const;
export type SoundKeying = (typeof SOUND_KEYINGS)[number];
export const KEY_LINES = ['RTS', 'DTR'] as const;
export const DATA_CHANNELS = ['left', 'right', 'both'] as const;
/** Of sound cards that are at the server's machine; a browser tells its own. */
export const SOUND_RATES = [48_000, 44_100, 22_050] as const;

const usesTone = ({ keying }: SoundSetup): boolean => keying === 'tone';
const TONE_WORDS = 'a keying tone is 10000 Hz or more, and below half the sample rate';
const LEVEL_WORDS = 'a level is −40 to 0 dBFS';
const SOUND_WORDS = 'a level is −60 to 0 dBFS';
const TWIST_WORDS = 'a twist is −9 to 9 dB';

/** A sound card as a TNC: devices, channels, keying, levels, decoder. */
export class SoundSetup {
  /** The name under which it is listed; absent: the first one there is. */
  @IsOptional()
  @MaxLength(200, { message: 'a device name has at most 200 characters' })
  input?: string;

  @IsOptional()
  @MaxLength(200, { message: 'a device name has at most 200 characters' })
  output?: string;

  @IsIn(CHANNELS, { message: 'choose the channel that is heard' })
  hears!: Channel;

  @IsIn(SOUND_RATES, { message: 'choose a sample rate' })
  rateHz!: (typeof SOUND_RATES)[number];

  @IsIn(DECODERS, { message: 'choose a decoder' })
  decoder!: DecoderName;

  @IsIn(SOUND_KEYINGS, { message: 'choose how the radio is keyed' })
  keying!: SoundKeying;

  @IsIn(DATA_CHANNELS, { message: 'choose the channel that is sent on' })
  sendsOn!: (typeof DATA_CHANNELS)[number];

  @ValidateIf(usesTone)
  @IsInt({ message: TONE_WORDS })
  @Min(10_000, { message: TONE_WORDS })
  @Max(23_000, { message: TONE_WORDS })
  toneHz?: number;

  /** RMS of what is sent; a full-scale sine is 0 dBFS. */
  @IsNumber({}, { message: LEVEL_WORDS })
  @Min(-40, { message: LEVEL_WORDS })
  @Max(0, { message: LEVEL_WORDS })
  levelDbfs!: number;

  /** The high tone over the low one. */
  @IsNumber({}, { message: TWIST_WORDS })
  @Min(-9, { message: TWIST_WORDS })
  @Max(9, { message: TWIST_WORDS })
  twistDb!: number;

  /** Any sound above this holds the channel too; absent: packets and voices alone do. */
  @IsOptional()
  @IsNumber({}, { message: SOUND_WORDS })
  @Min(-60, { message: SOUND_WORDS })
  @Max(0, { message: SOUND_WORDS })
  soundAboveDbfs?: number;

  /** The serial line, or the /dev/hidraw of the sound chip. */
  @ValidateIf(({ keying }: SoundSetup) => keying === 'line' || keying === 'pin')
  @Matches(DEVICE_PATH, {
    message: 'give the device, as /dev/ttyUSB0 or /dev/hidraw0',
  })
  keyDevice?: string;

  @ValidateIf(({ keying }: SoundSetup) => keying === 'line')
  @IsIn(KEY_LINES, { message: 'choose RTS or DTR' })
  keyLine?: (typeof KEY_LINES)[number];

  @ValidateIf(({ keying }: SoundSetup) => keying === 'pin')
  @IsInt({ message: 'a pin is 1 to 8' })
  @Min(1, { message: 'a pin is 1 to 8' })
  @Max(8, { message: 'a pin is 1 to 8' })
  keyPin?: number;
}

/** What most begin with; the level comes down from there by the transmit check. */
export const USUAL_SOUND_SETUP: SoundSetup = {
  hears: 'left',
  rateHz: 48_000,
  decoder: 'default',
  keying: 'none',
  sendsOn: 'both',
  toneHz: 15_000,
  levelDbfs: -12,
  twistDb: 0,
};

/** What of a machine only one set-up can have open at a time: its cards and its key. */
export const heldBy = ({ input, output, keying, keyDevice }: SoundSetup): readonly string[] => [
  `input ${input ?? 'default'}`,
  ...(keying === 'none' ? [] : [`output ${output ?? 'default'}`]),
  ...((keying === 'line' || keying === 'pin') && keyDevice ? [keyDevice] : []),
];

/** One text for one set-up, in whatever order its fields stand: a database keeps none. */
export const soundText = (sound: SoundSetup | undefined): string =>
  sound === undefined ? '' : JSON.stringify(sound, Object.keys(sound).sort());

/** A tone has a channel of its own, and lies below half the rate. Words of what is wrong, or undefined. */
export function whySoundIsRefused({ keying, sendsOn, toneHz = 0, rateHz }: SoundSetup): string | undefined {
  if (keying !== 'tone') return undefined;
  if (sendsOn === 'both') return 'a keying tone needs a channel of its own: send on the left or on the right';
  if (toneHz >= rateHz / 2)
    return `a keying tone of ${toneHz} Hz is not carried at ${rateHz} samples a second: choose less than ${rateHz / 2} Hz`;
  return undefined;
}
