import { callWithoutSsid } from './callsign.js';

/**
 * The passcode that the APRS internet service wants: a public hash of the call, no secret and no proof.
 * 15-bit exclusive-or hash seeded 0x73E2 over the upper-case call without SSID (APRS-IS connecting, public description).
 */
export function passcode(call: string): number {
  const base = callWithoutSsid(call.trim().toUpperCase());
  let hash = 0x73e2;
  for (let i = 0; i < base.length; i++) hash ^= i % 2 === 0 ? base.charCodeAt(i) << 8 : base.charCodeAt(i);
  return hash & 0x7fff;
}
