import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { OperatorController } from './operator.controller.js';
import { OperatorEntity, OwnStationEntity } from './operator.entity.js';
import { OwnStationsController } from './own-stations.controller.js';
import { OwnStationsService } from './own-stations.service.js';
import { OperatorService } from './operator.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([OperatorEntity, OwnStationEntity])],
  controllers: [OperatorController, OwnStationsController],
  providers: [OperatorService, OwnStationsService],
  exports: [OperatorService, OwnStationsService],
})
export class OperatorModule {}
