import { Injectable } from '@nestjs/common';
import { paceOf, type Pace } from '@mistpeak/core/mail/minutes';
import { termsOf } from '@mistpeak/core/throughput/session-parameters';
import { recommend } from '@mistpeak/core/throughput/throughput';
import type { MailAttempt } from '@mistpeak/contract/mail-session';
import type { MailProfile } from '@mistpeak/contract/mail-settings';
import { LinksService } from '../links/links.service.js';

/** One frame in twenty is lost until a link tells better (common practice, no source). */
const USUAL_LOSS = 0.05;
/** Calling, greeting and login over the air; over TCP. */
const RADIO_SET_UP_MS = 20_000;
const TCP_SET_UP_MS = 3000;
/** A line of the internet is not what makes one wait. */
const TCP_OCTETS_PER_SECOND = 20_000;
/** What a modem program brings is not known before the first session (common practice, no source). */
const MODEM_OCTETS_PER_SECOND = 60;

/** How fast mail goes by a profile: by its gateways’ own history, else by the channel’s reckoning. */
@Injectable()
export class MailPace {
  constructor(private readonly links: LinksService) {}

  of(profile: MailProfile, attempts: readonly MailAttempt[]): Pace {
    const past = attempts
      .filter(
        ({ octetsPerSecond, exchangeAtMs }) => octetsPerSecond !== undefined && exchangeAtMs !== undefined,
      )
      .sort((a, b) => b.atMs - a.atMs)
      .map(({ octetsOut, octetsIn, atMs, calledAtMs = atMs, exchangeAtMs = 0, endedAtMs = 0 }) => ({
        octets: octetsOut + octetsIn,
        setUpMs: exchangeAtMs - calledAtMs,
        exchangeMs: endedAtMs - exchangeAtMs,
      }));
    return paceOf(past, this.reckoned(profile));
  }

  private reckoned({ way, linkId, gateways }: MailProfile): { octetsPerSecond: number; setUpMs: number } {
    if (way === 'tcp') return { octetsPerSecond: TCP_OCTETS_PER_SECOND, setUpMs: TCP_SET_UP_MS };
    const link = this.links.views().find(({ id }) => id === linkId);
    if (way === 'modem' || !link)
      return { octetsPerSecond: MODEM_OCTETS_PER_SECOND, setUpMs: RADIO_SET_UP_MS };
    const digipeaters = (gateways[0]?.via ?? '').split(/[,\s]+/).filter((one) => one !== '').length;
    const terms = { ...termsOf(this.links.settings(link.id), digipeaters, false), frameLoss: USUAL_LOSS };
    return {
      octetsPerSecond: recommend(terms).octetsPerSecond,
      setUpMs: RADIO_SET_UP_MS * (digipeaters + 1),
    };
  }
}
