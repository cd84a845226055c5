import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { KitModule } from '../kit/kit.module.js';
import { LinksModule } from '../links/links.module.js';
import { ProofModule } from '../proof/proof.module.js';
import { ChainController, TrialsController } from './chain.controller.js';
import { ChainEntity, SheetTickEntity, TrialEntity } from './chain.entity.js';
import { ChainService } from './chain.service.js';
import { RecordService } from './record.service.js';
import { SheetService } from './sheet.service.js';

@Module({
  imports: [
    TypeOrmModule.forFeature([ChainEntity, SheetTickEntity, TrialEntity]),
    KitModule,
    LinksModule,
    ProofModule,
  ],
  controllers: [ChainController, TrialsController],
  providers: [ChainService, SheetService, RecordService],
})
export class ChainModule {}
