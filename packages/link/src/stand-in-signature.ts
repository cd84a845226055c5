import type { KissFrame } from '@mistpeak/core/kiss/commands';
import { fromLatin1, toLatin1 } from '@mistpeak/core/bits/octets';

/**
 * What a stand-in TNC says of itself on connecting, in a KISS SetHardware frame. Only this makes a link
 * one on which demo calls may be sent; Mistpeak never sends SetHardware and never forwards it.
 */
const SIGNATURE = 'Mistpeak stand-in 1';

export const standInSignature: KissFrame = {
  port: 0,
  command: 'sethardware',
  payload: fromLatin1(SIGNATURE),
};

export function isStandInSignature(frame: KissFrame): boolean {
  return frame.command === 'sethardware' && toLatin1(frame.payload) === SIGNATURE;
}
