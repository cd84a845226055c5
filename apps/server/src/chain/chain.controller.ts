import { Body, Controller, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import { ChainSettings, type ChainView } from '@mistpeak/contract/chain';
import { ChainService } from './chain.service.js';

@Controller('links/:id/chain')
export class ChainController {
  constructor(private readonly chain: ChainService) {}

  @Put()
  save(@Param('id', ParseUUIDPipe) id: string, @Body() settings: ChainSettings): Promise<ChainView> {
    return this.chain.save(id, settings);
  }
}
