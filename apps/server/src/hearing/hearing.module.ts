import { Module } from '@nestjs/common';
import { ProofModule } from '../proof/proof.module.js';
import { LinksModule } from '../links/links.module.js';
import { StationsModule } from '../stations/stations.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { HearingController } from './hearing.controller.js';
import { HearingService } from './hearing.service.js';

@Module({
  imports: [ProofModule, LinksModule, TransmittingModule, StationsModule],
  controllers: [HearingController],
  providers: [HearingService],
  exports: [HearingService],
})
export class HearingModule {}
