import { randomUUID } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import type { LiveEvent, LivePayload, Snapshot } from '@mistpeak/contract/live';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';

/** How many events are kept for pages that were away for a moment. */
const KEPT = 2000;

type Parts = { [Key in keyof Omit<Snapshot, 'nowMs'>]: () => Snapshot[Key] };
type Listener = (event: LiveEvent) => void;

/** Numbered events to any number of pages, the last ones kept; a page further behind gets a snapshot. */
@Injectable()
export class LiveService {
  /** Another start of the server is another epoch: numbers of the one say nothing in the other. */
  private readonly epoch = randomUUID();
  private seq = 0;
  private readonly kept: LiveEvent[] = [];
  private readonly listeners = new Set<Listener>();
  private readonly parts: Partial<Parts> = {};

  constructor(@Inject(CLOCK) private readonly clock: Clock) {}

  /** Each module gives its own part of the snapshot. */
  contribute<Key extends keyof Parts>(key: Key, part: Parts[Key]): void {
    (this.parts as Parts)[key] = part;
  }

  publish(payload: LivePayload): void {
    const event = { ...payload, seq: ++this.seq, epoch: this.epoch } as LiveEvent;
    // A ring by number: the event that leaves is the one that the new one overwrites.
    this.kept[this.seq % KEPT] = event;
    for (const listener of this.listeners) listener(event);
  }

  /** Everything anew to every page, after a change too big to tell piece by piece. */
  refresh(): void {
    this.publish({ kind: 'snapshot', data: this.snapshot() });
  }

  /** What a page needs that saw everything up to `since` of `epoch`: the events after it, or a snapshot. */
  catchUp(epoch: string | null, since: number): LiveEvent[] {
    if (epoch === this.epoch && since <= this.seq && since >= this.seq - KEPT)
      return Array.from(
        { length: this.seq - since },
        (_, i) => this.kept[(since + 1 + i) % KEPT] as LiveEvent,
      );
    return [{ kind: 'snapshot', seq: this.seq, epoch: this.epoch, data: this.snapshot() }];
  }

  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Everything as it is now. */
  snapshot(): Snapshot {
    const parts = Object.entries(this.parts).map(([key, part]) => [key, part()] as const);
    return { ...(Object.fromEntries(parts) as Omit<Snapshot, 'nowMs'>), nowMs: this.clock.nowMs() };
  }
}
