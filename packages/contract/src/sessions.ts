import 'reflect-metadata';
import type { Asked } from '@mistpeak/core/terminal/prompts';
import type { LinkJudgement } from '@mistpeak/core/terminal/quality';
import type { Phase } from '@mistpeak/core/sessions/session';
import type { SessionParameters } from '@mistpeak/core/throughput/session-parameters';
import { Type } from 'class-transformer';
import {
  IsBase64,
  IsBoolean,
  IsInt,
  IsNumber,
  IsOptional,
  IsUUID,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { IsAnyAddress, IsCallSign, IsVia } from './validators.js';

const within = (from: number, to: number): { message: string } => ({ message: `from ${from} to ${to}` });

const FREQUENCY = { message: 'a frequency in MHz, as 144.850' };

export class SessionParameterSettings implements SessionParameters {
  @IsInt(within(1, 256))
  @Min(1, within(1, 256))
  @Max(256, within(1, 256))
  packetOctets!: number;

  @IsInt(within(1, 7))
  @Min(1, within(1, 7))
  @Max(7, within(1, 7))
  window8!: number;

  @IsInt(within(1, 127))
  @Min(1, within(1, 127))
  @Max(127, within(1, 127))
  window128!: number;

  @IsInt(within(500, 120_000))
  @Min(500, within(500, 120_000))
  @Max(120_000, within(500, 120_000))
  t1Ms!: number;

  @IsInt(within(50, 30_000))
  @Min(50, within(50, 30_000))
  @Max(30_000, within(50, 30_000))
  t2Ms!: number;

  @IsInt(within(30_000, 3_600_000))
  @Min(30_000, within(30_000, 3_600_000))
  @Max(3_600_000, within(30_000, 3_600_000))
  t3Ms!: number;

  @IsInt(within(1, 25))
  @Min(1, within(1, 25))
  @Max(25, within(1, 25))
  retries!: number;

  @IsBoolean()
  extended!: boolean;
}

/** Whom to call, by which way. */
export class CallStation {
  @IsCallSign()
  from!: string;

  /** A call, a node's alias: any address of AX.25. */
  @IsAnyAddress()
  to!: string;

  /** Digipeaters, in order from here; mostly none. */
  @IsVia()
  via!: string;

  @IsUUID(undefined, { message: 'choose a link' })
  linkId!: string;

  /** To which the radio is set for this, where that is not the channel of the link; for the log. */
  @IsOptional()
  @IsNumber({}, FREQUENCY)
  @Min(1, FREQUENCY)
  @Max(1300, FREQUENCY)
  frequencyMHz?: number;

  /** Left out: computed for the link. */
  @IsOptional()
  @ValidateNested()
  @Type(() => SessionParameterSettings)
  parameters?: SessionParameterSettings;
}

/** Octets to send; isSecret: they are sent, and the record shows dots in their place. */
export class SayOctets {
  @IsBase64()
  @MaxLength(700_000, { message: 'at most 500,000 octets at once' })
  base64!: string;

  @IsOptional()
  @IsBoolean()
  isSecret?: boolean;
}

/** Where a session stands. */
export interface SessionView {
  readonly id: string;
  readonly linkId: string;
  readonly own: string;
  readonly peer: string;
  readonly via: readonly string[];
  readonly calledBy: 'us' | 'them';
  /** What it serves: the operator at the terminal, a visit that runs by itself, the own mailbox, radio mail. */
  readonly purpose: 'terminal' | 'mailbox' | 'mail';
  readonly phase: Phase;
  readonly modulo: 8 | 128;
  readonly parameters: SessionParameters;
  readonly frequencyMHz?: number;
  readonly openedAtMs: number;
  readonly connectedAtMs?: number;
  readonly endedAtMs?: number;
  /** In words, once it has ended. */
  readonly outcome?: string;
  /** While it is called, let go or asked: try n of so many, and when the next is due. */
  readonly trying?: { readonly attempt: number; readonly of: number; readonly nextAtMs: number };
  /** Octets of ours: queued in all, of these handed to the TNC at least once, and confirmed. */
  readonly queuedOctets: number;
  readonly sentOctets: number;
  readonly confirmedOctets: number;
  readonly heardOctets: number;
  /** Stretches of our octets that a reset or the end has lost: they are not confirmed and never will be. */
  readonly lost: readonly LostStretch[];
  readonly peerBusy: boolean;
  readonly quality: SessionQuality;
  /** The last refusal of a frame on its way out: the lock, the link. */
  readonly trouble?: string;
  /** What the far end asks for. */
  readonly asked?: Asked;
  /** Frames heard on the link since it was called, and whether one of ours came back among them. */
  readonly heardMeanwhile: number;
  readonly wasEchoed: boolean;
  /** A file on its way, by YAPP. */
  readonly file?: FileOnTheWay;
}

export interface LostStretch {
  readonly fromOctet: number;
  readonly toOctet: number;
}

export interface SessionQuality {
  readonly roundTripMs: number;
  readonly t1Ms: number;
  readonly framesSent: number;
  readonly framesResent: number;
  readonly timeouts: number;
  /** Frames asked for again by the other end, and by us. */
  readonly rejected: number;
  readonly rejects: number;
  /** They said that they can take no more, ms in all. */
  readonly busyMs: number;
  readonly judgement: LinkJudgement;
}

export interface FileOnTheWay {
  readonly direction: 'out' | 'in';
  readonly name: string;
  readonly octets: number;
  readonly of?: number;
  /** How it ended. */
  readonly words?: string;
  readonly ok?: boolean;
}

/** Octets that came or went; isFile: of a transfer, not for the eye; isSecret: dots stand for what was sent. */
export interface SaidView {
  readonly sessionId: string;
  readonly seq: number;
  readonly side: 'mine' | 'theirs';
  readonly atMs: number;
  readonly hex: string;
  readonly isFile?: boolean;
  readonly isSecret?: boolean;
}

export interface SessionFileView {
  readonly id: string;
  readonly sessionId: string;
  readonly name: string;
  readonly octets: number;
  readonly atMs: number;
}
