import { Body, Controller, Get, HttpCode, Post, Put } from '@nestjs/common';
import { BeaconSettings, SendBeacon, type TransmissionView } from '@mistpeak/contract/beacon';
import { BeaconService } from './beacon.service.js';

@Controller('beacon')
export class BeaconController {
  constructor(private readonly beacon: BeaconService) {}

  @Get()
  view(): { beacon: BeaconSettings | null } {
    return { beacon: this.beacon.view() };
  }

  @Put()
  save(@Body() settings: BeaconSettings): Promise<BeaconSettings> {
    return this.beacon.save(settings);
  }

  @Post('transmissions')
  @HttpCode(200)
  send(@Body() request: SendBeacon): Promise<TransmissionView> {
    return this.beacon.send(request);
  }
}
