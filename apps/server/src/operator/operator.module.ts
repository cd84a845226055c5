import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { OperatorController } from './operator.controller.js';
import { OperatorEntity, OwnStationEntity } from './operator.entity.js';
import { OperatorService } from './operator.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([OperatorEntity, OwnStationEntity])],
  controllers: [OperatorController],
  providers: [OperatorService],
  exports: [OperatorService],
})
export class OperatorModule {}
