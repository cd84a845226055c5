import { Body, Controller, Delete, Get, HttpCode, Post, Put } from '@nestjs/common';
import { TickCheck, type DepartureView } from '@mistpeak/contract/departure';
import { DepartureService } from './departure.service.js';

@Controller('departure')
export class DepartureController {
  constructor(private readonly departure: DepartureService) {}

  @Get()
  view(): DepartureView {
    return this.departure.view();
  }

  @Put('ticks')
  tick(@Body() tick: TickCheck): Promise<DepartureView> {
    return this.departure.tick(tick);
  }

  @Delete('ticks')
  clear(): Promise<DepartureView> {
    return this.departure.clear();
  }

  @Post('power-cut')
  @HttpCode(200)
  askCut(): Promise<DepartureView> {
    return this.departure.askCut();
  }

  @Delete('power-cut')
  giveUpCut(): Promise<DepartureView> {
    return this.departure.giveUpCut();
  }
}
