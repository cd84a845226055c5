import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { KitController } from './kit.controller.js';
import { KitItemEntity } from './kit.entity.js';
import { KitService } from './kit.service.js';

@Module({
  imports: [TypeOrmModule.forFeature([KitItemEntity])],
  controllers: [KitController],
  providers: [KitService],
  exports: [KitService],
})
export class KitModule {}
