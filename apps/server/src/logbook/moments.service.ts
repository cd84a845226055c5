import { randomUUID } from 'node:crypto';
import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import type { Trial } from '@mistpeak/core/chain/record';
import { differences, type Moment } from '@mistpeak/core/logbook/moment';
import type { LiveKind } from '@mistpeak/contract/live';
import type { Comparison } from '@mistpeak/contract/logbook';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { DeferredWrites } from '../database/deferred-writes.js';
import { LiveService } from '../live/live.service.js';
import { momentOf, momentOfTrial } from './moment-facts.js';

/** What may have changed something that a moment holds. */
const CHANGING: ReadonlySet<LiveKind> = new Set([
  'operator',
  'own-stations',
  'kit',
  'chains',
  'tick',
  'link',
  'link-removed',
  'level-results',
  'beacon-ways',
]);
/** Several changes one after the other are one. */
const SETTLED_MS = 3000;

/** Keeps how everything was set, whenever it is otherwise than before. */
@Injectable()
export class MomentsService implements OnApplicationBootstrap, OnModuleDestroy {
  private last: Moment | undefined;
  private cancel: (() => void) | undefined;
  private stopListening: (() => void) | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
    private readonly live: LiveService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const [row]: { facts: Moment }[] = await this.database.query(
      'SELECT facts FROM moment ORDER BY at DESC LIMIT 1',
    );
    this.last = row?.facts;
    this.stopListening = this.live.listen(({ kind }) => {
      if (CHANGING.has(kind)) this.soon();
    });
    this.soon();
  }

  async onModuleDestroy(): Promise<void> {
    this.stopListening?.();
    // What was changed last of all is kept too.
    if (this.cancel) await this.keep();
  }

  /** What is otherwise at the second time than at the first. */
  async compare(fromMs: number, toMs: number): Promise<Comparison> {
    const [kept, to] = [await this.at(fromMs), await this.at(toMs)];
    const tried = kept ? undefined : await this.triedAt(fromMs);
    const from = kept ?? tried;
    return {
      ...(from ? { from: { beginMs: from.at.getTime() } } : {}),
      ...(to ? { to: { beginMs: to.at.getTime() } } : {}),
      ...(tried ? { isOfTrial: true } : {}),
      differences:
        from && to ? differences(from.facts, tried ? alsoIn(to.facts, tried.facts) : to.facts) : [],
    };
  }

  private async at(ms: number): Promise<{ at: Date; facts: Moment } | undefined> {
    const [row]: { at: Date; facts: Moment }[] = await this.database.query(
      'SELECT at, facts FROM moment WHERE at <= $1 ORDER BY at DESC LIMIT 1',
      [new Date(ms).toISOString()],
    );
    return row;
  }

  /** A trial of just that time tells of its parts how they were. */
  private async triedAt(ms: number): Promise<{ at: Date; facts: Moment } | undefined> {
    const [row]: (Pick<Trial, 'items' | 'antenna'> & { at: Date })[] = await this.database.query(
      'SELECT at, items, antenna FROM trial WHERE at >= $1 AND at < $2 ORDER BY at LIMIT 1',
      [new Date(ms).toISOString(), new Date(ms + 1).toISOString()],
    );
    return row && { at: row.at, facts: momentOfTrial(row) };
  }

  private soon(): void {
    this.cancel ??= this.clock.after(SETTLED_MS, () => void this.keep());
  }

  private async keep(): Promise<void> {
    this.cancel?.();
    this.cancel = undefined;
    const now = momentOf(this.live.snapshot());
    const changes = this.last ? differences(this.last, now) : [];
    // Nobody is here yet, or all is as it was.
    if (now.length === 0 || (this.last && changes.length === 0)) return;
    this.last = now;
    await this.deferred.write(
      'INSERT INTO moment (id, at, facts, changes) VALUES ($1, $2, $3::jsonb, $4::jsonb) ON CONFLICT DO NOTHING',
      [
        randomUUID(),
        new Date(this.clock.nowMs()).toISOString(),
        JSON.stringify(now),
        JSON.stringify(changes),
      ],
    );
  }
}

/** Of the later one only what the earlier tells of. */
function alsoIn(later: Moment, earlier: Moment): Moment {
  const keys = new Set(earlier.map(({ area, of, name }) => `${area} ${of} ${name}`));
  return later.filter(({ area, of, name }) => keys.has(`${area} ${of} ${name}`));
}
