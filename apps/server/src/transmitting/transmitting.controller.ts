import { Body, Controller, Delete, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import type { LockView } from '@mistpeak/contract/link';
import { ArmLink } from '@mistpeak/contract/transmitting';
import { DoneEvenLate } from '../commands/done-even-late.js';
import { WorksWithoutDatabase } from '../database/without-database.guard.js';
import { LockService } from './lock.service.js';

@Controller('links/:id/lock')
export class TransmittingController {
  constructor(private readonly lock: LockService) {}

  /** Arms the transmitter of this link for one call. */
  @Put()
  arm(@Param('id', ParseUUIDPipe) id: string, @Body() { call, instead }: ArmLink): Promise<LockView> {
    return this.lock.arm(id, call, instead ?? false);
  }

  @WorksWithoutDatabase()
  @DoneEvenLate()
  @Delete()
  disarm(@Param('id', ParseUUIDPipe) id: string): Promise<LockView> {
    return this.lock.disarm(id);
  }
}
