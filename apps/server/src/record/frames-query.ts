import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsUUID, Max, Min } from 'class-validator';
import { LATEST_MS } from '@mistpeak/contract/latest-time';

const MOST_AT_ONCE = 1000;
/** The end of what a date can be (ECMA-262, "Time Values and Time Range"). */
const TIME = { message: 'a time is ms since 1970, from 0 on' };
const COUNT = { message: `a whole number from 1 to ${MOST_AT_ONCE}` };

export class Page {
  @IsOptional()
  @Type(() => Number)
  @IsInt(COUNT)
  @Min(1, COUNT)
  @Max(MOST_AT_ONCE, COUNT)
  limit = 200;
}

/** The record backwards from an entry: its time, and its id, since several may have the same time. */
export class FramesQuery extends Page {
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
