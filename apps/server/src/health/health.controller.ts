import { Controller, Get } from '@nestjs/common';
import type { HealthView } from '@mistpeak/contract/health';
import { HealthService } from './health.service.js';

@Controller('health')
export class HealthController {
  constructor(private readonly health: HealthService) {}

  @Get()
  view(): HealthView {
    return this.health.view();
  }
}
