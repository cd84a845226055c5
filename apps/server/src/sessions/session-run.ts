import { decodeFrame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { toHex } from '@mistpeak/core/bits/octets';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import { carriedBy } from '@mistpeak/core/sessions/draft';
import {
  disconnectedSession,
  type SessionContext,
  type SessionEffect,
  type SessionEvent,
  type SessionState,
} from '@mistpeak/core/sessions/session';
import { step } from '@mistpeak/core/sessions/step';
import { whatIsAsked } from '@mistpeak/core/terminal/prompts';
import { judgeLink, type LinkJudgement } from '@mistpeak/core/terminal/quality';
import {
  optionsOf,
  termsOf,
  type LinkTerms,
  type SessionEnds,
  type SessionParameters,
} from '@mistpeak/core/throughput/session-parameters';
import { decodeText } from '@mistpeak/core/terminal/charset';
import type { FileOnTheWay, LostStretch, SaidView, SessionView } from '@mistpeak/contract/sessions';
import type { Clock } from '@mistpeak/link/clock';
import { Stopwatch } from './stopwatch.js';

/** What a session needs of the rest. */
export interface SessionHost {
  readonly clock: Clock;
  readonly link: () => LinkTerms;
  /** Resolves when it has left, or with why it never will. */
  readonly transmit: (raw: Uint8Array) => Promise<string | undefined>;
  /** Resolves when it is kept; false while the database is away. */
  readonly keep: (said: SaidView) => Promise<boolean>;
  readonly changed: () => void;
  readonly connected: (calledBy: 'us' | 'them') => void;
  readonly ended: () => void;
  /** Octets came from the far end, in order. */
  readonly data: (octets: Uint8Array) => void;
  /** So many of ours, in all, are acknowledged. */
  readonly confirmed: (octets: number) => void;
  /** The first octets have passed both ways. */
  readonly bothWays: () => void;
}

export interface SessionSpec extends SessionEnds {
  readonly id: string;
  readonly linkId: string;
  readonly calledBy: 'us' | 'them';
  readonly purpose: SessionView['purpose'];
  readonly parameters: SessionParameters;
  readonly frequencyMHz?: number | undefined;
}

/** As much of what came last as a question for a password needs. */
const TAIL_OCTETS = 400;
/** A good-bye that nobody acknowledges is waited for no longer. */
const LEAVES_WITHIN_MS = 60_000;

/** One connection in operation: a driven machine, what passed through it, and what it is counted by. */
export class SessionRun {
  readonly openedAtMs: number;
  isFileTransfer = false;
  file: FileOnTheWay | undefined;
  private readonly machine: Driven<SessionState, SessionEvent>;
  private parameters: SessionParameters;
  private seq = 0;
  private queued = 0;
  private confirmed = 0;
  private heardOctets = 0;
  private lost: LostStretch[] = [];
  private tail = new Uint8Array();
  private framesSent = 0;
  private unsent = 0;
  private trouble: string | undefined;
  private connectedAtMs: number | undefined;
  private endedAtMs: number | undefined;
  private outcome: string | undefined;
  private heardMeanwhile = 0;
  private wasEchoed = false;
  private tryingSinceMs = 0;
  private hasPassedBothWays = false;
  /** What was received is kept before anything that acknowledges it leaves. */
  private kept: Promise<boolean> = Promise.resolve(true);
  private isKept = true;
  private judged: { readonly key: string; readonly judgement: LinkJudgement } | undefined;
  private isLeaving = false;
  private readonly busy = new Stopwatch();
  private readonly working = new Stopwatch();

  constructor(
    private readonly host: SessionHost,
    readonly spec: SessionSpec,
  ) {
    this.openedAtMs = host.clock.nowMs();
    this.parameters = spec.parameters;
    this.machine = drive<SessionState, SessionEvent, SessionEffect, SessionContext>(
      step,
      disconnectedSession(this.options()),
      {
        clock: host.clock,
        context: ({ atMs }) => ({ atMs, options: this.options(), unsent: this.unsent > 0 }),
        perform: (effect) => this.perform(effect),
        changed: () => this.note(),
      },
    );
  }

  get isOver(): boolean {
    return this.endedAtMs !== undefined;
  }

  get phase(): SessionState['phase'] {
    return this.machine.state().phase;
  }

  connect(): void {
    this.tryingSinceMs = this.host.clock.nowMs();
    this.machine.dispatch({ kind: 'connect' });
  }

  letGo(): void {
    this.machine.dispatch({ kind: 'let go' });
  }

  disconnect(): void {
    this.machine.dispatch({ kind: 'disconnect' });
  }

  heard(octets: Uint8Array): void {
    this.machine.dispatch({ kind: 'heard', octets });
  }

  /** Any frame heard on its link; isEcho: one of this session's own, come back. */
  noteHeard(isEcho: boolean): void {
    this.heardMeanwhile++;
    if (isEcho) this.wasEchoed = true;
  }

  noteFile(file: FileOnTheWay): void {
    this.file = file;
    this.host.changed();
  }

  /** isSecret: dots stand for it in the record. */
  say(octets: Uint8Array, isSecret = false): void {
    if (octets.length === 0 || this.isOver) return;
    const shown = isSecret ? new Uint8Array(octets.length).fill(0x2a) : octets;
    this.record('mine', shown, isSecret);
    this.queued += octets.length;
    // Whatever was asked is answered by it.
    this.tail = new Uint8Array();
    this.machine.dispatch({ kind: 'send', octets });
    this.note();
  }

  choose(parameters: SessionParameters): void {
    this.parameters = parameters;
    this.host.changed();
  }

  /** Once the other end has all that was said; a minute later anyway. */
  disconnectWhenSaid(): void {
    this.isLeaving = true;
    this.leaveWhenSaid();
    this.host.clock.after(LEAVES_WITHIN_MS, () => {
      if (!this.isOver) this.disconnect();
    });
  }

  private leaveWhenSaid(): void {
    if (this.isLeaving && this.confirmed >= this.queued && !this.isOver) this.disconnect();
  }

  /** This process ends: in the record it stands, until the next one finds it. */
  drop(): void {
    this.machine.end();
  }

  /** By somebody else than the machine: the link was removed. */
  end(outcome: string): void {
    if (!this.isOver) this.finish(outcome);
  }

  view(): SessionView {
    const { spec, host } = this;
    const state = this.machine.state();
    const { modulo, roundTripMs, t1Ms, resent, timeouts, rejected, rejects } = state;
    const nowMs = host.clock.nowMs();
    const asked = whatIsAsked(decodeText(this.tail, 'UTF-8'));
    const standing = state.phase === 'connected' || state.phase === 'timer recovery';
    const trying =
      'rc' in state && (state.phase !== 'connected' || state.rc > 0)
        ? {
            attempt: state.rc + 1,
            of: this.parameters.retries + 1,
            nextAtMs: Math.round(this.tryingSinceMs + t1Ms),
          }
        : undefined;
    const counts = { framesSent: this.framesSent, framesResent: resent };
    const workedMs = this.working.totalMs(nowMs);
    return {
      id: spec.id,
      linkId: spec.linkId,
      own: spec.own,
      peer: spec.peer,
      via: spec.via,
      calledBy: spec.calledBy,
      purpose: spec.purpose,
      phase: state.phase,
      modulo,
      parameters: this.parameters,
      ...(spec.frequencyMHz === undefined ? {} : { frequencyMHz: spec.frequencyMHz }),
      openedAtMs: this.openedAtMs,
      ...(this.connectedAtMs === undefined ? {} : { connectedAtMs: this.connectedAtMs }),
      ...(this.endedAtMs === undefined ? {} : { endedAtMs: this.endedAtMs }),
      ...(this.outcome === undefined ? {} : { outcome: this.outcome }),
      ...(trying ? { trying } : {}),
      queuedOctets: this.queued,
      sentOctets: this.sentOctets(state),
      confirmedOctets: this.confirmed,
      heardOctets: this.heardOctets,
      lost: this.lost,
      peerBusy: standing && state.peerBusy,
      quality: {
        roundTripMs: Math.round(roundTripMs),
        t1Ms,
        ...counts,
        timeouts,
        rejected,
        rejects,
        busyMs: Math.round(this.busy.totalMs(nowMs)),
        judgement: this.judge(state, workedMs),
      },
      ...(this.trouble === undefined ? {} : { trouble: this.trouble }),
      ...(asked && standing ? { asked } : {}),
      heardMeanwhile: this.heardMeanwhile,
      wasEchoed: this.wasEchoed,
      ...(this.file ? { file: this.file } : {}),
    };
  }

  /** Reckoned anew when something was sent or confirmed, or was set: it takes its time. */
  private judge({ modulo, selective, resent }: SessionState, busyMs: number): LinkJudgement {
    const { packetOctets } = this.parameters;
    const window = Math.min(7, this.windowNow(modulo));
    const key = [this.framesSent, resent, this.confirmed, packetOctets, window].join();
    if (this.judged?.key === key) return this.judged.judgement;
    const counts = {
      framesSent: this.framesSent,
      framesResent: resent,
      octetsConfirmed: this.confirmed,
      busyMs,
    };
    const terms = termsOf(this.host.link(), this.spec.via.length, selective);
    const judgement = judgeLink(counts, terms, { packetOctets, window });
    this.judged = { key, judgement };
    return judgement;
  }

  private windowNow(modulo: 8 | 128): number {
    return modulo === 8 ? this.parameters.window8 : this.parameters.window128;
  }

  private sentOctets(state: SessionState): number {
    const window = 'window' in state ? state.window : [];
    return Math.min(this.queued, this.confirmed + window.reduce((sum, piece) => sum + carriedBy(piece), 0));
  }

  private options(): SessionContext['options'] {
    return optionsOf(this.spec, this.parameters, this.host.link());
  }

  private perform(effect: Exclude<SessionEffect, { kind: 'start' | 'stop' }>): void {
    switch (effect.kind) {
      case 'transmit':
        return this.transmit(effect.octets);
      case 'data':
        return this.take(effect.octets);
      case 'confirmed':
        this.confirmed += effect.octets;
        this.host.confirmed(this.confirmed);
        this.proveBothWays();
        return this.leaveWhenSaid();
      case 'connected':
        this.connectedAtMs = this.host.clock.nowMs();
        this.trouble = undefined;
        return this.host.connected(effect.calledBy);
      case 'reset':
        this.lose(effect.lostOctets);
        this.trouble = 'the link was reset: what had not arrived is lost, on both sides';
        return;
      case 'disconnected':
        this.lose(effect.lostOctets);
        return this.finish(this.outcomeOf(effect.reason));
      case 'trouble':
        this.trouble = effect.what;
        return;
    }
  }

  /** In the order of what was received: what is not kept is not acknowledged. */
  private transmit(raw: Uint8Array): void {
    const { modulo } = this.machine.state();
    const frame = decodeFrame(raw, modulo);
    const isNumbered = !isMalformed(frame) && 'nr' in frame.control;
    if (!isMalformed(frame) && frame.control.kind === 'I') this.framesSent++;
    this.tryingSinceMs = this.host.clock.nowMs();
    this.unsent++;
    void this.kept.then(async (isKept) => {
      const trouble = isKept || !isNumbered ? await this.host.transmit(raw) : undefined;
      this.unsent--;
      if (trouble === this.trouble || this.isOver) return;
      this.trouble = trouble;
      this.host.changed();
    });
  }

  private take(octets: Uint8Array): void {
    this.heardOctets += octets.length;
    const tail = Buffer.concat([this.tail, octets]).subarray(-TAIL_OCTETS);
    this.tail = new Uint8Array(tail);
    this.record('theirs', octets);
    this.proveBothWays();
    this.host.data(octets);
  }

  private proveBothWays(): void {
    if (this.hasPassedBothWays || this.confirmed === 0 || this.heardOctets === 0) return;
    this.hasPassedBothWays = true;
    this.host.bothWays();
  }

  private record(side: SaidView['side'], octets: Uint8Array, isSecret = false): void {
    const said: SaidView = {
      sessionId: this.spec.id,
      seq: this.seq++,
      side,
      atMs: this.host.clock.nowMs(),
      hex: toHex(octets),
      ...(this.isFileTransfer ? { isFile: true } : {}),
      ...(isSecret ? { isSecret: true } : {}),
    };
    const writing = this.host.keep(said);
    this.kept = Promise.all([this.kept, writing]).then(([before, now]) => before && now);
    void writing.then((isKept) => {
      if (!isKept) this.giveUpUnkept();
    });
  }

  /** Nothing is acknowledged that could be lost: the far end keeps it and hears that the link ends. */
  private giveUpUnkept(): void {
    if (!this.isKept) return;
    this.isKept = false;
    this.disconnect();
  }

  private lose(octets: number): void {
    if (octets > 0 && this.confirmed < this.queued) {
      this.lost = [...this.lost, { fromOctet: this.confirmed, toOctet: this.queued }];
      this.confirmed = this.queued;
    }
  }

  private outcomeOf(reason: 'asked for' | 'by the other end' | 'no answer' | 'refused'): string {
    const { peer } = this.spec;
    if (!this.isKept) return 'ended: the database was away, and nothing is acknowledged that is not kept';
    switch (reason) {
      case 'asked for':
        return this.connectedAtMs === undefined ? 'given up' : 'ended here';
      case 'by the other end':
        return `ended by ${peer}`;
      case 'refused':
        return `${peer} is there and refuses: it is busy, or takes no calls`;
      case 'no answer':
        return this.connectedAtMs === undefined
          ? `no answer from ${peer}`
          : `lost: ${peer} did not answer any more`;
    }
  }

  private finish(outcome: string): void {
    this.endedAtMs = this.host.clock.nowMs();
    this.outcome = outcome;
    this.busy.turn(false, this.endedAtMs);
    this.working.turn(false, this.endedAtMs);
    this.machine.end();
    this.host.changed();
    this.host.ended();
  }

  private note(): void {
    if (this.isOver) return;
    const state = this.machine.state();
    const nowMs = this.host.clock.nowMs();
    this.busy.turn('peerBusy' in state && state.peerBusy, nowMs);
    this.working.turn(this.confirmed < this.queued && 'window' in state, nowMs);
    this.host.changed();
  }
}
