import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LinksModule } from '../links/links.module.js';
import { ProofModule } from '../proof/proof.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { LevelResultEntity } from './level-result.entity.js';
import { LevelsController } from './levels.controller.js';
import { LevelsService } from './levels.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([LevelResultEntity]), LinksModule, ProofModule, TransmittingModule],
  controllers: [LevelsController],
  providers: [LevelsService],
})
export class LevelsModule {}
