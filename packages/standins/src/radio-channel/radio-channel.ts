import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import type { Clock } from '@mistpeak/link/clock';

export const BAUD = 1200;

/** One set on the channel. hear is called at the end of a frame that reached it whole. */
export interface RadioSet {
  readonly name: string;
  hear(frame: Uint8Array): void;
}

/** How a set gets on the air; the KISS paper's p-persistent access. */
export interface Access {
  readonly txDelayMs: number;
  readonly persistence: number;
  readonly slotTimeMs: number;
  readonly txTailMs: number;
}

export const USUAL_ACCESS: Access = { txDelayMs: 300, persistence: 0.25, slotTimeMs: 100, txTailMs: 30 };

interface Transmission {
  readonly from: RadioSet;
  readonly startMs: number;
  readonly endMs: number;
}

/**
 * A half-duplex radio channel at frame level: true air time, carrier sense, p-persistence, collisions.
 * hears tells who receives whom; two frames that overlap at a receiver are both lost there (no capture).
 */
export class RadioChannel {
  private readonly sets: RadioSet[] = [];
  private onAir: Transmission[] = [];
  private readonly cancels = new Set<() => void>();

  constructor(
    private readonly clock: Clock,
    private readonly dice: () => number,
    private readonly hears: (receiver: string, sender: string) => boolean,
  ) {}

  attach(set: RadioSet): void {
    this.sets.push(set);
  }

  /** Waits for a clear channel and rolls the dice each slot, then sends. */
  send(from: RadioSet, frame: Uint8Array, access: Access = USUAL_ACCESS): void {
    if (!this.isBusyFor(from) && this.dice() < access.persistence) this.transmit(from, frame, access);
    else this.later(access.slotTimeMs, () => this.send(from, frame, access));
  }

  /** Timers still running and frames in the air; end() leaves none. */
  leftovers(): number {
    return this.cancels.size;
  }

  end(): void {
    for (const cancel of this.cancels) cancel();
    this.cancels.clear();
  }

  private isBusyFor(set: RadioSet): boolean {
    const nowMs = this.clock.nowMs();
    return this.onAir.some(
      ({ from, endMs }) => endMs > nowMs && (from === set || this.hears(set.name, from.name)),
    );
  }

  private transmit(from: RadioSet, frame: Uint8Array, access: Access): void {
    const startMs = this.clock.nowMs();
    const durationMs = airTimeMs(frame, BAUD, access);
    const transmission = { from, startMs, endMs: startMs + durationMs };
    this.onAir.push(transmission);
    this.later(durationMs, () => {
      for (const set of this.sets) if (set !== from && this.reaches(transmission, set)) set.hear(frame);
      this.forget();
    });
  }

  private reaches(transmission: Transmission, set: RadioSet): boolean {
    if (!this.hears(set.name, transmission.from.name)) return false;
    return !this.onAir.some(
      (other) =>
        other !== transmission &&
        other.startMs < transmission.endMs &&
        other.endMs > transmission.startMs &&
        (other.from === set || this.hears(set.name, other.from.name)),
    );
  }

  /** A transmission that ended before every one still running began can disturb nothing more. */
  private forget(): void {
    const nowMs = this.clock.nowMs();
    const running = this.onAir.filter(({ endMs }) => endMs > nowMs);
    const earliest = Math.min(nowMs, ...running.map(({ startMs }) => startMs));
    this.onAir = this.onAir.filter(({ endMs }) => endMs > earliest);
  }

  private later(ms: number, call: () => void): void {
    const cancel = this.clock.after(ms, () => {
      this.cancels.delete(cancel);
      call();
    });
    this.cancels.add(cancel);
  }
}
