import { Inject, Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import type { Clock } from '@mistpeak/link/clock';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, Max, Min } from 'class-validator';
import { MoreThanOrEqual, Repository } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { viewOf } from '../transmitting/transmission-log.js';
import { TransmissionEntity } from '../transmitting/transmitting.entity.js';

const DAYS = { message: 'days from 1 to 365' };
const DAY_MS = 86_400_000;
const MOST = 5000;

export class BeaconProofQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt(DAYS)
  @Min(1, DAYS)
  @Max(365, DAYS)
  days = 7;
}

/** Every own beacon of some days with the echoes that came of it. */
@Injectable()
export class BeaconProof {
  constructor(
    @InjectRepository(TransmissionEntity) private readonly rows: Repository<TransmissionEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  async sent(days: number): Promise<TransmissionView[]> {
    const since = new Date(this.clock.nowMs() - days * DAY_MS);
    const rows = await this.rows.find({
      where: { purpose: 'beacon', state: 'handed', queuedAt: MoreThanOrEqual(since) },
      order: { queuedAt: 'DESC' },
      take: MOST,
    });
    return rows.map(viewOf);
  }
}
