import { Body, Controller, Delete, HttpCode, Inject, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { ChainSettings, TickSettings, type ChainView, type TickView } from '@mistpeak/contract/chain';
import { TickChainRung } from '@mistpeak/contract/proof';
import { TrialSettings, type TrialView } from '@mistpeak/contract/record';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { CommandId } from '../commands/command-id.js';
import { ProofService } from '../proof/proof.service.js';
import { ChainService } from './chain.service.js';
import { RecordService } from './record.service.js';
import { SheetService } from './sheet.service.js';

@Controller('chains')
export class ChainController {
  constructor(
    private readonly chains: ChainService,
    private readonly sheet: SheetService,
    private readonly record: RecordService,
    private readonly proof: ProofService,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  @Post()
  add(@Body() settings: ChainSettings, @CommandId() id: string): Promise<ChainView> {
    return this.chains.add(settings, id);
  }

  @Put(':id')
  save(@Param('id', ParseUUIDPipe) id: string, @Body() settings: ChainSettings): Promise<ChainView> {
    return this.chains.change(id, settings);
  }

  @Put(':id/bench')
  putOnBench(@Param('id', ParseUUIDPipe) id: string): Promise<ChainView> {
    return this.chains.putOnBench(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.chains.remove(id);
  }

  @Post(':id/ticks')
  tick(@Param('id', ParseUUIDPipe) id: string, @Body() settings: TickSettings): Promise<TickView> {
    return this.sheet.tick(id, settings);
  }

  @Post(':id/trials')
  addTrial(
    @Param('id', ParseUUIDPipe) id: string,
    @Body() settings: TrialSettings,
    @CommandId() trialId: string,
  ): Promise<TrialView> {
    return this.record.add(id, settings, trialId);
  }

  /** What the operator saw at the end that Mistpeak cannot see. */
  @Post(':id/evidence')
  @HttpCode(204)
  async tickRung(@Param('id', ParseUUIDPipe) id: string, @Body() { rung }: TickChainRung): Promise<void> {
    this.chains.view(id); // refuses a chain that is not there
    await this.proof.record({
      chainId: id,
      rung,
      atMs: this.clock.nowMs(),
      kind: 'tick',
      words: 'the operator saw it',
    });
  }
}

@Controller('trials')
export class TrialsController {
  constructor(private readonly record: RecordService) {}

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.record.remove(id);
  }
}
