import { Controller, HttpCode, Param, Post } from '@nestjs/common';
import { RemovalsService } from './removals.service.js';

@Controller('removals')
export class RemovalsController {
  constructor(private readonly removals: RemovalsService) {}

  @Post(':id/back')
  @HttpCode(204)
  bringBack(@Param('id') id: string): Promise<void> {
    return this.removals.bringBack(id);
  }
}
