import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import { decodeAddressField } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { TrafficService } from '../traffic/traffic.service.js';

const MOST_SOURCES = 500;

/** When each link was last heard, and how loud each station last was there. */
@Injectable()
export class ChannelEar implements OnModuleInit {
  private readonly lastUpMs = new Map<string, number>();
  private readonly levels = new Map<string, number>();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly traffic: TrafficService,
  ) {}

  onModuleInit(): void {
    this.traffic.take('mail channel', {
      heard: ({ linkId, origin, raw, measures }) => {
        if (origin === 'capture' || origin === 'internet') return;
        this.lastUpMs.set(linkId, this.clock.upMs());
        const field = decodeAddressField(raw);
        if (measures?.levelDbfs === undefined || isMalformed(field)) return;
        if (this.levels.size >= MOST_SOURCES) this.levels.clear();
        this.levels.set(`${linkId} ${field.source}`, measures.levelDbfs);
      },
    });
  }

  quietMs(linkId: string): number {
    return this.clock.upMs() - (this.lastUpMs.get(linkId) ?? -Infinity);
  }

  levelDbfs(linkId: string, call: string): number | undefined {
    return this.levels.get(`${linkId} ${call}`);
  }
}
