import { Module } from '@nestjs/common';
import { OperatorModule } from '../operator/operator.module.js';
import { RecordModule } from '../record/record.module.js';
import { WatchStore } from './watch-store.js';
import { WatchController } from './watch.controller.js';
import { WatchService } from './watch.service.js';

@Module({
  imports: [OperatorModule, RecordModule],
  controllers: [WatchController],
  providers: [WatchStore, WatchService],
})
export class WatchModule {}
