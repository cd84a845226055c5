import type { IncomingMessage } from 'node:http';
import { Body, Controller, Delete, Get, HttpCode, Post, Put, Req } from '@nestjs/common';
import { TimeOfDevice, type TrueTimeView } from '@mistpeak/contract/true-time';
import { isLoopback } from '../access/own-page.js';
import { CorrectableClock } from '../adapters/correctable-clock.js';
import { TrueTimeService } from './true-time.service.js';

@Controller('true-time')
export class TrueTimeController {
  constructor(
    private readonly trueTime: TrueTimeService,
    private readonly clock: CorrectableClock,
  ) {}

  @Get()
  view(): TrueTimeView {
    return this.trueTime.view();
  }

  /** For a device that compares: our time now, ms since 1970. */
  @Get('now')
  now(): { nowMs: number } {
    return { nowMs: this.clock.nowMs() };
  }

  @Post('devices')
  @HttpCode(200)
  device(@Body() told: TimeOfDevice, @Req() request: IncomingMessage): TrueTimeView {
    if (!isLoopback(request)) this.trueTime.deviceTold(told);
    return this.trueTime.view();
  }

  @Put('correction')
  correct(@Body() { offByMs }: TimeOfDevice): Promise<TrueTimeView> {
    return this.trueTime.correct(offByMs);
  }

  @Delete('correction')
  leave(): Promise<TrueTimeView> {
    return this.trueTime.leave();
  }
}
