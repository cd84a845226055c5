import { Module } from '@nestjs/common';
import { LinksModule } from '../links/links.module.js';
import { RecordController } from './record.controller.js';
import { RecordService } from './record.service.js';

@Module({
  imports: [LinksModule],
  controllers: [RecordController],
  providers: [RecordService],
  exports: [RecordService],
})
export class RecordModule {}
