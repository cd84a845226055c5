import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { callWithoutSsid, formatCallSign, isDemoCall, parseCallSign } from '@mistpeak/core/callsign/callsign';
import { passcode } from '@mistpeak/core/callsign/passcode';
import { parseInternetLine, type InternetPacket } from '@mistpeak/core/internet/line';
import { LineCutter, LONGEST_LINE } from '@mistpeak/core/internet/lines';
import { SeenLately } from '@mistpeak/core/internet/seen-lately';
import {
  isStandIn,
  OFF,
  step,
  type LoginRules,
  type Session,
  type SessionContext,
  type SessionEffect,
  type SessionEvent,
} from '@mistpeak/core/internet/session';
import { wayIn, waysInWords, type WayIn } from '@mistpeak/core/internet/way';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import { INTERNET_SIDE } from '@mistpeak/contract/frame';
import type { InternetSettings, InternetView } from '@mistpeak/contract/internet';
import type { ByteLink } from '@mistpeak/link/byte-link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf } from '@mistpeak/link/failure';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { openTcp } from '../adapters/tcp.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { TrafficService } from '../traffic/traffic.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';

const SOFTWARE = 'Mistpeak';
const VERSION = '1';
const OPENING_LIMIT_MS = 30_000;
/** Each line changes a count: pages are told no more often. */
const TOLD_EVERY_MS = 500;
/** How many packets of an own station its verdict is made of. */
const WAYS_KEPT = 100;
/** Enough to see how they are spaced. */
const TIMES_SHOWN = 12;
const LINE_END = '\r\n';

type Counts = { -readonly [Name in keyof InternetView['counts']]: number };

/** The connection to the internet service: what it brings takes the way of every frame, marked as what it is. */
@Injectable()
export class InternetService implements OnApplicationBootstrap, OnModuleDestroy {
  private settings: (InternetSettings & { readonly version: number }) | undefined;
  private readonly session: Driven<Session, SessionEvent>;
  private readonly seen = new SeenLately();
  private readonly ways = new Map<string, (WayIn & { readonly atMs: number })[]>();
  private readonly counts: Counts = {
    lines: 0,
    packets: 0,
    duplicates: 0,
    unreadable: 0,
    tooLong: 0,
    sent: 0,
  };
  private lastAtMs: number | undefined;
  private wire: ByteLink | undefined;
  /** Each connection is a turn of its own: what an earlier one still tells does not count. */
  private turn = 0;
  private cancelTelling: (() => void) | undefined;
  private readonly handlers: (() => void)[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly live: LiveService,
    private readonly operator: OperatorService,
    private readonly traffic: TrafficService,
    private readonly transmitting: TransmittingService,
  ) {
    this.session = drive<Session, SessionEvent, SessionEffect, SessionContext>(step, OFF, {
      clock,
      dice: Math.random,
      context: (moment) => ({ ...moment, rules: this.rules() }),
      perform: (effect) => this.perform(effect),
      changed: () => this.changed(),
    });
  }

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('internet', () => this.view());
    const [row]: { settings: InternetSettings; version: number }[] = await this.database.query(
      'SELECT settings, version FROM internet_side WHERE id = 1',
    );
    if (row) this.settings = { ...row.settings, version: row.version };
    if (this.settings?.isOn) this.session.dispatch({ kind: 'begin' });
  }

  async onModuleDestroy(): Promise<void> {
    this.cancelTelling?.();
    this.session.dispatch({ kind: 'end' });
    this.session.end();
    await this.wire?.close();
  }

  /** Calls when what may be sent changes. */
  onChanged(handler: () => void): void {
    this.handlers.push(handler);
  }

  view(): InternetView {
    const session = this.session.state();
    return {
      ...(this.settings ? { settings: this.settings } : {}),
      phase: session.phase,
      ...(session.phase === 'apart'
        ? { trouble: session.trouble, ...(session.detail === undefined ? {} : { detail: session.detail }) }
        : {}),
      ...(session.phase === 'in'
        ? { server: session.server, isVerified: session.isVerified, isStandIn: isStandIn(session) }
        : {}),
      counts: { ...this.counts },
      ...(this.lastAtMs === undefined ? {} : { lastAtMs: this.lastAtMs }),
      ways: [...this.ways].map(([call, ways]) => ({
        call,
        words: waysInWords(ways),
        byRadio: ways.filter(({ radio }) => radio === 'yes').length,
        all: ways.length,
        atMs: ways.slice(-TIMES_SHOWN).map(({ atMs }) => atMs),
      })),
    };
  }

  async choose({ version, ...given }: InternetSettings): Promise<InternetView> {
    if (this.settings) refuseIfChanged(this.settings.version, version);
    const call = formatCallSign(this.operator.ownCall(given.call));
    const before = this.settings;
    const next = { ...given, call, version: (before?.version ?? 0) + 1 };
    await this.database.query(
      `INSERT INTO internet_side (id, settings, version) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [JSON.stringify({ ...given, call }), next.version],
    );
    this.settings = next;
    const isSameLogin = before !== undefined && loginOf(before) === loginOf(next);
    if (!isSameLogin || !next.isOn) this.session.dispatch({ kind: 'end' });
    if (next.isOn) this.session.dispatch({ kind: isSameLogin && before.isOn ? 'filter' : 'begin' });
    this.changed();
    return this.view();
  }

  /** Whether a packet of that station of ours may leave by the internet now. */
  maySend(from: string): boolean {
    const session = this.session.state();
    if (session.phase !== 'in' || !session.isVerified || !this.settings?.sends) return false;
    return callWithoutSsid(from) === callWithoutSsid(this.settings.call);
  }

  /** The station of ours that may send by the internet now; undefined: none. */
  sendingCall(): string | undefined {
    const call = this.settings?.call;
    return call !== undefined && this.maySend(call) ? call : undefined;
  }

  isOpen(): boolean {
    return this.session.state().phase === 'in';
  }

  /** Own packets, as their own program sends them. @throws ProblemException if they may not leave. */
  async send(from: string, destination: string, info: string): Promise<void> {
    if (!this.maySend(from)) throw new ProblemException('internet-closed');
    await this.pass(`${from}>${destination},TCPIP*:${info}`);
  }

  /** A line as a gate passes it on. @throws ProblemException if the login is not verified. */
  async pass(line: string): Promise<void> {
    const session = this.session.state();
    if (session.phase !== 'in' || !session.isVerified || !this.wire)
      throw new ProblemException('internet-closed');
    if (line.length > LONGEST_LINE - LINE_END.length) throw new ProblemException('too-much');
    await this.wire.send(Buffer.from(line + LINE_END, 'latin1'));
    this.counts.sent++;
    this.tellSoon();
  }

  private rules(): LoginRules {
    const { call = '', isVerified = false, filter = '' } = this.settings ?? {};
    return {
      call,
      passcode: isVerified ? passcode(call) : -1,
      software: SOFTWARE,
      version: VERSION,
      filter,
      isDemo: isDemoCall(call),
    };
  }

  private perform(effect: Exclude<SessionEffect, { kind: 'start' | 'stop' }>): void {
    switch (effect.kind) {
      case 'connect':
        return void this.connect();
      case 'hang up':
        this.turn++;
        void this.wire?.close();
        this.wire = undefined;
        return;
      case 'write':
        this.wire?.send(Buffer.from(effect.line + LINE_END, 'latin1')).catch(() => undefined);
        return;
      case 'packet':
        return this.take(effect.line);
    }
  }

  private async connect(): Promise<void> {
    const turn = ++this.turn;
    const { host = '', port = 0 } = this.settings ?? {};
    const limit = new AbortController();
    const cancel = this.clock.after(OPENING_LIMIT_MS, () => limit.abort());
    let detail: string | undefined;
    try {
      const wire = await openTcp(host, port, limit.signal).finally(cancel);
      if (turn !== this.turn) return void (await wire.close());
      this.wire = wire;
      this.session.dispatch({ kind: 'connected' });
      const cutter = new LineCutter();
      for await (const octets of wire.receive) {
        if (turn !== this.turn) return;
        for (const line of cutter.push(octets)) this.hear(line);
        this.counts.tooLong += cutter.tooLong;
        cutter.tooLong = 0;
      }
    } catch (error) {
      detail = failureOf(error).failure;
    }
    if (turn !== this.turn) return;
    this.wire = undefined;
    this.session.dispatch({ kind: 'closed', ...(detail === undefined ? {} : { detail }) });
  }

  private hear(line: string): void {
    this.counts.lines++;
    this.lastAtMs = this.clock.nowMs();
    this.session.dispatch({ kind: 'line', line });
    this.tellSoon();
  }

  private take(line: string): void {
    const packet = parseInternetLine(line);
    const isReadable = !isMalformed(packet);
    if (!isReadable) this.counts.unreadable++;
    else if (!this.seen.isNew(packet, this.clock.upMs())) {
      this.counts.duplicates++;
      // Another gate's copy of ours still tells that it heard us.
      this.noteOwn(packet);
      return;
    } else this.counts.packets++;
    if (isReadable) this.noteOwn(packet);
    this.traffic.heard({
      linkId: INTERNET_SIDE,
      atMs: this.clock.nowMs(),
      port: 0,
      raw: new Uint8Array(),
      line,
      origin: 'internet',
    });
  }

  /** A packet of ours: how it came in is kept, and if a gate heard it on radio that lights a rung. */
  private noteOwn({ source, destination, path, info }: InternetPacket): void {
    const licence = this.operator.view()?.call;
    if (licence === undefined || callWithoutSsid(source) !== licence) return;
    const way = wayIn(
      path.map(({ call }) => call),
      licence,
    );
    const seen = { ...way, atMs: this.clock.nowMs() };
    this.ways.set(source, [...(this.ways.get(source) ?? []), seen].slice(-WAYS_KEPT));
    if (way.radio !== 'yes' || way.by === undefined) return;
    if (isMalformed(parseCallSign(source)) || isMalformed(parseCallSign(destination))) return;
    const raw = encodeFrame(uiFrame(source, destination, [], info));
    this.transmitting.seenAtGate(raw, way.by, `${way.words} (${way.construct ?? ''})`);
  }

  private changed(): void {
    this.tellSoon();
    for (const handler of this.handlers) handler();
  }

  private tellSoon(): void {
    this.cancelTelling ??= this.clock.after(TOLD_EVERY_MS, () => {
      this.cancelTelling = undefined;
      this.live.publish({ kind: 'internet', data: this.view() });
    });
  }
}

/** What makes it another login; the filter alone is asked for anew. */
const loginOf = ({ host, port, call, isVerified }: InternetSettings): string =>
  JSON.stringify([host, port, call, isVerified]);
