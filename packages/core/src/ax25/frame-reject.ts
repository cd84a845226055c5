import { malformed, type Malformed } from '../bits/malformed.js';
import type { Modulo } from './control.js';

/**
 * The information field of FRMR (AX.25 v2.2, "Frame Reject (FRMR) response"): the rejected control field, V(R), C/R, V(S),
 * and why. v2.2 no longer sends it, older stations do.
 */
export interface FrameReject {
  /** The control field as it came, one octet or two (modulo 128). */
  readonly control: number;
  readonly vs: number;
  readonly vr: number;
  /** Whether the rejected frame was a response. */
  readonly response: boolean;
  readonly reasons: readonly ('invalid control' | 'info not permitted' | 'info too long' | 'invalid N(R)')[];
}

/** W X Y Z, from bit 0. */
const REASONS = ['invalid control', 'info not permitted', 'info too long', 'invalid N(R)'] as const;

export function encodeFrameReject(reject: FrameReject, modulo: Modulo): Uint8Array {
  const { control, vs, vr, response } = reject;
  const why = REASONS.reduce((bits, reason, i) => bits | (reject.reasons.includes(reason) ? 1 << i : 0), 0);
  if (modulo === 8) return Uint8Array.of(control & 0xff, (vr << 5) | (response ? 0x10 : 0) | (vs << 1), why);
  return Uint8Array.of(control & 0xff, control >> 8, vs << 1, (vr << 1) | (response ? 1 : 0), why);
}

export function decodeFrameReject(info: Uint8Array, modulo: Modulo): FrameReject | Malformed {
  const octets = modulo === 8 ? 3 : 5;
  if (info.length < octets) return malformed('the FRMR field is cut short', info.length);
  const [a, b, c, d, e] = info as unknown as [number, number, number, number, number];
  const why = modulo === 8 ? c : e;
  const reasons = REASONS.filter((_, i) => why & (1 << i));
  return modulo === 8
    ? { control: a, vs: (b >> 1) & 7, vr: b >> 5, response: (b & 0x10) !== 0, reasons }
    : { control: a | (b << 8), vs: c >> 1, vr: d >> 1, response: (d & 1) !== 0, reasons };
}
