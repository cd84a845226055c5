import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HeardNetworkService } from './heard-network.service.js';
import { PathLabController } from './path-lab.controller.js';
import { SiteEntity } from './site.entity.js';
import { SitesService } from './sites.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([SiteEntity])],
  controllers: [PathLabController],
  providers: [SitesService, HeardNetworkService],
})
export class PathLabModule {}
