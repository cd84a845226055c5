import { Module } from '@nestjs/common';
import { OperatorModule } from '../operator/operator.module.js';
import { RecordModule } from '../record/record.module.js';
import { SearchController } from './search.controller.js';
import { SearchService } from './search.service.js';
import { StretchesService } from './stretches.service.js';

@Module({
  imports: [OperatorModule, RecordModule],
  controllers: [SearchController],
  providers: [SearchService, StretchesService],
})
export class SearchModule {}
