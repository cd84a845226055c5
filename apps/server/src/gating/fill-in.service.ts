import { Inject, Injectable, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { decodeFrame, encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { shownText, toLatin1 } from '@mistpeak/core/bits/octets';
import {
  duplicateKey,
  IDLE_DIGIPEATER,
  step,
  USUAL_DUPLICATE_WINDOW_MS,
  type DigipeaterContext,
  type DigipeaterEffect,
  type DigipeaterEvent,
  type DigipeaterState,
} from '@mistpeak/core/digipeating/digipeater';
import { previewInWords, previewRepeats } from '@mistpeak/core/digipeating/preview';
import { serve, type DigipeaterRules } from '@mistpeak/core/digipeating/service';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import type { FillInPreview } from '@mistpeak/contract/gating';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { TrafficService } from '../traffic/traffic.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { GatingBook } from './gating-book.js';

const HOUR_MS = 3_600_000;
const MOST_FRAMES = 20_000;
/** How long a viscous one waits whether somebody else is quicker (common practice, no source). */
const VISCOUS_MS = 5000;
/** Over this time the share of the channel is reckoned. */
const SHARE_OVER_MS = 10 * 60_000;
/** A repeat that comes later than other digipeaters' does harm. */
const LEAVE_WITHIN_MS = 5000;

/** A fill-in digipeater of this station: off until it is switched on, behind the lock, within its share of the channel. */
@Injectable()
export class FillInService implements OnModuleInit, OnModuleDestroy {
  private readonly digipeater: Driven<DigipeaterState, DigipeaterEvent>;
  private airTimes: { readonly upMs: number; readonly airMs: number }[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly book: GatingBook,
    private readonly database: DataSource,
    private readonly links: LinksService,
    private readonly lock: LockService,
    private readonly operator: OperatorService,
    private readonly traffic: TrafficService,
    private readonly transmitting: TransmittingService,
  ) {
    this.digipeater = drive<DigipeaterState, DigipeaterEvent, DigipeaterEffect, DigipeaterContext>(
      step,
      IDLE_DIGIPEATER,
      {
        clock,
        context: ({ atMs }) => ({ atMs, rules: this.rules() }),
        perform: (effect) => void this.repeat(effect.frame),
      },
    );
  }

  onModuleInit(): void {
    this.traffic.take('fill-in', {
      heard: ({ linkId, origin, line, view }) => {
        const { settings } = this.book;
        if (!settings?.fillIn || settings.linkId !== linkId) return;
        if (origin === 'capture' || line !== undefined || view?.frame.control.kind !== 'UI') return;
        if (!this.lock.view(linkId).armed) return;
        this.noteRefusal(view.frame);
        this.digipeater.dispatch({ kind: 'heard', frame: view.frame });
      },
    });
  }

  onModuleDestroy(): void {
    this.digipeater.end();
  }

  /** What it would have done in the last hour. */
  async preview(linkId: string): Promise<FillInPreview> {
    const rows: { raw: Buffer; heard_at: Date }[] = await this.database.query(
      `SELECT raw, heard_at FROM (
         SELECT raw, heard_at, id FROM frames
         WHERE heard_at >= $1 AND link_id = $2 AND direction = 'heard' AND line IS NULL AND length(raw) > 15
         ORDER BY heard_at DESC, id DESC LIMIT $3) AS last
       ORDER BY heard_at, id`,
      [new Date(this.clock.nowMs() - HOUR_MS).toISOString(), linkId, MOST_FRAMES],
    );
    const heard = rows.flatMap(({ raw, heard_at }) => {
      const frame = decodeFrame(raw);
      return isMalformed(frame) ? [] : [{ frame, atMs: heard_at.getTime() }];
    });
    const preview = previewRepeats(heard, this.rules());
    return { ...preview, words: previewInWords(preview) };
  }

  private rules(): DigipeaterRules {
    const { settings } = this.book;
    const armed = settings && this.lock.view(settings.linkId).call;
    return {
      call: armed ?? this.operator.view()?.call ?? '',
      role: 'fill-in',
      duplicateWindowMs: USUAL_DUPLICATE_WINDOW_MS,
      ...(settings?.isViscous ? { viscousMs: VISCOUS_MS } : {}),
    };
  }

  /** What it will let be, and why; what it repeats is noted when it has left. */
  private noteRefusal(frame: Ax25Frame): void {
    const words = shownText(toLatin1(frame.info)).slice(0, 60);
    const last = this.digipeater.state().repeated.get(duplicateKey(frame));
    const service = serve(frame, this.rules());
    if (last !== undefined && this.clock.upMs() - last < USUAL_DUPLICATE_WINDOW_MS)
      this.book.note('repeated', frame.source, words, 'a copy of what was repeated');
    else if ('refusal' in service) this.book.note('repeated', frame.source, words, service.refusal);
  }

  private async repeat(frame: Ax25Frame): Promise<void> {
    const { settings } = this.book;
    if (!settings) return;
    const { linkId, sharePercent } = settings;
    const words = shownText(toLatin1(frame.info)).slice(0, 60);
    const upMs = this.clock.upMs();
    const { airRate, txDelayMs, txTailMs } = this.links.settings(linkId);
    const airMs = airTimeMs(encodeFrame(frame), airRate, { txDelayMs, txTailMs });
    this.airTimes = this.airTimes.filter((one) => upMs - one.upMs < SHARE_OVER_MS);
    const used = this.airTimes.reduce((sum, one) => sum + one.airMs, 0);
    if ((used + airMs) / SHARE_OVER_MS > sharePercent / 100)
      return this.book.note('repeated', frame.source, words, 'its share of the channel is used up');
    const { armed, call } = this.lock.view(linkId);
    if (!armed || call === undefined)
      return this.book.note('repeated', frame.source, words, 'the transmitter is locked');
    this.airTimes.push({ upMs, airMs });
    const sent = this.transmitting.offer({
      linkId,
      frame,
      answering: call,
      sendClass: 'digipeated',
      owner: 'fill-in',
      purpose: 'digipeated',
      expiresInMs: LEAVE_WITHIN_MS,
    });
    const what = await sent.catch(() => 'failed' as const);
    if (what === 'handed') this.book.note('repeated', frame.source, words);
    else this.book.note('repeated', frame.source, words, 'it was dropped on its way out');
  }
}
