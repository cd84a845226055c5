import { Controller, DefaultValuePipe, Get, ParseIntPipe, Query } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { readFrames } from './record.js';

const MOST_AT_ONCE = 1000;

@Controller('frames')
export class HearingController {
  constructor(private readonly database: DataSource) {}

  /** The record backwards: frames before a time (ms since 1970), oldest of them first. */
  @Get()
  before(
    @Query('beforeMs', new DefaultValuePipe(8_640_000_000_000), ParseIntPipe) beforeMs: number,
    @Query('limit', new DefaultValuePipe(200), ParseIntPipe) limit: number,
  ): Promise<FrameRecord[]> {
    return readFrames(this.database, { beforeMs, limit: Math.min(MOST_AT_ONCE, Math.max(1, limit)) });
  }
}
