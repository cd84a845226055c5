import 'reflect-metadata';
import type { ChannelHealth } from '@mistpeak/core/listening/channel-health';
import type { WeatherAt } from '@mistpeak/core/listening/weather-outlook';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, Max, Min } from 'class-validator';

const MINUTES = { message: 'from 5 to 1440 minutes' };
const HOURS = { message: 'from 1 to 72 hours' };

export class HealthQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt(MINUTES)
  @Min(5, MINUTES)
  @Max(1440, MINUTES)
  minutes = 60;
}

export class WeatherQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt(HOURS)
  @Min(1, HOURS)
  @Max(72, HOURS)
  hours = 24;
}

/** A weather station's reports, oldest first. */
export interface WeatherOf {
  readonly name: string;
  readonly reports: readonly WeatherAt[];
}

export type { ChannelHealth };
