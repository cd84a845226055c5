import { type Control, type Modulo } from '../ax25/control.js';
import { NO_SEGMENTS } from '../ax25/segmentation.js';
import { COMMAND_BITS, encodeFrame, NO_LAYER_3, RESPONSE_BITS, type Ax25Frame } from '../ax25/frame.js';
import { start, stop } from '../machine/machine.js';
import { folded, unfolded, type Registers } from './registers.js';
import type {
  DisconnectReason,
  SessionEffect,
  SessionOptions,
  SessionState,
  SessionTimer,
  SessionTrouble,
  Piece,
} from './session.js';

/**
 * One step in the making: a copy of the state that is changed, and the effects gathered so far. Only step() makes one,
 * so that from outside a step is pure.
 */
export class Draft {
  readonly state: Registers;
  readonly effects: SessionEffect[] = [];

  constructor(
    from: SessionState,
    readonly options: SessionOptions,
    readonly atMs: number,
  ) {
    this.state = unfolded(from);
  }

  /** What the step comes to. */
  end(): [SessionState, readonly SessionEffect[]] {
    return [folded(this.state), this.effects];
  }

  // Numbers go round: how far b lies after a.
  distance(a: number, b: number): number {
    const { modulo } = this.state;
    return (b - a + modulo) % modulo;
  }

  plus(number: number, by: number): number {
    const { modulo } = this.state;
    return (number + by + modulo) % modulo;
  }

  /** With single frames asked for again, half of the numbers at most: else old and new could not be told apart. */
  get windowSize(): number {
    const { modulo, selective } = this.state;
    const most = selective ? modulo / 2 : modulo - 1;
    const wanted = modulo === 8 ? this.options.window8 : this.options.window128;
    return Math.max(1, Math.min(most, wanted, this.state.limits?.window ?? Infinity));
  }

  /** Where single frames are asked for: how far ahead of V(R) one is that is missing others, and not one that was had before. */
  get receiveWindow(): number {
    return this.state.modulo / 2;
  }

  /** Sent and not acknowledged. */
  get outstanding(): number {
    return this.distance(this.state.va, this.state.vs);
  }

  command(control: Control, piece?: Piece): void {
    this.transmit(control, true, piece);
  }

  response(control: Control, info?: Uint8Array): void {
    this.transmit(control, false, info && { pid: NO_LAYER_3, octets: info });
  }

  private transmit(control: Control, isCommand: boolean, piece?: Piece): void {
    const { own, peer, via } = this.options;
    const frame: Ax25Frame = {
      destination: peer,
      source: own,
      path: via.map((call) => ({ call, used: false })),
      cBits: isCommand ? COMMAND_BITS : RESPONSE_BITS,
      control,
      ...(control.kind === 'I' && piece ? { pid: piece.pid } : {}),
      info: piece?.octets ?? new Uint8Array(),
    };
    this.effects.push({ kind: 'transmit', octets: encodeFrame(frame, this.state.modulo) });
  }

  start(timer: SessionTimer): void {
    const { t2Ms, t3Ms } = this.options;
    const ms = { T1: this.state.t1Ms, T2: t2Ms, T3: t3Ms, XID: this.state.t1Ms }[timer];
    this.state.running = new Set([...this.state.running, timer]);
    this.effects.push(start(timer, ms));
  }

  /** One that runs by the books and has rung. */
  startAgain(timer: SessionTimer): void {
    if (this.state.running.has(timer)) this.start(timer);
  }

  stop(timer: SessionTimer): void {
    if (!this.state.running.has(timer)) return;
    this.expired(timer);
    this.effects.push(stop(timer));
  }

  /** It rang by itself. */
  expired(timer: SessionTimer): void {
    this.state.running = new Set([...this.state.running].filter((other) => other !== timer));
  }

  isRunning(timer: string): timer is SessionTimer {
    return this.state.running.has(timer as SessionTimer);
  }

  tell(effect: SessionEffect): void {
    this.effects.push(effect);
  }

  trouble(what: SessionTrouble): void {
    this.tell({ kind: 'trouble', what });
  }

  /** Drops what was to be sent; how many octets that were not confirmed. */
  discardQueue(): number {
    const { window, pending } = this.state;
    const lost = [...window, ...pending].reduce((sum, piece) => sum + carriedBy(piece), 0);
    this.state.window = [];
    this.state.pending = [];
    return lost;
  }

  /** All numbers at 0 and no exception: how a life of the link begins. */
  beginLife(): void {
    const { state } = this;
    state.vs = 0;
    state.va = 0;
    state.vr = 0;
    state.early = new Map();
    state.asked = new Set();
    state.peerBusy = false;
    state.rejecting = false;
    state.unacknowledged = 0;
    state.settled = false;
    state.room = Infinity;
    state.rc = 0;
    state.timedAtMs = undefined;
    state.limits = undefined;
    state.xidAsked = 0;
    state.gathered = NO_SEGMENTS;
    this.stop('T2');
    this.stop('XID');
  }

  setNumbering(modulo: Modulo): void {
    this.state.modulo = modulo;
    // v2.2 with numbers to 127 comes with selective reject ("Set version 2.2").
    this.state.selective = modulo === 128 || this.options.selective;
  }

  disconnect(reason: DisconnectReason): void {
    const lostOctets = this.discardQueue();
    for (const timer of ['T1', 'T2', 'T3', 'XID'] as const) this.stop(timer);
    this.beginLife();
    this.state.phase = 'disconnected';
    this.state.ownBusy = false;
    this.state.calling = false;
    this.forgetAnswers();
    this.tell({ kind: 'disconnected', reason, lostOctets });
  }

  /** Frames keep their order: once a later question was answered, answers to earlier ones come no more. */
  forgetAnswers(): void {
    this.state.dueAnswers = 0;
    this.state.oldAnswers = 0;
  }

  /** "Select T1 value": twice the smoothed round trip, longer with each retry (the 1998 diagrams have an error here). */
  selectT1(): void {
    const { roundTripMs, rc } = this.state;
    const base = Math.max(this.options.leastT1Ms, 2 * roundTripMs);
    this.state.t1Ms = Math.round(base * (1 + rc / 2));
  }

  /** A clean measurement smooths the round trip by an eighth. */
  measure(): void {
    const { timedAtMs, roundTripMs } = this.state;
    if (timedAtMs === undefined) return;
    this.state.roundTripMs = (7 * roundTripMs + (this.atMs - timedAtMs)) / 8;
    this.state.timedAtMs = undefined;
  }
}

export const carriedBy = ({ octets, carries }: Piece): number => carries ?? octets.length;
