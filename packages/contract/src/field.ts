import 'reflect-metadata';
import { GROUPS, RULES, type Group, type RuleSet } from '@mistpeak/core/exposure/exposure';
import { CHEMISTRIES, type Chemistry } from '@mistpeak/core/power/battery';
import { READING_KINDS, type ReadingKind } from '@mistpeak/core/power/readings';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { Versioned } from './versioned.js';

const HOURS = { message: 'from 0.5 to 2000 Ah' };
const CELLS = { message: 'from 1 to 24 cells' };
const AMPS = { message: 'from 0 to 200 A' };
const SHARE = { message: 'from 0 to 100 %' };
const WATTS = { message: 'from 0 to 2000 W' };
const VOLTS = { message: 'from 0.5 to 100 V' };
const METRES = { message: 'from 0.1 to 100 m' };
const AREA = { message: 'from 0.1 to 100 mm²' };
const MHZ = { message: 'from 1 to 6000 MHz' };
const GAIN = { message: 'from −20 to 30 dBi' };
const LOSS = { message: 'from 0 to 30 dB' };
const TAKEN = { message: 'from 0 to 2000 Ah' };
const RESTED = { message: 'from 0 to 1000 h' };
const SHORT = { message: 'at most 60 characters' };
const NAMED = { message: 'give it a name' };
const MOST_ROWS = 40;
const FEWER = { message: `at most ${MOST_ROWS}` };

export class BankSettings {
  @IsIn(CHEMISTRIES, { message: 'choose a kind' })
  chemistry!: Chemistry;

  @IsNumber({}, HOURS)
  @Min(0.5, HOURS)
  @Max(2000, HOURS)
  ampHours!: number;

  @IsInt(CELLS)
  @Min(1, CELLS)
  @Max(24, CELLS)
  cells!: number;
}

export class LoadSettings {
  @Matches(/\S/, NAMED)
  @MaxLength(60, SHORT)
  name!: string;

  @IsNumber({}, AMPS)
  @Min(0, AMPS)
  @Max(200, AMPS)
  amps!: number;

  /** Of the time, %. */
  @IsNumber({}, SHARE)
  @Min(0, SHARE)
  @Max(100, SHARE)
  sharePercent!: number;
}

/** A wire from the battery, or from an outlet, to one thing. */
export class WireSettings {
  @Matches(/\S/, NAMED)
  @MaxLength(60, SHORT)
  name!: string;

  @IsNumber({}, METRES)
  @Min(0.1, METRES)
  @Max(100, METRES)
  oneWayM!: number;

  @IsNumber({}, AREA)
  @Min(0.1, AREA)
  @Max(100, AREA)
  areaMm2!: number;

  @IsNumber({}, AMPS)
  @Min(0, AMPS)
  @Max(200, AMPS)
  amps!: number;
}

export class AntennaSettings {
  @IsNumber({}, MHZ)
  @Min(1, MHZ)
  @Max(6000, MHZ)
  frequencyMHz!: number;

  @IsNumber({}, WATTS)
  @Min(0, WATTS)
  @Max(2000, WATTS)
  powerW!: number;

  @IsNumber({}, GAIN)
  @Min(-20, GAIN)
  @Max(30, GAIN)
  gainDbi!: number;

  @IsNumber({}, LOSS)
  @Min(0, LOSS)
  @Max(30, LOSS)
  feedLossDb!: number;

  /** Of the averaging time so much is spent keyed, %. */
  @IsNumber({}, SHARE)
  @Min(0, SHARE)
  @Max(100, SHARE)
  keyedPercent!: number;

  @IsIn(RULES, { message: 'choose whose limits' })
  rule!: RuleSet;

  @IsIn(GROUPS, { message: 'choose who is exposed' })
  group!: Group;

  /** Held in the hand: no distance tells, the maker's own figure does. */
  @IsBoolean()
  isHandheld!: boolean;
}

/** What one takes along, and what it is wired to. */
export class FieldSettings extends Versioned {
  @ValidateNested()
  @IsObject({ message: 'tell what the battery is' })
  @Type(() => BankSettings)
  bank!: BankSettings;

  @ValidateNested({ each: true })
  @Type(() => LoadSettings)
  @ArrayMaxSize(MOST_ROWS, FEWER)
  loads!: LoadSettings[];

  @IsNumber({}, WATTS)
  @Min(0, WATTS)
  @Max(2000, WATTS)
  panelW!: number;

  /** 100: clear; 20: overcast. */
  @IsNumber({}, SHARE)
  @Min(0, SHARE)
  @Max(100, SHARE)
  skyPercent!: number;

  @ValidateNested({ each: true })
  @Type(() => WireSettings)
  @ArrayMaxSize(MOST_ROWS, FEWER)
  wires!: WireSettings[];

  @ValidateNested()
  @IsObject({ message: 'tell what the antenna is' })
  @Type(() => AntennaSettings)
  antenna!: AntennaSettings;
}

/** What the battery was found to hold. */
export class NewReading {
  @IsIn(READING_KINDS, { message: 'choose how it was found out' })
  kind!: ReadingKind;

  @ValidateIf(({ kind }: NewReading) => kind === 'rested')
  @IsNumber({}, VOLTS)
  @Min(0.5, VOLTS)
  @Max(100, VOLTS)
  volts?: number;

  @ValidateIf(({ kind }: NewReading) => kind === 'rested')
  @IsNumber({}, RESTED)
  @Min(0, RESTED)
  @Max(1000, RESTED)
  restedHours?: number;

  @ValidateIf(({ kind }: NewReading) => kind === 'counted')
  @IsNumber({}, TAKEN)
  @Min(0, TAKEN)
  @Max(2000, TAKEN)
  takenAh?: number;

  @IsBoolean()
  wasCharged!: boolean;

  @MaxLength(200, { message: 'at most 200 characters' })
  note!: string;
}

export interface ReadingView extends NewReading {
  readonly id: string;
  readonly atMs: number;
}

export interface FieldView {
  /** Absent: nothing was told yet. */
  readonly settings?: FieldSettings & { readonly version: number };
  /** Oldest first. */
  readonly readings: readonly ReadingView[];
}
