import { randomUUID } from 'node:crypto';
import { Inject, Injectable, Logger, type OnModuleInit } from '@nestjs/common';
import { ANSWER_EVERY_MS, answerTo } from '@mistpeak/core/messages/auto-answer';
import { HeardCounts } from '@mistpeak/core/messages/heard-counts';
import { readDirectedQuery } from '@mistpeak/core/aprs/query';
import { formatMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { wayOf } from '@mistpeak/core/digipeating/way';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { BeaconService } from '../beacon/beacon.service.js';
import { TrafficService, type Passing } from '../traffic/traffic.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import type { HeardMessage } from './message-store.js';
import { MessagesService } from './messages.service.js';

/** Answers that nobody types: to queries, and one text to everybody; each is off until the operator switches it on. */
@Injectable()
export class AutomatonService implements OnModuleInit {
  private readonly log = new Logger('messages');
  private readonly counts = new HeardCounts();
  private answeredAtUpMs = -Infinity;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly beacon: BeaconService,
    private readonly messages: MessagesService,
    private readonly traffic: TrafficService,
    private readonly transmitting: TransmittingService,
  ) {}

  onModuleInit(): void {
    this.traffic.take('heard counts', {
      heard: ({ view, origin }) => {
        if (!view || origin === 'capture' || origin === 'internet') return;
        const { source, path } = view.frame;
        this.counts.note(source, wayOf(path).hops === 0, this.clock.upMs());
      },
    });
    this.messages.onReceived((frame, message) => this.consider(frame, message));
  }

  private consider(frame: Passing, message: HeardMessage): void {
    const { standing, text, number, from, to, linkId } = message;
    if (standing !== 'for me' || !frame.view) return;
    const upMs = this.clock.upMs();
    if (upMs - this.answeredAtUpMs < ANSWER_EVERY_MS) return;
    const answer = answerTo({ text, number, query: readDirectedQuery(text) }, this.messages.answers(), {
      direct: this.counts.direct(upMs),
      heardCounts: (call) => this.counts.counts(call, upMs),
      way: formatMonitorText({ ...frame.view.frame, info: new Uint8Array() }).replace(/:$/, ''),
    });
    if (!answer) return;
    this.answeredAtUpMs = upMs;
    const sending =
      answer.kind === 'position'
        ? this.sendPosition(to, linkId)
        : this.messages.write(
            randomUUID(),
            { from: to, to: from, text: answer.text, linkId, path: 'WIDE1-1,WIDE2-1' },
            true,
          );
    sending.catch((error: unknown) => this.log.warn(String(error)));
  }

  private async sendPosition(source: string, linkId: string): Promise<void> {
    const frame = this.beacon.frameOf(source, undefined);
    if (!frame || isMalformed(frame)) return;
    await this.transmitting.offer({
      linkId,
      frame,
      sendClass: 'message',
      owner: 'answer',
      purpose: 'beacon',
    });
  }
}
