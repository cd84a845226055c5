import { airTimeMs } from '../hdlc/air-time.js';
import { drive, type Driven, type MachineClock } from '../machine/drive.js';
import {
  QUIET,
  step,
  type Access,
  type ChannelContext,
  type ChannelEffect,
  type ChannelEvent,
  type ChannelPhysics,
  type ChannelState,
} from './channel.js';

/** The channel model with a clock and dice: what simulations and stand-ins talk over. */
export class RunningChannel {
  /** Waiting or in the air. */
  private readonly frames = new Map<number, Uint8Array>();
  private readonly channel: Driven<ChannelState, ChannelEvent>;
  private lastId = 0;

  constructor(
    clock: MachineClock,
    dice: () => number,
    private readonly baud: number,
    physics: () => ChannelPhysics,
    /** Called at the end of a frame, for each set that it reached whole. */
    private readonly received: (by: string, frame: Uint8Array) => void,
  ) {
    this.channel = drive<ChannelState, ChannelEvent, ChannelEffect, ChannelContext>(step, QUIET, {
      clock,
      dice,
      context: (moment) => ({ ...moment, physics: physics() }),
      perform: (effect) => this.carryOut(effect),
    });
  }

  /** Waits for a clear channel and rolls the dice each slot, then sends. */
  send(from: string, frame: Uint8Array, access: Access): void {
    const id = ++this.lastId;
    this.frames.set(id, frame);
    const waiting = { id, from, airTimeMs: airTimeMs(frame, this.baud, access), access };
    this.channel.dispatch({ kind: 'offer', frame: waiting });
  }

  /** Frames waiting or in the air; end() leaves none. */
  leftovers(): number {
    return this.frames.size;
  }

  end(): void {
    this.channel.end();
    this.frames.clear();
  }

  private carryOut(effect: Exclude<ChannelEffect, { kind: 'start' | 'stop' }>): void {
    const { kind, id } = effect;
    if (kind === 'received') this.received(effect.by, this.frames.get(id) as Uint8Array);
    if (kind === 'gone') this.frames.delete(id);
  }
}
