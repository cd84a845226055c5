import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { ProofModule } from '../proof/proof.module.js';
import { LockService } from './lock.service.js';
import { TransmissionLog } from './transmission-log.js';
import { TransmittingController } from './transmitting.controller.js';
import { TransmissionEntity, TransmitLockEntity } from './transmitting.entity.js';
import { TransmittingService } from './transmitting.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([TransmitLockEntity, TransmissionEntity]),
    LinksModule,
    OperatorModule,
    ProofModule,
  ],
  controllers: [TransmittingController],
  providers: [LockService, TransmissionLog, TransmittingService],
  exports: [TransmittingService, LockService],
})
export class TransmittingModule {}
