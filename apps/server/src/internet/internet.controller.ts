import { Body, Controller, Get, Put } from '@nestjs/common';
import { InternetSettings, type InternetView } from '@mistpeak/contract/internet';
import { InternetService } from './internet.service.js';

@Controller('internet')
export class InternetController {
  constructor(private readonly internet: InternetService) {}

  @Get()
  view(): InternetView {
    return this.internet.view();
  }

  @Put('settings')
  choose(@Body() settings: InternetSettings): Promise<InternetView> {
    return this.internet.choose(settings);
  }
}
