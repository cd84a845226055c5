import { Injectable } from '@nestjs/common';
import { formatCallSign } from '@mistpeak/core/callsign/callsign';
import { computedParameters, type SessionParameters } from '@mistpeak/core/throughput/session-parameters';
import { LinksService } from '../links/links.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { SessionsService } from '../sessions/sessions.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { MailRunner } from './runner.service.js';
import { MailSettingsService } from './mail-settings.service.js';

/** Takes calls of peers, behind the lock, off until the operator switches it on. */
@Injectable()
export class MailListeningService {
  constructor(
    private readonly links: LinksService,
    private readonly lock: LockService,
    private readonly operator: OperatorService,
    private readonly runner: MailRunner,
    private readonly sessions: SessionsService,
    private readonly settings: MailSettingsService,
  ) {}

  begin(): void {
    this.sessions.answerBy({
      purpose: 'mail',
      takes: (linkId, own, digipeaters) => this.takes(linkId, own, digipeaters),
      begun: (session) => this.runner.answer(session),
    });
  }

  closedBecause(): string | undefined {
    const { isOn, linkId } = this.settings.view().listening;
    if (!isOn || linkId === undefined) return 'it is switched off';
    if (!this.links.views().some(({ id }) => id === linkId)) return 'its link was removed';
    return this.lock.view(linkId).armed ? undefined : 'the transmitter of its link is locked';
  }

  private takes(
    linkId: string,
    own: string,
    digipeaters: number,
  ): { parameters: SessionParameters } | undefined {
    const { listening } = this.settings.view();
    const call = this.operator.view()?.call;
    if (call === undefined || linkId !== listening.linkId || this.closedBecause() !== undefined)
      return undefined;
    if (own !== formatCallSign({ call, ssid: listening.ssid })) return undefined;
    return { parameters: computedParameters(this.links.settings(linkId), digipeaters) };
  }
}
