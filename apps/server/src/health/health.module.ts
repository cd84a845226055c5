import { Module } from '@nestjs/common';
import { RecordModule } from '../record/record.module.js';
import { HealthController } from './health.controller.js';
import { HealthService } from './health.service.js';

@Module({ imports: [RecordModule], controllers: [HealthController], providers: [HealthService] })
export class HealthModule {}
