import { randomUUID } from 'node:crypto';
import { Inject, Injectable, Logger, type OnModuleDestroy } from '@nestjs/common';
import { nextCall } from '@mistpeak/core/mail/schedule';
import { FAILURES } from '@mistpeak/contract/failures';
import type { MailProfile } from '@mistpeak/contract/mail-settings';
import { every, type Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { ProblemException } from '../problems/problem.js';
import { MailPulseService } from './mail-pulse.service.js';
import { MailRunner } from './runner.service.js';
import { MailSettingsService } from './mail-settings.service.js';

const LOOKED_EVERY_MS = 10_000;

/** Calls by itself, where a profile says so: behind the lock like every call, and only on a quiet channel. */
@Injectable()
export class MailScheduler implements OnModuleDestroy {
  private readonly log = new Logger('mail');
  /** When each was last begun, or taken up: ms since 1970. */
  private readonly since = new Map<string, number>();
  /** By profile: why its last call did not begin. */
  private readonly troubles = new Map<string, string>();
  private stop: (() => void) | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly pulse: MailPulseService,
    private readonly runner: MailRunner,
    private readonly settings: MailSettingsService,
  ) {}

  begin(): void {
    this.stop = every(this.clock, LOOKED_EVERY_MS, () => this.look());
  }

  onModuleDestroy(): void {
    this.stop?.();
  }

  /** By profile: when it calls next. */
  next(): Record<string, number> {
    return Object.fromEntries(
      this.settings.view().profiles.flatMap((profile) => {
        const atMs = this.nextOf(profile);
        return atMs === undefined ? [] : [[profile.id, atMs] as const];
      }),
    );
  }

  /** By profile: why it did not call when it was due. */
  trouble(): Record<string, string> {
    return Object.fromEntries(this.troubles);
  }

  private nextOf({ id, schedule }: MailProfile): number | undefined {
    if (!schedule?.isOn) {
      this.since.delete(id);
      return undefined;
    }
    if (!this.since.has(id)) this.since.set(id, this.clock.nowMs());
    return nextCall(schedule, this.since.get(id) ?? 0);
  }

  private look(): void {
    for (const profile of this.settings.view().profiles) {
      const atMs = this.nextOf(profile);
      if (atMs === undefined || atMs > this.clock.nowMs() || this.runner.isUnderWay()) continue;
      this.since.set(profile.id, this.clock.nowMs());
      this.runner
        .start(randomUUID(), { profileId: profile.id }, true)
        .then(() => this.troubles.delete(profile.id))
        .catch((error: unknown) => {
          const words = error instanceof ProblemException ? FAILURES[error.reason].happened : String(error);
          this.troubles.set(profile.id, words);
          this.log.warn(`${profile.name} did not call: ${words}`);
          return this.pulse.tell();
        });
    }
  }
}
