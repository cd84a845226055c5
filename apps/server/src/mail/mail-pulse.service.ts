import { Injectable } from '@nestjs/common';
import type { MailPulse } from '@mistpeak/contract/mail-session';
import { LiveService } from '../live/live.service.js';
import { MailStore } from './mail-store.js';

/** Tells every page that something of the mail has changed, and no word of what. */
@Injectable()
export class MailPulseService {
  private pulse: MailPulse = { unread: 0, waiting: 0, revision: 0 };

  constructor(
    private readonly live: LiveService,
    private readonly store: MailStore,
  ) {}

  begin(): Promise<void> {
    this.live.contribute('mail', () => this.pulse);
    return this.tell();
  }

  /** Never rejects: while the database is away the numbers stay as they were. */
  async tell(): Promise<void> {
    const counts = await this.store.counts().catch(() => undefined);
    const { unread, waiting } = counts ? { unread: counts.unread, waiting: counts.boxes.outbox } : this.pulse;
    this.pulse = { unread, waiting, revision: this.pulse.revision + 1 };
    this.live.publish({ kind: 'mail', data: this.pulse });
  }
}
