import 'reflect-metadata';
import { IsIn, IsNumber, MaxLength, Max, Min, ValidateNested, ArrayMaxSize, IsArray } from 'class-validator';
import { Type } from 'class-transformer';
import { IsCallSign, IsPlace } from './validators.js';
import { Versioned } from './versioned.js';

export const SITE_ROLES = ['digipeater', 'fill-in', 'gateway', 'station'] as const;
export type SiteRole = (typeof SITE_ROLES)[number];

const HEIGHT = { message: 'a height over the ground from 0.5 to 500 m' };
const POWER = { message: 'a power from 0.01 to 1500 W' };
const GAIN = { message: 'a gain from -30 to 30 dBi' };

/** A station of the channel as the operator knows it: what was heard says less of its antenna and its power. */
export class SiteSettings extends Versioned {
  @IsCallSign()
  call!: string;

  @IsIn(SITE_ROLES, { message: 'choose what it does' })
  role!: SiteRole;

  @IsPlace()
  place!: string;

  @IsNumber({}, HEIGHT)
  @Min(0.5, HEIGHT)
  @Max(500, HEIGHT)
  heightM!: number;

  @IsNumber({}, POWER)
  @Min(0.01, POWER)
  @Max(1500, POWER)
  powerW!: number;

  /** Feed line taken off. */
  @IsNumber({}, GAIN)
  @Min(-30, GAIN)
  @Max(30, GAIN)
  gainDbi!: number;

  @MaxLength(200, { message: 'at most 200 characters' })
  note!: string;
}

export interface SiteView extends SiteSettings {
  readonly version: number;
}

export const MOST_SITES = 1000;

/** Many at once, as a file holds them: what is known already is replaced. */
export class SiteImport {
  @IsArray()
  @ArrayMaxSize(MOST_SITES, { message: `at most ${MOST_SITES} stations` })
  @ValidateNested({ each: true })
  @Type(() => SiteSettings)
  sites!: SiteSettings[];
}
