import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import type { AprsReport } from '@mistpeak/core/aprs/report';
import { uiFrame } from '@mistpeak/core/ax25/frame';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import { fromLatin1, shownText, toLatin1 } from '@mistpeak/core/bits/octets';
import { isDemoCall } from '@mistpeak/core/callsign/callsign';
import { wayOf } from '@mistpeak/core/digipeating/way';
import { gateIn, gateOut, USUAL_OUT_RULES, type HeardOf } from '@mistpeak/core/internet/gate';
import type { InternetPacket } from '@mistpeak/core/internet/line';
import { SeenLately } from '@mistpeak/core/internet/seen-lately';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { InternetService } from '../internet/internet.service.js';
import { TrafficService, type Passing } from '../traffic/traffic.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { GatingBook } from './gating-book.js';

const MINUTE_MS = 60_000;
/** What waits longer for the channel is of no use to who was called. */
const LEAVE_WITHIN_MS = 30_000;
const MOST_REMEMBERED = 5000;
const OUT_PATH = [{ call: 'WIDE2-1', used: false }];

/** The gate between radio and the internet, each way by the published rules and behind its own switch. */
@Injectable()
export class GateService implements OnModuleInit {
  private readonly radio = new Map<string, { readonly upMs: number; readonly hops: number }>();
  private readonly internetHeard = new Map<string, number>();
  private readonly passedIn = new SeenLately();
  private readonly passedOut = new SeenLately();
  /** Senders whose message was put on the air, and for whom: their next position follows. */
  private readonly followed = new Map<string, { readonly addressee: string; readonly upMs: number }>();
  private outTimes: number[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly book: GatingBook,
    private readonly internet: InternetService,
    private readonly lock: LockService,
    private readonly traffic: TrafficService,
    private readonly transmitting: TransmittingService,
  ) {}

  onModuleInit(): void {
    this.traffic.take('gate', {
      heard: (frame) => {
        if (frame.origin === 'capture' || !frame.view) return;
        if (frame.line === undefined) this.hearRadio(frame);
        else this.hearInternet(frame);
      },
    });
  }

  private hearRadio({ linkId, view }: Passing): void {
    if (!view) return;
    const { frame } = view;
    remember(this.radio, frame.source, { upMs: this.clock.upMs(), hops: wayOf(frame.path).hops });
    const { settings } = this.book;
    if (!settings?.receiveGate || settings.linkId !== linkId) return;
    const { settings: { call: gate } = {}, isStandIn } = this.internet.view();
    if (gate === undefined) return;
    const gated = gateIn(frame, { gate, isBothWays: settings.transmitGate });
    const words = shownText(toLatin1(frame.info)).slice(0, 60);
    if ('refused' in gated) return this.book.note('to the internet', frame.source, words, gated.refused);
    if (isDemoCall(gated.packet.source) && isStandIn === false)
      return this.book.note('to the internet', frame.source, words, 'a demo call stays with stand-ins');
    if (!this.passedIn.isNew(gated.packet, this.clock.upMs()))
      return this.book.note('to the internet', frame.source, words, 'a copy of what was passed on');
    void this.internet.pass(gated.line).then(
      () => this.book.note('to the internet', frame.source, words),
      () => this.book.note('to the internet', frame.source, words, 'not connected, or not verified'),
    );
  }

  private hearInternet({ view }: Passing): void {
    if (!view) return;
    const { frame, report } = view;
    const isFromThere = frame.path.some(({ call }) => ['TCPIP', 'qAC', 'qAX'].includes(call));
    if (isFromThere) remember(this.internetHeard, frame.source, this.clock.upMs());
    const { settings } = this.book;
    if (report && settings?.transmitGate && settings.allowsAutomatic)
      void this.passOut(frame, report, settings);
  }

  private async passOut(
    packet: InternetPacket,
    report: AprsReport,
    { linkId, mostPerMinute }: NonNullable<GatingBook['settings']>,
  ): Promise<void> {
    const asked = this.addresseeOf(packet.source, report);
    // Most of what comes is nobody's message: that is no decision worth telling.
    if (asked.addressee === undefined) return;
    const words = shownText(toLatin1(packet.info)).slice(0, 60);
    const refuse = (reason: Parameters<GatingBook['note']>[3]): void =>
      this.book.note('to radio', packet.source, words, reason);
    const { armed, call } = this.lock.view(linkId);
    if (!armed || call === undefined) return refuse('the transmitter is locked');
    const gated = gateOut(packet, { gate: call, ...asked, of: (station) => this.heardOf(station) });
    if ('refused' in gated) return refuse(gated.refused);
    if (!this.passedOut.isNew(packet, this.clock.upMs())) return refuse('a copy of what was sent');
    const upMs = this.clock.upMs();
    this.outTimes = this.outTimes.filter((at) => upMs - at < MINUTE_MS);
    if (this.outTimes.length >= mostPerMinute) return refuse('too many in this minute');
    this.outTimes.push(upMs);
    if (!asked.isPosition) this.followed.set(packet.source, { addressee: asked.addressee, upMs });
    else this.followed.delete(packet.source);
    const frame = uiFrame(call, OWN_DESTINATION, OUT_PATH, fromLatin1(gated.info));
    const sent = this.transmitting.offer({
      linkId,
      frame,
      sendClass: 'gated',
      owner: 'gate',
      purpose: 'gate',
      expiresInMs: LEAVE_WITHIN_MS,
    });
    const what = await sent.catch(() => 'failed' as const);
    if (what === 'handed') this.book.note('to radio', packet.source, words);
    else refuse('it was dropped on its way out');
  }

  /** For whom it is: by its own word, or because a message of its sender went to somebody just before. */
  private addresseeOf(
    source: string,
    { type, message, latitudeDeg }: AprsReport,
  ): { addressee: string | undefined; isPosition: boolean } {
    if (['message', 'ack', 'rej'].includes(type)) return { addressee: message?.addressee, isPosition: false };
    const followed = this.followed.get(source);
    const isFresh = followed !== undefined && this.clock.upMs() - followed.upMs < USUAL_OUT_RULES.latelyMs;
    const follows = isFresh && latitudeDeg !== undefined;
    return { addressee: follows ? followed.addressee : undefined, isPosition: true };
  }

  private heardOf(station: string): HeardOf {
    const upMs = this.clock.upMs();
    const radio = this.radio.get(station);
    const internet = this.internetHeard.get(station);
    return {
      ...(radio ? { radioAgeMs: upMs - radio.upMs, radioHops: radio.hops } : {}),
      ...(internet === undefined ? {} : { internetAgeMs: upMs - internet }),
    };
  }
}

/** The longest unheard are forgotten first. */
function remember<Value>(all: Map<string, Value>, key: string, value: Value): void {
  all.delete(key);
  all.set(key, value);
  if (all.size > MOST_REMEMBERED) all.delete(all.keys().next().value as string);
}
