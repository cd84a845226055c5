import 'reflect-metadata';
import type { Position } from '@mistpeak/core/geo/position';
import { IsIn, IsNumber, Max, Min, ValidateIf } from 'class-validator';
import { IsLicenceCall, IsPlace } from './validators.js';
import { Versioned } from './versioned.js';

/** Regions with their APRS channel in MHz (regional band plans; they change: defer to the local one). */
export const REGIONS = [
  { id: 'north-america', name: 'North America', channelMHz: 144.39 },
  { id: 'europe-africa', name: 'Europe, Africa, Middle East', channelMHz: 144.8 },
  { id: 'australia', name: 'Australia', channelMHz: 145.175 },
  { id: 'new-zealand', name: 'New Zealand', channelMHz: 144.575 },
  { id: 'argentina', name: 'Argentina', channelMHz: 144.93 },
  { id: 'brazil', name: 'Brazil', channelMHz: 145.57 },
  { id: 'japan', name: 'Japan', channelMHz: 144.66 },
  { id: 'china', name: 'China', channelMHz: 144.64 },
] as const;
/** With a channel of one’s own. */
export const OTHER_REGION = 'other';
export const UNIT_SYSTEMS = ['metric', 'imperial', 'nautical'] as const;
export const COORDINATE_FORMS = ['decimal', 'minutes', 'locator'] as const;

const CHANNEL = { message: 'give the frequency of your APRS channel in MHz, as 144.800' };

/** What the first visit asks for. The place as typed: `29.632 S 11.405 W`, `29 37.92 S 11 24.3 W` or a locator. */
export class OperatorSettings extends Versioned {
  @IsLicenceCall()
  call!: string;

  @IsIn([...REGIONS.map(({ id }) => id), OTHER_REGION], { message: 'choose a region' })
  region!: string;

  /** Of the APRS channel, where the region is none of ours. */
  @ValidateIf(({ region }: OperatorSettings) => region === OTHER_REGION)
  @IsNumber({}, CHANNEL)
  @Min(28, CHANNEL)
  @Max(1300, CHANNEL)
  channelMHz?: number;

  @IsIn(UNIT_SYSTEMS, { message: 'choose metric, imperial or nautical' })
  units!: (typeof UNIT_SYSTEMS)[number];

  @IsIn(COORDINATE_FORMS, { message: 'choose decimal, minutes or locator' })
  coordinates!: (typeof COORDINATE_FORMS)[number];

  /** Empty: not said. */
  @ValidateIf(({ place }: OperatorSettings) => place !== '')
  @IsPlace()
  place!: string;
}

/** The licence holder as the server knows it. */
export interface OperatorView {
  readonly call: string;
  readonly region: string;
  readonly channelMHz: number;
  readonly units: OperatorSettings['units'];
  readonly coordinates: OperatorSettings['coordinates'];
  readonly position?: Position;
  readonly isDemo: boolean;
  readonly version: number;
}
