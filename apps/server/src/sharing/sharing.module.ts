import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LinksModule } from '../links/links.module.js';
import { TransmittingModule } from '../transmitting/transmitting.module.js';
import { SharingController } from './sharing.controller.js';
import { SharingEntity } from './sharing.entity.js';
import { SharingService } from './sharing.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([SharingEntity]), LinksModule, TransmittingModule],
  controllers: [SharingController],
  providers: [SharingService],
})
export class SharingModule {}
