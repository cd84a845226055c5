import 'reflect-metadata';
import type { BeaconPlan } from '@mistpeak/core/beacon/plan';
import type { Waiting } from '@mistpeak/core/beacon/schedule';
import { IsBoolean, IsIn, IsInt, IsOptional, IsUUID, Max, Min } from 'class-validator';
import { IsBeaconPlan, IsCallSign } from './validators.js';
import { Versioned } from './versioned.js';

/** Where the position of a way's beacons comes from. */
export const POSITION_CHOICES = ['fixed', 'device'] as const;

const GAP = { message: 'a least gap from 15 s to a day' };
const JITTER = { message: 'a jitter from 0 to 10 min' };
const COUNT = { message: 'a count from 1 to 10000' };
const SHARE = { message: 'a share from 5 to 100 %' };
const EVERY = { message: 'a test every 15 s to 10 min' };
const FOR = { message: 'a test for 1 to 30 min' };

/** One way on which beacons leave by a plan: whose they are, over which link, how often. */
export class BeaconWaySettings extends Versioned {
  @IsUUID(undefined, { message: 'choose a link' })
  linkId!: string;

  /** The call of a saved beacon. */
  @IsCallSign()
  source!: string;

  @IsBeaconPlan()
  plan!: BeaconPlan;

  /** fixed: the beacon's own place; device: what a receiver or a page tells. */
  @IsIn(POSITION_CHOICES, { message: 'choose where the position comes from' })
  position!: (typeof POSITION_CHOICES)[number];

  @IsInt(GAP)
  @Min(15, GAP)
  @Max(86_400, GAP)
  leastGapS!: number;

  @IsInt(JITTER)
  @Min(0, JITTER)
  @Max(600, JITTER)
  jitterS!: number;

  /** Then it is off again. */
  @IsOptional()
  @IsInt(COUNT)
  @Min(1, COUNT)
  @Max(10_000, COUNT)
  stopAfter?: number | null;

  /** It waits while others hold the channel for more than this share, %. */
  @IsInt(SHARE)
  @Min(5, SHARE)
  @Max(100, SHARE)
  busyAbovePercent!: number;

  @IsBoolean()
  isOn!: boolean;
}

export interface BeaconWayView extends BeaconWaySettings {
  readonly id: string;
  readonly version: number;
  readonly sent: number;
  readonly waitsFor?: Waiting;
  readonly nextAtMs?: number;
  readonly lastSentAtMs?: number;
  readonly test?: { readonly everyS: number; readonly untilMs: number };
  /** Of the next one, as things are: how long it is on the air; absent where there is none to be made. */
  readonly airTimeMs?: number;
  /** Why the last one was not sent. */
  readonly trouble?: string;
}

/** Every so often, for so long; then the plan goes on. */
export class BeaconTest {
  @IsInt(EVERY)
  @Min(15, EVERY)
  @Max(600, EVERY)
  everyS!: number;

  @IsInt(FOR)
  @Min(60, FOR)
  @Max(1800, FOR)
  forS!: number;
}
