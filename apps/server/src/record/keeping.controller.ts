import { Body, Controller, Get, HttpCode, Post, Put } from '@nestjs/common';
import { KeepingSettings, type KeepingView } from '@mistpeak/contract/keeping';
import { KeepingService } from './keeping.service.js';

@Controller('record/keeping')
export class KeepingController {
  constructor(private readonly keeping: KeepingService) {}

  @Get()
  view(): Promise<KeepingView> {
    return this.keeping.view();
  }

  @Put()
  choose(@Body() settings: KeepingSettings): Promise<KeepingView> {
    return this.keeping.choose(settings);
  }

  /** What is too old goes now, and not within the hour. */
  @Post('drop')
  @HttpCode(200)
  async drop(): Promise<{ dropped: number }> {
    return { dropped: await this.keeping.drop() };
  }
}
