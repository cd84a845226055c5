import {
  USUAL_ACCESS,
  USUAL_CAPTURE_DB,
  USUAL_SENSE_MS,
  type Access,
  type ChannelPhysics,
} from '@mistpeak/core/network/channel';
import { RunningChannel } from '@mistpeak/core/network/running-channel';
import { PACKET_THRESHOLD_DBM } from '@mistpeak/core/propagation/reach';
import type { Clock } from '@mistpeak/link/clock';

export const BAUD = 1200;

/** One set on the channel. hear is called at the end of a frame that reached it whole; a set without it only sends. */
export interface RadioSet {
  readonly name: string;
  hear?(frame: Uint8Array): void;
}

/** Who is on core's channel, and who of them has ears: what the stand-ins talk over. */
export class RadioChannel {
  private readonly sets = new Map<string, RadioSet>();
  private readonly running: RunningChannel;

  constructor(
    clock: Clock,
    dice: () => number,
    /** What the receiver hears of the sender now, dBm. */
    private readonly hears: ChannelPhysics['hear'],
  ) {
    this.running = new RunningChannel(
      clock,
      dice,
      BAUD,
      () => this.physics(),
      (by, frame) => this.sets.get(by)?.hear?.(frame),
    );
  }

  attach(set: RadioSet): void {
    this.sets.set(set.name, set);
  }

  /** It is switched off. */
  detach({ name }: RadioSet): void {
    this.sets.delete(name);
  }

  send(from: RadioSet, frame: Uint8Array, access: Access = USUAL_ACCESS): void {
    this.running.send(from.name, frame, access);
  }

  leftovers(): number {
    return this.running.leftovers();
  }

  end(): void {
    this.running.end();
  }

  private physics(): ChannelPhysics {
    return {
      sets: [...this.sets.values()].filter((set) => set.hear !== undefined).map(({ name }) => name),
      hear: this.hears,
      thresholdDbm: PACKET_THRESHOLD_DBM,
      captureDb: USUAL_CAPTURE_DB,
      senseAfterMs: USUAL_SENSE_MS,
    };
  }
}
