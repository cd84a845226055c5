import { Module } from '@nestjs/common';
import { ElevationController } from './elevation.controller.js';
import { ElevationService } from './elevation.service.js';

@Module({ controllers: [ElevationController], providers: [ElevationService] })
export class ElevationModule {}
