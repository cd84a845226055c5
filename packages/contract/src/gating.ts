import 'reflect-metadata';
import type { NotIn, NotOut } from '@mistpeak/core/internet/gate';
import type { Refusal } from '@mistpeak/core/digipeating/service';
import type { RepeatPreview } from '@mistpeak/core/digipeating/preview';
import { IsBoolean, IsInt, IsUUID, Max, Min } from 'class-validator';
import { Versioned } from './versioned.js';

const RATE = { message: 'from 1 to 30 a minute' };
const SHARE = { message: 'from 1 to 20 % of the channel' };

/** What this station passes on for others; all of it is off until it is switched on. */
export class GatingSettings extends Versioned {
  /** The radio side. */
  @IsUUID(undefined, { message: 'choose a link' })
  linkId!: string;

  /** Radio to internet. */
  @IsBoolean()
  receiveGate!: boolean;

  /** Messages of the internet to radio. */
  @IsBoolean()
  transmitGate!: boolean;

  /** The operator’s word that local rules allow sending while nobody is there. */
  @IsBoolean()
  allowsAutomatic!: boolean;

  @IsInt(RATE)
  @Min(1, RATE)
  @Max(30, RATE)
  mostPerMinute!: number;

  /** Repeats WIDE1-1 for stations near. */
  @IsBoolean()
  fillIn!: boolean;

  /** Waits whether somebody else repeats it first. */
  @IsBoolean()
  isViscous!: boolean;

  /** Of the channel, for repeating, in ten minutes. */
  @IsInt(SHARE)
  @Min(1, SHARE)
  @Max(20, SHARE)
  sharePercent!: number;
}

export const GATINGS = ['to the internet', 'to radio', 'repeated'] as const;
export type Gating = (typeof GATINGS)[number];

export type GatingRefusal =
  | NotIn
  | NotOut
  | 'not connected, or not verified'
  | 'a demo call stays with stand-ins'
  | 'the transmitter is locked'
  | Refusal
  | 'a copy of what was repeated'
  | 'its share of the channel is used up'
  | 'it was dropped on its way out';

/** One decision; refused: why it was not passed on. */
export interface GatingDecision {
  readonly id: string;
  readonly atMs: number;
  readonly gating: Gating;
  readonly source: string;
  readonly words: string;
  readonly refused?: GatingRefusal;
}

export interface GatingView {
  readonly settings?: GatingSettings & { readonly version: number };
  /** Since the start of the server, by way: how many were passed, and how many not, by reason. */
  readonly counts: Readonly<
    Record<Gating, { readonly passed: number; readonly refused: Readonly<Record<string, number>> }>
  >;
  /** The newest first. */
  readonly decisions: readonly GatingDecision[];
}

export interface FillInPreview extends RepeatPreview {
  readonly words: string;
}
