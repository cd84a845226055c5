import { Body, Controller, Get, Post } from '@nestjs/common';
import { EndedDrill, type DrillsView } from '@mistpeak/contract/drills';
import { CommandId } from '../commands/command-id.js';
import { DrillsService } from './drills.service.js';

@Controller('drills')
export class DrillsController {
  constructor(private readonly drills: DrillsService) {}

  @Get()
  view(): Promise<DrillsView> {
    return this.drills.view();
  }

  @Post()
  keep(@Body() ended: EndedDrill, @CommandId() id: string): Promise<DrillsView> {
    return this.drills.keep(id, ended);
  }
}
