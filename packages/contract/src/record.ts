import 'reflect-metadata';
import { IsIn, IsInt, IsNumber, IsObject, IsOptional, Max, MaxLength, Min } from 'class-validator';
import { RESULTS, type Result, type Trial } from '@mistpeak/core/chain/record';
import { IsShortTexts } from './validators.js';

const WHEN = { message: 'a time is a whole number of milliseconds' };
const LEVEL = { message: 'a level is −120 to 0 dBFS' };

/** What came of a trial of a saved chain; its parts and their switches are taken from the kit as they are now. */
export class TrialSettings {
  @IsIn(RESULTS, { message: 'choose the result' })
  result!: Result;

  @MaxLength(200, { message: 'at most 200 characters' })
  trick!: string;

  @IsOptional()
  @IsNumber({}, LEVEL)
  @Min(-120, LEVEL)
  @Max(0, LEVEL)
  levelDbfs?: number;

  /** When it was tried, where it is written down later, ms since 1970. */
  @IsOptional()
  @IsInt(WHEN)
  @Min(0, WHEN)
  atMs?: number;

  /** Values of the sheet by device and setting. */
  @IsObject({ message: 'settings are named values' })
  @IsShortTexts()
  settings!: Record<string, string>;

  @MaxLength(500, { message: 'at most 500 characters' })
  note!: string;
}

export type TrialView = Trial;
