import { Body, Controller, Delete, Get, HttpCode, Param, Put, StreamableFile } from '@nestjs/common';
import { TILE_TYPE, type TileView } from '@mistpeak/contract/elevation';
import { ProblemException } from '../problems/problem.js';
import { ElevationService } from './elevation.service.js';

@Controller('elevation')
export class ElevationController {
  constructor(private readonly elevation: ElevationService) {}

  @Get(':name')
  async octets(@Param('name') name: string): Promise<StreamableFile> {
    return new StreamableFile(await this.elevation.octets(name), { type: TILE_TYPE });
  }

  @Put(':name')
  take(@Param('name') name: string, @Body() octets: unknown): Promise<TileView> {
    if (!(octets instanceof Uint8Array)) throw new ProblemException('not-a-tile');
    return this.elevation.take(name, octets);
  }

  @Delete(':name')
  @HttpCode(204)
  remove(@Param('name') name: string): Promise<void> {
    return this.elevation.remove(name);
  }
}
