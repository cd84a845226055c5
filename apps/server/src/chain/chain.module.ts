import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LinksModule } from '../links/links.module.js';
import { ChainController } from './chain.controller.js';
import { ChainEntity } from './chain.entity.js';
import { ChainService } from './chain.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([ChainEntity]), LinksModule],
  controllers: [ChainController],
  providers: [ChainService],
})
export class ChainModule {}
