import { uiFrame, type Ax25Frame, type PathHop } from '../ax25/frame.js';
import {
  IDLE_DIGIPEATER,
  step as repeaterStep,
  USUAL_DUPLICATE_WINDOW_MS,
  type DigipeaterState,
} from '../digipeating/digipeater.js';
import { serve, type DigipeaterRules, type Refusal } from '../digipeating/service.js';
import { drive, type Driven } from '../machine/drive.js';
import {
  QUIET,
  step as channelStep,
  USUAL_CAPTURE_DB,
  USUAL_SENSE_MS,
  type ChannelContext,
  type ChannelEffect,
  type ChannelEvent,
  type ChannelPhysics,
  type ChannelState,
  type LossReason,
} from '../network/channel.js';
import { seededDice } from '../network/dice.js';
import { Timetable } from '../network/timetable.js';
import { hopsOfPath, usualAirTimeMs, type Lab, type Sender } from './lab.js';
import { luckOf, type LevelTable } from './level-table.js';

/** What is tried: so many packets of the sender by that path. Three after one another share the luck of one world. */
export interface LabPlan {
  readonly path: readonly PathHop[];
  readonly packets: number;
  readonly seed: number;
  /** Without luck every level is its average: for one packet that is to be understood. */
  readonly isWithoutLuck?: boolean;
  /** The sender also repeats as a fill-in, for others. */
  readonly senderFillsIn?: boolean;
}

/** What became of one packet. source 0 is the sender; place: where it was then. Ways: by which digipeaters, nearest the source first. */
export interface PacketFate {
  readonly source: number;
  readonly world: number;
  readonly sentAtMs: number;
  copies: number;
  channelMs: number;
  repeatedBy: number;
  gatewayAtMs?: number;
  gateway?: number;
  gatewayWay?: readonly string[];
}

/** What happened to a packet on its way, for whoever follows it. */
export type Happening =
  | { readonly kind: 'sent'; readonly by: number; readonly frame: Ax25Frame }
  | {
      readonly kind: 'read';
      readonly by: number;
      readonly frame: Ax25Frame;
      readonly refusal?: Refusal | 'had it';
    }
  | { readonly kind: 'lost'; readonly by: number; readonly frame: Ax25Frame; readonly reason: LossReason };
export type Watcher = (packet: number, atMs: number, happening: Happening) => void;

/** Three tries make a world. */
export const TRIES = 3;
/** Packets of the sender follow one another after so long, and up to so much more. */
const GAP_MS = 10_000;
const JITTER_MS = 4000;
/** The channel fills before the first one. */
const WARM_UP_MS = 20_000;
/** Copies are through long before. */
const DRAIN_MS = 30_000;
const THRESHOLD_DBM = 0;
/** Behind the four octets of the packet's number. */
const LENGTH_AT = 4;
const SHOWS_PROGRESS_EVERY = 64;

/** Many packets over the lab's channel; yields the share done. Same seed, same fates, in the order of sending. */
export function* runLab(
  lab: Lab,
  sender: Sender,
  table: LevelTable,
  plan: LabPlan,
  watch?: Watcher,
): Generator<number, PacketFate[]> {
  const run = new LabRun(lab, sender, table, plan, watch);
  const endMs = run.schedule();
  let steps = 0;
  while (run.clock.next())
    if (++steps % SHOWS_PROGRESS_EVERY === 0) yield Math.min(1, run.clock.nowMs() / endMs);
  return run.fates;
}

/** Of a frame of the lab, whose info tells its packet and how long the real one is. */
export const airTimeOf = ({ info, path }: Ax25Frame, lab: Lab): number =>
  usualAirTimeMs(info[LENGTH_AT] as number, path.length, lab);

class LabRun {
  readonly clock = new Timetable();
  readonly fates: PacketFate[] = [];
  private readonly onAir = new Map<
    number,
    { readonly packet: number; readonly frame: Ax25Frame; readonly by: number }
  >();
  private readonly repeaters = new Map<number, { readonly rules: DigipeaterRules; state: DigipeaterState }>();
  private readonly channel: Driven<ChannelState, ChannelEvent>;
  private readonly calls: readonly string[];
  /** Of each, the numbers of those who could hear it, as far as it matters. */
  private readonly inReach: readonly (readonly string[])[];
  /** What each hears of each above its threshold, and the world (from 1) of which that is. */
  private readonly margins: Float64Array;
  private readonly marginIn: Int32Array;
  private worldNow = 0;
  private lastId = 0;
  private ended = false;

  constructor(
    private readonly lab: Lab,
    private readonly sender: Sender,
    private readonly table: LevelTable,
    private readonly plan: LabPlan,
    private readonly watch: Watcher | undefined,
  ) {
    this.calls = [sender.call, ...lab.stations.map(({ call }) => call)];
    this.margins = new Float64Array(this.calls.length ** 2);
    this.marginIn = new Int32Array(this.calls.length ** 2);
    this.calls.forEach((call, i) => {
      const role = i === 0 ? (plan.senderFillsIn ? 'fill-in' : 'station') : lab.stations[i - 1]?.role;
      if (role !== 'digipeater' && role !== 'fill-in') return;
      const rules: DigipeaterRules = {
        call,
        role: role === 'digipeater' ? 'wide' : 'fill-in',
        duplicateWindowMs: USUAL_DUPLICATE_WINDOW_MS,
      };
      this.repeaters.set(i, { rules, state: IDLE_DIGIPEATER });
    });
    // With nobody to watch, what reaches a station that neither repeats nor is a gateway has no consequence.
    const matters = this.calls.map(
      (_, i) => watch !== undefined || this.repeaters.has(i) || lab.stations[i - 1]?.role === 'gateway',
    );
    this.inReach = this.calls.map((_, from) =>
      this.calls.flatMap((__, by) =>
        by !== from && matters[by] && table.isInReach(by, from, sender.places.length) ? [String(by)] : [],
      ),
    );
    const physics: ChannelPhysics = {
      // The channel names its sets; here a name is a number.
      sets: this.calls.map((_, i) => String(i)),
      hear: (by, from) => this.marginDb(Number(by), Number(from)),
      inReach: (from) => this.inReach[Number(from)] as readonly string[],
      thresholdDbm: THRESHOLD_DBM,
      captureDb: USUAL_CAPTURE_DB,
      senseAfterMs: USUAL_SENSE_MS,
    };
    this.channel = drive<ChannelState, ChannelEvent, ChannelEffect, ChannelContext>(channelStep, QUIET, {
      clock: this.clock,
      dice: seededDice(plan.seed),
      context: ({ atMs, dice }) => {
        this.worldNow = this.world();
        return { atMs, dice, physics };
      },
      perform: (effect) => this.carryOut(effect),
    });
  }

  /** Everybody's first packet, and all of the sender's. Returns when the last has gone its way. */
  schedule(): number {
    const { packets, seed } = this.plan;
    const dice = seededDice(seed ^ 0x5eed);
    for (let i = 0; i < packets; i++)
      this.clock.after(WARM_UP_MS + i * GAP_MS + dice() * JITTER_MS, () =>
        this.send(0, this.plan.path, this.sender.octets),
      );
    this.lab.stations.forEach((_, i) => this.scheduleOthers(i + 1, seededDice(seed + 7919 * (i + 1))));
    const endMs = WARM_UP_MS + packets * GAP_MS + DRAIN_MS;
    this.clock.after(endMs, () => (this.ended = true));
    return endMs;
  }

  /** A station's own packets come at random, independently of everybody (Poisson). */
  private scheduleOthers(source: number, dice: () => number): void {
    const { packetsPerHour, path, octets } = this.station(source);
    if (!(packetsPerHour > 0)) return;
    const hops = hopsOfPath(path);
    const next = (): void => {
      const waitMs = (-Math.log(1 - dice()) * 3_600_000) / packetsPerHour;
      this.clock.after(waitMs, () => {
        if (this.ended) return;
        this.send(source, hops, octets);
        next();
      });
    };
    next();
  }

  private station(index: number): Lab['stations'][number] {
    return this.lab.stations[index - 1] as Lab['stations'][number];
  }

  private world(): number {
    return Math.max(0, Math.floor((this.clock.nowMs() - WARM_UP_MS) / (TRIES * GAP_MS)));
  }

  /** Reckoned once for each direction of a pair in each world. */
  private marginDb(by: number, from: number): number {
    const at = by * this.calls.length + from;
    if (this.marginIn[at] !== this.worldNow + 1) {
      this.marginIn[at] = this.worldNow + 1;
      this.margins[at] = this.marginOf(by, from, this.worldNow);
    }
    return this.margins[at] as number;
  }

  private marginOf(by: number, from: number, world: number): number {
    const place = world % this.sender.places.length;
    const mean = this.table.marginDb(by, from, place);
    if (this.plan.isWithoutLuck) return mean;
    const spread = this.table.spreadDb(by, from, place);
    return spread === 0 ? mean : mean + spread * luckOf(this.plan.seed, world, by, from);
  }

  private send(source: number, path: readonly PathHop[], octets: number): void {
    const packet = this.fates.length;
    this.fates.push({
      source,
      world: this.world(),
      sentAtMs: this.clock.nowMs(),
      copies: 0,
      channelMs: 0,
      repeatedBy: 0,
    });
    const info = Uint8Array.of(packet >>> 24, packet >>> 16, packet >>> 8, packet, octets);
    this.offer(source, packet, uiFrame(this.calls[source] as string, 'APZMPK', [...path], info));
  }

  private offer(by: number, packet: number, frame: Ax25Frame): void {
    const id = ++this.lastId;
    const { access } = this.lab;
    this.onAir.set(id, { packet, frame, by });
    this.channel.dispatch({
      kind: 'offer',
      frame: { id, from: String(by), airTimeMs: airTimeOf(frame, this.lab), access },
    });
  }

  private carryOut(effect: Exclude<ChannelEffect, { kind: 'start' | 'stop' }>): void {
    const one = this.onAir.get(effect.id);
    if (!one) return;
    const { packet, frame } = one;
    if (effect.kind === 'gone') this.onAir.delete(effect.id);
    else if (effect.kind === 'keyed') this.left(one);
    else if (effect.kind === 'received') this.read(Number(effect.by), packet, frame);
    else
      this.watch?.(packet, this.clock.nowMs(), {
        kind: 'lost',
        by: Number(effect.by),
        frame,
        reason: effect.reason,
      });
  }

  private left({ packet, frame, by }: { packet: number; frame: Ax25Frame; by: number }): void {
    const fate = this.fates[packet] as PacketFate;
    fate.copies++;
    fate.channelMs += airTimeOf(frame, this.lab);
    if (by !== fate.source) fate.repeatedBy++;
    this.watch?.(packet, this.clock.nowMs(), { kind: 'sent', by, frame });
  }

  private read(by: number, packet: number, frame: Ax25Frame): void {
    const repeater = this.repeaters.get(by);
    const refusal = repeater ? this.repeat(repeater, by, packet, frame) : undefined;
    this.watch?.(packet, this.clock.nowMs(), { kind: 'read', by, frame, ...(refusal ? { refusal } : {}) });
    const fate = this.fates[packet] as PacketFate;
    if (by === 0 || this.station(by).role !== 'gateway' || fate.gatewayAtMs !== undefined) return;
    fate.gatewayAtMs = this.clock.nowMs();
    fate.gateway = by;
    fate.gatewayWay = frame.path
      .filter(({ call, used }) => used && this.calls.includes(call))
      .map(({ call }) => call);
  }

  private repeat(
    repeater: { readonly rules: DigipeaterRules; state: DigipeaterState },
    by: number,
    packet: number,
    frame: Ax25Frame,
  ): Refusal | 'had it' | undefined {
    const { rules } = repeater;
    const [state, effects] = repeaterStep(
      repeater.state,
      { kind: 'heard', frame },
      { atMs: this.clock.nowMs(), rules },
    );
    repeater.state = state;
    const [effect] = effects;
    if (effect?.kind === 'repeat') {
      this.offer(by, packet, effect.frame);
      return undefined;
    }
    const service = serve(frame, rules);
    return 'refusal' in service ? service.refusal : 'had it';
  }
}
