import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { OperatorModule } from '../operator/operator.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { BeaconController } from './beacon.controller.js';
import { BeaconEntity } from './beacon.entity.js';
import { BeaconService } from './beacon.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([BeaconEntity]), OperatorModule, TransmittingModule],
  controllers: [BeaconController],
  providers: [BeaconService],
})
export class BeaconModule {}
