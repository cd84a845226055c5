import { Inject, Injectable, Logger, type OnModuleDestroy } from '@nestjs/common';
import { callWithoutSsid, isDemoCall } from '@mistpeak/core/callsign/callsign';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatLocator } from '@mistpeak/core/geo/locator';
import { challengeAnswer } from '@mistpeak/core/mail/login';
import type { Rung } from '@mistpeak/core/proof/evidence';
import type { GatewayEntry, MailProfile } from '@mistpeak/contract/mail-settings';
import type { MailAttempt, MailLine, MailRunView, StartMail } from '@mistpeak/contract/mail-session';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { LinksService } from '../links/links.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { ProblemException } from '../problems/problem.js';
import { ProofService } from '../proof/proof.service.js';
import type { SessionRun } from '../sessions/session-run.js';
import { SessionsService, type SessionListener } from '../sessions/sessions.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { MailAccount } from './account.service.js';
import { ChannelEar } from './channel-ear.js';
import type { ConversationContext } from './conversation.js';
import { MailHoldings } from './holdings.service.js';
import { MailPulseService } from './mail-pulse.service.js';
import { MailSettingsService } from './mail-settings.service.js';
import { callByModem } from './modem-wire.js';
import { MailPace } from './pace.service.js';
import { callByPacket, calledByPacket } from './packet-wire.js';
import { callOf, gatewaysOf, parametersOf, sharesCard, viaCount } from './profile.js';
import { MailRun, type RunHost, type RunSpec } from './run.js';
import { MailRunStore } from './run-store.js';
import { MailSelfTests } from './self-tests.service.js';
import { callByTcp } from './tcp-wire.js';
import { RadioTuning } from './tuning.service.js';
import type { MailWire, WireEvents } from './wire.js';

/** As every session begins with it; what this program can: compressed messages with headers and ids. */
export const PROGRAM = { name: 'Mistpeak', version: '1', can: 'B2FHM$' };
const LARGEST_OCTETS = 2_000_000;
/** Nothing moved for so long: the other end is given up. */
const PACKET_PATIENCE_MS = 4 * 60_000;
const TCP_PATIENCE_MS = 60_000;
const SHOWN = 40;
const TOLD_EVERY_MS = 200;
const STOPPED_WITH_SERVER = {
  ok: false,
  happened: 'The server stopped in mid-session.',
  means: 'What was confirmed is done; the rest stays.',
  try: 'Call again: it goes on where this one ended.',
};

/** Sessions of radio mail in operation: one of ours at a time, and whoever calls. */
@Injectable()
export class MailRunner implements OnModuleDestroy {
  private readonly log = new Logger('mail');
  private readonly runs = new Map<string, MailRun>();
  private over: MailRunView[] = [];
  /** Of those that ended since the start: also a database that is away does not hide what was said. */
  private readonly said = new Map<string, readonly MailLine[]>();
  private readonly telling = new Map<string, () => void>();
  /** What the operator has said that his radios stand at, by link. */
  private readonly tuned = new Map<string, number>();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly account: MailAccount,
    private readonly ear: ChannelEar,
    private readonly holdings: MailHoldings,
    private readonly links: LinksService,
    private readonly live: LiveService,
    private readonly lock: LockService,
    private readonly operator: OperatorService,
    private readonly pace: MailPace,
    private readonly proof: ProofService,
    private readonly pulse: MailPulseService,
    private readonly selfTests: MailSelfTests,
    private readonly sessions: SessionsService,
    private readonly settings: MailSettingsService,
    private readonly store: MailRunStore,
    private readonly tuning: RadioTuning,
  ) {}

  async begin(): Promise<void> {
    this.live.contribute('mailRuns', () => this.views());
    this.over = (await this.store.newest(SHOWN)).map((view) =>
      view.endedAtMs === undefined
        ? { ...view, phase: 'over', endedAtMs: view.startedAtMs, outcome: STOPPED_WITH_SERVER }
        : view,
    );
  }

  onModuleDestroy(): void {
    for (const cancel of this.telling.values()) cancel();
    for (const run of this.runs.values()) void this.store.keep(run.view(), run.lines);
  }

  views(): MailRunView[] {
    return [...this.over, ...[...this.runs.values()].map((run) => run.view())];
  }

  attemptsOf({ gateways, way, host = '' }: MailProfile): MailAttempt[] {
    const calls = way === 'tcp' ? [host.toUpperCase()] : gateways.map(({ call }) => call.toUpperCase());
    return this.over
      .filter((run) => run.way === way)
      .flatMap(({ attempts }) => attempts.filter(({ gateway }) => calls.includes(gateway)));
  }

  async detail(id: string): Promise<{ view: MailRunView; lines: readonly MailLine[]; run?: MailRun }> {
    const run = this.runs.get(id);
    if (run) return { view: run.view(), lines: run.lines, run };
    const [view, said] = [this.over.find((one) => one.id === id), this.said.get(id)];
    if (view && said) return { view, lines: said };
    const found = await this.store.find(id);
    if (!found) throw new ProblemException('not-found');
    return { view: view ?? found.view, lines: found.lines };
  }

  run(id: string): MailRun {
    const run = this.runs.get(id);
    if (!run)
      throw new ProblemException(this.over.some((one) => one.id === id) ? 'session-over' : 'not-found');
    return run;
  }

  isUnderWay(): boolean {
    return [...this.runs.values()].some(({ spec }) => spec.calledBy === 'us');
  }

  /** The same id again is the same session. */
  async start(
    id: string,
    { profileId, password, nothingQueued = false }: StartMail,
    isScheduled = false,
  ): Promise<MailRunView> {
    const known = this.views().find((one) => one.id === id);
    if (known) return known;
    if (this.isUnderWay()) throw new ProblemException('mail-under-way');
    const profile = this.settings.profile(profileId);
    const secret = profile.way === 'peer' ? undefined : this.account.forSession(password);
    this.refuseLocked(profile);
    if (sharesCard(profile, this.settings.view().modems, this.links.views()))
      throw new ProblemException('card-in-use');
    const spec: RunSpec = {
      id,
      profileId,
      profile: profile.name,
      way: profile.way,
      linkId: profile.linkId,
      calledBy: 'us',
      isScheduled,
      gateways: gatewaysOf(profile),
      tries: profile.tries,
      octetsPerSecond: this.pace.of(profile, this.attemptsOf(profile)).octetsPerSecond,
    };
    const run = new MailRun(this.hostOf(profile, secret, nothingQueued), spec);
    this.runs.set(id, run);
    try {
      await this.holdings.readOutbox();
      // Before the first word of it: also this one is told as cut off, should the process end.
      await this.store.keep(run.view(), run.lines);
    } catch (error) {
      this.runs.delete(id);
      throw error;
    }
    void run.go().then(() => this.putBack(profile, run));
    this.tell(run);
    return run.view();
  }

  /** Somebody calls for mail, station to station. */
  answer(session: SessionRun): SessionListener {
    const { id, peer, own, linkId } = session.spec;
    const spec: RunSpec = {
      id,
      profileId: '',
      profile: 'called',
      way: 'peer',
      linkId,
      calledBy: 'them',
      isScheduled: false,
      gateways: [],
      tries: 1,
      octetsPerSecond: 50,
    };
    const context = (): ConversationContext => ({
      ...this.contextOf(own, peer),
      role: 'called',
      answerTo: () => undefined,
      outgoing: () => this.holdings.outgoing(id, 'radio', callWithoutSsid(peer)),
      takes: true,
      patienceMs: PACKET_PATIENCE_MS,
    });
    const run = new MailRun(
      {
        ...this.hostParts(linkId),
        context,
        call: () => {
          throw new Error('nobody is called');
        },
        tune: undefined,
        quietMs: undefined,
      },
      spec,
    );
    this.runs.set(id, run);
    let listener: SessionListener | undefined;
    run.sessionId = id;
    run.answer((events) => {
      const called = calledByPacket(session, events);
      listener = called.listener;
      return called.wire;
    }, peer);
    this.tell(run);
    return listener as SessionListener;
  }

  private refuseLocked({ way, linkId, from }: MailProfile): void {
    if (way === 'tcp' || linkId === undefined) return;
    this.lock.permit(linkId, callOf(from), this.lock.begin(linkId));
  }

  private hostOf(profile: MailProfile, password: string | undefined, nothingQueued: boolean): RunHost {
    const { way, linkId = '', exchanges, from, radio, word = '' } = profile;
    const control = this.settings.view().radios.find(({ name }) => name === radio);
    const own = callOf(from);
    const isOverAir = way !== 'tcp';
    const licence = callWithoutSsid(own);
    return {
      ...this.hostParts(linkId),
      call: (run, entry, events) => this.call(run, profile, entry, events),
      context: (run, gateway) => ({
        ...this.contextOf(own, gateway, isOverAir),
        role: 'caller',
        answerTo: (challenge) => (password === undefined ? undefined : challengeAnswer(challenge, password)),
        ...(way === 'tcp' ? { serviceLogin: { call: licence, word } } : {}),
        outgoing: () =>
          nothingQueued || exchanges === 'receive'
            ? []
            : this.holdings.outgoing(
                run.spec.id,
                isOverAir ? 'radio' : 'internet',
                way === 'peer' ? callWithoutSsid(gateway) : undefined,
              ),
        takes: exchanges !== 'send',
        patienceMs: isOverAir ? PACKET_PATIENCE_MS : TCP_PATIENCE_MS,
      }),
      loggedIn: (run) => {
        this.prove(run, 'logged in to mail', `${run.view().gateway} accepted the answer to its challenge`);
        if (password !== undefined) void this.account.noteProved(password, this.clock.nowMs());
      },
      tune: isOverAir && control ? (mhz) => this.tuning.tune(control, Math.round(mhz * 1e6)) : undefined,
      quietMs: way === 'packet' || way === 'peer' ? () => this.ear.quietMs(linkId) : undefined,
    };
  }

  private hostParts(linkId: string): Omit<RunHost, 'call' | 'context' | 'tune' | 'quietMs'> {
    return {
      clock: this.clock,
      holdings: this.holdings,
      isTunedTo: (mhz) => this.tuned.get(linkId) === mhz,
      noteTuned: (mhz) => void this.tuned.set(linkId, mhz),
      place: () => this.locator(),
      levelDbfs: (gateway) => this.ear.levelDbfs(linkId, gateway),
      loggedIn: () => undefined,
      sent: (run, mid) => this.noteSent(run, mid),
      received: (run, kept) => this.noteReceived(run, kept),
      changed: (run) => this.tellSoon(run),
    };
  }

  /** Large ones are asked about where they hold a channel. */
  private contextOf(
    own: string,
    peer: string,
    isOverAir = true,
  ): Omit<ConversationContext, 'role' | 'answerTo' | 'outgoing' | 'takes' | 'patienceMs'> {
    const { askOverOctets } = this.settings.view();
    return {
      own,
      peer,
      locator: this.locator(),
      addresses: this.settings.addresses(),
      program: PROGRAM,
      largestOctets: LARGEST_OCTETS,
      announces: false,
      ...(askOverOctets === undefined || !isOverAir ? {} : { askOver: askOverOctets }),
    };
  }

  private locator(): string {
    const position = this.operator.view()?.position;
    const locator = position && formatLocator(position);
    return locator === undefined || isMalformed(locator) ? '' : locator;
  }

  private call(run: MailRun, profile: MailProfile, entry: GatewayEntry, events: WireEvents): MailWire {
    const { way, linkId = '', from, host = '', port = 0, tries } = profile;
    const own = callOf(from);
    const peer = entry.call.toUpperCase();
    const isDemo = isDemoCall(own);
    if (way === 'tcp') return callByTcp({ host, port, isDemo }, this.clock, events);
    if (way === 'modem') return this.callByModem(run, profile, peer, events);
    const id = `${run.spec.id.slice(0, 24)}${(run.view().attempts.length + 0x10000).toString(16).padStart(12, '0')}`;
    run.sessionId = id;
    const frequency = entry.frequencyMHz === undefined ? {} : { frequencyMHz: entry.frequencyMHz };
    const parameters = parametersOf(profile, this.links.settings(linkId), viaCount(entry.via));
    const counted: WireEvents = {
      ...events,
      // Called so often; once it stands, it is held as long as every connection.
      connected: () => {
        this.sessions.choose(id, parameters);
        events.connected();
      },
      ended: (...why) => {
        const quality = this.sessions.views().find((view) => view.id === id)?.quality;
        if (quality) run.noteFrames(quality.framesSent, quality.framesResent);
        events.ended(...why);
      },
    };
    return callByPacket(
      this.sessions,
      id,
      {
        from: own,
        to: peer,
        via: entry.via,
        linkId,
        ...frequency,
        parameters: { ...parameters, retries: Math.max(1, tries - 1) },
      },
      counted,
    );
  }

  private callByModem(
    run: MailRun,
    { modem: name, from, tries }: MailProfile,
    peer: string,
    events: WireEvents,
  ): MailWire {
    const modem = this.settings.view().modems.find((one) => one.name === name);
    if (!modem) throw new ProblemException('not-found');
    const own = callOf(from);
    const prove = (rung: Rung, words: string): void => this.prove(run, rung, words);
    // Our own ears hear it too: a refusal of ours would cut that link.
    const done = this.sessions.leaveTo(own, peer);
    return callByModem({ modem, own, peer, tries, isDemo: isDemoCall(own) }, this.clock, {
      ...events,
      connected: () => {
        prove('far station answered', `the modem program says that it is linked with ${peer}`);
        events.connected();
      },
      told: (side, text) => run.tell(side === 'mine' ? 'mine' : 'theirs', `[modem program] ${text}`),
      state: ({ isBusy, waiting }) => {
        run.modem = { isBusy, ...(waiting === undefined ? {} : { waitingOctets: waiting }) };
        this.tellSoon(run);
      },
      bufferEmpty: () => prove('keyed', 'the modem program says that its buffer is empty: all has gone out'),
      ended: (...why) => {
        done();
        events.ended(...why);
      },
      disconnected: () => prove('far station answered', `the modem program says that ${peer} took leave`),
    });
  }

  private prove({ spec }: MailRun, rung: Rung, words: string): void {
    if (spec.linkId === undefined || spec.linkId === '') return;
    void this.proof.record({ linkId: spec.linkId, rung, atMs: this.clock.nowMs(), kind: 'frame', words });
  }

  private noteSent(run: MailRun, mid: string): void {
    const { gateway } = run.view();
    this.holdings.noteSent(mid, `taken by ${gateway}`);
    this.selfTests.noteSent(mid);
    this.prove(run, 'mail sent', `${gateway} took ${mid}`);
    void this.pulse.tell();
  }

  private noteReceived(run: MailRun, kept: Parameters<RunHost['received']>[1]): void {
    if (!kept) return;
    const { letter } = kept;
    this.prove(run, 'mail received', `${letter.mid} from ${letter.from}, by ${run.view().gateway}`);
    const test = this.selfTests.noteReceived(letter);
    if (test) this.prove(run, 'self-test answered', `self-test ${test.number} (${test.chain}) was answered`);
    void this.pulse.tell();
  }

  private async putBack({ linkId = '', radio }: MailProfile, run: MailRun): Promise<void> {
    const control = this.settings.view().radios.find(({ name }) => name === radio);
    if (!control || run.beforeHz === undefined) return;
    const { words } = await this.tuning.tune(control, run.beforeHz);
    this.tuned.delete(linkId);
    this.log.debug(`the radio was put back: ${words}`);
  }

  private tellSoon(run: MailRun): void {
    if (run.isOver) return this.end(run);
    if (this.telling.has(run.spec.id)) return;
    this.telling.set(
      run.spec.id,
      this.clock.after(TOLD_EVERY_MS, () => this.tell(run)),
    );
  }

  private tell(run: MailRun): void {
    this.telling.get(run.spec.id)?.();
    this.telling.delete(run.spec.id);
    this.live.publish({ kind: 'mail-run', data: run.view() });
  }

  private end(run: MailRun): void {
    if (!this.runs.delete(run.spec.id)) return;
    this.tell(run);
    const view = run.view();
    this.over = [...this.over, view].slice(-SHOWN);
    this.said.set(view.id, run.lines);
    for (const id of this.said.keys()) if (!this.over.some((one) => one.id === id)) this.said.delete(id);
    void this.store.keep(view, run.lines).then(() => this.pulse.tell());
  }
}
