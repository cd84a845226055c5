import { Body, Controller, Get, HttpCode, Post, Put } from '@nestjs/common';
import {
  BeaconSettings,
  SendBeacon,
  type BeaconView,
  type TransmissionView,
} from '@mistpeak/contract/beacon';
import { CommandId } from '../commands/command-id.js';
import { BeaconService } from './beacon.service.js';

@Controller('beacon')
export class BeaconController {
  constructor(private readonly beacon: BeaconService) {}

  @Get()
  view(): { beacon: BeaconView | null } {
    return { beacon: this.beacon.view() };
  }

  @Put()
  save(@Body() settings: BeaconSettings): Promise<BeaconView> {
    return this.beacon.save(settings);
  }

  @Post('transmissions')
  @HttpCode(200)
  send(@Body() request: SendBeacon, @CommandId() id: string): Promise<TransmissionView> {
    return this.beacon.send({ id, ...request });
  }
}
