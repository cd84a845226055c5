import 'reflect-metadata';
import type { Frequency } from '@mistpeak/core/aprs/report';
import { BEACON_FORMATS } from '@mistpeak/core/beacon/composer';
import { IsBoolean, IsIn, IsInt, IsNumber, IsOptional, IsUUID, Matches, Max, Min } from 'class-validator';
import { IsBeaconComment, IsCallSign, IsPath, IsPlace, IsVoiceFrequency } from './validators.js';
import { Versioned } from './versioned.js';

/** The form of the position, or whichever is smallest. */
export const FORMAT_CHOICES = ['smallest', ...BEACON_FORMATS] as const;
export type FormatChoice = (typeof FORMAT_CHOICES)[number];

const DIGITS = { message: 'leave out 0 to 4 digits' };
const ALTITUDE = { message: 'an altitude from -500 to 50000 m' };
const POWER = { message: 'a power from 0 to 81 W' };
const HEIGHT = { message: 'a height from 3 to 1560 m' };
const GAIN = { message: 'a gain from 0 to 9 dB' };

/** A beacon as typed. */
export class BeaconSettings extends Versioned {
  @IsCallSign()
  source!: string;

  @IsPlace()
  place!: string;

  @Matches(/^[/\\0-9A-Z]$/, { message: 'the table is / or \\, or an overlay 0 to 9, A to Z' })
  symbolTable!: string;

  @Matches(/^[!-~]$/, { message: 'choose a symbol' })
  symbolCode!: string;

  @IsBeaconComment()
  comment!: string;

  @IsPath()
  path!: string;

  @IsIn(FORMAT_CHOICES, { message: 'choose a form' })
  format!: FormatChoice;

  @IsBoolean()
  messaging!: boolean;

  /** Digits of the minutes that are left out, so that nobody learns the place more exactly. */
  @IsInt(DIGITS)
  @Min(0, DIGITS)
  @Max(4, DIGITS)
  ambiguityDigits!: number;

  /** Of a fixed place; a receiver tells its own. */
  @IsOptional()
  @IsNumber({}, ALTITUDE)
  @Min(-500, ALTITUDE)
  @Max(50_000, ALTITUDE)
  altitudeM?: number | null;

  /** Power, height and gain are told together. */
  @IsOptional()
  @IsNumber({}, POWER)
  @Min(0, POWER)
  @Max(81, POWER)
  phgPowerW?: number | null;

  @IsOptional()
  @IsNumber({}, HEIGHT)
  @Min(3, HEIGHT)
  @Max(1560, HEIGHT)
  phgHeightM?: number | null;

  @IsOptional()
  @IsNumber({}, GAIN)
  @Min(0, GAIN)
  @Max(9, GAIN)
  phgGainDb?: number | null;

  /** Where one listens for voice: as its words stand in a comment, `145.675MHz T094 -060`; empty for none. */
  @IsVoiceFrequency()
  frequency!: string;
}

export interface BeaconView extends BeaconSettings {
  readonly version: number;
  /** Since when the voice frequency counts, and where it was given. */
  readonly frequencySinceMs?: number;
  /** Why it is left out of beacons until it is given anew. */
  readonly frequencyStale?: 'an hour old' | 'moved 30 km';
}

/** What the words of a voice frequency say. */
export type VoiceFrequency = Frequency;

/** Where one listens for voice now; empty for nowhere. */
export class SayFrequency {
  @IsVoiceFrequency()
  frequency!: string;
}

/** Sends the saved beacon once. id: of the transmission; absent: the command’s own. */
export class SendBeacon {
  @IsOptional()
  @IsUUID()
  id?: string;

  @IsUUID()
  linkId!: string;
}

export interface EchoView {
  /** The digipeater; null when our frame came back unrepeated. */
  readonly by: string | null;
  readonly afterMs: number;
}

/** One frame of ours: handed to the TNC is not heard by anyone, an echo is. */
export interface TransmissionView {
  readonly id: string;
  readonly linkId: string;
  readonly source: string;
  readonly purpose: string;
  readonly rawHex: string;
  readonly airTimeMs: number;
  readonly queuedAtMs: number;
  readonly handedAtMs?: number;
  readonly state: 'queued' | 'handed' | 'abandoned';
  readonly echoes: readonly EchoView[];
  readonly gates: readonly GateView[];
}

/** A gate that heard it on radio and passed it to the internet. */
export interface GateView {
  readonly by: string;
  readonly afterMs: number;
}
