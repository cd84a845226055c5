import { Module } from '@nestjs/common';
import { DepartureModule } from '../departure/departure.module.js';
import { TrueTimeController } from './true-time.controller.js';
import { TrueTimeService } from './true-time.service.js';

@Module({
  imports: [DepartureModule],
  controllers: [TrueTimeController],
  providers: [TrueTimeService],
  exports: [TrueTimeService],
})
export class TrueTimeModule {}
