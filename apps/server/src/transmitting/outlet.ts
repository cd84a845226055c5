import { drive, type Driven } from '@mistpeak/core/machine/drive';
import {
  IDLE,
  step,
  type Drop,
  type Offered,
  type WayOut,
  type WayOutContext,
  type WayOutEffect,
  type WayOutEvent,
} from '@mistpeak/core/transmitting/way-out';
import type { Clock } from '@mistpeak/link/clock';

/** A frame on its way: what the machine knows of it, and what the wire needs. */
export interface OutletFrame extends Offered {
  readonly port: number;
  readonly raw: Uint8Array;
}

export interface OutletHost {
  readonly clock: Clock;
  /** TXDELAY and tail of the link now, ms. */
  keyingMs(): number;
  /** Throws why this frame may not go out now. */
  permit(frame: OutletFrame): void;
  /** Writes them to the TNC in that order; rejects with LinkFailed. */
  write(frames: readonly OutletFrame[], leftAfterMs: number): Promise<void>;
  /** Written; called before anybody who waits for a frame of it goes on. */
  handed(frames: readonly OutletFrame[]): void;
  /** Ten minutes without a call of ours. */
  identify(): void;
}

interface OnItsWay {
  readonly frame: OutletFrame;
  readonly resolve: (what: 'handed' | Drop) => void;
  readonly reject: (why: unknown) => void;
}

/** The way out of one link in operation. */
export class Outlet {
  private readonly frames = new Map<string, OnItsWay>();
  private readonly machine: Driven<WayOut, WayOutEvent>;

  constructor(private readonly host: OutletHost) {
    this.machine = drive<WayOut, WayOutEvent, WayOutEffect, WayOutContext>(step, IDLE, {
      clock: host.clock,
      context: ({ atMs }) => ({ atMs, keyingMs: host.keyingMs() }),
      perform: (effect) => {
        if (effect.kind === 'hand') void this.hand(effect.ids, effect.leftAfterMs);
        else if (effect.kind === 'drop') this.take(effect.id)?.resolve(effect.why);
        else host.identify();
      },
    });
  }

  /** Resolves when it was written, or with why it never will be; rejects with the refusal of the lock or the wire’s failure. */
  offer(frame: OutletFrame): Promise<'handed' | Drop> {
    return new Promise((resolve, reject) => {
      this.frames.set(frame.id, { frame, resolve, reject });
      this.machine.dispatch({ kind: 'offer', frame });
    });
  }

  tell(event: Exclude<WayOutEvent, { kind: 'offer' | 'timer' }>): void {
    this.machine.dispatch(event);
  }

  state(): WayOut {
    return this.machine.state();
  }

  end(): void {
    this.machine.dispatch({ kind: 'close' });
    this.machine.end();
  }

  private take(id: string): OnItsWay | undefined {
    const one = this.frames.get(id);
    this.frames.delete(id);
    return one;
  }

  private async hand(ids: readonly string[], leftAfterMs: number): Promise<void> {
    const permitted = ids.flatMap((id) => this.take(id) ?? []).filter((one) => this.isPermitted(one));
    const frames = permitted.map(({ frame }) => frame);
    if (frames.length === 0) return;
    try {
      await this.host.write(frames, leftAfterMs);
      this.host.handed(frames);
      for (const { resolve } of permitted) resolve('handed');
    } catch (error) {
      for (const { reject } of permitted) reject(error);
    }
  }

  /** Asked once more at the last moment: the machine may have slept past the lock's hour, or the far end have changed. */
  private isPermitted({ frame, reject }: OnItsWay): boolean {
    try {
      this.host.permit(frame);
      return true;
    } catch (error) {
      reject(error);
      return false;
    }
  }
}
