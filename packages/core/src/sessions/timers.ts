import { airTimeMs } from '../hdlc/air-time.js';
import type { SessionOptions } from './session.js';

/** What the times of a link follow from. */
export interface SessionTerms {
  readonly baud: number;
  readonly txDelayMs: number;
  readonly packetOctets: number;
  readonly window: number;
  readonly digipeaters: number;
}

/** Addresses, control and PID ahead of the information: two ends and each digipeater. */
const headerOctets = (digipeaters: number): number => 7 * (2 + digipeaters) + 2;
/** A turn of the channel: slots waited and the receiver's own way from receive to transmit (common practice, no source). */
const TURN_MS = 500;
/** Idle links are asked after five minutes (common practice; the standard asks only that T3 be longer than T1). */
const T3_MS = 300_000;

/**
 * The timers that suit speed, frame length, window and digipeaters. T1 covers a window of full frames there and the answer
 * back, over each digipeater; earlier practice scaled 3 s by 2n + 1 for n digipeaters, which is the floor here.
 */
export function usualTimers(
  terms: SessionTerms,
): Pick<SessionOptions, 'firstT1Ms' | 'leastT1Ms' | 'earliestAnswerMs' | 't2Ms' | 't3Ms'> {
  const { baud, txDelayMs, packetOctets, window, digipeaters } = terms;
  const air = (octets: number): number =>
    airTimeMs(new Uint8Array(headerOctets(digipeaters) + octets), baud, { txDelayMs });
  const full = air(packetOctets);
  const answer = air(0);
  const legs = digipeaters + 1;
  const t2Ms = Math.round(full + TURN_MS / 2);
  const bare = airTimeMs(new Uint8Array(headerOctets(digipeaters) - 1), baud);
  const oneWay = (full + answer + 2 * TURN_MS) * legs;
  const floor = 3000 * (2 * digipeaters + 1);
  return {
    t2Ms,
    leastT1Ms: Math.round(oneWay + t2Ms),
    firstT1Ms: Math.round(Math.max(floor, oneWay + t2Ms + (window - 1) * full * legs)),
    // Our own TXDELAY, then the bare question and the bare answer, over each digipeater.
    earliestAnswerMs: Math.round(txDelayMs + 2 * bare * legs),
    t3Ms: T3_MS,
  };
}
