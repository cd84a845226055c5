import { Module } from '@nestjs/common';
import { TrueTimeModule } from '../true-time/true-time.module.js';
import { PlacesService } from './places.service.js';
import { WhereaboutsController } from './whereabouts.controller.js';
import { WhereaboutsService } from './whereabouts.service.js';

@Module({
  imports: [TrueTimeModule],
  controllers: [WhereaboutsController],
  providers: [WhereaboutsService, PlacesService],
  exports: [WhereaboutsService],
})
export class WhereaboutsModule {}
