import { Inject, Injectable, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import type { HealthView } from '@mistpeak/contract/health';
import { every, type Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { DeferredWrites } from '../database/deferred-writes.js';
import { DatabaseSession } from '../database/session.js';
import { hasSpace } from '../database/space.js';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { RecordService } from '../record/record.service.js';
import { LiveService } from '../live/live.service.js';

/** While something is wrong the page shows how much waits in memory, this often. */
const TELL_EVERY_MS = 500;

@Injectable()
export class HealthService implements OnModuleInit, OnModuleDestroy {
  private sinceMs: number | undefined;
  private lastTold = '';
  private stopTelling = (): void => undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    @Inject(CONFIGURATION) private readonly configuration: Configuration,
    private readonly database: DatabaseSession,
    private readonly deferred: DeferredWrites,
    private readonly record: RecordService,
    private readonly live: LiveService,
  ) {}

  onModuleInit(): void {
    this.live.contribute('health', () => this.view());
    this.database.onState(() => this.tell());
    this.stopTelling = every(this.clock, TELL_EVERY_MS, () => this.tell());
  }

  onModuleDestroy(): void {
    this.stopTelling();
  }

  view(): HealthView {
    const { store, refused, restored } = this.record;
    const { database, detail } = this.state();
    const isWell = database === 'here';
    this.sinceMs = isWell ? undefined : (this.sinceMs ?? this.clock.nowMs());
    return {
      database,
      ...(this.sinceMs === undefined ? {} : { sinceMs: this.sinceMs }),
      ...(detail === undefined ? {} : { detail }),
      // What is on its way within its 100 ms is not waiting.
      waiting: isWell ? 0 : store.count() + this.deferred.count(),
      dropped: store.dropped,
      droppedOf: [...store.droppedOf],
      refused,
      restored,
    };
  }

  private state(): Pick<HealthView, 'database' | 'detail'> {
    const failed = this.record.store.trouble;
    // A full disk also stops the database itself: then it is only seen as gone.
    const isGone = this.database.away() || failed?.trouble === 'away' || failed?.trouble === 'silent';
    if (failed?.trouble === 'full' || (isGone && !hasSpace(this.configuration.dataFolder)))
      return { database: 'full' };
    if (isGone) return { database: 'away' };
    return failed ? { database: 'refuses', detail: failed.detail } : { database: 'here' };
  }

  private tell(): void {
    const view = this.view();
    const told = JSON.stringify(view);
    if (told === this.lastTold) return;
    this.lastTold = told;
    this.live.publish({ kind: 'health', data: view });
  }
}
