import { Controller, Delete, Get, HttpCode, Param, Put, Req } from '@nestjs/common';
import type { Request } from 'express';
import { MAP_TYPE, type MapView } from '@mistpeak/contract/maps';
import { WorksWithoutDatabase } from '../database/without-database.guard.js';
import { ProblemException } from '../problems/problem.js';
import { MapsService } from './maps.service.js';

@Controller('maps')
export class MapsController {
  constructor(private readonly maps: MapsService) {}

  @Get()
  @WorksWithoutDatabase()
  look(): Promise<readonly MapView[]> {
    return this.maps.look();
  }

  @Put(':name')
  @WorksWithoutDatabase()
  take(@Param('name') name: string, @Req() request: Request): Promise<MapView> {
    if (!request.is(MAP_TYPE)) throw new ProblemException('not-a-map');
    return this.maps.take(name, request);
  }

  @Delete(':name')
  @HttpCode(204)
  @WorksWithoutDatabase()
  remove(@Param('name') name: string): Promise<void> {
    return this.maps.remove(name);
  }
}
