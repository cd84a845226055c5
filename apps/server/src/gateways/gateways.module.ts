import { Module } from '@nestjs/common';
import { GatewaysStore } from './gateways-store.js';
import { GatewaysController } from './gateways.controller.js';
import { GatewaysService } from './gateways.service.js';

@Module({
  controllers: [GatewaysController],
  providers: [GatewaysStore, GatewaysService],
  exports: [GatewaysService],
})
export class GatewaysModule {}
