import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { isLent, isSound, type LinkSettings, type LinkView } from '@mistpeak/contract/link';
import type { ByteLink } from '@mistpeak/link/byte-link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf } from '@mistpeak/link/failure';
import type { LinkEvent } from '@mistpeak/link/frame-link';
import { openSoundCard, type SoundCardLink } from '../adapters/sound/sound-card.js';
import { CLOCK } from '../adapters/system-clock.js';
import { DeferredWrites } from '../database/deferred-writes.js';
import { DatabaseSession } from '../database/session.js';
import { LiveService } from '../live/live.service.js';
import { TrafficService } from '../traffic/traffic.service.js';
import { RemovalsService } from '../removals/removals.service.js';
import { ProofService } from '../proof/proof.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import {
  columnsOf,
  heldOf,
  letGoOfPin,
  lockKey,
  openedWords,
  refuseSound,
  settingsOf,
  wireOf,
} from './link-columns.js';
import { LinkEntity } from './link.entity.js';
import { LentWires } from './lent-wires.js';
import { LinkRun } from './link-run.js';
import { SoundReports } from './sound-reports.js';
import { openWire } from './open-wire.js';

/** A link that another process holds, and that is to be open, is asked for again this often: its holder may have ended. */
const ASK_AGAIN_EVERY_MS = 5000;

interface Known {
  row: LinkEntity;
  readonly run: LinkRun;
  heldElsewhere: boolean;
}

type LinkHandler = (linkId: string) => void;

/** The links: their settings in the database, their wires in this process, one owner each by advisory lock. */
@Injectable()
export class LinksService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly removedHandlers: LinkHandler[] = [];
  private readonly changedHandsHandlers: LinkHandler[] = [];
  private readonly log = new Logger('links');
  private readonly known = new Map<string, Known>();
  private readonly lentWires = new LentWires();
  readonly sounds = new SoundReports();
  private readonly consoles = new Map<string, ByteLink>();
  private readonly cards = new Map<string, SoundCardLink>();
  private stopAsking: (() => void) | undefined;

  constructor(
    @InjectRepository(LinkEntity) private readonly rows: Repository<LinkEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DatabaseSession,
    private readonly deferred: DeferredWrites,
    private readonly live: LiveService,
    private readonly proof: ProofService,
    private readonly removals: RemovalsService,
    private readonly traffic: TrafficService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('links', () => this.views());
    this.database.onLost((key) => this.lose(key));
    for (const row of await this.rows.find({ order: { name: 'ASC' } })) this.know(row);
    for (const { row } of this.known.values()) if (!row.wantedOpen) await letGoOfPin(settingsOf(row));
    for (const known of this.known.values()) if (known.row.wantedOpen) await this.takeUp(known);
  }

  async onModuleDestroy(): Promise<void> {
    this.stopAsking?.();
    await Promise.all([...this.known.values()].map(({ run }) => run.end().catch(() => undefined)));
  }

  /** Calls with each link that was removed. */
  onRemoved(handler: LinkHandler): void {
    this.removedHandlers.push(handler);
  }

  /** Calls with each link that this process has just taken up or lost, before anything can be sent there. */
  onChangedHands(handler: LinkHandler): void {
    this.changedHandsHandlers.push(handler);
  }

  views(): LinkView[] {
    return [...this.known.values()].map(viewOf);
  }

  view(id: string): LinkView {
    return viewOf(this.find(id));
  }

  async add(settings: LinkSettings, id: string): Promise<LinkView> {
    const made = this.known.get(id);
    if (made) return viewOf(made);
    refuseSound(settings);
    const row = await this.keep(this.rows.create({ ...columnsOf(settings), id }));
    const known = this.know(row);
    this.publish(known);
    return viewOf(known);
  }

  async change(id: string, settings: LinkSettings): Promise<LinkView> {
    const known = this.find(id);
    refuseIfChanged(known.row.version, settings.version);
    refuseSound(settings);
    const sameWire = wireOf(settings) === wireOf(settingsOf(known.row));
    known.row = await this.keep({ ...known.row, ...columnsOf(settings) });
    if (known.run.isOpen() && sameWire) await known.run.sendParameters();
    else if (known.row.wantedOpen) {
      known.run.close();
      await this.takeUp(known);
    }
    this.publish(known);
    return viewOf(known);
  }

  async remove(id: string): Promise<void> {
    const known = this.find(id);
    const row = await this.rows.save({ ...known.row, wantedOpen: false });
    await known.run.end();
    await this.database.unlock(lockKey(id));
    await this.removals.remove({
      key: keyOf(id),
      words: `the link ${row.name}`,
      changed: () => (this.removals.isLeaving(keyOf(id)) ? this.forget(id) : this.publish(this.know(row))),
      finish: async () => void (await this.rows.delete(id)),
    });
  }

  private forget(id: string): void {
    // Whoever lets go of it may still ask how it is set.
    for (const handler of this.removedHandlers) handler(id);
    this.known.delete(id);
    this.live.publish({ kind: 'link-removed', data: { id } });
  }

  async open(id: string): Promise<LinkView> {
    const known = this.find(id);
    if (this.consoles.has(id)) throw new ProblemException('console-open');
    const holder = this.holderOf(known);
    if (holder) throw new ProblemException('set-up-taken', { link: holder });
    known.row = await this.rows.save({ ...known.row, wantedOpen: true });
    await this.takeUp(known);
    if (known.heldElsewhere) throw new ProblemException('held-elsewhere');
    return viewOf(known);
  }

  async close(id: string): Promise<LinkView> {
    const known = this.find(id);
    // The wire is let go first: an operator who wants silence must not wait for the database.
    known.run.close();
    known.row = { ...known.row, wantedOpen: false };
    await this.deferred.write('UPDATE link SET wanted_open = false WHERE id = $1', [id]);
    await this.database.unlock(lockKey(id));
    return viewOf(known);
  }

  /** The open link, or a refusal: also while another process may own it. */
  openRun(id: string): LinkRun {
    const { run } = this.find(id);
    if (!run.isOpen()) throw new ProblemException('link-not-open');
    if (!this.database.owns(lockKey(id))) throw new ProblemException('database-away');
    return run;
  }

  /** The wire without KISS, for a TNC that shows a command prompt; the link must be closed, and stays so meanwhile. */
  async openForConsole(id: string): Promise<ByteLink> {
    const { run, row } = this.find(id);
    if (run.state().phase !== 'closed') throw new ProblemException('link-open');
    if (!(await this.database.tryLock(lockKey(id)))) throw new ProblemException('held-elsewhere');
    try {
      const wire = await openWire(settingsOf(row), new AbortController().signal);
      this.consoles.set(id, wire);
      return wire;
    } catch (error) {
      throw new ProblemException(failureOf(error).failure);
    }
  }

  /** KISS may have the port again. */
  async closeConsole(id: string): Promise<void> {
    const wire = this.consoles.get(id);
    this.consoles.delete(id);
    await wire?.close().catch(() => undefined);
    if (wire) await this.database.unlock(lockKey(id));
  }

  /** Links that have this card open close, and it is free when this resolves. Returns their ids. */
  async letGoOfCard(card: string): Promise<string[]> {
    const holders = [...this.known.values()].filter(
      ({ row, run }) =>
        run.state().phase !== 'closed' && [row.sound?.input, row.sound?.output].includes(card),
    );
    for (const { row } of holders) {
      const ended = this.cards.get(row.id)?.ended;
      await this.close(row.id);
      await ended;
    }
    return holders.map(({ row }) => row.id);
  }

  /** A sound card of this machine sends at that level from now on, or at that of its set-up; one at a page is moved there. */
  sendSoundAt(id: string, levelDbfs = this.known.get(id)?.row.sound?.levelDbfs): void {
    if (levelDbfs !== undefined) this.cards.get(id)?.sendAt(levelDbfs);
  }

  isHeldElsewhere(id: string): boolean {
    return this.find(id).heldElsewhere;
  }

  settings(id: string): LinkSettings {
    return settingsOf(this.find(id).row);
  }

  /**
   * A page brings its device: the wire is taken at once, in the place of any that was there. A page that comes back by
   * itself does not open a link that the operator has closed.
   */
  async lend(id: string, wire: ByteLink, isByOperator: boolean): Promise<void> {
    const known = this.find(id);
    if (!isLent(settingsOf(known.row))) throw new ProblemException('not-lent-here');
    if (!isByOperator && !known.row.wantedOpen) throw new ProblemException('link-not-open');
    this.lentWires.bring(id, wire);
    known.run.close();
    await this.open(id);
  }

  /** The station may have been removed meanwhile (PostgreSQL, appendix A: 23503 is a foreign key that leads nowhere). */
  private async keep(row: LinkEntity): Promise<LinkEntity> {
    try {
      return await this.rows.save(row);
    } catch (error) {
      if ((error as { code?: string }).code === '23503') throw new ProblemException('not-found');
      throw error;
    }
  }

  private find(id: string): Known {
    const known = this.known.get(id);
    if (!known) throw new ProblemException('not-found');
    return known;
  }

  private know(row: LinkEntity): Known {
    const run = new LinkRun(
      {
        clock: this.clock,
        dice: Math.random,
        openWire: (settings, signal) =>
          isLent(settings)
            ? this.lentWires.take(row.id)
            : settings.kind === 'sound-card'
              ? this.openCard(row.id, settings, signal)
              : openWire(settings, signal),
        opened: () => void this.provePortOpen(known.row),
        received: (event) => this.pass(row.id, event),
        changed: () => this.publish(known),
      },
      () => settingsOf(known.row),
    );
    const known: Known = { row, run, heldElsewhere: false };
    this.known.set(row.id, known);
    return known;
  }

  private pass(linkId: string, event: LinkEvent): void {
    const { kind, atMs } = event;
    if (kind === 'frame')
      this.traffic.heard({ linkId, atMs, port: event.port, raw: event.raw, origin: this.originOf(linkId) });
    if (kind === 'discard')
      this.traffic.scrap({ linkId, atMs, raw: event.raw, reason: event.reason, times: event.times });
    if (kind === 'stand-in') this.traffic.standIn(linkId, atMs);
  }

  /** Who has a card or key of this set-up open, by name. The serial port of another link is one too. */
  private holderOf({ row }: Known): string | undefined {
    const wanted = heldOf(settingsOf(row));
    return [...this.known.values()].find(
      (other) =>
        other.row.id !== row.id &&
        other.run.state().phase !== 'closed' &&
        heldOf(settingsOf(other.row)).some((one) => wanted.includes(one)),
    )?.row.name;
  }

  private async openCard(id: string, settings: LinkSettings, signal: AbortSignal): Promise<ByteLink> {
    const card = await openSoundCard(settings, signal, (report, atMs) => this.sounds.tell(id, report, atMs));
    this.cards.set(id, card);
    return card;
  }

  private originOf(linkId: string): 'sound' | 'kiss' {
    const row = this.known.get(linkId)?.row;
    return row && isSound(settingsOf(row)) ? 'sound' : 'kiss';
  }

  private tellChangedHands(id: string): void {
    for (const handler of this.changedHandsHandlers) handler(id);
  }

  private provePortOpen(row: LinkEntity): Promise<void> {
    const { id } = row;
    const words = openedWords(settingsOf(row));
    return this.proof.record({
      linkId: id,
      rung: 'port open',
      atMs: this.clock.nowMs(),
      kind: 'link',
      words,
    });
  }

  /** Another process took it while the database was away: it is let go at once. */
  private lose(key: number): void {
    for (const known of this.known.values()) {
      if (lockKey(known.row.id) !== key) continue;
      this.log.warn(`${known.row.name} was taken by another process`);
      known.run.close();
      this.tellChangedHands(known.row.id);
      this.leaveToOthers(known);
      this.publish(known);
    }
  }

  private leaveToOthers(known: Known): void {
    known.heldElsewhere = true;
    this.stopAsking ??= this.clock.after(ASK_AGAIN_EVERY_MS, () => {
      this.stopAsking = undefined;
      void this.askAgain();
    });
  }

  /** What others held is taken up once they let it go, as long as the operator wants it open. */
  private async askAgain(): Promise<void> {
    for (const known of this.known.values()) {
      if (!known.heldElsewhere) continue;
      try {
        await this.takeUpAgain(known);
      } catch (error) {
        this.log.warn(`${known.row.name} is asked for again later: ${String(error)}`);
        this.leaveToOthers(known);
      }
    }
  }

  private async takeUpAgain(known: Known): Promise<void> {
    const { id } = known.row;
    if (!(await this.database.tryLock(lockKey(id)))) return this.leaveToOthers(known);
    // Its holder may have changed or closed it: what the database says counts.
    const row = await this.rows.findOneBy({ id });
    if (row) known.row = row;
    known.heldElsewhere = false;
    if (row?.wantedOpen) await this.takeUp(known);
    else await this.database.unlock(lockKey(id));
    this.publish(known);
  }

  private async takeUp(known: Known): Promise<void> {
    const { id, name } = known.row;
    const wasHeldElsewhere = known.heldElsewhere;
    known.heldElsewhere = !(await this.database.tryLock(lockKey(id)));
    if (known.heldElsewhere) {
      this.log.warn(`${name} is held by another process`);
      this.leaveToOthers(known);
    } else {
      if (!known.run.isOpen()) this.tellChangedHands(id);
      known.run.open();
    }
    if (known.heldElsewhere !== wasHeldElsewhere) this.publish(known);
  }

  private publish(known: Known): void {
    if (this.known.has(known.row.id)) this.live.publish({ kind: 'link', data: viewOf(known) });
  }
}

const keyOf = (id: string): string => `link ${id}`;

function viewOf({ row, run, heldElsewhere }: Known): LinkView {
  const state = run.state();
  const failed = state.phase === 'failed' ? { failure: state.reason, failureDetail: run.failureDetail } : {};
  return {
    id: row.id,
    version: row.version,
    settings: settingsOf(row),
    phase: state.phase,
    ...failed,
    ...(run.retryAtMs === undefined ? {} : { retryAtMs: run.retryAtMs }),
    ...(run.openedAtMs === undefined ? {} : { openedAtMs: run.openedAtMs }),
    ...(run.openingSinceMs === undefined ? {} : { openingSinceMs: run.openingSinceMs }),
    standIn: run.standIn,
    heldElsewhere,
  };
}
