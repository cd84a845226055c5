import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Query,
} from '@nestjs/common';
import {
  BeaconSettings,
  SayFrequency,
  SendBeacon,
  type BeaconView,
  type TransmissionView,
} from '@mistpeak/contract/beacon';
import { BeaconTest, BeaconWaySettings, type BeaconWayView } from '@mistpeak/contract/beacon-ways';
import { CommandId } from '../commands/command-id.js';
import { BeaconProof, BeaconProofQuery } from './beacon-proof.js';
import { BeaconService } from './beacon.service.js';
import { BeaconWaysService } from './beacon-ways.service.js';

@Controller('beacon')
export class BeaconController {
  constructor(
    private readonly beacon: BeaconService,
    private readonly ways: BeaconWaysService,
    private readonly proof: BeaconProof,
  ) {}

  @Get()
  view(): { beacon: BeaconView | null } {
    return { beacon: this.beacon.view() };
  }

  @Put()
  save(@Body() settings: BeaconSettings): Promise<BeaconView> {
    return this.beacon.save(settings);
  }

  /** The voice frequency, given anew. */
  @Put('frequency')
  say(@Body() { frequency }: SayFrequency): Promise<BeaconView> {
    return this.beacon.say(frequency);
  }

  /** What became of the beacons of the last days, newest first. */
  @Get('proof')
  sent(@Query() { days }: BeaconProofQuery): Promise<TransmissionView[]> {
    return this.proof.sent(days);
  }

  @Post('ways')
  addWay(@Body() settings: BeaconWaySettings, @CommandId() id: string): Promise<BeaconWayView> {
    return this.ways.add(settings, id);
  }

  @Put('ways/:id')
  changeWay(
    @Param('id', ParseUUIDPipe) id: string,
    @Body() settings: BeaconWaySettings,
  ): Promise<BeaconWayView> {
    return this.ways.change(id, settings);
  }

  @Delete('ways/:id')
  @HttpCode(204)
  removeWay(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.ways.remove(id);
  }

  @Post('ways/:id/test')
  @HttpCode(200)
  test(@Param('id', ParseUUIDPipe) id: string, @Body() test: BeaconTest): BeaconWayView {
    return this.ways.test(id, test);
  }

  @Post('transmissions')
  @HttpCode(200)
  send(@Body() request: SendBeacon, @CommandId() id: string): Promise<TransmissionView> {
    return this.beacon.send({ id, ...request });
  }
}
