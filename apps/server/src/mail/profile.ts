import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatCallSign, parseCallSign } from '@mistpeak/core/callsign/callsign';
import {
  computedParameters,
  type LinkTerms,
  type SessionParameters,
} from '@mistpeak/core/throughput/session-parameters';
import type { GatewayEntry, MailProfile } from '@mistpeak/contract/mail-settings';
import type { LinkView } from '@mistpeak/contract/link';
import type { ModemProgramSettings } from '@mistpeak/contract/mail-settings';
import { heldBy } from '@mistpeak/contract/sound';
import { ProblemException } from '../problems/problem.js';

/** Digipeaters of a way as typed. */
export const viaCount = (via: string): number => via.split(/[,\s]+/).filter((one) => one !== '').length;

/** A service on TCP is one gateway, by the name of its host. */
export const gatewaysOf = ({ way, host = '', gateways }: MailProfile): readonly GatewayEntry[] =>
  way === 'tcp' ? [{ call: host, via: '', note: '' }] : gateways;

/** @throws ProblemException for what is no call. */
export function callOf(text: string): string {
  const call = parseCallSign(text);
  if (isMalformed(call)) throw new ProblemException('field-refused', { from: call.malformed });
  return formatCallSign(call);
}

/** Computed for the link, but for what the operator has set. */
export function parametersOf(
  { packetOctets, window }: Pick<MailProfile, 'packetOctets' | 'window'>,
  link: LinkTerms,
  digipeaters: number,
): SessionParameters {
  const computed = computedParameters(link, digipeaters);
  return {
    ...computed,
    packetOctets: packetOctets ?? computed.packetOctets,
    window8: window ?? computed.window8,
  };
}

/** Our own modem and another program's cannot both have the card. */
export function sharesCard(
  { way, modem }: Pick<MailProfile, 'way' | 'modem'>,
  modems: readonly ModemProgramSettings[],
  links: readonly Pick<LinkView, 'settings' | 'phase'>[],
): boolean {
  const card = modems.find(({ name }) => name === modem)?.card ?? '';
  if (way !== 'modem' || card === '') return false;
  return links.some(
    ({ settings, phase }) =>
      settings.kind === 'sound-card' &&
      phase !== 'closed' &&
      phase !== 'failed' &&
      settings.sound !== undefined &&
      heldBy(settings.sound).some((one) => one.endsWith(` ${card}`)),
  );
}
