import { Module } from '@nestjs/common';
import { LinksModule } from '../links/links.module.js';
import { RecordModule } from '../record/record.module.js';
import { ListeningController } from './listening.controller.js';
import { ListeningService } from './listening.service.js';

@Module({
  imports: [LinksModule, RecordModule],
  controllers: [ListeningController],
  providers: [ListeningService],
})
export class ListeningModule {}
