import 'reflect-metadata';
import {
  IsIn,
  IsInt,
  IsNotEmpty,
  IsNumber,
  IsOptional,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { Type } from 'class-transformer';
import type { PortVoice } from '@mistpeak/core/port-voice/port-voice';
import { SoundSetup } from './sound.js';
import { DEVICE_PATH, IsHostName } from './validators.js';
import { Versioned } from './versioned.js';

/** Where the TNC is reached: from the server’s machine, or through a page that lends its device; or a sound card that is one. */
export const LINK_KINDS = [
  'network',
  'serial',
  'page-serial',
  'page-bluetooth',
  'page-sound',
  'sound-card',
] as const;
export type LinkKind = (typeof LINK_KINDS)[number];
export const SERIAL_SPEEDS = [1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200] as const;
export const AIR_RATES = [300, 1200, 9600] as const;

const isNetwork = (link: LinkSettings): boolean => link.kind === 'network';
const isSerial = (link: LinkSettings): boolean => link.kind === 'serial';
/** A sound card, for which Mistpeak itself is the modem. */
export const isSound = ({ kind }: { readonly kind: LinkKind }): boolean =>
  kind === 'page-sound' || kind === 'sound-card';
const hasSpeed = (link: LinkSettings): boolean => isSerial(link) || link.kind === 'page-serial';

/** The device is at a browser, which forwards its octets. */
export const isLent = ({ kind }: { readonly kind: LinkKind }): boolean => kind.startsWith('page-');

/** A way to one TNC. Flow control on a serial port is always none. */
export class LinkSettings extends Versioned {
  @IsNotEmpty({ message: 'give the link a name' })
  @MaxLength(40, { message: 'at most 40 characters' })
  name!: string;

  @IsIn(LINK_KINDS, { message: 'choose how the TNC is reached' })
  kind!: LinkKind;

  @ValidateIf(isNetwork)
  @IsHostName()
  host?: string;

  @ValidateIf(isNetwork)
  @IsInt({ message: 'a port is a whole number from 1 to 65535, as the modem program shows it' })
  @Min(1, { message: 'a port is a whole number from 1 to 65535, as the modem program shows it' })
  @Max(65_535, { message: 'a port is a whole number from 1 to 65535, as the modem program shows it' })
  port?: number;

  @ValidateIf(isSerial)
  @Matches(DEVICE_PATH, { message: 'choose a port, or give its path, as /dev/ttyUSB0' })
  device?: string;

  @ValidateIf(hasSpeed)
  @IsInt({ message: 'choose a speed' })
  @Min(300, { message: 'choose a speed' })
  @Max(1_000_000, { message: 'choose a speed' })
  speed?: number;

  @ValidateIf(isSound)
  @ValidateNested()
  @Type(() => SoundSetup)
  sound?: SoundSetup;

  @IsIn(AIR_RATES, { message: 'choose the rate on the air' })
  airRate!: number;

  @IsInt({ message: 'TXDELAY is 0 to 2550 ms in steps of 10' })
  @Min(0, { message: 'TXDELAY is 0 to 2550 ms in steps of 10' })
  @Max(2550, { message: 'TXDELAY is 0 to 2550 ms in steps of 10' })
  txDelayMs!: number;

  @IsNumber({}, { message: 'persistence is 0 to 1; 0.25 is usual' })
  @Min(0, { message: 'persistence is 0 to 1; 0.25 is usual' })
  @Max(1, { message: 'persistence is 0 to 1; 0.25 is usual' })
  persistence!: number;

  @IsInt({ message: 'slot time is 0 to 2550 ms in steps of 10' })
  @Min(0, { message: 'slot time is 0 to 2550 ms in steps of 10' })
  @Max(2550, { message: 'slot time is 0 to 2550 ms in steps of 10' })
  slotTimeMs!: number;

  @IsInt({ message: 'the tail is 0 to 2550 ms in steps of 10' })
  @Min(0, { message: 'the tail is 0 to 2550 ms in steps of 10' })
  @Max(2550, { message: 'the tail is 0 to 2550 ms in steps of 10' })
  txTailMs!: number;

  /** The own station that this link transmits as; absent: the one that the operator names when arming. */
  @IsOptional()
  @IsUUID(undefined, { message: 'choose one of your stations' })
  stationId?: string | null;
}

/** The transmit lock of one link: receive only until the operator arms it; it expires. */
export interface LockView {
  readonly linkId: string;
  readonly armed: boolean;
  readonly call?: string;
  readonly expiresAtMs?: number;
}

/** What came in on one link since it was made: whole frames, and what was not read, by reason. */
export interface TallyView {
  readonly linkId: string;
  readonly frames: number;
  readonly lastAtMs?: number;
  readonly troubles: readonly {
    readonly reason: string;
    readonly count: number;
    readonly lastAtMs: number;
  }[];
}

export type LinkPhase = 'closed' | 'opening' | 'silent' | 'hearing' | 'transmitting' | 'failed';

export interface LinkView {
  readonly id: string;
  readonly version: number;
  readonly settings: LinkSettings;
  readonly phase: LinkPhase;
  /** Only with `failed`: a reason of failures.ts, and when it is tried again. */
  readonly failure?: string;
  readonly failureDetail?: string;
  readonly retryAtMs?: number;
  /** The far end said that it is a stand-in. */
  readonly standIn: boolean;
  readonly openedAtMs?: number;
  /** Only with `opening`. */
  readonly openingSinceMs?: number;
  /** Another server process holds this link. */
  readonly heldElsewhere: boolean;
}

/** Listen to a serial port of the server’s machine, without sending anything. */
export class PortListening {
  @Matches(DEVICE_PATH, { message: 'choose a port, or give its path, as /dev/ttyUSB0' })
  path!: string;

  @IsInt({ message: 'choose a speed' })
  @Min(300, { message: 'choose a speed' })
  @Max(1_000_000, { message: 'choose a speed' })
  speed!: number;
}

/** How far the listening is, and in the end what speaks there, or a reason of failures.ts. */
export interface PortListeningView {
  readonly path: string;
  readonly speed: number;
  readonly phase: 'opening' | 'listening' | 'heard' | 'failed';
  readonly sinceMs: number;
  readonly heard?: PortVoice;
  readonly failure?: string;
  readonly failureDetail?: string;
}

/** A serial port of the server's machine. */
export interface PortView {
  readonly path: string;
  readonly about: string;
}
