import { Body, Controller, Get, HttpCode, Param, Post, Put, Query } from '@nestjs/common';
import { LATEST_MS } from '@mistpeak/contract/latest-time';
import {
  Acknowledgement,
  DutyNote,
  WatchSettings,
  type DutyEntry,
  type SightingView,
  type WatchView,
} from '@mistpeak/contract/watch';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, Max, Min } from 'class-validator';
import { CommandId } from '../commands/command-id.js';
import { WatchService } from './watch.service.js';

const TIME = { message: 'a time is ms since 1970, from 0 on' };

class LogQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt(TIME)
  @Min(0, TIME)
  @Max(LATEST_MS, TIME)
  sinceMs = 0;
}

@Controller('watch')
export class WatchController {
  constructor(private readonly watch: WatchService) {}

  @Get()
  view(): WatchView {
    return this.watch.view();
  }

  @Get('sightings')
  sightings(): readonly SightingView[] {
    return this.watch.sightings();
  }

  @Get('log')
  log(@Query() { sinceMs }: LogQuery): Promise<readonly DutyEntry[]> {
    return this.watch.log(sinceMs);
  }

  @Put('settings')
  choose(@Body() settings: WatchSettings): Promise<WatchView> {
    return this.watch.choose(settings);
  }

  @Post('begin')
  @HttpCode(200)
  begin(): Promise<WatchView> {
    return this.watch.begin();
  }

  /** Watchers may: nothing is sent. */
  @Put('alarms/:id/acknowledgement')
  acknowledge(@Param('id') id: string, @Body() { note }: Acknowledgement): WatchView {
    return this.watch.acknowledge(id, note);
  }

  /** Watchers may: nothing is sent. */
  @Post('notes')
  write(@Body() note: DutyNote, @CommandId() id: string): DutyEntry {
    return this.watch.write(id, note);
  }
}
