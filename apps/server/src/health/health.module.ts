import { Module } from '@nestjs/common';
import { HearingModule } from '../hearing/hearing.module.js';
import { HealthController } from './health.controller.js';
import { HealthService } from './health.service.js';

@Module({ imports: [HearingModule], controllers: [HealthController], providers: [HealthService] })
export class HealthModule {}
