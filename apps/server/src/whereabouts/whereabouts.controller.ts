import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import {
  PagePosition,
  PlaceLabel,
  ReceiverSettings,
  type PlaceLabelView,
  type PlaceYield,
  type WhereaboutsView,
} from '@mistpeak/contract/whereabouts';
import { CommandId } from '../commands/command-id.js';
import { WorksWithoutDatabase } from '../database/without-database.guard.js';
import { PlacesService } from './places.service.js';
import { WhereaboutsService } from './whereabouts.service.js';

@Controller()
export class WhereaboutsController {
  constructor(
    private readonly whereabouts: WhereaboutsService,
    private readonly places: PlacesService,
  ) {}

  @Put('whereabouts/receiver')
  choose(@Body() settings: ReceiverSettings): Promise<WhereaboutsView> {
    return this.whereabouts.choose(settings);
  }

  @WorksWithoutDatabase()
  @Post('whereabouts/page')
  @HttpCode(204)
  tell(@Body() position: PagePosition): void {
    this.whereabouts.tell(position);
  }

  @Post('places')
  add(@Body() place: PlaceLabel, @CommandId() id: string): Promise<PlaceLabelView> {
    return this.places.save(id, place);
  }

  @Get('places/yields')
  yields(): Promise<PlaceYield[]> {
    return this.places.yields();
  }

  @Put('places/:id')
  save(@Param('id', ParseUUIDPipe) id: string, @Body() place: PlaceLabel): Promise<PlaceLabelView> {
    return this.places.save(id, place);
  }

  @Delete('places/:id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.places.remove(id);
  }

  @Post('places/:id/visits')
  @HttpCode(200)
  come(@Param('id', ParseUUIDPipe) id: string, @CommandId() visitId: string): Promise<PlaceLabelView> {
    return this.places.visit(id, true, visitId);
  }

  @Post('places/:id/leave')
  @HttpCode(200)
  leave(@Param('id', ParseUUIDPipe) id: string, @CommandId() visitId: string): Promise<PlaceLabelView> {
    return this.places.visit(id, false, visitId);
  }
}
