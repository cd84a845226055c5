import { randomUUID } from 'node:crypto';
import { Inject, Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { decodeAddressField, decodeFrame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { callWithoutSsid, formatCallSign, parseCallSign } from '@mistpeak/core/callsign/callsign';
import { parseVia } from '@mistpeak/core/sessions/via';
import { computedParameters, type SessionParameters } from '@mistpeak/core/throughput/session-parameters';
import { SESSION_PURPOSE } from '@mistpeak/core/transmitting/newest-of-each';
import type { SendClass } from '@mistpeak/core/transmitting/way-out';
import type { CallStation, SaidView, SessionView } from '@mistpeak/contract/sessions';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { FAILURES } from '@mistpeak/contract/failures';
import { ProblemException } from '../problems/problem.js';
import { ProofService } from '../proof/proof.service.js';
import { TrafficService, type Passing } from '../traffic/traffic.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { HeardLately } from './heard-lately.js';
import { LostSessions } from './lost-sessions.js';
import { refuseCall } from './refusal.js';
import { answered, passedBothWays } from './session-evidence.js';
import { SessionRun, type SessionSpec } from './session-run.js';
import { SessionStore } from './session-store.js';

/** Ended ones that pages are shown; the rest is searched for. */
const SHOWN_ENDED = 30;
/** At once; more would not get a turn on one channel. */
const MOST_OPEN = 20;
/** What changes many times a second is told and kept this often. */
const TOLD_EVERY_MS = 200;
const TOUCHED_EVERY_MS = 60_000;
/** A frame of a session that could not leave so long is of an earlier life. */
const LEAVE_WITHIN_MS = 60_000;

/** Somebody of this station who takes calls: with what parameters, over so many digipeaters. */
export interface Answerer {
  readonly purpose: 'mailbox' | 'mail';
  takes(
    linkId: string,
    own: string,
    digipeaters: number,
  ): { readonly parameters: SessionParameters } | undefined;
  begun(session: SessionRun): SessionListener;
}

/** Who follows a session: what comes, and its end. */
export interface SessionListener {
  data?(octets: Uint8Array): void;
  connected?(): void;
  /** So many octets of ours, in all, are acknowledged. */
  confirmed?(octets: number): void;
  ended?(view: SessionView): void;
}

/** Connections in operation, whoever they serve; each end a driven machine behind the lock of its link. */
@Injectable()
export class SessionsService implements OnModuleInit, OnModuleDestroy {
  private readonly log = new Logger('sessions');
  private readonly runs = new Map<string, SessionRun>();
  private readonly ended = new Map<string, SessionView>();
  private readonly listeners = new Map<string, Set<SessionListener>>();
  private readonly answerers: Answerer[] = [];
  private readonly elsewhere = new Set<string>();
  private readonly lost = new LostSessions();
  private readonly heard = new HeardLately();
  private readonly tellingSoon = new Map<string, () => void>();
  private cancelTouching: (() => void) | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly live: LiveService,
    private readonly lock: LockService,
    private readonly operator: OperatorService,
    private readonly proof: ProofService,
    private readonly store: SessionStore,
    private readonly traffic: TrafficService,
    private readonly transmitting: TransmittingService,
  ) {}

  /** Before any link is taken up: what an earlier process left open there is asked for then. */
  async onModuleInit(): Promise<void> {
    this.live.contribute('sessions', () => this.views());
    this.traffic.take('sessions', { heard: (frame) => this.hear(frame) });
    this.lock.onChanged((linkId) => this.letGoOfLost(linkId));
    this.links.onChangedHands(
      (linkId) => void this.takeUp(linkId).catch((error: unknown) => this.log.error(String(error))),
    );
    this.links.onRemoved((linkId) => this.dropLink(linkId));
    for (const view of await this.store.newest(SHOWN_ENDED)) this.ended.set(view.id, view);
    this.touchLater();
  }

  onModuleDestroy(): void {
    this.cancelTouching?.();
    for (const cancel of this.tellingSoon.values()) cancel();
    for (const run of this.runs.values()) {
      run.drop();
      void this.store.keep(run.view(), this.clock.nowMs());
    }
  }

  views(): SessionView[] {
    return [...this.ended.values(), ...[...this.runs.values()].map((run) => run.view())];
  }

  /** Who may take calls that nobody at the terminal takes. */
  answerBy(answerer: Answerer): void {
    this.answerers.push(answerer);
  }

  /** The same id again is the same session. @throws ProblemException if it may not be called. */
  open(
    id: string,
    { from, to, via, linkId, parameters, frequencyMHz }: CallStation,
    listener?: SessionListener,
    purpose: 'terminal' | 'mail' = 'terminal',
  ): SessionView {
    const known = this.runs.get(id)?.view() ?? this.ended.get(id);
    if (known) return known;
    const own = formatCallSign(this.operator.ownCall(from));
    const peer = callOf(to);
    const digipeaters = parseVia(via);
    if (isMalformed(digipeaters)) throw new ProblemException('field-refused', { via: digipeaters.malformed });
    if (peer === own) throw new ProblemException('field-refused', { to: 'that is the station that calls' });
    const link = this.links.settings(linkId);
    this.lock.permit(linkId, own, this.lock.begin(linkId));
    if (this.between(linkId, own, peer)) throw new ProblemException('session-stands');
    if (this.runs.size >= MOST_OPEN) throw new ProblemException('too-many-sessions');
    const run = this.begin({
      id,
      linkId,
      own,
      peer,
      via: digipeaters,
      calledBy: 'us',
      purpose,
      accepts: false,
      frequencyMHz,
      parameters: parameters ?? computedParameters(link, digipeaters.length),
    });
    if (listener) this.follow(id, listener);
    run.connect();
    this.tell(id);
    return run.view();
  }

  /** Hears of what comes, until the session ends. */
  follow(id: string, listener: SessionListener): () => void {
    const all = this.listeners.get(id) ?? new Set();
    this.listeners.set(id, all.add(listener));
    return () => all.delete(listener);
  }

  run(id: string): SessionRun {
    const run = this.runs.get(id);
    if (run) return run;
    throw new ProblemException(this.ended.has(id) ? 'session-over' : 'not-found');
  }

  say(id: string, octets: Uint8Array, isSecret = false): SessionView {
    const run = this.run(id);
    run.say(octets, isSecret);
    return run.view();
  }

  /** Asked twice: it does not wait for the other end any more. */
  disconnect(id: string): SessionView {
    const run = this.runs.get(id);
    run?.disconnect();
    const view = run?.view() ?? this.ended.get(id);
    if (!view) throw new ProblemException('not-found');
    return view;
  }

  choose(id: string, parameters: SessionParameters): SessionView {
    const run = this.run(id);
    run.choose(parameters);
    return run.view();
  }

  /** What follows is text again. */
  endFile(id: string, ok: boolean, words: string): void {
    const run = this.runs.get(id);
    if (!run?.file) return;
    run.isFileTransfer = false;
    run.noteFile({ ...run.file, ok, words });
  }

  /** Another program speaks as this station with that one: its frames are answered by nobody here. Until the returned function is called. */
  leaveTo(own: string, peer: string): () => void {
    const pair = `${own} ${peer}`;
    this.elsewhere.add(pair);
    return () => void this.elsewhere.delete(pair);
  }

  private between(linkId: string, own: string, peer: string): SessionRun | undefined {
    return [...this.runs.values()].find(
      ({ spec }) => spec.linkId === linkId && spec.own === own && spec.peer === peer,
    );
  }

  private begin(spec: SessionSpec): SessionRun {
    const { id, linkId } = spec;
    const run: SessionRun = new SessionRun(
      {
        clock: this.clock,
        link: () => this.links.settings(linkId),
        transmit: (raw) => this.transmit(spec, raw),
        keep: (said) => this.keepSaid(spec, said),
        changed: () => this.tellSoon(id),
        connected: (calledBy) => this.noteConnected(run, calledBy),
        ended: () => this.noteEnded(run),
        data: (octets) => this.each(id, (listener) => listener.data?.(octets)),
        confirmed: (octets) => this.each(id, (listener) => listener.confirmed?.(octets)),
        bothWays: () => void this.proof.record(passedBothWays(run, this.clock.nowMs())),
      },
      spec,
    );
    this.runs.set(id, run);
    void this.store.keep(run.view(), this.clock.nowMs());
    return run;
  }

  private each(id: string, call: (listener: SessionListener) => void): void {
    for (const listener of this.listeners.get(id) ?? []) call(listener);
  }

  /** What mail says is for whom it is for, and for no other page. */
  private keepSaid({ purpose }: SessionSpec, said: SaidView): Promise<boolean> {
    if (purpose !== 'mail') this.live.publish({ kind: 'session-said', data: said });
    return this.store.keepSaid(said);
  }

  /** Resolves with nothing when it has left, else with why it has not. */
  private async transmit(
    { id, linkId, own, calledBy }: SessionSpec,
    raw: Uint8Array,
  ): Promise<string | undefined> {
    const frame = decodeFrame(raw);
    if (isMalformed(frame)) return undefined;
    try {
      const what = await this.transmitting.offer({
        linkId,
        frame,
        raw,
        sendClass: sendClassOf(frame.control.kind),
        owner: `session ${id}`,
        purpose: SESSION_PURPOSE,
        expiresInMs: LEAVE_WITHIN_MS,
        // The mailbox has an SSID of its own, whatever call is in force.
        ...(calledBy === 'them' ? { answering: own } : {}),
      });
      return what === 'handed' ? undefined : `a frame was dropped: ${what}`;
    } catch (error) {
      return error instanceof ProblemException ? FAILURES[error.reason].happened : String(error);
    }
  }

  /** Stations heard on that link, the last first, each with its time. */
  heardLately(linkId: string): readonly string[] {
    return this.heard.words(linkId);
  }

  private hear({ linkId, raw, origin, line, atMs }: Passing): void {
    if (origin === 'capture' || line !== undefined) return;
    const field = decodeAddressField(raw);
    if (isMalformed(field)) return;
    const { destination, source, path } = field;
    this.heard.note(linkId, source, atMs);
    for (const run of this.runs.values())
      if (run.spec.linkId === linkId) run.noteHeard(run.spec.own === source);
    if (!path.every(({ used }) => used)) return;
    const run = this.between(linkId, destination, source);
    if (run) return run.heard(raw);
    const own = this.operator.view()?.call;
    if (own === undefined || callWithoutSsid(destination) !== own) return;
    this.heardUnexpected(linkId, destination, source, path.map(({ call }) => call).reverse(), raw);
  }

  /** For a station of ours, and no session stands: it is a call, or somebody believes in one that is over. */
  private heardUnexpected(
    linkId: string,
    own: string,
    caller: string,
    via: readonly string[],
    raw: Uint8Array,
  ): void {
    const frame = decodeFrame(raw);
    if (isMalformed(frame) || frame.control.kind === 'UI' || this.elsewhere.has(`${own} ${caller}`)) return;
    const isCall = frame.control.kind === 'SABM' || frame.control.kind === 'SABME';
    const answerer =
      isCall && this.runs.size < MOST_OPEN ? this.answererFor(linkId, own, via.length) : undefined;
    if (!answerer) return this.refuse(linkId, own, caller, via, raw);
    const run = this.begin({
      id: randomUUID(),
      linkId,
      own,
      peer: caller,
      via,
      calledBy: 'them',
      purpose: answerer.answerer.purpose,
      accepts: true,
      parameters: answerer.parameters,
    });
    this.follow(run.spec.id, answerer.answerer.begun(run));
    run.heard(raw);
  }

  private answererFor(
    linkId: string,
    own: string,
    digipeaters: number,
  ): { answerer: Answerer; parameters: SessionParameters } | undefined {
    for (const answerer of this.answerers) {
      const taken = answerer.takes(linkId, own, digipeaters);
      if (taken) return { answerer, parameters: taken.parameters };
    }
    return undefined;
  }

  /** DM; only as the station that the transmitter is armed for. */
  private refuse(linkId: string, own: string, peer: string, via: readonly string[], raw: Uint8Array): void {
    if (this.lock.view(linkId).call !== own) return;
    const link = this.links.settings(linkId);
    const spec: SessionSpec = {
      id: `refusal ${randomUUID()}`,
      linkId,
      own,
      peer,
      via,
      calledBy: 'us',
      purpose: 'terminal',
      accepts: false,
      parameters: computedParameters(link, via.length),
    };
    refuseCall(
      { clock: this.clock, link: () => link, transmit: (octets) => this.transmit(spec, octets) },
      spec,
      raw,
    );
  }

  private noteConnected(run: SessionRun, calledBy: 'us' | 'them'): void {
    if (calledBy === 'us') void this.proof.record(answered(run, this.clock.nowMs()));
    this.each(run.spec.id, (listener) => listener.connected?.());
  }

  private noteEnded({ spec }: SessionRun): void {
    const { id } = spec;
    const run = this.runs.get(id);
    if (!run) return;
    this.tell(id);
    const view = run.view();
    this.ended.set(id, view);
    this.runs.delete(id);
    this.each(id, (listener) => listener.ended?.(view));
    this.listeners.delete(id);
    const [oldest] = this.ended.keys();
    if (this.ended.size > SHOWN_ENDED && oldest !== undefined) this.ended.delete(oldest);
  }

  private tellSoon(id: string): void {
    if (this.tellingSoon.has(id)) return;
    this.tellingSoon.set(
      id,
      this.clock.after(TOLD_EVERY_MS, () => this.tell(id)),
    );
  }

  private tell(id: string): void {
    this.tellingSoon.get(id)?.();
    this.tellingSoon.delete(id);
    const run = this.runs.get(id);
    if (!run) return;
    const view = run.view();
    this.live.publish({ kind: 'session', data: view });
    void this.store.keep(view, this.clock.nowMs());
  }

  /** So that a later process knows until when it lived. */
  private touchLater(): void {
    this.cancelTouching = this.clock.after(TOUCHED_EVERY_MS, () => {
      for (const run of this.runs.values()) void this.store.keep(run.view(), this.clock.nowMs());
      this.touchLater();
    });
  }

  /** A link comes to this process: what another one had open there is lost. */
  private async takeUp(linkId: string): Promise<void> {
    for (const left of await this.store.leftOpen(linkId)) {
      if (this.runs.has(left.view.id)) continue;
      const over = this.lost.note(left, this.clock.nowMs());
      await this.store.keep(over, this.clock.nowMs());
      this.ended.set(over.id, over);
      this.live.publish({ kind: 'session', data: over });
    }
    this.letGoOfLost(linkId);
  }

  /** The other end is told, if it can still believe that the link stands and the operator has armed that station. */
  private letGoOfLost(linkId: string): void {
    for (const view of this.lost.due(linkId, this.lock.view(linkId).call, this.clock.nowMs())) {
      const { purpose, parameters, own, peer, via, calledBy } = view;
      if (this.between(linkId, own, peer)) continue;
      const id = randomUUID();
      this.begin({ id, linkId, own, peer, via, calledBy, purpose, parameters, accepts: false }).letGo();
    }
  }

  private dropLink(linkId: string): void {
    for (const run of this.runs.values())
      if (run.spec.linkId === linkId) run.end('ended: the link was removed');
  }
}

function callOf(text: string): string {
  const call = parseCallSign(text);
  if (isMalformed(call)) throw new ProblemException('field-refused', { to: call.malformed });
  return formatCallSign(call);
}

/** What the other end waits for goes first; what carries text takes its turn. */
function sendClassOf(kind: string): SendClass {
  return ['RR', 'RNR', 'REJ', 'SREJ', 'UA', 'DM', 'FRMR'].includes(kind) ? 'acknowledgement' : 'session';
}
