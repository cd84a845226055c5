import { randomUUID } from 'node:crypto';
import { Inject, Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toLatin1 } from '@mistpeak/core/bits/octets';
import { formatCallSign } from '@mistpeak/core/callsign/callsign';
import { drive } from '@mistpeak/core/machine/drive';
import type { Moment } from '@mistpeak/core/machine/machine';
import {
  NOT_CONNECTED,
  step,
  type CallerContext,
  type CallerEffect,
  type CallerEvent,
  type CallerState,
} from '@mistpeak/core/mailbox/caller';
import { FOR_ALL, octetsOf } from '@mistpeak/core/mailbox/letters';
import { USUAL_RULES } from '@mistpeak/core/mailbox/rules';
import { decodeText, encodeText, guessCharset } from '@mistpeak/core/terminal/charset';
import { computedParameters, type SessionParameters } from '@mistpeak/core/throughput/session-parameters';
import type {
  LetterView,
  MailboxSettings,
  MailboxSettingsView,
  MailboxView,
  WriteLetter,
} from '@mistpeak/contract/mailbox';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';
import type { SessionRun } from '../sessions/session-run.js';
import { SessionsService, type SessionListener } from '../sessions/sessions.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { CallerLines } from './callers.js';
import { MailboxStore, type HalfLetter, type KeptLetter } from './mailbox-store.js';

const HOUR_MS = 3_600_000;
const ANNOUNCED_EVERY_MS = HOUR_MS / 2;
const USUAL_SSID = 1;

/** A mailbox of this station, called by others: behind the lock, off until the operator switches it on. */
@Injectable()
export class MailboxService implements OnModuleInit, OnModuleDestroy {
  private readonly log = new Logger('mailbox');
  private settings: MailboxSettingsView = {
    ...USUAL_RULES,
    listed: [],
    isOn: false,
    ssid: USUAL_SSID,
    allowsAutomatic: false,
    announces: false,
    version: 0,
  };
  private letters: KeptLetter[] = [];
  private half: HalfLetter[] = [];
  private numbered = 0;
  private calls: { readonly caller: string; readonly upMs: number }[] = [];
  private cancelAnnouncing: (() => void) | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly live: LiveService,
    private readonly lock: LockService,
    private readonly operator: OperatorService,
    private readonly removals: RemovalsService,
    private readonly sessions: SessionsService,
    private readonly store: MailboxStore,
    private readonly transmitting: TransmittingService,
  ) {}

  async onModuleInit(): Promise<void> {
    const { settings, version, numbered, letters, half } = await this.store.read();
    if (settings) this.settings = { ...this.settings, ...settings, version };
    Object.assign(this, { numbered, letters, half });
    this.live.contribute('mailbox', () => this.view());
    this.sessions.answerBy({
      purpose: 'mailbox',
      takes: (linkId, own, digipeaters) => this.takes(linkId, own, digipeaters),
      begun: (run) => this.begun(run),
    });
    this.lock.onChanged(() => this.tell());
    this.announceLater();
  }

  onModuleDestroy(): void {
    this.cancelAnnouncing?.();
  }

  view(): MailboxView {
    const letters = this.visible();
    const closed = this.closedBecause();
    return {
      settings: this.settings,
      letters: letters.map(letterView),
      halfReceived: this.half.map(({ id, ...half }) => ({ id, ...shown(half) })),
      usedOctets: letters.reduce((sum, letter) => sum + octetsOf(letter), 0),
      ...(closed === undefined ? {} : { closedBecause: closed }),
    };
  }

  async choose({ version, ...given }: MailboxSettings): Promise<MailboxView> {
    refuseIfChanged(this.settings.version, version);
    if (given.isOn && !given.allowsAutomatic)
      throw new ProblemException('field-refused', {
        allowsAutomatic: 'say that your local rules allow a station that answers while nobody is there',
      });
    if (given.isOn && given.linkId === undefined)
      throw new ProblemException('field-refused', { linkId: 'choose a link' });
    if (given.linkId !== undefined) this.links.settings(given.linkId);
    const next = this.settings.version + 1;
    await this.store.saveSettings(given, next);
    this.settings = { ...given, version: next };
    this.tell();
    return this.view();
  }

  /** The same id again is the same letter. */
  async write(id: string, { to, subject, text }: WriteLetter): Promise<LetterView> {
    const from = this.operator.view()?.call ?? '';
    const letter = {
      from,
      to: to.toUpperCase(),
      subject: wire(subject),
      text: wire(text.replace(/\r\n?/g, '\n')),
    };
    const { number, isKept } = this.add(id, letter);
    if (!(await isKept)) throw new ProblemException('database-away');
    return letterView(this.find(number));
  }

  async noteRead(number: number): Promise<LetterView> {
    const letter = this.find(number);
    await this.read(letter);
    return letterView(this.find(number));
  }

  async remove(number: number): Promise<void> {
    const letter = this.find(number);
    await this.removals.remove({
      key: keyOf(letter),
      words: `the letter from ${letter.from}, “${shown(letter).subject}”`,
      changed: () => this.tell(),
      finish: () => this.kill(letter),
    });
  }

  async removeHalf(id: string): Promise<void> {
    this.half = this.half.filter((one) => one.id !== id);
    await this.store.kill(id, this.clock.nowMs());
    this.tell();
  }

  private visible(): KeptLetter[] {
    return this.letters.filter((letter) => !this.removals.isLeaving(keyOf(letter)));
  }

  private find(number: number): KeptLetter {
    const letter = this.letters.find((one) => one.number === number);
    if (!letter) throw new ProblemException('not-found');
    return letter;
  }

  private ownCall(): string | undefined {
    const call = this.operator.view()?.call;
    return call === undefined ? undefined : formatCallSign({ call, ssid: this.settings.ssid });
  }

  private closedBecause(): string | undefined {
    const { isOn, linkId } = this.settings;
    if (!isOn || linkId === undefined) return 'it is switched off';
    const isLink = this.links.views().some(({ id }) => id === linkId);
    if (!isLink) return 'its link was removed';
    return this.lock.view(linkId).armed ? undefined : 'the transmitter of its link is locked';
  }

  private takes(
    linkId: string,
    own: string,
    digipeaters: number,
  ): { parameters: SessionParameters } | undefined {
    if (linkId !== this.settings.linkId || own !== this.ownCall() || this.closedBecause() !== undefined)
      return undefined;
    return { parameters: computedParameters(this.links.settings(linkId), digipeaters) };
  }

  /** Somebody has called: his conversation is a machine of its own. */
  private begun(run: SessionRun): SessionListener {
    const { own, peer, linkId, id } = run.spec;
    const upMs = this.clock.upMs();
    this.calls = this.calls.filter((one) => upMs - one.upMs < HOUR_MS);
    const callsWithinHour = this.calls.filter(({ caller }) => caller === peer).length;
    this.calls.push({ caller: peer, upMs });
    const lines = new CallerLines();
    const caller = drive<CallerState, CallerEvent, CallerEffect, CallerContext & Moment>(
      step,
      NOT_CONNECTED,
      {
        clock: this.clock,
        context: (moment) => ({
          ...moment,
          own,
          caller: peer,
          letters: this.visible(),
          rules: {
            ...this.settings,
            greeting: wire(this.settings.greeting),
            information: wire(this.settings.information),
          },
          callsWithinHour,
          heard: this.sessions.heardLately(linkId),
          timeOf: (atMs) => new Date(atMs).toISOString().slice(5, 16).replace('T', ' '),
        }),
        perform: (effect) => this.perform(run, effect),
      },
    );
    return {
      connected: () => caller.dispatch({ kind: 'connected' }),
      data: (octets) => lines.take(octets).forEach((text) => caller.dispatch({ kind: 'line', text })),
      ended: () => {
        caller.dispatch({ kind: 'lost' });
        caller.end();
        this.log.debug(`${peer} has left (${id})`);
      },
    };
  }

  private perform(run: SessionRun, effect: Exclude<CallerEffect, { kind: 'start' | 'stop' }>): void {
    switch (effect.kind) {
      case 'say':
        return run.say(fromLatin1(effect.lines.map((line) => `${line}\r`).join('')));
      case 'keep':
        return void this.add(randomUUID(), effect.letter);
      case 'half-received': {
        const { from, to, subject, text } = effect;
        const half = { id: randomUUID(), from, to, subject, text, atMs: this.clock.nowMs() };
        this.half = [...this.half, half];
        void this.store.keep(half, null, false);
        return this.tell();
      }
      case 'read':
        return void this.read(this.find(effect.number));
      case 'kill':
        return void this.kill(this.find(effect.number));
      case 'hang up':
        return run.disconnectWhenSaid();
    }
  }

  private add(
    id: string,
    letter: Pick<KeptLetter, 'from' | 'to' | 'subject' | 'text'>,
  ): { number: number; isKept: Promise<boolean> } {
    const known = this.letters.find((one) => one.id === id);
    if (known) return { number: known.number, isKept: Promise.resolve(true) };
    const number = ++this.numbered;
    const kept = { ...letter, id, number, isRead: false, atMs: this.clock.nowMs() };
    this.letters = [...this.letters, kept];
    this.tell();
    return { number, isKept: this.store.keep(kept, number, false) };
  }

  private async read(letter: KeptLetter): Promise<void> {
    this.letters = this.letters.map((one) => (one.id === letter.id ? { ...one, isRead: true } : one));
    this.tell();
    await this.store.noteRead(letter.id);
  }

  private async kill({ id }: KeptLetter): Promise<void> {
    this.letters = this.letters.filter((one) => one.id !== id);
    this.tell();
    await this.store.kill(id, this.clock.nowMs());
  }

  private tell(): void {
    this.live.publish({ kind: 'mailbox', data: this.view() });
  }

  private announceLater(): void {
    this.cancelAnnouncing = this.clock.after(ANNOUNCED_EVERY_MS, () => {
      void this.announce().catch((error: unknown) => this.log.debug(String(error)));
      this.announceLater();
    });
  }

  /** For whom unread mail waits, to nobody in particular (common practice, no source). */
  private async announce(): Promise<void> {
    const { announces, linkId } = this.settings;
    const own = this.ownCall();
    const me = this.operator.view()?.call;
    const waiting = [
      ...new Set(
        this.visible().flatMap(({ to, isRead }) => (isRead || to === me || to === FOR_ALL ? [] : [to])),
      ),
    ];
    if (!announces || linkId === undefined || own === undefined || waiting.length === 0) return;
    if (this.closedBecause() !== undefined) return;
    await this.transmitting.offer({
      linkId,
      frame: uiFrame(own, 'MAIL', [], fromLatin1(`Mail for ${waiting.slice(0, 20).join(' ')}`)),
      answering: own,
      sendClass: 'beacon',
      owner: 'mailbox',
      purpose: 'mailbox announcement',
      expiresInMs: 60_000,
    });
  }
}

const keyOf = ({ id }: KeptLetter): string => `letter ${id}`;

/** As it goes over the air, one character per octet; and as it is shown. */
const wire = (text: string): string => toLatin1(encodeText(text, 'UTF-8').octets);
const legible = (text: string): string => {
  const octets = fromLatin1(text);
  return decodeText(octets, guessCharset(octets));
};
const shown = <One extends { readonly subject: string; readonly text: string }>(one: One): One => ({
  ...one,
  subject: legible(one.subject),
  text: legible(one.text),
});

function letterView({ number, from, to, subject, text, atMs, isRead }: KeptLetter): LetterView {
  return { number, from, to, atMs, isRead, subject: legible(subject), text: legible(text) };
}
