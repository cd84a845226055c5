import { airTimeMs } from '../hdlc/air-time.js';
import { usualTimers } from '../sessions/timers.js';

/**
 * What a connection in one direction brings across. frameLoss: chance that a frame with 128 octets of information is lost
 * on one leg, 0 to below 1; longer frames are lost more often, as bits are. channelWaitMs: mean wait before one gets on the
 * air.
 */
export interface ConnectionTerms {
  readonly baud: number;
  readonly txDelayMs: number;
  readonly txTailMs: number;
  readonly channelWaitMs: number;
  readonly digipeaters: number;
  readonly frameLoss: number;
  /** Single frames are asked for again (SREJ); else all from the lost one on (REJ). */
  readonly selective: boolean;
}

/** PACLEN, octets of information; MAXFRAME, frames on the way. */
export interface Choice {
  readonly packetOctets: number;
  readonly window: number;
}

export const PACKET_OCTETS = [32, 64, 96, 128, 192, 256] as const;
export const WINDOWS = [1, 2, 3, 4, 5, 6, 7] as const;

const REFERENCE_OCTETS = 128;
/** Two addresses, control, PID, and seven octets for each digipeater (AX.25 2.2, 3.12). */
const headerOctets = (digipeaters: number): number => 7 * (2 + digipeaters) + 2;
const answerOctets = (digipeaters: number): number => headerOctets(digipeaters) - 1;

/** Chance that so many octets come over one leg: each bit is lost alike, and the reference frame as given. */
function passes(octets: number, { frameLoss, digipeaters }: ConnectionTerms): number {
  const reference = REFERENCE_OCTETS + headerOctets(digipeaters);
  return (1 - frameLoss) ** (octets / reference);
}

/** The mean wait of p-persistence on a clear channel: (1 − p)/p slots (KISS paper; geometric distribution). */
export const meanWaitMs = (persistence: number, slotTimeMs: number): number =>
  persistence > 0 ? ((1 - persistence) / persistence) * slotTimeMs : Infinity;

/**
 * Octets a second, by a cycle of the connection: a window of frames over each leg, the wait for more (T2), the answer back.
 * Where the whole window or the answer is lost, T1 runs out and the other end is asked. An estimate: it leaves out the
 * time in which lost single frames overlap with new ones, and other stations but for the wait.
 */
export function throughput(terms: ConnectionTerms, { packetOctets, window }: Choice): number {
  const { baud, txDelayMs, txTailMs, channelWaitMs, digipeaters, selective } = terms;
  const legs = digipeaters + 1;
  const frameMs = airTimeMs(new Uint8Array(headerOctets(digipeaters) + packetOctets), baud);
  const answerMs = airTimeMs(new Uint8Array(answerOctets(digipeaters)), baud);
  const keyUpMs = channelWaitMs + txDelayMs + txTailMs;
  const { firstT1Ms, t2Ms } = usualTimers({ baud, txDelayMs, packetOctets, window, digipeaters });
  const frame = passes(headerOctets(digipeaters) + packetOctets, terms) ** legs;
  const answer = passes(answerOctets(digipeaters), terms) ** legs;
  const thereMs = (keyUpMs + window * frameMs) * legs;
  const backMs = (keyUpMs + answerMs) * legs;
  // An answer waits for more frames, until the window is full.
  const isAnswered = answer * (1 - (1 - frame) ** window);
  const askedMs = (firstT1Ms + 2 * backMs) / Math.max(isAnswered, 1e-9);
  const cycleMs = thereMs + backMs + (1 - frame ** window) * t2Ms + (1 - isAnswered) * askedMs;
  return (1000 * packetOctets * broughtAcross(frame, window, selective)) / cycleMs;
}

/** Frames of a window that count: those before the first loss, or with single repeats all that came. */
function broughtAcross(frame: number, window: number, selective: boolean): number {
  if (selective || frame === 1) return window * frame;
  return (frame * (1 - frame ** window)) / (1 - frame);
}

/** What is best under these terms, and the throughput of each choice that was looked at. */
export interface Recommendation extends Choice {
  readonly octetsPerSecond: number;
  readonly firstT1Ms: number;
  readonly retries: number;
}

/** N2: retries by the standard's default (AX.25 2.2, 6.7.2.1), and the most that a bad channel makes of it. */
export const USUAL_RETRIES = 10;
const MOST_RETRIES = 25;
/** A link whose other end is there shall be given up wrongly no more often than this. */
const GIVEN_UP_WRONGLY = 0.001;
/** A gain below this is not worth a longer frame or window: what is lost by a change of the channel is more. */
const WORTH = 1.03;

/** The shortest frame and the smallest window whose throughput is within 3 % of the best. */
export function recommend(terms: ConnectionTerms): Recommendation {
  const windows = terms.selective ? WINDOWS.filter((window) => window <= 4) : WINDOWS;
  const choices = windows.flatMap((window) =>
    PACKET_OCTETS.map((packetOctets) => ({ packetOctets, window })),
  );
  const rated = choices.map((choice) => ({ ...choice, octetsPerSecond: throughput(terms, choice) }));
  const best = Math.max(...rated.map(({ octetsPerSecond }) => octetsPerSecond));
  const [chosen] = rated
    .filter(({ octetsPerSecond }) => octetsPerSecond * WORTH >= best)
    .sort((a, b) => a.window * a.packetOctets - b.window * b.packetOctets);
  const { packetOctets, window, octetsPerSecond } = chosen as (typeof rated)[number];
  const { baud, txDelayMs, digipeaters } = terms;
  const { firstT1Ms } = usualTimers({ baud, txDelayMs, packetOctets, window, digipeaters });
  return { packetOctets, window, octetsPerSecond, firstT1Ms, retries: retriesFor(terms) };
}

/** A question and its answer must come through once before the link is given up. */
function retriesFor(terms: ConnectionTerms): number {
  const legs = terms.digipeaters + 1;
  const answered = passes(answerOctets(terms.digipeaters), terms) ** (2 * legs);
  const needed = answered >= 1 ? 1 : Math.ceil(Math.log(GIVEN_UP_WRONGLY) / Math.log(1 - answered));
  return Math.min(MOST_RETRIES, Math.max(USUAL_RETRIES, needed));
}
