import { Inject, Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { decodeFrame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { NetworkListener, type HeardNetwork } from '@mistpeak/core/path-lab/heard-network';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';

/** As many as are read for one answer; a busy channel has some twenty thousand frames a day. */
const MOST_FRAMES = 100_000;
const HOUR_MS = 3_600_000;

/** What the journal tells of who repeats whom. */
@Injectable()
export class HeardNetworkService {
  constructor(
    private readonly database: DataSource,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  async network(hours: number): Promise<HeardNetwork> {
    const rows: { raw: Buffer; heard_at: Date }[] = await this.database.query(
      `SELECT raw, heard_at FROM (
         SELECT raw, heard_at, id FROM frames
         WHERE heard_at >= $1 AND direction = 'heard' AND line IS NULL AND length(raw) > 15
         ORDER BY heard_at DESC, id DESC LIMIT $2) AS last
       ORDER BY heard_at, id`,
      [new Date(this.clock.nowMs() - hours * HOUR_MS).toISOString(), MOST_FRAMES],
    );
    const listener = new NetworkListener();
    for (const { raw, heard_at } of rows) {
      const frame = decodeFrame(raw);
      if (!isMalformed(frame)) listener.hear(frame, heard_at.getTime());
    }
    return listener.network();
  }
}
