import { airTimeMs } from '../hdlc/air-time.js';
import { hasGoodFcs, withFcs } from '../hdlc/fcs.js';
import { repeatByName } from '../digipeating/digipeater.js';
import { drive, type Driven } from '../machine/drive.js';
import { USUAL_CAPTURE_DB, USUAL_SENSE_MS, type Access } from '../network/channel.js';
import { seededDice } from '../network/dice.js';
import { RunningChannel } from '../network/running-channel.js';
import { Timetable } from '../network/timetable.js';
import {
  disconnectedSession,
  type SessionContext,
  type SessionEffect,
  type SessionEvent,
  type SessionOptions,
  type SessionState,
} from '../sessions/session.js';
import { step } from '../sessions/step.js';
import { usualTimers } from '../sessions/timers.js';
import { Witness, type Findings } from './witness.js';

/**
 * A trial of two ends over one half-duplex channel, from a seed: p-persistent access and true air time (core/network),
 * loss, duplication, corruption caught by the FCS, reordering by digipeaters, a hidden station, busy ends, older stations,
 * calls from both sides at once. The same seed is the same trial.
 */
export interface TrialPlan {
  readonly seed: number;
  readonly via: readonly string[];
  /** Chance that a frame is lost on a leg; and that a bit is, which loses its frame. */
  readonly loss: number;
  readonly bitErrors: number;
  readonly doubling: number;
  readonly delaying: number;
  readonly damage: number;
  readonly hidden: boolean;
  readonly octets: readonly [number, number];
  /** Octets handed over at once: an operator's line, a block of mail. */
  readonly portion: number;
  readonly busy: boolean;
  readonly bothCall: boolean;
  /** Hang up after so long, whatever has passed; else when all was confirmed. */
  readonly abruptAfterMs: number | undefined;
  readonly ends: readonly [SessionOptions, SessionOptions];
}

const BAUD = 1200;
const ACCESS: Access = { txDelayMs: 250, persistence: 0.25, slotTimeMs: 100, txTailMs: 20 };
const CALLS = ['QH4MPK', 'QH2HUT-1'] as const;
const DIGIPEATERS = ['QH1ANR', 'QH1TOP'];
const HIDDEN = 'QH7CTA-9';
const THRESHOLD_DBM = -115;
const [HEARD_DBM, UNHEARD_DBM] = [-80, -140];
const HIDDEN_EVERY_MS = 8000;
/** Much more than N2 times the longest T1 on both sides. */
const LONGEST_TRIAL_MS = 3 * 3_600_000;
const GIVE_UP_MS = 40 * 60_000;

/** The conditions of a trial, drawn from its seed. */
export function planTrial(seed: number): TrialPlan {
  const dice = seededDice(seed);
  const pick = <T>(...choices: readonly T[]): T => choices[Math.floor(dice() * choices.length)] as T;
  const via = DIGIPEATERS.slice(0, pick(0, 0, 0, 1, 1, 2));
  const severity = pick(0, 0.3, 1);
  const selective = pick(true, false);
  const packetOctets = pick(32, 64, 128, 256);
  const end = (i: 0 | 1): SessionOptions => {
    const window8 = selective ? pick(1, 2, 4, 4) : pick(1, 2, 4, 4, 7);
    const window128 = pick(4, 8, 32);
    const terms = {
      baud: BAUD,
      txDelayMs: ACCESS.txDelayMs,
      packetOctets,
      window: window8,
      digipeaters: via.length,
    };
    return {
      own: CALLS[i],
      peer: CALLS[1 - i] as string,
      via: i === 0 ? via : [...via].reverse(),
      packetOctets,
      window8,
      window128,
      retries: 10,
      ...usualTimers(terms),
      extended: pick(true, false, false),
      selective,
      accepts: true,
      negotiates: true,
    };
  };
  return {
    seed,
    via,
    loss: severity * dice() * 0.2,
    bitErrors: 0,
    doubling: severity * dice() * 0.05,
    delaying: severity * dice() * 0.1,
    damage: severity * dice() * 0.08,
    hidden: dice() < 0.25,
    octets: [4 * Math.floor(dice() * 500), 4 * Math.floor(dice() * 250)],
    portion: 400,
    busy: dice() < 0.2,
    bothCall: dice() < 0.15,
    abruptAfterMs: dice() < 0.1 ? dice() * 120_000 : undefined,
    ends: [end(0), end(1)],
  };
}

/**
 * The longest that a copy may be late on one leg, so that the numbers cannot have gone round meanwhile: V(R) moves on by one
 * with each frame, which takes at least the air time of an empty one; where frames are kept ahead of their turn it may
 * jump by a window. Half of it is left for the queues of the digipeaters.
 */
function latestMs({ ends, via }: TrialPlan): number {
  const free = ends.map(({ window8, selective }) => 8 - (selective ? 2 * window8 - 1 : window8));
  // Within one transmission frames follow without TXDELAY.
  const empty = airTimeMs(new Uint8Array(7 * (2 + via.length) + 2), BAUD);
  return (Math.min(...free) * empty) / (via.length + 1) / 2;
}

type Session = Driven<SessionState, SessionEvent>;

/** The whole world of one trial. */
class Trial {
  private readonly table = new Timetable();
  private readonly dice: () => number;
  private readonly ends: readonly [Session, Session];
  private readonly witness: Witness;
  private readonly channel: RunningChannel;
  private readonly order: readonly string[];
  private hangingUp = false;

  constructor(private readonly plan: TrialPlan) {
    this.dice = seededDice(plan.seed ^ 0x5eed);
    this.ends = [this.end(0), this.end(1)];
    this.witness = new Witness(plan.octets, plan.portion, (i, octets) =>
      this.event(i, { kind: 'send', octets }),
    );
    this.order = [CALLS[0], ...plan.via, CALLS[1]];
    const physics = {
      sets: this.order,
      hear: (receiver: string, sender: string) => this.level(receiver, sender),
      thresholdDbm: THRESHOLD_DBM,
      captureDb: USUAL_CAPTURE_DB,
      senseAfterMs: USUAL_SENSE_MS,
    };
    this.channel = new RunningChannel(
      this.table,
      this.dice,
      BAUD,
      () => physics,
      (by, octets) => this.arrive(by, octets),
    );
  }

  run(): Findings {
    const { plan, table } = this;
    this.event(0, { kind: 'connect' });
    if (plan.bothCall) table.after(this.dice() * 3000, () => this.event(1, { kind: 'connect' }));
    if (plan.hidden) table.after(this.dice() * HIDDEN_EVERY_MS, () => this.disturb());
    if (plan.busy) table.after(5000 + this.dice() * 20_000, () => this.beBusy());
    table.after(plan.abruptAfterMs ?? GIVE_UP_MS, () => this.hangUp());
    while (!this.isOver() && table.next(LONGEST_TRIAL_MS));
    return this.witness.findings({
      over: this.isOver(),
      tookMs: table.nowMs(),
      states: this.ends.map((end) => end.state()),
    });
  }

  private isOver(): boolean {
    return this.hangingUp && this.ends.every((end) => end.state().phase === 'disconnected');
  }

  /** Either end, but one that has something to let go of. */
  private hangUp(): void {
    this.hangingUp = true;
    const i = this.dice() < 0.5 ? 0 : 1;
    const isIdle = this.ends[i].state().phase === 'disconnected';
    this.event(isIdle ? ((1 - i) as 0 | 1) : i, { kind: 'disconnect' });
  }

  private end(i: 0 | 1): Session {
    const options = this.plan.ends[i];
    return drive<SessionState, SessionEvent, SessionEffect, SessionContext>(
      step,
      disconnectedSession(options),
      {
        clock: this.table,
        context: ({ atMs }) => ({ atMs, options }),
        perform: (effect) =>
          effect.kind === 'transmit'
            ? this.channel.send(options.own, effect.octets, ACCESS)
            : this.witness.saw(i, effect),
        changed: (state) => this.letGo(i, state),
      },
    );
  }

  private event(i: 0 | 1, event: SessionEvent): void {
    this.ends[i].dispatch(event);
  }

  private letGo(i: 0 | 1, { phase }: SessionState): void {
    if (this.witness.isDone() && !this.hangingUp) {
      this.hangingUp = true;
      this.table.after(0, () => this.hangUp());
    }
    // An end that was left alone is asked to let go too.
    if (this.hangingUp && phase === 'awaiting connection') this.event(i, { kind: 'disconnect' });
  }

  private beBusy(): void {
    const i = this.dice() < 0.5 ? 0 : 1;
    this.event(i, { kind: 'busy', on: true });
    this.table.after(5000 + this.dice() * 60_000, () => this.event(i, { kind: 'busy', on: false }));
  }

  /** A station that the first end's neighbour hears and the first end does not. */
  private disturb(): void {
    if (this.isOver()) return;
    this.channel.send(HIDDEN, new Uint8Array(40 + Math.floor(this.dice() * 80)), ACCESS);
    this.table.after(HIDDEN_EVERY_MS * (0.5 + this.dice()), () => this.disturb());
  }

  /** A chain: everybody hears the neighbours; the hidden one is heard by the second in line alone. */
  private level(receiver: string, sender: string): number {
    if (sender === HIDDEN) return receiver === this.order[1] ? HEARD_DBM : UNHEARD_DBM;
    const apart = Math.abs(this.order.indexOf(receiver) - this.order.indexOf(sender));
    return apart === 1 && receiver !== HIDDEN ? HEARD_DBM : UNHEARD_DBM;
  }

  private arrive(by: string, octets: Uint8Array): void {
    const { loss, bitErrors, doubling, delaying, damage } = this.plan;
    if (this.dice() < loss) return;
    if (bitErrors > 0 && this.dice() < 1 - (1 - bitErrors) ** (8 * octets.length)) return;
    const heard = this.dice() < damage ? this.damaged(octets) : octets;
    if (!heard) return;
    const latest = latestMs(this.plan);
    this.table.after(this.dice() < delaying ? this.dice() * latest : 0, () => this.hear(by, heard));
    if (this.dice() < doubling) this.table.after(this.dice() * latest, () => this.hear(by, heard));
  }

  /** One to three bits wrong: the FCS finds all of these, so nothing is heard. */
  private damaged(octets: Uint8Array): Uint8Array | undefined {
    const whole = withFcs(octets);
    const places = new Set(
      Array.from({ length: 1 + Math.floor(this.dice() * 3) }, () =>
        Math.floor(this.dice() * whole.length * 8),
      ),
    );
    for (const place of places) whole[place >> 3] = (whole[place >> 3] as number) ^ (1 << (place & 7));
    return hasGoodFcs(whole) ? whole.slice(0, -2) : undefined;
  }

  private hear(by: string, octets: Uint8Array): void {
    const i = CALLS.indexOf(by as (typeof CALLS)[number]);
    if (i >= 0) return this.event(i as 0 | 1, { kind: 'heard', octets });
    const repeated = repeatByName(octets, by);
    if (repeated) this.channel.send(by, repeated, ACCESS);
  }
}

export function runTrial(plan: TrialPlan): Findings {
  return new Trial(plan).run();
}
