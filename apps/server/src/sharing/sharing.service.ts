import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { decodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { DeskEffect, HandEffect, Refusal } from '@mistpeak/core/sharing/desk';
import { HeardLately } from '@mistpeak/core/sharing/heard-lately';
import type { Drop } from '@mistpeak/core/transmitting/way-out';
import { NOT_SHARED, type SharingSettings, type SharingView } from '@mistpeak/contract/sharing';
import type { Clock } from '@mistpeak/link/clock';
import { LinkFailed } from '@mistpeak/link/failure';
import { announceKiss } from '../adapters/service-announcer.js';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { TrafficService, type Passing } from '../traffic/traffic.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { Share } from './share.js';
import { SharingEntity } from './sharing.entity.js';

/** A busy channel with many programs changes the view at every frame: pages are told this often at most. */
const TELL_EVERY_MS = 300;

/** What the desk is told where the transmitter refuses. */
const REFUSED_BY: Readonly<Record<string, Refusal>> = {
  'not-armed': 'transmitter locked',
  'foreign-call': 'not an own station',
  'no-operator': 'not an own station',
  'demo-call-on-a-real-link': 'demo call on a real link',
  'placeholder-call': 'placeholder call',
  'link-not-open': 'link closed',
  'closed-meanwhile': 'transmitter locked',
};

/** What the desk is told of a frame that never went out. */
const REFUSED_AS: Readonly<Record<Drop, Refusal>> = {
  closed: 'transmitter locked',
  withdrawn: 'receive-only',
  'too many waiting': 'too many waiting',
  'too long': 'too long',
  expired: 'failed',
  replaced: 'failed',
};

const ownerOf = (client: string): string => `program ${client}`;

/** A share that listens. */
interface Running {
  readonly share: Share;
  readonly stopAnnouncing: () => Promise<void>;
}

/** Lends linked TNCs to other programs: off until it is switched on, on this machine until the network is confirmed. */
@Injectable()
export class SharingService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly log = new Logger('sharing');
  private readonly rows = new Map<string, SharingEntity>();
  private readonly running = new Map<string, Running>();
  private readonly failures = new Map<string, string>();
  private readonly telling = new Map<string, () => void>();
  /** Of each link that is shared: what a program there may repeat. */
  private readonly heard = new Map<string, HeardLately>();

  constructor(
    @InjectRepository(SharingEntity) private readonly stored: Repository<SharingEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly transmitting: TransmittingService,
    private readonly live: LiveService,
    private readonly traffic: TrafficService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('sharing', () => [...this.rows.keys()].map((id) => this.view(id)));
    for (const row of await this.stored.find()) {
      this.rows.set(row.linkId, row);
      if (row.isOn) await this.start(row);
    }
    this.traffic.take('sharing', { heard: (frame) => this.passOn(frame) });
    this.links.onRemoved((linkId) => void this.forget(linkId));
  }

  async onModuleDestroy(): Promise<void> {
    for (const cancel of this.telling.values()) cancel();
    await Promise.all([...this.running.keys()].map((id) => this.stop(id)));
  }

  view(linkId: string): SharingView {
    const row = this.rows.get(linkId);
    const failure = this.failures.get(linkId);
    const share = this.running.get(linkId)?.share;
    return {
      linkId,
      settings: row ? settingsOf(row) : NOT_SHARED,
      isListening: this.running.has(linkId),
      ...(failure ? { failure } : {}),
      clients: share?.clients() ?? [],
      letGo: share?.letGoFor ?? { flooded: 0, 'read nothing': 0 },
    };
  }

  async change(linkId: string, settings: SharingSettings): Promise<SharingView> {
    this.links.view(linkId); // refuses a link that is not there
    const { isOn, port, reach, isReachConfirmed, isAnnounced, newMayTransmit } = settings;
    if (isOn && reach === 'network' && !isReachConfirmed) throw new ProblemException('network-not-confirmed');
    const before = this.rows.get(linkId);
    const row = await this.stored.save({ linkId, isOn, port, reach, isAnnounced, newMayTransmit });
    this.rows.set(linkId, row);
    if (!before || wireOf(before) !== wireOf(row) || this.failures.has(linkId)) {
      await this.stop(linkId);
      if (isOn) await this.start(row);
    }
    this.publish(linkId);
    if (this.failures.has(linkId)) throw new ProblemException('port-taken');
    return this.view(linkId);
  }

  allow(linkId: string, client: string, mayTransmit: boolean): SharingView {
    this.shareWith(linkId, client).tell({ kind: 'allowed', client, mayTransmit });
    return this.view(linkId);
  }

  dismiss(linkId: string, client: string): void {
    this.shareWith(linkId, client).dismiss(client);
  }

  private shareWith(linkId: string, client: string): Share {
    const share = this.running.get(linkId)?.share;
    if (!share?.has(client)) throw new ProblemException('not-found');
    return share;
  }

  private async start(row: SharingEntity): Promise<void> {
    const { linkId, port, reach, isAnnounced } = row;
    const share = new Share({
      clock: this.clock,
      newMayTransmit: () => this.rows.get(linkId)?.newMayTransmit ?? false,
      perform: (effect, from) => void this.perform(linkId, share, effect, from),
      changed: () => this.publishSoon(linkId),
    });
    this.failures.delete(linkId);
    try {
      await share.listen(port, reach === 'network' ? '0.0.0.0' : '127.0.0.1');
    } catch (error) {
      this.log.warn(`port ${port}: ${String(error)}`);
      this.failures.set(linkId, 'port-taken');
      return;
    }
    const isToAnnounce = reach === 'network' && isAnnounced;
    const { name } = this.links.settings(linkId);
    const stopAnnouncing = isToAnnounce ? announceKiss(name, port) : () => Promise.resolve();
    this.running.set(linkId, { share, stopAnnouncing });
  }

  private async stop(linkId: string): Promise<void> {
    const running = this.running.get(linkId);
    this.running.delete(linkId);
    this.failures.delete(linkId);
    await Promise.all([running?.stopAnnouncing(), running?.share.close()]);
  }

  /** Everything that a link heard goes to the programs at its share. */
  private passOn({ linkId, port, raw, origin, view }: Passing): void {
    const share = this.running.get(linkId)?.share;
    if (origin === 'capture' || !share) return;
    if (view) this.heardOn(linkId).note(view.frame, this.clock.upMs());
    share.pass(port, raw);
  }

  private heardOn(linkId: string): HeardLately {
    const heard = this.heard.get(linkId) ?? new HeardLately();
    this.heard.set(linkId, heard);
    return heard;
  }

  private async forget(linkId: string): Promise<void> {
    this.rows.delete(linkId);
    this.heard.delete(linkId);
    await this.stop(linkId);
  }

  private async perform(linkId: string, share: Share, effect: DeskEffect, from: string): Promise<void> {
    const { client } = effect;
    if (effect.kind === 'withdraw') return this.transmitting.withdraw(linkId, ownerOf(client));
    const refusal = await this.hand(linkId, effect, from);
    share.tell({ kind: 'done', client, ...(refusal ? { refusal } : {}) });
  }

  /** By the one way to the air, as every own frame. Answers why not, if not. */
  private async hand(
    linkId: string,
    { client, port, raw }: HandEffect,
    from: string,
  ): Promise<Refusal | undefined> {
    const frame = decodeFrame(raw);
    if (isMalformed(frame)) return 'not AX.25';
    if (!this.heardOn(linkId).mayPassOn(frame, this.clock.upMs())) return 'not heard here';
    try {
      const what = await this.transmitting.offer({
        linkId,
        frame,
        sendClass: 'shared',
        owner: ownerOf(client),
        purpose: `of another program, ${from}`,
        raw,
        port,
        answering: answeringStation(frame),
      });
      return what === 'handed' ? undefined : REFUSED_AS[what];
    } catch (error) {
      if (error instanceof ProblemException) return REFUSED_BY[error.reason] ?? 'failed';
      if (error instanceof LinkFailed) return 'link closed';
      this.log.warn(String(error));
      return 'failed';
    }
  }

  private publishSoon(linkId: string): void {
    if (this.telling.has(linkId)) return;
    const cancel = this.clock.after(TELL_EVERY_MS, () => {
      this.telling.delete(linkId);
      this.publish(linkId);
    });
    this.telling.set(linkId, cancel);
  }

  private publish(linkId: string): void {
    if (this.rows.has(linkId)) this.live.publish({ kind: 'sharing', data: this.view(linkId) });
  }
}

/** Who answers for a frame on the air: its source, or the station that has just repeated it. */
function answeringStation({ source, path }: Ax25Frame): string {
  return path.filter(({ used }) => used).at(-1)?.call ?? source;
}

function settingsOf({ isOn, port, reach, isAnnounced, newMayTransmit }: SharingEntity): SharingSettings {
  return { isOn, port, reach, isReachConfirmed: reach === 'network', isAnnounced, newMayTransmit };
}

/** What needs another listening socket when it changes. */
const wireOf = ({ isOn, port, reach, isAnnounced }: SharingEntity): string =>
  [isOn, port, reach, isAnnounced].join(' ');
