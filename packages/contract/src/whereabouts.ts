import 'reflect-metadata';
import type { Position } from '@mistpeak/core/geo/position';
import {
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import { DEVICE_PATH, IsHostName, IsPlace } from './validators.js';
import { Versioned } from './versioned.js';

export const RECEIVER_KINDS = ['none', 'serial', 'network'] as const;

const SPEED = { message: 'a speed from 1200 to 230400 Bd' };
const PORT = { message: 'a port from 1 to 65535' };

/** The receiver at this machine that tells where we are: NMEA at a serial port or over TCP, or the position daemon. */
export class ReceiverSettings extends Versioned {
  @IsIn(RECEIVER_KINDS, { message: 'choose a kind' })
  kind!: (typeof RECEIVER_KINDS)[number];

  @ValidateIf(({ kind }: ReceiverSettings) => kind === 'serial')
  @IsString({ message: 'a device as /dev/ttyUSB0' })
  @Matches(DEVICE_PATH, { message: 'a device as /dev/ttyUSB0' })
  device?: string;

  @ValidateIf(({ kind }: ReceiverSettings) => kind === 'serial')
  @IsInt(SPEED)
  @Min(1200, SPEED)
  @Max(230_400, SPEED)
  speed?: number;

  @ValidateIf(({ kind }: ReceiverSettings) => kind === 'network')
  @IsHostName()
  host?: string;

  @ValidateIf(({ kind }: ReceiverSettings) => kind === 'network')
  @IsInt(PORT)
  @Min(1, PORT)
  @Max(65_535, PORT)
  port?: number;
}

const LATITUDE = { message: 'a latitude' };
const LONGITUDE = { message: 'a longitude' };
const NUMBER = { message: 'a number' };

/** Where a page's device is. */
export class PagePosition {
  @IsNumber({}, LATITUDE)
  @Min(-90, LATITUDE)
  @Max(90, LATITUDE)
  latitudeDeg!: number;

  @IsNumber({}, LONGITUDE)
  @Min(-180, LONGITUDE)
  @Max(180, LONGITUDE)
  longitudeDeg!: number;

  @IsOptional()
  @IsNumber({}, NUMBER)
  @Min(0, NUMBER)
  @Max(1000, NUMBER)
  speedMps?: number;

  @IsOptional()
  @IsNumber({}, NUMBER)
  @Min(0, NUMBER)
  @Max(360, NUMBER)
  courseDeg?: number;

  @IsOptional()
  @IsNumber({}, NUMBER)
  @Min(-1000, NUMBER)
  @Max(100_000, NUMBER)
  altitudeM?: number;
}

export interface WhereaboutsView {
  readonly receiver: ReceiverSettings & { readonly version: number };
  readonly state: 'none' | 'opening' | 'silent' | 'telling' | 'failed';
  /** Why it failed, in words. */
  readonly trouble?: string;
  readonly fix?: {
    readonly by: 'receiver' | 'page';
    readonly atMs: number;
    readonly position: Position;
    readonly speedMps?: number;
    readonly courseDeg?: number;
    readonly altitudeM?: number;
  };
}

const RADIUS = { message: 'a radius from 20 m to 20 km' };

/** A place by the operator's own name. */
export class PlaceLabel {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(40, { message: 'at most 40 characters' })
  name!: string;

  @IsPlace()
  place!: string;

  @IsInt(RADIUS)
  @Min(20, RADIUS)
  @Max(20_000, RADIUS)
  radiusM!: number;
}

export interface PlaceLabelView extends PlaceLabel {
  readonly id: string;
  /** One is there now. */
  readonly isHere: boolean;
}

/** What was heard while one was at a place. */
export interface PlaceYield {
  readonly id: string;
  readonly hours: number;
  readonly packets: number;
  readonly stations: number;
  readonly farthest?: { readonly call: string; readonly km: number };
}
