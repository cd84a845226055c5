import { Body, Controller, HttpCode, Inject, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { TickRung } from '@mistpeak/contract/proof';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { ProofService } from './proof.service.js';

@Controller('links/:id/evidence')
export class ProofController {
  constructor(
    private readonly proof: ProofService,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  /** The operator saw it. */
  @Post()
  @HttpCode(204)
  tick(@Param('id', ParseUUIDPipe) linkId: string, @Body() { rung }: TickRung): Promise<void> {
    const words = 'the operator saw the radio transmit';
    return this.proof.record({ linkId, rung, atMs: this.clock.nowMs(), kind: 'tick', words });
  }
}
