import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { RecordModule } from '../record/record.module.js';
import { TransmissionEntity } from '../transmitting/transmitting.entity.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { WhereaboutsModule } from '../whereabouts/whereabouts.module.js';
import { BeaconProof } from './beacon-proof.js';
import { BeaconWayEntity } from './beacon-way.entity.js';
import { BeaconWaysService } from './beacon-ways.service.js';
import { BeaconController } from './beacon.controller.js';
import { BeaconEntity } from './beacon.entity.js';
import { BeaconService } from './beacon.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([BeaconEntity, BeaconWayEntity, TransmissionEntity]),
    LinksModule,
    OperatorModule,
    RecordModule,
    TransmittingModule,
    WhereaboutsModule,
  ],
  controllers: [BeaconController],
  providers: [BeaconService, BeaconWaysService, BeaconProof],
  exports: [BeaconService],
})
export class BeaconModule {}
