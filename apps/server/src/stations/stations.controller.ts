import { Controller, DefaultValuePipe, Get, ParseIntPipe, Query } from '@nestjs/common';
import type { Track } from '@mistpeak/contract/station';
import { StationsService } from './stations.service.js';

const EARLIEST_MS = 0;
const LATEST_MS = 8_640_000_000_000;

@Controller('stations')
export class StationsController {
  constructor(private readonly stations: StationsService) {}

  /** Where stations went since a time (ms since 1970). */
  @Get('tracks')
  tracks(
    @Query('sinceMs', new DefaultValuePipe(EARLIEST_MS), ParseIntPipe) sinceMs: number,
    @Query('name') name?: string,
  ): Promise<Track[]> {
    return this.stations.tracks(Math.min(LATEST_MS, Math.max(EARLIEST_MS, sinceMs)), name);
  }
}
