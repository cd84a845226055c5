import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatCallSign, parseCallSign } from '@mistpeak/core/callsign/callsign';
import type { GatewayEntry, MailProfile } from '@mistpeak/contract/mail-settings';
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
