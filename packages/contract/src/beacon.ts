import { IsBoolean, IsOptional, IsUUID, Matches } from 'class-validator';
import { IsBeaconComment, IsCallSign, IsPath, IsPlace } from './validators.js';
import { Versioned } from './versioned.js';

/** A fixed beacon as typed. */
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

  @IsBoolean()
  compressed!: boolean;
}

export interface BeaconView extends BeaconSettings {
  readonly version: number;
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
}
