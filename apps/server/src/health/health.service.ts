import { Inject, Injectable, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import type { HealthView } from '@mistpeak/contract/health';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { DatabaseSession } from '../database/session.js';
import { HearingService } from '../hearing/hearing.service.js';
import { LiveService } from '../live/live.service.js';

/** While the database is away the page shows how much waits in memory, this often. */
const TELL_EVERY_MS = 500;

@Injectable()
export class HealthService implements OnModuleInit, OnModuleDestroy {
  private awaySinceMs: number | undefined;
  private lastTold = '';
  private timer: NodeJS.Timeout | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DatabaseSession,
    private readonly hearing: HearingService,
    private readonly live: LiveService,
  ) {}

  onModuleInit(): void {
    this.live.contribute('health', () => this.view());
    this.database.onState((away) => {
      this.awaySinceMs = away ? this.clock.nowMs() : undefined;
      this.tell();
    });
    this.timer = setInterval(() => {
      if (this.database.away() || this.hearing.store.dropped > 0) this.tell();
    }, TELL_EVERY_MS);
  }

  onModuleDestroy(): void {
    clearInterval(this.timer);
  }

  view(): HealthView {
    const away = this.database.away();
    return {
      database: away ? 'away' : 'here',
      ...(away && this.awaySinceMs !== undefined ? { awaySinceMs: this.awaySinceMs } : {}),
      // What is on its way within its 100 ms is not waiting.
      waiting: away ? this.hearing.store.count() : 0,
      dropped: this.hearing.store.dropped,
    };
  }

  private tell(): void {
    const view = this.view();
    const told = JSON.stringify(view);
    if (told === this.lastTold) return;
    this.lastTold = told;
    this.live.publish({ kind: 'health', data: view });
  }
}
