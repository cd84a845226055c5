import 'reflect-metadata';
import { IsInt, Matches, Max, MaxLength, Min } from 'class-validator';
import { Versioned } from './versioned.js';

const SSID_RANGE = { message: 'an SSID is a number from 0 to 15' };

/** One device of the licence holder and the SSID that it uses. */
export class OwnStationSettings extends Versioned {
  @IsInt(SSID_RANGE)
  @Min(0, SSID_RANGE)
  @Max(15, SSID_RANGE)
  ssid!: number;

  @MaxLength(40, { message: 'at most 40 characters' })
  role!: string;

  @Matches(/\S/, { message: 'say which device uses it, as “two-pin handheld”' })
  @MaxLength(60, { message: 'at most 60 characters' })
  device!: string;

  @Matches(/^[/\\0-9A-Z]$/, { message: 'the table is / or \\, or an overlay 0 to 9, A to Z' })
  symbolTable!: string;

  @Matches(/^[!-~]$/, { message: 'choose a symbol' })
  symbolCode!: string;
}

/** call: with SSID. */
export interface OwnStationView extends OwnStationSettings {
  readonly id: string;
  readonly call: string;
  readonly version: number;
}
