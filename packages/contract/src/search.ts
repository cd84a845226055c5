import 'reflect-metadata';
import { PACKET_KINDS, type PacketFilter, type PacketKind } from '@mistpeak/core/listening/filter';
import { WAYS, type WayKind } from '@mistpeak/core/listening/heard-packet';
import { Transform, Type } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import type { FrameRecord } from './frame.js';
import { LATEST_MS } from './latest-time.js';
import { CommaList } from './validators.js';

const TIME = { message: 'a time is ms since 1970, from 0 on' };
const COUNT = { message: 'a whole number from 1 to 500' };
const DISTANCE = { message: 'from 0 to 20000 km' };

/** As a query: what is wanted of all that is kept. */
export class FilterQuery implements PacketFilter {
  @IsOptional()
  @CommaList()
  @IsIn(PACKET_KINDS, { each: true, message: `kinds are ${PACKET_KINDS.join(', ')}` })
  kinds?: PacketKind[];

  @IsOptional()
  @CommaList()
  @IsIn(WAYS, { each: true, message: `ways are ${WAYS.join(', ')}` })
  ways?: WayKind[];

  @IsOptional()
  @Type(() => Number)
  @IsNumber({}, DISTANCE)
  @Min(0, DISTANCE)
  @Max(20_000, DISTANCE)
  withinKm?: number;

  @IsOptional()
  @IsString()
  @MaxLength(20, { message: 'at most 20 characters' })
  station?: string;

  @IsOptional()
  @IsString()
  @MaxLength(100, { message: 'at most 100 characters' })
  words?: string;

  @IsOptional()
  @Transform(({ value }) => value === true || value === 'true')
  @IsBoolean()
  misuse?: boolean;
}

export class SearchQuery extends FilterQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt(COUNT)
  @Min(1, COUNT)
  @Max(500, COUNT)
  limit = 100;

  @IsOptional()
  @Type(() => Number)
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  beforeMs?: number;

  @IsOptional()
  @IsUUID(undefined, { message: 'the id of an entry' })
  beforeId?: string;
}

export class ExportQuery extends FilterQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  sinceMs = 0;

  @IsOptional()
  @Type(() => Number)
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  untilMs?: number;
}

/** Newest first. next: where to look further; absent when all was looked through. */
export interface SearchPage {
  readonly frames: readonly FrameRecord[];
  readonly isComplete: boolean;
  readonly next?: { readonly beforeMs: number; readonly beforeId?: string };
}
