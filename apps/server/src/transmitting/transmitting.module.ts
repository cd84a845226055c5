import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { LockService } from './lock.service.js';
import { TransmittingController } from './transmitting.controller.js';
import { EvidenceEntity, TransmissionEntity, TransmitLockEntity } from './transmitting.entity.js';
import { TransmittingService } from './transmitting.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([TransmitLockEntity, TransmissionEntity, EvidenceEntity]),
    LinksModule,
    OperatorModule,
  ],
  controllers: [TransmittingController],
  providers: [LockService, TransmittingService],
  exports: [TransmittingService, LockService],
})
export class TransmittingModule {}
