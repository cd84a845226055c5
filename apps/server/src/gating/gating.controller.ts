import { Body, Controller, Get, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import { GatingSettings, type FillInPreview, type GatingView } from '@mistpeak/contract/gating';
import { FillInService } from './fill-in.service.js';
import { GatingBook } from './gating-book.js';

@Controller('gating')
export class GatingController {
  constructor(
    private readonly book: GatingBook,
    private readonly fillIn: FillInService,
  ) {}

  @Get()
  view(): GatingView {
    return this.book.view();
  }

  @Put('settings')
  choose(@Body() settings: GatingSettings): Promise<GatingView> {
    return this.book.choose(settings);
  }

  @Get('fill-in/:linkId')
  preview(@Param('linkId', ParseUUIDPipe) linkId: string): Promise<FillInPreview> {
    return this.fillIn.preview(linkId);
  }
}
