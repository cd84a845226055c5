import { Body, Controller, Delete, Get, HttpCode, Post } from '@nestjs/common';
import {
  AskTest,
  BeginPractice,
  EndedDrill,
  NameFaults,
  type DrillsView,
  type EndedPractice,
} from '@mistpeak/contract/drills';
import { CommandId } from '../commands/command-id.js';
import { DrillsService } from './drills.service.js';
import { PracticeService } from './practice.service.js';
import { PracticeWorld } from './practice-world.js';

@Controller('drills')
export class DrillsController {
  constructor(
    private readonly drills: DrillsService,
    private readonly practice: PracticeService,
    private readonly world: PracticeWorld,
  ) {}

  @Get()
  view(): Promise<DrillsView> {
    return this.drills.view();
  }

  @Post()
  keep(@Body() ended: EndedDrill, @CommandId() id: string): Promise<DrillsView> {
    return this.drills.keep(id, ended);
  }

  @Post('practice')
  async begin(@Body() { what }: BeginPractice): Promise<DrillsView> {
    await this.practice.begin(what);
    return this.drills.view();
  }

  @Post('practice/tests')
  async ask(@Body() { test }: AskTest): Promise<DrillsView> {
    await this.practice.ask(test);
    return this.drills.view();
  }

  @Post('practice/causes')
  async name(@Body() { named }: NameFaults, @CommandId() id: string): Promise<EndedPractice> {
    const ended = await this.practice.name(id, named);
    return { ...ended, view: await this.drills.view() };
  }

  @Post('practice/exercise')
  async endExercise(@CommandId() id: string): Promise<DrillsView> {
    await this.practice.endExercise(id);
    return this.drills.view();
  }

  @Delete('practice')
  async leave(): Promise<DrillsView> {
    await this.practice.leave();
    return this.drills.view();
  }

  @Post('beside')
  @HttpCode(200)
  beside(): Promise<DrillsView> {
    this.world.begin();
    return this.drills.view();
  }
}
