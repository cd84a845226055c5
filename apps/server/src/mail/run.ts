import type { Ending } from '@mistpeak/core/mail/exchange';
import { TROUBLES } from '@mistpeak/core/mail/trouble';
import type { GatewayEntry, MailWay } from '@mistpeak/contract/mail-settings';
import type { MailAttempt, MailLine, MailRunView } from '@mistpeak/contract/mail-session';
import type { Clock } from '@mistpeak/link/clock';
import { Conversation, type ConversationContext } from './conversation.js';
import type { MailHoldings } from './holdings.service.js';
import type { Tuned } from './tuning.service.js';
import { outcomeOf, resultOf } from './outcome.js';
import type { MailWire, WireEvents } from './wire.js';

/** What a session needs of the rest of the server. */
export interface RunHost {
  readonly clock: Clock;
  readonly holdings: MailHoldings;
  /** Calls that gateway; from then on the events tell. */
  readonly call: (run: MailRun, entry: GatewayEntry, events: WireEvents) => MailWire;
  readonly context: (run: MailRun, gateway: string) => ConversationContext;
  /** Undefined: no radio is controlled. */
  readonly tune: ((frequencyMHz: number) => Promise<Tuned>) | undefined;
  /** To which the operator has ticked that the radio is set. */
  readonly isTunedTo: (frequencyMHz: number) => boolean;
  readonly noteTuned: (frequencyMHz: number) => void;
  /** ms for which the channel has been silent; undefined: there is no channel. */
  readonly quietMs: (() => number) | undefined;
  readonly place: () => string;
  readonly levelDbfs: (gateway: string) => number | undefined;
  readonly loggedIn: (run: MailRun) => void;
  readonly sent: (run: MailRun, mid: string) => void;
  readonly received: (run: MailRun, kept: Awaited<ReturnType<MailHoldings['keep']>>) => void;
  readonly changed: (run: MailRun) => void;
}

export interface RunSpec {
  readonly id: string;
  readonly profileId: string;
  readonly profile: string;
  readonly way: MailWay;
  readonly linkId?: string | undefined;
  readonly calledBy: 'us' | 'them';
  readonly isScheduled: boolean;
  readonly gateways: readonly GatewayEntry[];
  readonly tries: number;
  /** For the reckoning of what is left. */
  readonly octetsPerSecond: number;
}

/** The channel counts as free after so long; it is waited for no longer than a minute. */
const QUIET_MS = 3000;
const QUIET_WITHIN_MS = 60_000;
const LOOKED_EVERY_MS = 500;
/** Between two tries at the same gateway. */
const PAUSE_MS = 3000;
const MOST_LINES = 3000;

/** After these another gateway may do better. */
const TRY_NEXT: readonly MailAttempt['result'][] = [
  'no answer',
  'refused',
  'not tuned',
  'busy channel',
  'silent',
  'lost before greeting',
  'broken',
  'service out of reach',
  'no common form',
  'talks without end',
  'they broke off',
  'out of order',
  'wrong checksum',
];
/** After these the same gateway is called again, as often as was chosen: what came is kept, and it goes on from there. */
const TRY_AGAIN: readonly MailAttempt['result'][] = ['silent', 'broken'];

type Result = Pick<MailAttempt, 'result' | 'words'> & { readonly said?: string | undefined };

/** One session of radio mail, from its start to its end, over as many gateways as it takes. */
export class MailRun {
  readonly lines: MailLine[] = [];
  sessionId: string | undefined;
  modem: MailRunView['modem'];
  conversation: Conversation | undefined;
  private readonly startedAtMs: number;
  private endedAtMs: number | undefined;
  private phase: MailRunView['phase'] = 'calling';
  private readonly attempts: MailAttempt[] = [];
  private tuning: MailRunView['tuning'];
  private outcome: MailRunView['outcome'];
  private wire: MailWire | undefined;
  private isStopping = false;
  private wake: (() => void) | undefined;
  private ending: Ending | undefined;
  private resent: Pick<MailAttempt, 'resent' | 'framesSent'> = {};
  /** What the radio was set to before. */
  beforeHz: number | undefined;

  constructor(
    private readonly host: RunHost,
    readonly spec: RunSpec,
  ) {
    this.startedAtMs = host.clock.nowMs();
  }

  get isOver(): boolean {
    return this.endedAtMs !== undefined;
  }

  /** Down the list until one session was well, or nothing is left to try. */
  async go(): Promise<void> {
    let last: Result = { result: 'no way', words: 'there is nobody to call' };
    for (const entry of this.spec.gateways) {
      for (let tries = 0; tries < this.spec.tries && !this.isStopping; tries++) {
        if (tries > 0) await this.pause(PAUSE_MS);
        last = await this.attempt(entry);
        if (!TRY_AGAIN.includes(last.result)) break;
      }
      if (this.isStopping || !TRY_NEXT.includes(last.result)) break;
    }
    this.finish(this.isStopping ? { ...last, result: 'stopped' } : last);
  }

  /** Somebody has called: his wire is there already. */
  answer(wire: (events: WireEvents) => MailWire, gateway: string): void {
    const entry: GatewayEntry = { call: gateway, via: '', note: '' };
    this.attempts.push(this.newAttempt(entry));
    void this.talk(entry, wire).then((result) => {
      this.settle(result);
      this.finish(result);
    });
  }

  /** Politely; asked twice, at once. */
  stop(): void {
    const again = this.isStopping;
    this.isStopping = true;
    this.wake?.();
    if (this.conversation && this.phase === 'talking') this.conversation.dispatch({ kind: 'stop' });
    if (again || this.phase === 'calling') this.wire?.drop();
    this.host.changed(this);
  }

  /** The operator has set the radio by hand. */
  noteTuned(): void {
    if (!this.tuning || this.phase !== 'tuning') return;
    this.host.noteTuned(this.tuning.frequencyMHz);
    this.wake?.();
  }

  decide(answers: Readonly<Record<string, 'yes' | 'no' | 'later'>>): void {
    this.conversation?.decide(answers);
    this.host.changed(this);
  }

  noteFrames(framesSent: number, resent: number): void {
    this.resent = { framesSent, resent };
  }

  tell(side: MailLine['side'], text: string): void {
    if (this.lines.length < MOST_LINES) this.lines.push({ atMs: this.host.clock.nowMs(), side, text });
  }

  view(): MailRunView {
    const { spec, conversation } = this;
    const state = conversation?.state();
    return {
      id: spec.id,
      profileId: spec.profileId,
      profile: spec.profile,
      way: spec.way,
      calledBy: spec.calledBy,
      isScheduled: spec.isScheduled,
      startedAtMs: this.startedAtMs,
      ...(this.endedAtMs === undefined ? {} : { endedAtMs: this.endedAtMs }),
      phase: this.phase,
      exchange: state?.phase ?? 'not connected',
      gateway: this.attempts.at(-1)?.gateway ?? spec.gateways[0]?.call ?? '',
      ...(this.tuning && this.phase === 'tuning' ? { tuning: this.tuning } : {}),
      attempts: this.attempts,
      out: [...(conversation?.out.values() ?? [])],
      in: [...(conversation?.in.values() ?? [])],
      askedAbout: conversation?.askedAbout ?? [],
      announced: conversation?.announced.length ?? 0,
      ...(this.phase === 'talking' ? { msLeft: this.msLeft() } : {}),
      isStopping: this.isStopping,
      ...(this.sessionId === undefined ? {} : { sessionId: this.sessionId }),
      ...(this.modem ? { modem: this.modem } : {}),
      ...(this.outcome ? { outcome: this.outcome } : {}),
    };
  }

  /** By its own pace as soon as that says something. */
  private msLeft(): number {
    const { conversation, spec } = this;
    if (!conversation) return 0;
    const sinceMs = this.attempts.at(-1)?.exchangeAtMs;
    const passed = conversation.octetsIn + Math.min(conversation.octetsOut, conversation.confirmedOctets);
    const ms = sinceMs === undefined ? 0 : this.host.clock.nowMs() - sinceMs;
    const rate = passed > 500 && ms > 5000 ? (1000 * passed) / ms : spec.octetsPerSecond;
    return Math.round((1000 * conversation.octetsLeft()) / rate);
  }

  private newAttempt({ call, via, frequencyMHz }: GatewayEntry): MailAttempt {
    return {
      gateway: call.toUpperCase(),
      via,
      ...(frequencyMHz === undefined ? {} : { frequencyMHz }),
      atMs: this.host.clock.nowMs(),
      result: 'under way',
      words: '',
      octetsOut: 0,
      octetsIn: 0,
      place: this.host.place(),
      loggedIn: false,
    };
  }

  private async attempt(entry: GatewayEntry): Promise<Result> {
    this.attempts.push(this.newAttempt(entry));
    this.resent = {};
    const result =
      (await this.tuned(entry)) ??
      (await this.quiet()) ??
      (await this.talk(entry, (events) => this.host.call(this, entry, events)));
    this.settle(result);
    return result;
  }

  private note(change: Partial<MailAttempt>): void {
    const last = this.attempts.pop();
    if (last) this.attempts.push({ ...last, ...change });
  }

  private settle({ result, words }: Result): void {
    const { conversation } = this;
    const endedAtMs = this.host.clock.nowMs();
    const { exchangeAtMs, gateway = '' } = this.attempts.at(-1) ?? {};
    const [octetsOut, octetsIn] = [conversation?.octetsOut ?? 0, conversation?.octetsIn ?? 0];
    const exchangeMs = exchangeAtMs === undefined ? 0 : endedAtMs - exchangeAtMs;
    const levelDbfs = this.host.levelDbfs(gateway);
    this.note({
      endedAtMs,
      result,
      words,
      octetsOut,
      octetsIn,
      ...(exchangeMs > 0 ? { octetsPerSecond: (1000 * (octetsOut + octetsIn)) / exchangeMs } : {}),
      ...this.resent,
      ...(levelDbfs === undefined ? {} : { levelDbfs }),
    });
    this.tell('told', `${gateway}: ${words}`);
    this.host.changed(this);
  }

  /** The frequency is set by the radio's own word, or by the operator's; undefined: it is. */
  private async tuned({ frequencyMHz }: GatewayEntry): Promise<Result | undefined> {
    if (frequencyMHz === undefined || this.host.isTunedTo(frequencyMHz)) return undefined;
    const { tune } = this.host;
    const by = tune ? 'radio' : 'hand';
    this.tuning = { frequencyMHz, by, words: tune ? 'the radio is being set' : 'set the radio, then say so' };
    this.turn('tuning');
    if (tune) {
      const { phase, words, beforeHz } = await tune(frequencyMHz);
      this.beforeHz ??= beforeHz;
      this.tell('told', words);
      return phase === 'set' ? undefined : { result: 'not tuned', words };
    }
    if (this.spec.isScheduled)
      return { result: 'not tuned', words: `nobody was there to set ${frequencyMHz.toFixed(3)} MHz` };
    await this.pause(Infinity);
    return this.isStopping ? { result: 'stopped', words: 'stopped before it was called' } : undefined;
  }

  private async quiet(): Promise<Result | undefined> {
    const { quietMs, clock } = this.host;
    if (!quietMs) return undefined;
    this.turn('waiting for quiet');
    const untilMs = clock.upMs() + QUIET_WITHIN_MS;
    while (quietMs() < QUIET_MS && !this.isStopping) {
      if (clock.upMs() >= untilMs)
        return {
          result: 'busy channel',
          words: 'the channel was never free for three seconds within a minute',
        };
      await this.pause(LOOKED_EVERY_MS);
    }
    return this.isStopping ? { result: 'stopped', words: 'stopped before it was called' } : undefined;
  }

  /** Waits; woken by a stop, or by what is waited for. */
  private pause(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const done = (): void => {
        cancel();
        this.wake = undefined;
        resolve();
      };
      const cancel = ms === Infinity ? () => undefined : this.host.clock.after(ms, done);
      this.wake = done;
    });
  }

  private turn(phase: MailRunView['phase']): void {
    this.phase = phase;
    this.host.changed(this);
  }

  /** One conversation over one wire, from the call to its end. */
  private talk(entry: GatewayEntry, call: (events: WireEvents) => MailWire): Promise<Result> {
    const gateway = entry.call.toUpperCase();
    this.ending = undefined;
    this.note({ calledAtMs: this.host.clock.nowMs() });
    this.turn('calling');
    const conversation = new Conversation(
      {
        id: this.spec.id,
        clock: this.host.clock,
        holdings: this.host.holdings,
        isAttended: !this.spec.isScheduled,
        wire: () => this.wire as MailWire,
        line: ({ side, text }) => this.tell(side, text),
        loggedIn: () => {
          this.note({ loggedIn: true });
          this.host.loggedIn(this);
        },
        sent: (mid) => this.host.sent(this, mid),
        received: (kept) => this.host.received(this, kept),
        ended: (ending) => {
          this.ending = ending;
          this.turn('closing');
        },
        changed: () => {
          const isTalking = !['not connected', 'greeting', 'over'].includes(conversation.state().phase);
          if (isTalking && this.attempts.at(-1)?.exchangeAtMs === undefined)
            this.note({ exchangeAtMs: this.host.clock.nowMs() });
          this.host.changed(this);
        },
      },
      this.host.context(this, gateway),
    );
    this.conversation = conversation;
    return new Promise((resolve) => {
      let isConnected = false;
      this.wire = call({
        connected: () => {
          isConnected = true;
          this.note({ connectedAtMs: this.host.clock.nowMs() });
          this.turn('talking');
          conversation.dispatch({ kind: 'connected' });
        },
        data: (octets) => conversation.dispatch({ kind: 'data', octets }),
        confirmed: (octets) => conversation.noteConfirmed(octets),
        ended: (result, words) => {
          if (isConnected) conversation.dispatch({ kind: 'lost' });
          conversation.end();
          resolve(
            isConnected && result === 'ended' ? this.resultOf(words) : { result: resultOf(result), words },
          );
        },
      });
    });
  }

  private resultOf(words: string): Result {
    const kind = this.ending?.kind ?? 'broken';
    if (kind === 'done') return { result: 'done', words: 'all was exchanged' };
    const said = this.ending?.said;
    return { result: kind, words: said ?? `${TROUBLES[kind].happened} (${words})`, said };
  }

  private finish({ result, words, said }: Result): void {
    this.endedAtMs = this.host.clock.nowMs();
    this.phase = 'over';
    this.outcome = outcomeOf(result, words, said, this.attempts);
    this.host.changed(this);
  }
}
