import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { formatCallSign, isDemoCall, isPlaceholderCall } from '@mistpeak/core/callsign/callsign';
import type { LockView } from '@mistpeak/contract/link';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { ProblemException } from '../problems/problem.js';
import { TransmitLockEntity } from './transmitting.entity.js';

/** An idle lock falls shut after an hour. */
const IDLE_LIMIT_MS = 60 * 60_000;

/** The transmit lock of each link: shut until the operator arms it with the call in force, and shut again by time. */
@Injectable()
export class LockService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly armed = new Map<string, TransmitLockEntity>();
  private readonly expiries = new Map<string, () => void>();

  constructor(
    @InjectRepository(TransmitLockEntity) private readonly rows: Repository<TransmitLockEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly operator: OperatorService,
    private readonly live: LiveService,
  ) {}

  onApplicationBootstrap(): void {
    this.live.contribute('locks', () => [...this.armed.keys()].map((id) => this.view(id)));
    void this.shutWhenTakenUp();
  }

  onModuleDestroy(): void {
    for (const cancel of this.expiries.values()) cancel();
  }

  view(linkId: string): LockView {
    const row = this.armed.get(linkId);
    if (!row) return { linkId, armed: false };
    return { linkId, armed: true, call: row.call, expiresAtMs: row.expiresAt.getTime() };
  }

  async arm(linkId: string, callText: string): Promise<LockView> {
    const call = formatCallSign(this.operator.ownCall(callText));
    this.refuseCallOn(linkId, call);
    const nowMs = this.clock.nowMs();
    return this.keep({ linkId, call, armedAt: new Date(nowMs), expiresAt: new Date(nowMs + IDLE_LIMIT_MS) });
  }

  async disarm(linkId: string): Promise<LockView> {
    // Shut in memory first: silence must not wait for the database.
    this.armed.delete(linkId);
    this.expiries.get(linkId)?.();
    this.expiries.delete(linkId);
    this.live.publish({ kind: 'lock', data: this.view(linkId) });
    await this.rows.delete(linkId);
    return this.view(linkId);
  }

  /** Refuses unless this link is open and armed for the call that the frame carries. */
  permit(linkId: string, source: string): void {
    this.refuseCallOn(linkId, source);
    if (!this.isArmed(linkId)) throw new ProblemException('not-armed');
    if (this.armed.get(linkId)?.call !== source) throw new ProblemException('armed-for-another-call');
  }

  /** For a frame of another program: the link is armed, and the station that answers for it is one of ours, with any SSID. */
  permitOwn(linkId: string, station: string, source: string): void {
    this.refuseCallOn(linkId, formatCallSign(this.operator.ownCall(station)));
    this.refuseCallOn(linkId, source);
    if (!this.isArmed(linkId)) throw new ProblemException('not-armed');
  }

  /** A transmission keeps the lock open for another hour. */
  async touch(linkId: string): Promise<void> {
    const row = this.armed.get(linkId);
    if (row) await this.keep({ ...row, expiresAt: new Date(this.clock.nowMs() + IDLE_LIMIT_MS) });
  }

  private isArmed(linkId: string): boolean {
    const row = this.armed.get(linkId);
    return row !== undefined && row.expiresAt.getTime() > this.clock.nowMs();
  }

  private refuseCallOn(linkId: string, call: string): void {
    const run = this.links.openRun(linkId);
    if (isPlaceholderCall(call)) throw new ProblemException('placeholder-call');
    if (isDemoCall(call) && !run.standIn) throw new ProblemException('demo-call-on-a-real-link');
  }

  private async keep(row: TransmitLockEntity): Promise<LockView> {
    await this.rows.save(row);
    this.armed.set(row.linkId, row);
    this.expiries.get(row.linkId)?.();
    const waitMs = row.expiresAt.getTime() - this.clock.nowMs();
    this.expiries.set(
      row.linkId,
      this.clock.after(waitMs, () => void this.disarm(row.linkId).catch(() => undefined)),
    );
    const view = this.view(row.linkId);
    this.live.publish({ kind: 'lock', data: view });
    return view;
  }

  /** Whoever takes a link up starts receive-only, whatever the database remembers. */
  private async shutWhenTakenUp(): Promise<void> {
    for await (const linkId of this.links.takenUp) await this.disarm(linkId).catch(() => undefined);
  }
}
