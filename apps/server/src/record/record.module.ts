import { Module } from '@nestjs/common';
import { LinksModule } from '../links/links.module.js';
import { OperatorModule } from '../operator/operator.module.js';
import { KeepingController } from './keeping.controller.js';
import { KeepingService } from './keeping.service.js';
import { RecordController } from './record.controller.js';
import { RecordService } from './record.service.js';

@Module({
  imports: [LinksModule, OperatorModule],
  controllers: [KeepingController, RecordController],
  providers: [KeepingService, RecordService],
  exports: [RecordService],
})
export class RecordModule {}
