import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Post, Query } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { CaptureTaken, FrameRecord } from '@mistpeak/contract/frame';
import { FramesQuery, Page } from './frames-query.js';
import { RecordService } from './record.service.js';
import { readFrames, readFramesFrom } from './read-frames.js';
import { ProblemException } from '../problems/problem.js';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseCallSign } from '@mistpeak/core/callsign/callsign';

@Controller()
export class RecordController {
  constructor(
    private readonly database: DataSource,
    private readonly record: RecordService,
  ) {}

  /** The record backwards: frames before an entry, or before a time (ms since 1970), oldest of them first. */
  @Get('frames')
  before(@Query() query: FramesQuery): Promise<FrameRecord[]> {
    return readFrames(this.database, query);
  }

  /** The last frames that one station sent, oldest of them first. */
  @Get('frames/from/:call')
  from(@Param('call') call: string, @Query() { limit }: Page): Promise<FrameRecord[]> {
    const sender = parseCallSign(call);
    if (isMalformed(sender)) throw new ProblemException('field-refused', { call: sender.malformed });
    return readFramesFrom(this.database, sender, limit);
  }

  /** Makes every view of the record anew (tallies, stations, positions); tells how many entries were read. */
  @Post('record/replay')
  @HttpCode(200)
  async replay(): Promise<{ read: number }> {
    return { read: await this.record.replay() };
  }

  /** A capture into the record, its times kept, as heard on that link. */
  @Post('links/:id/captures')
  @HttpCode(200)
  take(@Param('id', ParseUUIDPipe) id: string, @Body() octets: unknown): Promise<CaptureTaken> {
    if (!(octets instanceof Uint8Array)) throw new ProblemException('not-a-capture');
    return this.record.takeCapture(id, octets);
  }
}
