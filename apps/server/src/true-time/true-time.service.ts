import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import {
  agreedOffset,
  AGREEING,
  isClockWrong,
  withLostWeeks,
  type TimeSeen,
} from '@mistpeak/core/true-time/seen';
import { stretchUntil, type WrongStretch } from '@mistpeak/core/true-time/stretches';
import type { TimeOfDevice, TrueTimeView } from '@mistpeak/contract/true-time';
import { every } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CorrectableClock } from '../adapters/correctable-clock.js';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { MACHINE, type Machine } from '../departure/machine.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';

/** No receiver can tell an earlier time than this was written at. */
const NOT_BEFORE_MS = Date.UTC(2026, 0, 1);
/** The way of a sentence from the receiver: they come once a second, by a slow port. */
const SENTENCE_WITHIN_MS = 500;
/** What was told longer ago is told no more. */
const TOLD_FOR_MS = 10 * 60_000;
const LOOK_EVERY_MS = 2000;
/** Clocks of one machine drift apart by less in that time. */
const SET_FROM_MS = 1000;
/** Those who ask for a correction that is made already pressed twice. */
const SAME_WITHIN_MS = 2000;

/**
 * Whether the computer’s clock is right: compared with receivers and devices, put right by the operator’s word, watched for being
 * set. The record keeps the times that were written; what they truly were stands beside it.
 */
@Injectable()
export class TrueTimeService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly seen = new Map<TimeSeen['source'], TimeSeen>();
  private fromReceiver: number[] = [];
  private stretches: (WrongStretch & { id: number })[] = [];
  /** What the operator took for right all the same, ms. */
  private passedOverMs: number | undefined;
  private aheadMs = 0;
  /** The clock was set; that is still to be written. */
  private unwritten: { readonly stretch: WrongStretch | undefined } | undefined;
  private stop = (): void => undefined;

  constructor(
    private readonly clock: CorrectableClock,
    @Inject(CONFIGURATION) private readonly configuration: Configuration,
    @Inject(MACHINE) private readonly machine: Machine,
    private readonly database: DataSource,
    private readonly live: LiveService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('trueTime', () => this.view());
    await this.readStretches();
    this.aheadMs = this.aheadOfUpMs();
    const [kept]: { boot_id: string; booted_at_ms: string; by_ms: string }[] = await this.database.query(
      'SELECT boot_id, booted_at_ms, by_ms FROM time_correction WHERE id = 1',
    );
    // The same start of the computer, and nobody has set its clock since.
    const isStill =
      kept?.boot_id === this.machine.bootId() &&
      Math.abs(Number(kept.booted_at_ms) - this.bootedAt()) < SET_FROM_MS;
    if (kept && isStill) this.clock.correctBy(Number(kept.by_ms));
    this.stop = every(this.clock, LOOK_EVERY_MS, () => void this.look());
  }

  onModuleDestroy(): void {
    this.stop();
  }

  view(): TrueTimeView {
    const wrong = this.wrong();
    return {
      ...(wrong ? { wrong: { source: wrong.source, offByMs: wrong.offByMs } } : {}),
      correctedByMs: this.clock.correctedByMs(),
      stretches: this.stretches.map(({ fromMs, toMs, offByMs }) => ({ fromMs, toMs, offByMs })),
    };
  }

  /** A sentence of a position receiver told that time, ms since 1970. */
  receiverTold(timeMs: number): void {
    const offset = withLostWeeks(timeMs, NOT_BEFORE_MS) - this.clock.nowMs();
    this.fromReceiver = [...this.fromReceiver, offset].slice(-AGREEING);
    const offByMs = agreedOffset(this.fromReceiver);
    if (offByMs !== undefined) this.note({ source: 'receiver', offByMs, withinMs: SENTENCE_WITHIN_MS });
  }

  /** Of another machine: one that shares our clock tells nothing. */
  deviceTold({ offByMs, withinMs }: TimeOfDevice): void {
    this.note({ source: 'phone', offByMs, withinMs });
  }

  /** The operator takes the other’s time: from now on it is ours, and what was written since the start has its offset beside it. */
  async correct(offByMs: number): Promise<TrueTimeView> {
    const wrong = this.wrong();
    if (!wrong) {
      const isMade = Math.abs(this.clock.correctedByMs() - offByMs) < SAME_WITHIN_MS;
      if (isMade) return this.view();
      throw new ProblemException('not-found');
    }
    const beforeMs = this.clock.correctedByMs();
    const stretch = this.stretchOf(wrong.offByMs);
    // At once: a second press, or another tab, finds it made.
    this.forgetWhatWasTold();
    this.clock.correctBy(beforeMs + wrong.offByMs);
    try {
      await this.write(stretch, beforeMs + wrong.offByMs);
    } catch (error) {
      this.clock.correctBy(beforeMs);
      throw error;
    }
    return this.told();
  }

  /** The operator takes our time for right, or takes a correction back. */
  async leave(): Promise<TrueTimeView> {
    const byMs = this.clock.correctedByMs();
    if (byMs === 0) this.passedOverMs = this.wrong()?.offByMs;
    else {
      const last = this.stretches.at(-1);
      // Of a clock that was ahead there may be none.
      if (last && last.offByMs === Math.round(byMs))
        await this.database.query('DELETE FROM wrong_time WHERE id = $1', [last.id]);
      await this.write(undefined, 0);
      this.forgetWhatWasTold();
      this.clock.correctBy(0);
      this.passedOverMs = byMs;
    }
    return this.told();
  }

  /** What bears a date for others is not written by a clock that is known to be wrong. */
  refuseWhileWrong(): void {
    if (this.wrong()) throw new ProblemException('clock-wrong');
  }

  private note(told: Omit<TimeSeen, 'atMs'>): void {
    if (this.configuration.startsAtMs !== undefined) return;
    const before = this.wrong() !== undefined;
    this.seen.set(told.source, { ...told, atMs: this.clock.upMs() });
    if (before !== (this.wrong() !== undefined)) this.publish();
  }

  /** A receiver counts before a phone. */
  private wrong(): TimeSeen | undefined {
    const fresh = [this.seen.get('receiver'), this.seen.get('phone')].find(
      (one) => one !== undefined && this.clock.upMs() - one.atMs < TOLD_FOR_MS,
    );
    if (!fresh || !isClockWrong(fresh)) return undefined;
    const { passedOverMs } = this;
    const isPassedOver =
      passedOverMs !== undefined && Math.abs(fresh.offByMs - passedOverMs) < SAME_WITHIN_MS;
    return isPassedOver ? undefined : fresh;
  }

  /** When the computer was started, by its own clock as it is now. */
  private bootedAt(): number {
    return Math.round(this.clock.computersMs() - this.machine.uptimeS() * 1000);
  }

  private aheadOfUpMs(): number {
    return this.clock.computersMs() - this.clock.upMs();
  }

  /** Somebody set the computer’s clock: what was written until then was wrong by that much, unless it was corrected already. */
  private async look(): Promise<void> {
    const byMs = this.aheadOfUpMs() - this.aheadMs;
    if (Math.abs(byMs) >= SET_FROM_MS) {
      this.aheadMs += byMs;
      const isNews = this.clock.correctedByMs() === 0 && Math.abs(byMs) > SAME_WITHIN_MS;
      this.unwritten = {
        stretch: isNews ? this.stretchOf(byMs, this.clock.nowMs() - byMs) : undefined,
      };
      this.forgetWhatWasTold();
      this.clock.correctBy(0);
    }
    const { unwritten } = this;
    if (!unwritten) return;
    this.unwritten = undefined;
    try {
      await this.write(unwritten.stretch, 0);
    } catch {
      // A database that is away is asked again at the next look.
      this.unwritten ??= unwritten;
    }
    this.told();
  }

  /** All since the computer was started, or since the last stretch ended. */
  private stretchOf(offByMs: number, nowMs = this.clock.nowMs()): WrongStretch | undefined {
    const bootedAtMs = nowMs - this.machine.uptimeS() * 1000;
    const ended = this.stretches.filter(({ toMs }) => toMs <= nowMs).map(({ toMs }) => toMs);
    return stretchUntil(Math.round(Math.max(bootedAtMs, ...ended)), Math.round(nowMs), Math.round(offByMs));
  }

  private forgetWhatWasTold(): void {
    this.seen.clear();
    this.fromReceiver = [];
    this.passedOverMs = undefined;
  }

  private async write(stretch: WrongStretch | undefined, correctedByMs: number): Promise<void> {
    if (stretch)
      await this.database.query('INSERT INTO wrong_time (from_ms, to_ms, off_by_ms) VALUES ($1, $2, $3)', [
        stretch.fromMs,
        stretch.toMs,
        stretch.offByMs,
      ]);
    await this.database.query(
      `INSERT INTO time_correction (id, boot_id, booted_at_ms, by_ms) VALUES (1, $1, $2, $3)
       ON CONFLICT (id) DO UPDATE SET boot_id = excluded.boot_id, booted_at_ms = excluded.booted_at_ms, by_ms = excluded.by_ms`,
      [this.machine.bootId(), this.bootedAt(), Math.round(correctedByMs)],
    );
    await this.readStretches();
  }

  private async readStretches(): Promise<void> {
    const rows: { id: number; from_ms: string; to_ms: string; off_by_ms: string }[] =
      await this.database.query('SELECT id, from_ms, to_ms, off_by_ms FROM wrong_time ORDER BY id');
    this.stretches = rows.map(({ id, from_ms, to_ms, off_by_ms }) => ({
      id,
      fromMs: Number(from_ms),
      toMs: Number(to_ms),
      offByMs: Number(off_by_ms),
    }));
  }

  private told(): TrueTimeView {
    this.publish();
    return this.view();
  }

  private publish(): void {
    this.live.publish({ kind: 'trueTime', data: this.view() });
  }
}
