import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Query } from '@nestjs/common';
import { Type } from 'class-transformer';
import { IsNumber, IsOptional, Max, Min } from 'class-validator';
import type { HeardNetwork } from '@mistpeak/core/path-lab/heard-network';
import { SiteImport, SiteSettings, type SiteView } from '@mistpeak/contract/path-lab';
import { HeardNetworkService } from './heard-network.service.js';
import { SitesService } from './sites.service.js';

const HOURS = { message: 'hours from 1 to 720' };

class NetworkQuery {
  @IsOptional()
  @Type(() => Number)
  @IsNumber({}, HOURS)
  @Min(1, HOURS)
  @Max(720, HOURS)
  hours = 24;
}

@Controller('path-lab')
export class PathLabController {
  constructor(
    private readonly sites: SitesService,
    private readonly heard: HeardNetworkService,
  ) {}

  /** Who repeats whom, as the journal of the last hours tells. */
  @Get('network')
  network(@Query() { hours }: NetworkQuery): Promise<HeardNetwork> {
    return this.heard.network(hours);
  }

  @Put('sites')
  save(@Body() site: SiteSettings): Promise<SiteView> {
    return this.sites.save(site);
  }

  @Post('sites/import')
  @HttpCode(200)
  take(@Body() { sites }: SiteImport): Promise<readonly SiteView[]> {
    return this.sites.take(sites);
  }

  @Delete('sites/:call')
  @HttpCode(204)
  remove(@Param('call') call: string): Promise<void> {
    return this.sites.remove(call);
  }
}
