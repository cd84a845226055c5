import 'reflect-metadata';
import { COLUMN_MEANINGS, type ColumnMapping, type ColumnMeaning } from '@mistpeak/core/gateways/columns';
import {
  FACILITY_KINDS,
  type Facility,
  type FacilityFacts,
  type FacilityKind,
} from '@mistpeak/core/gateways/facility';
import type { Conflict } from '@mistpeak/core/gateways/merge';
import type { Attempt } from '@mistpeak/core/gateways/rank';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateBy,
  ValidateNested,
} from 'class-validator';
import { LATEST_MS } from './latest-time.js';
import { IsCallSign } from './validators.js';

const MHZ = { message: 'a frequency in MHz, as 144.850' };
const BAUD = { message: 'from 50 to 100000 Bd' };
const METRES = { message: 'from 0 to 9000 m' };
const TONE = { message: 'from 50 to 300 Hz' };
const SHIFT = { message: 'from −100 to 100 MHz' };
const PERCENT = { message: 'from 0 to 100 %' };
const DEGREES = { message: 'a place on earth' };
const SHORT = { message: 'at most 60 characters' };
const LONG = { message: 'at most 200 characters' };
const TIME = { message: 'ms since 1970' };
export const MOST_FACTS = 500;

class PlaceFacts {
  @IsNumber({}, DEGREES)
  @Min(-90, DEGREES)
  @Max(90, DEGREES)
  latitudeDeg!: number;

  @IsNumber({}, DEGREES)
  @Min(-180, DEGREES)
  @Max(180, DEGREES)
  longitudeDeg!: number;
}

/** What is told of one; what is left out is not told. */
export class FactsOfOne implements FacilityFacts {
  @IsIn([...FACILITY_KINDS], { message: 'choose what it is' })
  kind!: FacilityKind;

  @IsCallSign()
  call!: string;

  @IsNumber({}, MHZ)
  @Min(1, MHZ)
  @Max(10_000, MHZ)
  frequencyMHz!: number;

  @MaxLength(60, SHORT)
  mode!: string;

  @IsOptional()
  @IsNumber({}, BAUD)
  @Min(50, BAUD)
  @Max(100_000, BAUD)
  baud?: number;

  @IsOptional()
  @ValidateNested()
  @Type(() => PlaceFacts)
  position?: PlaceFacts;

  @IsOptional()
  @IsNumber({}, METRES)
  @Min(0, METRES)
  @Max(9000, METRES)
  heightM?: number;

  @MaxLength(60, SHORT)
  hours!: string;

  @IsOptional()
  @IsNumber({}, TONE)
  @Min(50, TONE)
  @Max(300, TONE)
  toneHz?: number;

  @IsOptional()
  @IsNumber({}, SHIFT)
  @Min(-100, SHIFT)
  @Max(100, SHIFT)
  shiftMHz?: number;

  @IsOptional()
  @IsNumber({}, PERCENT)
  @Min(0, PERCENT)
  @Max(100, PERCENT)
  reliabilityPercent?: number;

  @IsOptional()
  @IsNumber({}, PERCENT)
  @Min(0, PERCENT)
  @Max(100, PERCENT)
  qualityPercent?: number;

  @MaxLength(200, LONG)
  notes!: string;
}

/** Some, as they were recognised, heard, or written by hand. */
export class TakeFacts {
  @IsIn(['paste', 'heard', 'mail', 'hand'])
  by!: 'paste' | 'heard' | 'mail' | 'hand';

  @MaxLength(100)
  name!: string;

  @IsArray()
  @ArrayMaxSize(MOST_FACTS, { message: `at most ${MOST_FACTS} at once` })
  @ValidateNested({ each: true })
  @Type(() => FactsOfOne)
  facts!: FactsOfOne[];
}

const IsMapping = (): PropertyDecorator =>
  ValidateBy({
    name: 'isMapping',
    validator: {
      validate: (value: unknown) =>
        typeof value === 'object' &&
        value !== null &&
        Object.values(value).every((one) => (COLUMN_MEANINGS as readonly unknown[]).includes(one)),
      defaultMessage: () => 'say of each column what it is',
    },
  });

/** A list as it is, and what its columns mean. */
export class TakeList {
  @IsIn(['file', 'mail', 'paste'])
  by!: 'file' | 'mail' | 'paste';

  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(100)
  name!: string;

  @IsString()
  text!: string;

  @IsObject({ message: 'say of each column what it is' })
  @IsMapping()
  mapping!: Record<string, ColumnMeaning>;

  /** Of rows that do not say. */
  @IsIn([...FACILITY_KINDS], { message: 'choose what it lists' })
  usualKind!: FacilityKind;
}

/** One changed by hand: what is told takes the place of all that was known. */
export class ChangeFacility {
  @MaxLength(60)
  key!: string;

  @ValidateNested()
  @IsObject()
  @Type(() => FactsOfOne)
  facts!: FactsOfOne;
}

export class DecideConflict {
  @IsString()
  @MaxLength(600)
  id!: string;

  @IsIn(['known', 'told'])
  takes!: 'known' | 'told';
}

/** A try that this machine did not see: one’s own with another set, or another operator’s. */
export class NewReport {
  @IsCallSign()
  call!: string;

  @IsBoolean()
  answered!: boolean;

  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  atMs!: number;

  /** Empty: one’s own. */
  @MaxLength(20, { message: 'at most 20 characters' })
  reporter!: string;

  @IsOptional()
  @ValidateNested()
  @Type(() => PlaceFacts)
  from?: PlaceFacts;
}

export type ListMapping = Readonly<{ mapping: ColumnMapping; usualKind: FacilityKind }>;

export interface ConflictView extends Conflict {
  readonly id: string;
  readonly key: string;
  readonly source: Facility['sources']['call'];
}

/** The directory as it is; asked for whenever its revision grows. */
export interface DirectoryView {
  readonly revision: number;
  readonly facilities: readonly Facility[];
  readonly conflicts: readonly ConflictView[];
  /** By the names of the columns, in order, with commas between. */
  readonly mappings: Readonly<Record<string, ListMapping>>;
}

/** All that was tried, newest first; hours are for the page, which knows what time it was there. */
export type AttemptView = Omit<Attempt, 'hour'> & { readonly words: string };

/** What came of a list or of facts. */
export interface TakenView {
  readonly added: number;
  readonly completed: number;
  readonly conflicts: number;
  readonly leftOut: number;
  /** Of those left out the first, with the reason. */
  readonly why: readonly { readonly row: number; readonly why: string }[];
}

/** How many are known, and how often what is known has changed. */
export interface GatewaysPulse {
  readonly revision: number;
  readonly facilities: number;
  readonly conflicts: number;
}
