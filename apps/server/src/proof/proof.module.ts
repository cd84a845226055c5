import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { EvidenceEntity } from './evidence.entity.js';
import { ProofController } from './proof.controller.js';
import { ProofService } from './proof.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([EvidenceEntity])],
  controllers: [ProofController],
  providers: [ProofService],
  exports: [ProofService],
})
export class ProofModule {}
