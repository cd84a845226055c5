import { IsIn } from 'class-validator';
import { IsLatitude, IsLicenceCall, IsLongitude } from './validators.js';

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
export const UNIT_SYSTEMS = ['metric', 'imperial', 'nautical'] as const;
export const COORDINATE_FORMS = ['decimal', 'minutes', 'locator'] as const;

/** What the first visit asks for. Coordinates as typed: `29.632 S` or `-29.632` or `29 37.92 S`. */
export class OperatorSettings {
  @IsLicenceCall()
  call!: string;

  @IsIn(REGIONS.map(({ id }) => id), { message: 'choose a region' })
  region!: string;

  @IsIn(UNIT_SYSTEMS, { message: 'choose metric, imperial or nautical' })
  units!: (typeof UNIT_SYSTEMS)[number];

  @IsIn(COORDINATE_FORMS, { message: 'choose decimal, minutes or locator' })
  coordinates!: (typeof COORDINATE_FORMS)[number];

  @IsLatitude()
  latitude!: string;

  @IsLongitude()
  longitude!: string;
}

/** The licence holder as the server knows it. */
export interface OperatorView {
  readonly call: string;
  readonly region: string;
  readonly units: OperatorSettings['units'];
  readonly coordinates: OperatorSettings['coordinates'];
  readonly latitudeDeg: number;
  readonly longitudeDeg: number;
  readonly isDemo: boolean;
}
