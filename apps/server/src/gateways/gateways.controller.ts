import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import {
  ChangeFacility,
  DecideConflict,
  NewReport,
  TakeFacts,
  TakeList,
  type AttemptView,
  type DirectoryView,
  type TakenView,
} from '@mistpeak/contract/gateways';
import { CommandId } from '../commands/command-id.js';
import { GatewaysService } from './gateways.service.js';

@Controller('gateways')
export class GatewaysController {
  constructor(private readonly gateways: GatewaysService) {}

  @Get()
  view(): DirectoryView {
    return this.gateways.view();
  }

  @Get('attempts')
  attempts(): Promise<AttemptView[]> {
    return this.gateways.attempts();
  }

  @Post('lists')
  @HttpCode(200)
  takeList(@Body() list: TakeList): Promise<TakenView> {
    return this.gateways.takeList(list);
  }

  @Post('facts')
  @HttpCode(200)
  takeFacts(@Body() facts: TakeFacts): Promise<TakenView> {
    return this.gateways.takeFacts(facts);
  }

  @Put('facilities')
  change(@Body() change: ChangeFacility): Promise<DirectoryView> {
    return this.gateways.change(change);
  }

  @Delete('facilities/:key')
  @HttpCode(204)
  remove(@Param('key') key: string): Promise<void> {
    return this.gateways.remove(key);
  }

  @Put('conflicts')
  decide(@Body() decision: DecideConflict): Promise<DirectoryView> {
    return this.gateways.decide(decision);
  }

  @Post('reports')
  report(@Body() report: NewReport, @CommandId() id: string): Promise<AttemptView[]> {
    return this.gateways.report(id, report);
  }
}
