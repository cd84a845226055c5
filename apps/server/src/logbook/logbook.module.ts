import { Module } from '@nestjs/common';
import { GatewaysModule } from '../gateways/gateways.module.js';
import { LogbookController } from './logbook.controller.js';
import { LogbookService } from './logbook.service.js';
import { MomentsService } from './moments.service.js';
import { StreamService } from './stream.service.js';

@Module({
  imports: [GatewaysModule],
  controllers: [LogbookController],
  providers: [LogbookService, MomentsService, StreamService],
})
export class LogbookModule {}
