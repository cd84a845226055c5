import { Controller, HttpCode, Param, Post } from '@nestjs/common';
import type { ProgramsView } from '@mistpeak/contract/programs';
import { WorksWithoutDatabase } from '../database/without-database.guard.js';
import { ProgramsService } from './programs.service.js';

@Controller('programs')
export class ProgramsController {
  constructor(private readonly programs: ProgramsService) {}

  @Post(':name/start')
  @HttpCode(200)
  start(@Param('name') name: string): Promise<ProgramsView> {
    return this.programs.start(name);
  }

  @WorksWithoutDatabase()
  @Post(':name/stop')
  @HttpCode(200)
  stop(@Param('name') name: string): Promise<ProgramsView> {
    return this.programs.stop(name);
  }
}
