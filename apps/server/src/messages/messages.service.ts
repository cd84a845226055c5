import { Inject, Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import type { AprsReport } from '@mistpeak/core/aprs/report';
import { encodeAck } from '@mistpeak/core/aprs/message';
import { shownText } from '@mistpeak/core/bits/octets';
import { formatCallSign } from '@mistpeak/core/callsign/callsign';
import { wayOf } from '@mistpeak/core/digipeating/way';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import { readAddressee, wantsAnswer } from '@mistpeak/core/messages/addressee';
import {
  EMPTY_BOOK,
  reopened,
  step,
  type Book,
  type BookContext,
  type BookEffect,
  type BookEvent,
} from '@mistpeak/core/messages/book';
import { reckonCorrespondents } from '@mistpeak/core/messages/correspondents';
import { isOpen, shifted, shiftedReceived } from '@mistpeak/core/messages/entries';
import { LATE_ANSWER_MS, SAME_MESSAGE_MS, type MessageRules } from '@mistpeak/core/messages/rules';
import { troubleWithText } from '@mistpeak/core/messages/text';
import { INTERNET_SIDE } from '@mistpeak/contract/frame';
import { troubleWithForm } from '@mistpeak/core/services/form';
import { FAILURES } from '@mistpeak/contract/failures';
import { MESSAGES_SHOWN, USUAL_MESSAGE_SETTINGS } from '@mistpeak/contract/message-defaults';
import type {
  MessageSettings,
  MessageSettingsView,
  MessagesView,
  OutgoingView,
  ReadUpTo,
  ReceivedView,
  WriteMessage,
} from '@mistpeak/contract/messages';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { InternetService } from '../internet/internet.service.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { ProofService } from '../proof/proof.service.js';
import { TrafficService, type Passing } from '../traffic/traffic.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { MessageSender } from './message-sender.js';
import { MessageStore, type HeardMessage, type SentMessage } from './message-store.js';

/** An answer that comes later may belong to something else (ours). */
const GATE_ANSWERS_WITHIN_MS = 10 * 60_000;

/** The one book of messages: a driven machine behind the lock of each link, kept as it goes. */
@Injectable()
export class MessagesService implements OnModuleInit, OnModuleDestroy {
  private readonly log = new Logger('messages');
  private settings: MessageSettingsView = USUAL_MESSAGE_SETTINGS;
  private book!: Driven<Book, BookEvent>;
  /** What is shown, the oldest first; the book itself forgets sooner. */
  private readonly sent = new Map<string, SentMessage>();
  private readonly received = new Map<string, HeardMessage>();
  private readonly automatic = new Set<string>();
  private readonly throughGates = new Map<string, string>();
  private readUpTo: Record<string, number> = {};
  /** Writes of the database that a try waits for. */
  private kept: Promise<boolean> = Promise.resolve(true);
  private readonly handlers: ((frame: Passing, message: HeardMessage) => void)[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly store: MessageStore,
    private readonly internet: InternetService,
    private readonly links: LinksService,
    private readonly live: LiveService,
    private readonly lock: LockService,
    private readonly operator: OperatorService,
    private readonly proof: ProofService,
    private readonly traffic: TrafficService,
    private readonly sender: MessageSender,
  ) {}

  async onModuleInit(): Promise<void> {
    const { numbered, settings, version, outgoing, received, readUpTo } =
      await this.store.read(MESSAGES_SHOWN);
    if (settings) this.settings = { ...USUAL_MESSAGE_SETTINGS, ...settings, version };
    this.readUpTo = { ...readUpTo };
    const upMs = this.clock.upMs();
    for (const one of outgoing) {
      this.sent.set(one.id, one);
      if (one.isAutomatic) this.automatic.add(one.id);
    }
    for (const one of received) this.received.set(one.id, one);
    const first: Book = {
      ...EMPTY_BOOK,
      numbered,
      outgoing: outgoing.filter((one) => isOpen(one) || upMs - one.writtenAtMs < LATE_ANSWER_MS),
      received: received.filter((one) => upMs - one.lastCopyAtMs < SAME_MESSAGE_MS),
    };
    this.book = drive<Book, BookEvent, BookEffect, BookContext>(step, reopened(first, this.rules()), {
      clock: this.clock,
      // Whole ms: pages and the database are told these times.
      context: (moment) => ({ ...moment, atMs: Math.floor(moment.atMs), ...this.contextNow() }),
      perform: (effect) => this.perform(effect),
    });
    for (const one of this.book.state().outgoing) this.sent.set(one.id, { ...this.sent.get(one.id), ...one });
    this.book.dispatch({ kind: 'look' });
    this.live.contribute('messages', () => this.view());
    this.lock.onChanged(() => this.book.dispatch({ kind: 'look' }));
    this.internet.onChanged(() => this.book.dispatch({ kind: 'look' }));
    this.traffic.take('messages', { heard: (frame) => this.hear(frame) });
  }

  onModuleDestroy(): void {
    this.book.end();
  }

  view(): MessagesView {
    return {
      outgoing: [...this.sent.values()].map((one) => this.outgoingView(one)),
      received: [...this.received.values()].map((one) => this.receivedView(one)),
      settings: this.settings,
      readUpTo: this.readUpTo,
      correspondents: this.correspondents(),
    };
  }

  /** Calls for each message heard for us for the first time. */
  onReceived(handler: (frame: Passing, message: HeardMessage) => void): void {
    this.handlers.push(handler);
  }

  /** @throws ProblemException if nobody could read it or it may not be sent. The same id again is the same message. */
  async write(id: string, given: WriteMessage, isAutomatic = false): Promise<OutgoingView> {
    const known = this.sent.get(id);
    if (known) return this.outgoingView(known);
    const from = formatCallSign(this.operator.ownCall(given.from));
    const addressee = readAddressee(given.to, this.settings.groups);
    if (!addressee.ok) throw new ProblemException('field-refused', { to: addressee.trouble });
    if (addressee.to === from)
      throw new ProblemException('field-refused', { to: 'that is the station that sends it' });
    const trouble = troubleWithText(addressee.to, given.text);
    if (trouble !== undefined) throw new ProblemException('field-refused', { text: trouble });
    if (given.linkId !== INTERNET_SIDE) this.links.settings(given.linkId);
    if (isAutomatic) this.automatic.add(id);
    this.book.dispatch({
      kind: 'write',
      message: {
        id,
        from,
        to: addressee.to,
        text: given.text,
        linkId: given.linkId,
        path: given.path,
        ...(given.goodForMin === undefined
          ? {}
          : { expiresAtMs: Math.floor(this.clock.upMs()) + given.goodForMin * 60_000 }),
        wantsAnswer: wantsAnswer(addressee.kind) && !isAutomatic,
      },
    });
    // It is told as taken when it can no longer be lost.
    if (!(await this.kept)) throw new ProblemException('database-away');
    return this.outgoingView(this.sent.get(id) as SentMessage);
  }

  cancel(id: string): OutgoingView {
    return this.tellBook(id, { kind: 'cancel', id });
  }

  again(id: string): OutgoingView {
    return this.tellBook(id, { kind: 'again', id });
  }

  async choose({ version, ...settings }: MessageSettings): Promise<MessageSettingsView> {
    refuseIfChanged(this.settings.version, version);
    for (const form of settings.services) {
      const trouble = troubleWithForm(form);
      if (trouble !== undefined) throw new ProblemException('field-refused', { template: trouble });
    }
    const next = { ...settings, version: this.settings.version + 1 };
    await this.store.saveSettings(settings, next.version);
    this.settings = next;
    this.live.publish({ kind: 'message-settings', data: next });
    this.book.dispatch({ kind: 'look' });
    return next;
  }

  async read({ conversation, atMs }: ReadUpTo): Promise<void> {
    if ((this.readUpTo[conversation] ?? 0) >= atMs) return;
    await this.store.keepRead(conversation, atMs);
    this.readUpTo = { ...this.readUpTo, [conversation]: atMs };
    this.live.publish({ kind: 'message-read', data: { conversation, atMs } });
  }

  answers(): MessageSettingsView['answers'] {
    return this.settings.answers;
  }

  private tellBook(id: string, event: BookEvent): OutgoingView {
    if (!this.sent.has(id)) throw new ProblemException('not-found');
    this.book.dispatch(event);
    return this.outgoingView(this.sent.get(id) as SentMessage);
  }

  private rules(): MessageRules {
    const { firstGapS, longestGapS, tries, bulletinTries, offersReplyAcks } = this.settings;
    return {
      firstGapMs: firstGapS * 1000,
      longestGapMs: longestGapS * 1000,
      tries,
      bulletinTries,
      offersReplyAcks,
    };
  }

  private contextNow(): Omit<BookContext, 'atMs' | 'dice'> {
    const inForce = this.links.views().flatMap(({ id }) => {
      const { armed, call } = this.lock.view(id);
      return armed && call !== undefined ? [call] : [];
    });
    const byInternet = this.internet.sendingCall();
    if (byInternet !== undefined) inForce.push(byInternet);
    return {
      rules: this.rules(),
      licence: this.operator.view()?.call ?? '',
      answersFor: [...new Set(inForce)],
      groups: this.settings.groups,
      mayLeave: (from, linkId) => this.mayLeave(from, linkId),
    };
  }

  /** A lock that another process has open is none of ours: that process sends. A message may outlive its link. */
  private mayLeave(from: string, linkId: string): boolean {
    if (linkId === INTERNET_SIDE) return this.internet.maySend(from);
    if (!this.links.views().some(({ id }) => id === linkId)) return false;
    const { armed, call } = this.lock.view(linkId);
    return armed && call === from && !this.links.isHeldElsewhere(linkId);
  }

  private hear(frame: Passing): void {
    const { view, id, linkId, origin } = frame;
    if (!view?.report || origin === 'capture') return;
    const inner = innermost(view.frame.source, view.report);
    const { repeaters } = wayOf(view.frame.path);
    const by = repeaters.at(-1);
    const before = this.received.size;
    if (inner.gate !== undefined) this.throughGates.set(id, inner.gate);
    this.book.dispatch({
      kind: 'heard',
      heard: { id, linkId, from: inner.from, ...(by === undefined ? {} : { by }), report: inner.report },
    });
    this.throughGates.delete(id);
    if (inner.gate !== undefined) this.proveByGate(frame, inner.from, inner.gate);
    const fresh = this.received.size > before ? this.received.get(id) : undefined;
    if (fresh) for (const handler of this.handlers) handler(frame, fresh);
  }

  /** An answer that a gate puts on the air for whoever we wrote to by radio: the gate had heard us (it names itself). */
  private proveByGate({ linkId, raw, atMs, line }: Passing, from: string, gate: string): void {
    const asked = [...this.sent.values()].findLast((one) => one.to === from && one.linkId === linkId);
    const firstMs = asked?.tries[0]?.atMs;
    if (line !== undefined || firstMs === undefined || this.internet.sendingCall() !== undefined) return;
    const seconds = Math.round((this.clock.upMs() - firstMs) / 1000);
    if (seconds * 1000 > GATE_ANSWERS_WITHIN_MS) return;
    const words = `${gate} put the answer of ${from} on the air, ${seconds} s after we asked by radio`;
    void this.proof.record({
      linkId,
      rung: 'at a gateway',
      atMs,
      kind: 'frame',
      words,
      raw,
      isRoutine: true,
    });
  }

  private perform(effect: Exclude<BookEffect, { kind: 'start' | 'stop' }>): void {
    switch (effect.kind) {
      case 'keep':
        return this.keep(effect.message, effect.numbered);
      case 'keep received':
        return this.keepReceived(effect.message);
      case 'send':
        return void this.send(effect);
      case 'ack':
        return void this.acknowledge(effect);
      case 'withdraw':
        return this.withdraw(effect.id);
    }
  }

  private keep(message: SentMessage, numbered: number): void {
    const before = this.sent.get(message.id);
    const entry = this.automatic.has(message.id) ? { ...message, isAutomatic: true } : message;
    this.sent.set(message.id, entry);
    forgetOldest(this.sent, (one) => !isOpen(one));
    this.kept = this.store.keep(entry, numbered);
    this.live.publish({ kind: 'message-out', data: this.outgoingView(entry) });
    if (before?.phase.kind !== 'acknowledged' && message.phase.kind === 'acknowledged') this.prove(message);
    if (before?.phase.kind !== message.phase.kind)
      this.live.publish({ kind: 'correspondents', data: this.correspondents() });
  }

  private keepReceived(message: HeardMessage): void {
    const gate = this.received.get(message.id)?.throughGate ?? this.throughGates.get(message.id);
    const entry = gate === undefined ? message : { ...message, throughGate: gate };
    this.received.set(message.id, entry);
    forgetOldest(this.received, () => true);
    void this.store.keepReceived(entry);
    this.live.publish({ kind: 'message-in', data: this.receivedView(entry) });
  }

  /** The try is on disk before it can be on the air: no crash makes it one more. */
  private async send({ message, info }: Extract<BookEffect, { kind: 'send' }>): Promise<void> {
    const { id, linkId, from, path } = message;
    try {
      if (!(await this.kept)) throw new ProblemException('database-away');
      await this.sender.send({ owner: ownerOf(id), linkId, from, path, info, purpose: 'message' });
      this.book.dispatch({ kind: 'handed', id });
    } catch (error) {
      this.book.dispatch({ kind: 'not sent', id, trouble: wordsOf(error) });
    }
  }

  /** To whoever wrote, by the link by which it was heard. */
  private async acknowledge({
    id,
    from,
    to,
    number,
    linkId,
  }: Extract<BookEffect, { kind: 'ack' }>): Promise<void> {
    const info = encodeAck(to, number);
    const path = this.ackPath(id);
    try {
      await this.sender.send({ owner: ownerOf(id), linkId, from, path, info, purpose: 'acknowledgement' });
      this.book.dispatch({ kind: 'ack left', id });
    } catch (error) {
      // It stays unacknowledged, which is shown; the sender repeats it.
      this.log.debug(wordsOf(error));
    }
  }

  private ackPath(id: string): string {
    const correspondent = this.received.get(id)?.from;
    const written = [...this.sent.values()].findLast(({ to }) => to === correspondent);
    return written?.path ?? 'WIDE1-1,WIDE2-1';
  }

  private withdraw(id: string): void {
    const linkId = this.sent.get(id)?.linkId;
    if (linkId !== undefined) this.sender.withdraw(linkId, ownerOf(id));
  }

  /** By radio alone: what the internet side brought proves no radio. */
  private prove({ linkId, phase }: SentMessage): void {
    if (phase.kind !== 'acknowledged' || linkId === INTERNET_SIDE) return;
    const words = `acknowledged by ${phase.by} after ${Math.round(phase.afterMs / 1000)} s, at try ${phase.atTry}`;
    void this.proof.record({
      linkId,
      rung: 'message acknowledged',
      atMs: this.clock.nowMs(),
      kind: 'frame',
      words,
    });
  }

  private correspondents(): MessagesView['correspondents'] {
    const byMs = this.store.toWallMs();
    return reckonCorrespondents([...this.sent.values()].map((one) => shifted(one, byMs)));
  }

  private outgoingView(one: SentMessage): OutgoingView {
    const { phase, ...rest } = shifted(one, this.store.toWallMs());
    if (phase.kind !== 'queued') return { ...rest, phase };
    const { trouble } = phase;
    return { ...rest, phase: { kind: 'queued', ...(trouble === undefined ? {} : { trouble }) } };
  }

  private receivedView(one: HeardMessage): ReceivedView {
    const {
      usesReplyAcks: _,
      wasAckAsked: __,
      ...rest
    } = shiftedReceived(one, this.store.toWallMs()) as HeardMessage;
    return { ...rest, text: shownText(one.text) };
  }
}

const ownerOf = (id: string): string => `message ${id}`;

const wordsOf = (error: unknown): string =>
  error instanceof ProblemException ? FAILURES[error.reason].happened : (error as Error).message;

/** A gate puts packets on the air for their senders, one within another (1.0.1, "Third-party format"). */
function innermost(
  from: string,
  report: AprsReport,
  gate?: string,
): { from: string; report: AprsReport; gate?: string } {
  const inner = report.thirdParty;
  if (inner) return innermost(inner.source, inner.report, gate ?? from);
  return { from, report, ...(gate === undefined ? {} : { gate }) };
}

/** Keeps as many as are shown; the record and the database have the rest. */
function forgetOldest<Entry>(all: Map<string, Entry>, may: (entry: Entry) => boolean): void {
  if (all.size <= MESSAGES_SHOWN) return;
  for (const [id, entry] of all)
    if (may(entry)) {
      all.delete(id);
      return;
    }
}
