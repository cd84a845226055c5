import {
  Body,
  Controller,
  DefaultValuePipe,
  Get,
  HttpCode,
  Param,
  ParseIntPipe,
  ParseUUIDPipe,
  Post,
  Query,
} from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { CaptureTaken, FrameRecord } from '@mistpeak/contract/frame';
import { HearingService } from './hearing.service.js';
import { readFrames, readFramesFrom } from './record.js';
import { ProblemException } from '../problems/problem.js';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseCallSign } from '@mistpeak/core/callsign/callsign';

const MOST_AT_ONCE = 1000;

@Controller()
export class HearingController {
  constructor(
    private readonly database: DataSource,
    private readonly hearing: HearingService,
  ) {}

  /** The record backwards: frames before a time (ms since 1970), oldest of them first. */
  @Get('frames')
  before(
    @Query('beforeMs', new DefaultValuePipe(8_640_000_000_000), ParseIntPipe) beforeMs: number,
    @Query('limit', new DefaultValuePipe(200), ParseIntPipe) limit: number,
  ): Promise<FrameRecord[]> {
    return readFrames(this.database, { beforeMs, limit: Math.min(MOST_AT_ONCE, Math.max(1, limit)) });
  }

  /** The last frames that one station sent, oldest of them first. */
  @Get('frames/from/:call')
  from(
    @Param('call') call: string,
    @Query('limit', new DefaultValuePipe(200), ParseIntPipe) limit: number,
  ): Promise<FrameRecord[]> {
    const sender = parseCallSign(call);
    if (isMalformed(sender)) throw new ProblemException('field-refused', { call: sender.malformed });
    return readFramesFrom(this.database, sender, Math.min(MOST_AT_ONCE, Math.max(1, limit)));
  }

  /** A capture into the record, its times kept, as heard on that link. */
  @Post('links/:id/captures')
  @HttpCode(200)
  take(@Param('id', ParseUUIDPipe) id: string, @Body() octets: unknown): Promise<CaptureTaken> {
    if (!(octets instanceof Uint8Array)) throw new ProblemException('not-a-capture');
    return this.hearing.takeCapture(id, octets);
  }
}
