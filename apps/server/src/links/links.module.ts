import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { ProofModule } from '../proof/proof.module.js';
import { LinkEntity } from './link.entity.js';
import { LentWireGateway } from './lent-wire.gateway.js';
import { LinksController } from './links.controller.js';
import { LinksService } from './links.service.js';
import { SoundViewGateway } from './sound-view.gateway.js';
import { PortFinder } from './port-finder.js';

@Module({
  imports: [TypeOrmModule.forFeature([LinkEntity]), ProofModule],
  controllers: [LinksController],
  providers: [LinksService, PortFinder, LentWireGateway, SoundViewGateway],
  exports: [LinksService],
})
export class LinksModule {}
