import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { formatCallSign, isDemoCall, isPlaceholderCall } from '@mistpeak/core/callsign/callsign';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import type { Moment } from '@mistpeak/core/machine/machine';
import {
  armedCall,
  SHUT,
  step,
  stillPermits,
  type Lock,
  type LockEffect,
  type LockEvent,
  type Permit,
} from '@mistpeak/core/transmitting/lock';
import type { LockView } from '@mistpeak/contract/link';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { DatabaseSession } from '../database/session.js';
import { DeferredWrites } from '../database/deferred-writes.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { ProblemException } from '../problems/problem.js';

type RunningLock = Driven<Lock, LockEvent>;

const TOUCH_WRITTEN_EVERY_MS = 60_000;

/**
 * The transmit lock of each link. What permits is in memory, so that closing waits for nobody; the database follows it, and
 * says to the other processes how it stands. A closing is told to all of them, since each page may hang on another.
 */
@Injectable()
export class LockService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly locks = new Map<string, RunningLock>();
  private readonly closingHandlers: ((linkId: string) => void)[] = [];
  private readonly changeHandlers: ((linkId: string) => void)[] = [];
  /** When what is known of a link's lock was last written, by the clock that only goes forward. */
  private readonly writtenAtUpMs = new Map<string, number>();
  /** How links stand that other processes hold. */
  private readonly elsewhere = new Map<string, LockView>();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DatabaseSession,
    private readonly deferred: DeferredWrites,
    private readonly links: LinksService,
    private readonly operator: OperatorService,
    private readonly live: LiveService,
  ) {}

  onApplicationBootstrap(): void {
    this.live.contribute('locks', () =>
      [...new Set([...this.locks.keys(), ...this.elsewhere.keys()])].map((id) => this.view(id)),
    );
    this.database.onNotice<{ linkId: string }>('close-lock', ({ linkId }) => this.shut(linkId));
    this.database.onNotice<LockView>('lock', (view) => this.noteElsewhere(view));
    // Whoever takes a link up or loses it is receive-only, whatever the database remembers.
    this.links.onChangedHands((linkId) => this.shut(linkId));
  }

  onModuleDestroy(): void {
    // What waits in the queue must not leave while the process ends.
    for (const lock of this.locks.values()) {
      lock.dispatch({ kind: 'close' });
      lock.end();
    }
  }

  /** Calls at each closing, before anything else happens. */
  onClosing(handler: (linkId: string) => void): void {
    this.closingHandlers.push(handler);
  }

  /** Calls after each change: opened, closed, for another call, for longer. */
  onChanged(handler: (linkId: string) => void): void {
    this.changeHandlers.push(handler);
  }

  view(linkId: string): LockView {
    const lock = this.stateOf(linkId);
    const call = armedCall(lock, this.clock.upMs());
    if (call === undefined || !lock.armed) return this.elsewhere.get(linkId) ?? { linkId, armed: false };
    const leftMs = lock.armed.expiresAtMs - this.clock.upMs();
    return { linkId, armed: true, call, expiresAtMs: Math.round(this.clock.nowMs() + leftMs) };
  }

  /** Armed at once; a closing that comes before it is written wins, and so does a database that does not take it. */
  async arm(linkId: string, callText: string, instead = false): Promise<LockView> {
    const call = formatCallSign(this.operator.ownCall(callText));
    this.refuseCallOn(linkId, call);
    const inForce = armedCall(this.stateOf(linkId), this.clock.upMs());
    // In another window somebody else may be at work with that call.
    if (inForce !== undefined && inForce !== call && !instead)
      throw new ProblemException('another-call-in-force');
    this.lock(linkId).dispatch({ kind: 'arm', call });
    const begun = this.begin(linkId);
    const isWritten = await this.write(linkId);
    if (!stillPermits(this.stateOf(linkId), begun, this.clock.upMs()))
      throw new ProblemException('closed-meanwhile');
    if (isWritten) return this.view(linkId);
    this.shut(linkId);
    throw new ProblemException('database-away');
  }

  /** Shut here first: silence waits for nobody. Rejects only if another process holds the link and cannot be told. */
  async disarm(linkId: string): Promise<LockView> {
    this.shut(linkId);
    try {
      await this.database.notify('close-lock', { linkId });
      this.elsewhere.delete(linkId);
    } catch (error) {
      if (this.links.isHeldElsewhere(linkId)) throw error;
    }
    return this.view(linkId);
  }

  /** What is begun now is permitted as long as nothing closes the lock, if it is permitted at all. */
  begin(linkId: string): Permit {
    return { closings: this.stateOf(linkId).closings };
  }

  /** Refuses unless this link is open, armed for the call that the frame carries, and was not closed since that was begun. */
  permit(linkId: string, source: string, begun: Permit): void {
    this.refuseCallOn(linkId, source);
    this.refuseUnarmed(linkId, begun);
    if (armedCall(this.stateOf(linkId), this.clock.upMs()) !== source)
      throw new ProblemException('armed-for-another-call');
  }

  /** For a frame of another program: the link is armed, and the station that answers for it is one of ours, with any SSID. */
  permitOwn(linkId: string, station: string, source: string, begun: Permit): void {
    this.refuseCallOn(linkId, formatCallSign(this.operator.ownCall(station)));
    this.refuseCallOn(linkId, source);
    this.refuseUnarmed(linkId, begun);
  }

  /** A transmission keeps the lock open for another hour, if nothing has closed it since it was permitted. */
  touch(linkId: string, permit: Permit): void {
    this.lock(linkId).dispatch({ kind: 'touch', permit });
    // An hour more is not worth a statement for each frame.
    if (this.clock.upMs() - (this.writtenAtUpMs.get(linkId) ?? -Infinity) >= TOUCH_WRITTEN_EVERY_MS)
      void this.write(linkId);
  }

  private refuseUnarmed(linkId: string, begun: Permit): void {
    const lock = this.stateOf(linkId);
    if (armedCall(lock, this.clock.upMs()) === undefined) throw new ProblemException('not-armed');
    if (!stillPermits(lock, begun, this.clock.upMs())) throw new ProblemException('closed-meanwhile');
  }

  private shut(linkId: string): void {
    this.lock(linkId).dispatch({ kind: 'close' });
    void this.write(linkId);
  }

  private refuseCallOn(linkId: string, call: string): void {
    const run = this.links.openRun(linkId);
    if (isPlaceholderCall(call)) throw new ProblemException('placeholder-call');
    if (isDemoCall(call) && !run.standIn) throw new ProblemException('demo-call-on-a-real-link');
  }

  private stateOf(linkId: string): Lock {
    return this.locks.get(linkId)?.state() ?? SHUT;
  }

  private lock(linkId: string): RunningLock {
    const known = this.locks.get(linkId);
    if (known) return known;
    let closed = SHUT.closings;
    const lock = drive<Lock, LockEvent, LockEffect, Moment>(step, SHUT, {
      clock: this.clock,
      context: (moment) => moment,
      perform: () => undefined,
      changed: ({ closings }) => {
        if (closings !== closed) for (const handler of this.closingHandlers) handler(linkId);
        closed = closings;
        this.tell(linkId);
        for (const handler of this.changeHandlers) handler(linkId);
      },
    });
    this.locks.set(linkId, lock);
    return lock;
  }

  private tell(linkId: string): void {
    if (this.stateOf(linkId).armed) this.elsewhere.delete(linkId);
    const view = this.view(linkId);
    this.live.publish({ kind: 'lock', data: view });
    if (this.database.away() || this.elsewhere.has(linkId)) return;
    // Who is not told shows it as it was; a closing from there still comes through.
    this.database.notify('lock', view).catch(() => undefined);
  }

  /** Another process says how the lock of its link stands: shown here too. */
  private noteElsewhere(view: LockView): void {
    if (view.armed) this.elsewhere.set(view.linkId, view);
    else this.elsewhere.delete(view.linkId);
    if (!this.stateOf(view.linkId).armed) this.live.publish({ kind: 'lock', data: this.view(view.linkId) });
  }

  /** How it stands now, behind all that was written of it before. False while the database does not take it. */
  private write(linkId: string): Promise<boolean> {
    this.writtenAtUpMs.set(linkId, this.clock.upMs());
    const { call, expiresAtMs } = this.view(linkId);
    if (call === undefined || expiresAtMs === undefined || !this.stateOf(linkId).armed)
      return this.deferred.write('DELETE FROM transmit_lock WHERE link_id = $1', [linkId]);
    return this.deferred.write(
      `INSERT INTO transmit_lock (link_id, call, armed_at, expires_at) SELECT id, $2, $3::timestamptz, $4::timestamptz FROM link WHERE id = $1
       ON CONFLICT (link_id) DO UPDATE
         SET call = excluded.call, armed_at = excluded.armed_at, expires_at = excluded.expires_at`,
      [linkId, call, new Date(this.clock.nowMs()).toISOString(), new Date(expiresAtMs).toISOString()],
    );
  }
}
