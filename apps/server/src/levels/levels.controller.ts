import { Body, Controller, HttpCode, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import { NewLevelResult, SendTestPacket, type LevelResult } from '@mistpeak/contract/levels';
import { CommandId } from '../commands/command-id.js';
import { WorksWithoutDatabase } from '../database/without-database.guard.js';
import { LevelsService } from './levels.service.js';

@Controller('levels')
export class LevelsController {
  constructor(private readonly levels: LevelsService) {}

  @Post('results')
  add(@Body() result: NewLevelResult, @CommandId() id: string): Promise<LevelResult> {
    return this.levels.add(result, id);
  }

  @Post('tests')
  @HttpCode(200)
  send(@Body() test: SendTestPacket, @CommandId() id: string): Promise<TransmissionView> {
    return this.levels.send(test, id);
  }

  @WorksWithoutDatabase()
  @Post('tests/:linkId/stop')
  @HttpCode(204)
  stop(@Param('linkId', ParseUUIDPipe) linkId: string): void {
    this.levels.stop(linkId);
  }
}
