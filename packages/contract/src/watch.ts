import 'reflect-metadata';
import type { Alarm } from '@mistpeak/core/watch/desk';
import type { DutyEntry } from '@mistpeak/core/watch/duty-log';
import type { Sighting } from '@mistpeak/core/watch/sighting';
import { MOST_WATCHED, type WatchLine } from '@mistpeak/core/watch/watch-list';
import type { Leg } from '@mistpeak/core/watch/watched';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { IsPlace } from './validators.js';
import { LATEST_MS } from './latest-time.js';
import { Versioned } from './versioned.js';

/** A station's call, or an object's name. */
const NAME = /^[\x21-\x7e](?:[\x20-\x7e]{0,18}[\x21-\x7e])?$/;
const SHORT = { message: 'at most 60 characters' };
const EVERY = { message: 'from half a minute to a day, in minutes' };
const STILL = { message: 'from 1 minute to a day, in minutes' };
const OFF = { message: 'from 20 m to 50 km, in metres' };
const RADIUS = { message: 'from 20 m to 20 km, in metres' };
const MOST_LEGS = 100;
const DAY_MIN = 1440;

export class WatchLineSettings implements WatchLine {
  @Matches(NAME, { message: 'a call, or an object’s name' })
  call!: string;

  @IsString()
  @MaxLength(60, SHORT)
  label!: string;

  @IsString()
  @MaxLength(60, SHORT)
  group!: string;

  @IsString()
  @MaxLength(60, SHORT)
  contact!: string;

  @IsNumber({}, EVERY)
  @Min(0.5, EVERY)
  @Max(DAY_MIN, EVERY)
  everyMin!: number;

  @IsOptional()
  @IsNumber({}, STILL)
  @Min(1, STILL)
  @Max(DAY_MIN, STILL)
  stillMin?: number;

  /** The name of one of the legs, or empty. */
  @IsString()
  @MaxLength(60, SHORT)
  leg!: string;

  @IsNumber({}, OFF)
  @Min(20, OFF)
  @Max(50_000, OFF)
  offM!: number;

  /** Empty: there is none. */
  @ValidateIf(({ finish }: WatchLineSettings) => finish !== '')
  @IsPlace()
  finish!: string;

  @IsNumber({}, RADIUS)
  @Min(20, RADIUS)
  @Max(20_000, RADIUS)
  finishRadiusM!: number;

  @IsOptional()
  @IsInt({ message: 'a time' })
  @Min(0, { message: 'a time' })
  @Max(LATEST_MS, { message: 'a time' })
  dueAtMs?: number;
}

class LegPoint {
  @IsNumber()
  @Min(-90)
  @Max(90)
  latitudeDeg!: number;

  @IsNumber()
  @Min(-180)
  @Max(180)
  longitudeDeg!: number;
}

export class LegSettings implements Leg {
  @MinLength(1, { message: 'give the leg a name' })
  @MaxLength(60, SHORT)
  name!: string;

  @IsIn(['route', 'area'])
  kind!: 'route' | 'area';

  @ValidateNested({ each: true })
  @Type(() => LegPoint)
  @ArrayMinSize(1)
  @ArrayMaxSize(2000, { message: 'at most 2000 points' })
  points!: LegPoint[];
}

export class WatchSettings extends Versioned {
  @MaxLength(60, SHORT)
  name!: string;

  @ValidateNested({ each: true })
  @Type(() => WatchLineSettings)
  @ArrayMaxSize(MOST_WATCHED, { message: `at most ${MOST_WATCHED} on the list` })
  @ArrayUnique(({ call }: WatchLineSettings) => call, { message: 'somebody is there twice' })
  watched!: WatchLineSettings[];

  @ValidateNested({ each: true })
  @Type(() => LegSettings)
  @ArrayMaxSize(MOST_LEGS, { message: `at most ${MOST_LEGS} legs` })
  @ArrayUnique(({ name }: LegSettings) => name, { message: 'two legs have the same name' })
  legs!: LegSettings[];
}

/** What a desk's volunteer writes beside an alarm; watchers may, since nothing is sent. */
export class Acknowledgement {
  @MaxLength(300, { message: 'at most 300 characters' })
  note!: string;
}

export class DutyNote {
  /** Whom it is about; absent: the desk. */
  @IsOptional()
  @Matches(NAME, { message: 'a call, or an object’s name' })
  call?: string;

  @MinLength(1, { message: 'write something' })
  @MaxLength(500, { message: 'at most 500 characters' })
  words!: string;
}

/** The list, how it stands is reckoned of it and of the sightings, at any moment. */
export interface WatchView {
  readonly settings: WatchSettings & { readonly version: number };
  /** Since when this watch is kept. */
  readonly begunMs: number;
  readonly alarms: readonly Alarm[];
}

export interface SightingView {
  readonly call: string;
  readonly sighting: Sighting;
}

export type { DutyEntry };
