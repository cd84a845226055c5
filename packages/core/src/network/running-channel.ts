import { airTimeMs } from '../hdlc/air-time.js';
import {
  QUIET,
  step,
  type Access,
  type ChannelEffect,
  type ChannelEvent,
  type ChannelPhysics,
  type ChannelState,
} from './channel.js';

/** Time as a channel needs it: a timetable, or a real clock. */
export interface ChannelClock {
  nowMs(): number;
  after(ms: number, call: () => void): () => void;
}

/** The channel model with a clock and dice: what simulations and stand-ins talk over. */
export class RunningChannel {
  private readonly frames = new Map<number, Uint8Array>();
  private readonly cancels = new Set<() => void>();
  private state: ChannelState = QUIET;
  private lastId = 0;

  constructor(
    private readonly clock: ChannelClock,
    private readonly dice: () => number,
    private readonly baud: number,
    private readonly physics: () => ChannelPhysics,
    /** Called at the end of a frame, for each set that it reached whole. */
    private readonly received: (by: string, frame: Uint8Array) => void,
  ) {}

  /** Waits for a clear channel and rolls the dice each slot, then sends. */
  send(from: string, frame: Uint8Array, access: Access): void {
    const id = ++this.lastId;
    this.frames.set(id, frame);
    const waiting = { id, from, airTimeMs: airTimeMs(frame, this.baud, access), access };
    this.step({ kind: 'offer', frame: waiting, dice: this.dice() });
  }

  /** Timers still running and frames in the air; end() leaves none. */
  leftovers(): number {
    return this.cancels.size + this.frames.size;
  }

  end(): void {
    for (const cancel of this.cancels) cancel();
    this.cancels.clear();
    this.frames.clear();
    this.state = QUIET;
  }

  private step(event: ChannelEvent): void {
    const [state, effects] = step(this.state, event, this.clock.nowMs(), this.physics());
    this.state = state;
    for (const effect of effects) this.carryOut(effect);
    if (event.kind === 'ended') this.frames.delete(event.id);
  }

  private carryOut(effect: ChannelEffect): void {
    const { id } = effect;
    if (effect.kind === 'slot after')
      this.later(effect.ms, () => this.step({ kind: 'slot', id, dice: this.dice() }));
    else if (effect.kind === 'end after') this.later(effect.ms, () => this.step({ kind: 'ended', id }));
    else if (effect.kind === 'received') this.received(effect.by, this.frames.get(id) as Uint8Array);
  }

  private later(ms: number, call: () => void): void {
    const cancel = this.clock.after(ms, () => {
      this.cancels.delete(cancel);
      call();
    });
    this.cancels.add(cancel);
  }
}
