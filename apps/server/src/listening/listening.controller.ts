import { Controller, Get, Param, ParseUUIDPipe, Query } from '@nestjs/common';
import type { ChannelHealth } from '@mistpeak/core/listening/channel-health';
import { HealthQuery, WeatherQuery, type WeatherOf } from '@mistpeak/contract/listening';
import { ListeningService } from './listening.service.js';

@Controller('listening')
export class ListeningController {
  constructor(private readonly listening: ListeningService) {}

  @Get('health/:linkId')
  health(
    @Param('linkId', ParseUUIDPipe) linkId: string,
    @Query() { minutes }: HealthQuery,
  ): Promise<ChannelHealth> {
    return this.listening.health(linkId, minutes);
  }

  @Get('weather')
  weather(@Query() { hours }: WeatherQuery): Promise<readonly WeatherOf[]> {
    return this.listening.weather(hours);
  }
}
