import { randomUUID } from 'node:crypto';
import { Inject, Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { BACK_FOR_MS, type RemovalView } from '@mistpeak/contract/removals';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';

/** Something that leaves. key: by which its owner hides it meanwhile; a server that is killed in that minute has it still. */
export interface Removal {
  readonly key: string;
  readonly words: string;
  /** It is gone from everybody’s sight, or back in it. */
  readonly changed: () => Promise<void> | void;
  /** Nobody wanted it back. */
  readonly finish: () => Promise<void>;
}

interface Pending {
  readonly removal: Removal;
  readonly view: RemovalView;
  readonly stopWaiting: () => void;
}

/** What is removed is hidden at once and deleted a minute later: until then it can be brought back as it was. */
@Injectable()
export class RemovalsService implements OnModuleInit, OnModuleDestroy {
  private readonly log = new Logger('removals');
  private readonly pending = new Map<string, Pending>();

  constructor(
    private readonly live: LiveService,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.live.contribute('removals', () => this.views());
  }

  async onModuleDestroy(): Promise<void> {
    for (const id of [...this.pending.keys()]) await this.finish(id);
  }

  /** Whether its owner is to hide it. */
  isLeaving(key: string): boolean {
    return [...this.pending.values()].some(({ removal }) => removal.key === key);
  }

  /** Removed twice is removed once. */
  async remove(removal: Removal): Promise<void> {
    if (this.isLeaving(removal.key)) return;
    const id = randomUUID();
    const view = { id, words: removal.words, untilMs: this.clock.nowMs() + BACK_FOR_MS };
    const stopWaiting = this.clock.after(BACK_FOR_MS, () => void this.finish(id));
    this.pending.set(id, { removal, view, stopWaiting });
    try {
      await removal.changed();
    } catch (error) {
      // Whoever was told that it failed must not lose it a minute later.
      this.take(id);
      throw error;
    }
    this.publish();
  }

  async bringBack(id: string): Promise<void> {
    const { removal } = this.take(id) ?? {};
    if (!removal) throw new ProblemException('not-found');
    await removal.changed();
  }

  /** It is there anew: whatever was to happen to it does not. */
  drop(key: string): void {
    const [id] = [...this.pending].find(([, { removal }]) => removal.key === key) ?? [];
    if (id !== undefined) this.take(id);
  }

  private async finish(id: string): Promise<void> {
    const one = this.pending.get(id);
    if (!one) return;
    one.stopWaiting();
    try {
      // Hidden until it is gone: whoever reads meanwhile must not see it come back.
      await one.removal.finish();
    } catch (error) {
      this.log.warn(`${one.view.words} stays: ${String(error)}`);
      this.take(id);
      await Promise.resolve(one.removal.changed()).catch(() => undefined);
      return;
    }
    this.take(id);
  }

  private take(id: string): Pending | undefined {
    const one = this.pending.get(id);
    one?.stopWaiting();
    this.pending.delete(id);
    if (one) this.publish();
    return one;
  }

  private views(): RemovalView[] {
    return [...this.pending.values()].map(({ view }) => view);
  }

  private publish(): void {
    this.live.publish({ kind: 'removals', data: this.views() });
  }
}
