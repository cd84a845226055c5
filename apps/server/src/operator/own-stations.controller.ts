import { Body, Controller, Delete, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { OwnStationSettings, type OwnStationView } from '@mistpeak/contract/own-station';
import { CommandId } from '../commands/command-id.js';
import { OwnStationsService } from './own-stations.service.js';

@Controller('own-stations')
export class OwnStationsController {
  constructor(private readonly stations: OwnStationsService) {}

  @Post()
  add(@Body() settings: OwnStationSettings, @CommandId() id: string): Promise<OwnStationView> {
    return this.stations.add(settings, id);
  }

  @Put(':id')
  change(
    @Param('id', ParseUUIDPipe) id: string,
    @Body() settings: OwnStationSettings,
  ): Promise<OwnStationView> {
    return this.stations.change(id, settings);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.stations.remove(id);
  }
}
