import { Controller, Get, Query } from '@nestjs/common';
import type { Track } from '@mistpeak/contract/station';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import { StationsService } from './stations.service.js';
import { LATEST_MS } from '@mistpeak/contract/latest-time';

/** The end of what a date can be (ECMA-262, "Time Values and Time Range"). */
const TIME = { message: 'a time is ms since 1970, from 0 on' };
/** An object's name has nine characters; a name of the internet no more. */
const LONGEST_NAME = 20;

class TracksQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  sinceMs = 0;

  @IsOptional()
  @IsString({ message: 'a station’s name' })
  @MaxLength(LONGEST_NAME, { message: 'a station’s name' })
  name?: string;
}

@Controller('stations')
export class StationsController {
  constructor(private readonly stations: StationsService) {}

  /** Where stations went since a time (ms since 1970). */
  @Get('tracks')
  tracks(@Query() { sinceMs, name }: TracksQuery): Promise<Track[]> {
    return this.stations.tracks(sinceMs, name);
  }
}
