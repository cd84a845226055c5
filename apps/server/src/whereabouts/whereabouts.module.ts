import { Module } from '@nestjs/common';
import { PlacesService } from './places.service.js';
import { WhereaboutsController } from './whereabouts.controller.js';
import { WhereaboutsService } from './whereabouts.service.js';

@Module({
  controllers: [WhereaboutsController],
  providers: [WhereaboutsService, PlacesService],
  exports: [WhereaboutsService],
})
export class WhereaboutsModule {}
