import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { encodeFrame } from '@mistpeak/core/ax25/frame';
import type { Fix } from '@mistpeak/core/beacon/plan';
import {
  OFF,
  step,
  type Schedule,
  type ScheduleContext,
  type ScheduleEffect,
  type ScheduleEvent,
  type ScheduleRules,
} from '@mistpeak/core/beacon/schedule';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatCallSign } from '@mistpeak/core/callsign/callsign';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import { FAILURES } from '@mistpeak/contract/failures';
import type { BeaconTest, BeaconWaySettings, BeaconWayView } from '@mistpeak/contract/beacon-ways';
import type { Clock } from '@mistpeak/link/clock';
import { Repository } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RecordService } from '../record/record.service.js';
import { RemovalsService } from '../removals/removals.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { WhereaboutsService, type Told } from '../whereabouts/whereabouts.service.js';
import { BeaconWayEntity } from './beacon-way.entity.js';
import { BeaconService } from './beacon.service.js';

/** What a page shows of a schedule changes with each step; it is told no more often. */
const TOLD_EVERY_MS = 250;

interface Way {
  row: BeaconWayEntity;
  readonly driven: Driven<Schedule, ScheduleEvent>;
  trouble?: string;
}

/** Beacons that leave by themselves: one schedule for each way, each a driven step behind the lock of its link. */
@Injectable()
export class BeaconWaysService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly log = new Logger('beacon');
  private readonly ways = new Map<string, Way>();
  private cancelTelling: (() => void) | undefined;

  constructor(
    @InjectRepository(BeaconWayEntity) private readonly rows: Repository<BeaconWayEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly beacon: BeaconService,
    private readonly links: LinksService,
    private readonly lock: LockService,
    private readonly operator: OperatorService,
    private readonly record: RecordService,
    private readonly removals: RemovalsService,
    private readonly transmitting: TransmittingService,
    private readonly whereabouts: WhereaboutsService,
    private readonly live: LiveService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('beaconWays', () => this.views());
    this.links.onRemoved((linkId) => this.forgetOf(linkId));
    this.whereabouts.onFix((told) => this.takeFix(told));
    for (const row of await this.rows.find({ order: { id: 'ASC' } })) this.begin(row);
  }

  onModuleDestroy(): void {
    this.cancelTelling?.();
    for (const { driven } of this.ways.values()) driven.end();
  }

  views(): BeaconWayView[] {
    return [...this.ways.values()]
      .filter(({ row }) => !this.removals.isLeaving(keyOf(row.id)))
      .map((way) => this.viewOf(way));
  }

  async add(settings: BeaconWaySettings, id: string): Promise<BeaconWayView> {
    const known = this.ways.get(id);
    if (known) return this.viewOf(known);
    const { version: _, ...given } = this.checked(settings);
    const row = await this.rows.save(
      this.rows.create({ ...given, stopAfter: given.stopAfter ?? null, id, sent: 0, lastSentAt: null }),
    );
    const way = this.begin(row);
    this.tell();
    return this.viewOf(way);
  }

  async change(id: string, settings: BeaconWaySettings): Promise<BeaconWayView> {
    const way = this.of(id);
    const { version, ...given } = this.checked(settings);
    refuseIfChanged(way.row.version, version);
    const wasOn = way.row.isOn;
    way.row = await this.rows.save({ ...way.row, ...given, stopAfter: given.stopAfter ?? null });
    if (given.isOn && !wasOn) {
      way.row = await this.rows.save({ ...way.row, sent: 0 });
      way.driven.dispatch({ kind: 'begin' });
    } else way.driven.dispatch({ kind: given.isOn ? 'look' : 'end' });
    this.placeFixed(way);
    this.tell();
    return this.viewOf(way);
  }

  async remove(id: string): Promise<void> {
    const way = this.ways.get(id);
    if (!way) return;
    // It is silent at once; brought back, it is off.
    way.driven.dispatch({ kind: 'end' });
    way.row = await this.rows.save({ ...way.row, isOn: false });
    await this.removals.remove({
      key: keyOf(id),
      words: `the beacons of ${way.row.source}`,
      changed: () => this.tell(),
      finish: async () => {
        await this.rows.delete(id);
        this.forget(id);
      },
    });
  }

  /** A short interval for a while; then the plan goes on, or it is off as before. */
  test(id: string, { everyS, forS }: BeaconTest): BeaconWayView {
    const way = this.of(id);
    way.driven.dispatch({ kind: 'test', everyMs: everyS * 1000, forMs: forS * 1000 });
    this.tell();
    return this.viewOf(way);
  }

  private of(id: string): Way {
    const way = this.ways.get(id);
    if (!way || this.removals.isLeaving(keyOf(id))) throw new ProblemException('not-found');
    return way;
  }

  private checked(settings: BeaconWaySettings): BeaconWaySettings {
    const source = formatCallSign(this.operator.ownCall(settings.source));
    this.links.settings(settings.linkId);
    if (!this.beacon.placeOf(source)) throw new ProblemException('no-beacon');
    return { ...settings, source };
  }

  /** As it was when the last process ended; it waits for the lock, which that end has shut. */
  private begin(row: BeaconWayEntity): Way {
    const driven = drive<Schedule, ScheduleEvent, ScheduleEffect, ScheduleContext>(step, OFF, {
      clock: this.clock,
      dice: Math.random,
      context: (moment) => ({ ...moment, ...this.contextOf(way) }),
      perform: (effect) => (effect.kind === 'send' ? void this.send(way) : void this.finished(way)),
      changed: () => this.tellSoon(),
    });
    const way: Way = { row, driven };
    this.ways.set(row.id, way);
    this.placeFixed(way);
    const { fix } = driven.state();
    if (!row.isOn) return way;
    if (!row.lastSentAt || !fix) driven.dispatch({ kind: 'begin' });
    else {
      const agoMs = Math.max(0, this.clock.nowMs() - row.lastSentAt.getTime());
      const last = { fix: { ...fix, atMs: this.clock.upMs() - agoMs }, standing: 0 };
      driven.dispatch({ kind: 'begin', before: { last, sent: row.sent } });
    }
    return way;
  }

  private contextOf({ row }: Way): { rules: ScheduleRules; isArmed: boolean; busy: number } {
    const lock = this.lock.view(row.linkId);
    return {
      rules: {
        plan: row.plan,
        leastGapMs: row.leastGapS * 1000,
        jitterMs: row.jitterS * 1000,
        busyAbove: row.busyAbovePercent / 100,
        ...(row.stopAfter === null ? {} : { stopAfter: row.stopAfter }),
      },
      // A lock that another process has open is none of ours: that process sends.
      isArmed: lock.armed && lock.call === row.source && !this.links.isHeldElsewhere(row.linkId),
      busy: this.record.shareHeld(row.linkId),
    };
  }

  /** A fixed way is where its beacon says; one by the device waits for what is told. */
  private placeFixed({ row, driven }: Way): void {
    const position = row.position === 'fixed' ? this.beacon.placeOf(row.source) : undefined;
    const told = row.position === 'device' ? this.whereabouts.latest() : undefined;
    if (position) driven.dispatch({ kind: 'fix', fix: { atMs: this.clock.upMs(), position } });
    else if (told) driven.dispatch({ kind: 'fix', fix: this.fixOf(told) });
  }

  private takeFix(told: Told): void {
    for (const { row, driven } of this.ways.values())
      if (row.position === 'device') driven.dispatch({ kind: 'fix', fix: this.fixOf(told) });
  }

  private fixOf({ position, speedMps, courseDeg }: Told): Fix {
    return {
      atMs: this.clock.upMs(),
      position,
      ...(speedMps === undefined ? {} : { speedMps }),
      ...(courseDeg === undefined ? {} : { courseDeg }),
    };
  }

  private async send(way: Way): Promise<void> {
    const { row, driven } = way;
    try {
      const told = row.position === 'device' ? this.whereabouts.latest() : undefined;
      const frame = this.beacon.frameOf(row.source, told);
      if (!frame) throw new ProblemException('no-beacon');
      if (isMalformed(frame)) throw new Error(frame.malformed);
      const what = await this.transmitting.offer({
        linkId: row.linkId,
        frame,
        sendClass: 'beacon',
        owner: `beacon ${row.id}`,
        purpose: 'beacon',
      });
      if (what !== 'handed') throw new Error(`it was dropped: ${what}`);
      delete way.trouble;
      driven.dispatch({ kind: 'sent' });
      await this.noteSent(way);
    } catch (error) {
      way.trouble =
        error instanceof ProblemException ? FAILURES[error.reason].happened : (error as Error).message;
      driven.dispatch({ kind: 'failed' });
    }
  }

  /** What was sent counts whether or not the database takes it. */
  private async noteSent(way: Way): Promise<void> {
    const [sent, lastSentAt] = [way.driven.state().sent, new Date(this.clock.nowMs())];
    way.row = { ...way.row, sent, lastSentAt };
    await this.rows
      .query('UPDATE beacon_way SET sent = $2, last_sent_at = $3 WHERE id = $1', [
        way.row.id,
        sent,
        lastSentAt,
      ])
      .catch((error: unknown) => this.log.warn(String(error)));
    this.tell();
  }

  private async finished(way: Way): Promise<void> {
    way.row = { ...way.row, isOn: false };
    await this.rows
      .query('UPDATE beacon_way SET is_on = false WHERE id = $1', [way.row.id])
      .catch((error: unknown) => this.log.warn(String(error)));
    this.tell();
  }

  private forgetOf(linkId: string): void {
    for (const [id, { row }] of this.ways) if (row.linkId === linkId) this.forget(id);
    this.tell();
  }

  private forget(id: string): void {
    this.ways.get(id)?.driven.end();
    this.ways.delete(id);
  }

  private tellSoon(): void {
    this.cancelTelling ??= this.clock.after(TOLD_EVERY_MS, () => this.tell());
  }

  private tell(): void {
    this.cancelTelling?.();
    this.cancelTelling = undefined;
    this.live.publish({ kind: 'beacon-ways', data: this.views() });
  }

  private viewOf({ row, driven, trouble }: Way): BeaconWayView {
    const { isOn, waitsFor, nextAtMs, test } = driven.state();
    const wall = (upMs: number): number => Math.round(this.clock.nowMs() + upMs - this.clock.upMs());
    const { lastSentAt, stopAfter, ...rest } = row;
    const airMs = this.airTimeOf(row);
    return {
      ...rest,
      isOn: row.isOn || isOn,
      ...(stopAfter === null ? {} : { stopAfter }),
      ...(waitsFor ? { waitsFor } : {}),
      ...(nextAtMs === undefined ? {} : { nextAtMs: wall(nextAtMs) }),
      ...(lastSentAt ? { lastSentAtMs: lastSentAt.getTime() } : {}),
      ...(test ? { test: { everyS: Math.round(test.everyMs / 1000), untilMs: wall(test.untilMs) } } : {}),
      ...(airMs === undefined ? {} : { airTimeMs: airMs }),
      ...(trouble === undefined ? {} : { trouble }),
    };
  }

  private airTimeOf({ source, linkId, position }: BeaconWayEntity): number | undefined {
    const frame = this.beacon.frameOf(source, position === 'device' ? this.whereabouts.latest() : undefined);
    if (!frame || isMalformed(frame)) return undefined;
    const { airRate, txDelayMs, txTailMs } = this.links.settings(linkId);
    return airTimeMs(encodeFrame(frame), airRate, { txDelayMs, txTailMs });
  }
}

const keyOf = (id: string): string => `beacon way ${id}`;
