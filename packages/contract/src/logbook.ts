import 'reflect-metadata';
import { ENTRY_KINDS, type Entry, type EntryKind } from '@mistpeak/core/logbook/entry';
import type { Difference } from '@mistpeak/core/logbook/moment';
import type { Trip, TripCall } from '@mistpeak/core/logbook/trip';
import type { Position } from '@mistpeak/core/geo/position';
import { Type } from 'class-transformer';
import { IsBase64, IsIn, IsInt, IsOptional, Matches, Max, MaxLength, Min } from 'class-validator';
import { LATEST_MS } from './latest-time.js';
import { CommaList } from './validators.js';
import { Versioned } from './versioned.js';

const TIME = { message: 'a time is ms since 1970, from 0 on' };
const MOST = { message: 'from 1 to 500' };

/** Which part of the stream: newest first, before an entry. */
export class StreamQuery {
  /** With commas; empty: all. */
  @IsOptional()
  @CommaList()
  @IsIn(ENTRY_KINDS, { each: true })
  kinds: EntryKind[] = [];

  @MaxLength(200)
  words = '';

  @IsOptional()
  @IsIn(['yes', 'no'])
  ok?: 'yes' | 'no';

  @IsOptional()
  @Type(() => Number)
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  beforeMs?: number;

  @IsOptional()
  @MaxLength(200)
  beforeId?: string;

  @IsOptional()
  @Type(() => Number)
  @IsInt(MOST)
  @Min(1, MOST)
  @Max(500, MOST)
  limit = 60;
}

export interface StreamPage {
  readonly entries: readonly Entry[];
  /** Where the next page begins; absent: there is nothing before. */
  readonly next?: { readonly beforeMs: number; readonly beforeId: string };
}

export class CompareQuery {
  @Type(() => Number)
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  fromMs!: number;

  @Type(() => Number)
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  toMs!: number;
}

/** beginMs: since when it was so; absent: nothing is known of that time. */
export interface Comparison {
  readonly from?: { readonly beginMs: number };
  readonly to?: { readonly beginMs: number };
  /** Of the earlier time only what a trial wrote down of its parts is known. */
  readonly isOfTrial?: boolean;
  readonly differences: readonly Difference[];
}

/** A word of the operator’s own, with a picture perhaps. */
export class NewNote {
  @Matches(/\S/, { message: 'write something' })
  @MaxLength(2000, { message: 'at most 2000 characters' })
  words!: string;

  @IsOptional()
  @IsBase64()
  @MaxLength(2_800_000, { message: 'a picture of at most 2 MB' })
  pictureBase64?: string;
}

export class TripSettings extends Versioned {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(60, { message: 'at most 60 characters' })
  name!: string;

  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  fromMs!: number;

  @IsOptional()
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  toMs?: number;

  @MaxLength(100, { message: 'at most 100 characters' })
  place!: string;

  @MaxLength(4000, { message: 'at most 4000 characters' })
  better!: string;
}

export interface TripView extends Trip {
  readonly id: string;
  readonly version: number;
}

/** All that a trip’s page shows. */
export interface TripRecord {
  readonly trip: TripView;
  readonly entries: readonly Entry[];
  readonly calls: readonly TripCall[];
  /** Places by their own names at which one was meanwhile. */
  readonly places: readonly { readonly name: string; readonly position: Position }[];
  readonly heard: { readonly stations: number; readonly packets: number };
}
