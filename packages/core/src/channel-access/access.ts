import type { Keying } from '../kit/item.js';
import type { KissParameters } from '../kiss/parameters.js';

/** A value with the reckoning that led to it. */
export interface Reasoned<Value> {
  readonly value: Value;
  readonly because: string;
}

/** Key-up times to begin with until one is measured, ms (common practice, no source). */
export const USUAL_KEY_UP_MS: Readonly<Record<Keying, number>> = {
  'PTT line': 250,
  'serial line': 250,
  'chip pin': 250,
  CAT: 300,
  TNC: 250,
  VOX: 450,
  'steady tone': 400,
  'by hand': 500,
};

/** Some flags ahead of the frame, for the far receiver’s clock to settle (common practice, no source). */
const SETTLING_FLAGS = 6;
const LONGEST_KISS_MS = 2550;

/** KISS carries times in steps of 10 ms (Chepponis and Karn, The KISS TNC, 1987). */
const inSteps = (ms: number): number => Math.min(LONGEST_KISS_MS, Math.ceil(ms / 10) * 10);

/** From key-down to valid data: the radio’s key-up time, and flags for the far end’s clock. */
export function txDelay(keying: Keying, baud: number, keyUpMs = USUAL_KEY_UP_MS[keying]): Reasoned<number> {
  if (!(baud > 0)) throw new RangeError('the rate must be above 0 baud');
  const settlingMs = (SETTLING_FLAGS * 8 * 1000) / baud;
  return {
    value: inSteps(keyUpMs + settlingMs),
    because: `${keyUpMs} ms until a radio keyed by ${keying} is up, and ${SETTLING_FLAGS} flags (${settlingMs.toFixed(0)} ms at ${baud} baud) for the far end’s clock`,
  };
}

/** The time after which another’s carrier is noticed: its key-up, and the carrier detect’s own time. */
export function slotTime(baud: number): Reasoned<number> {
  if (!(baud > 0)) throw new RangeError('the rate must be above 0 baud');
  const detectMs = (DETECT_FLAGS * 8 * 1000) / baud;
  return {
    value: inSteps(Math.max(LEAST_SLOT_MS, detectMs + RISE_MS)),
    because: `others’ carrier is noticed after about ${(detectMs + RISE_MS).toFixed(0)} ms at ${baud} baud; ${LEAST_SLOT_MS} ms is the paper’s default and the least`,
  };
}

/** A carrier detect needs some flags to be sure, and a radio some time to rise (common practice, no source). */
const DETECT_FLAGS = 8;
const RISE_MS = 40;
/** SlotTime 10 in units of 10 ms (Chepponis and Karn, The KISS TNC, 1987). */
const LEAST_SLOT_MS = 100;

/** One station as the journal has it: how often it sends, frames a second. */
export interface Sender {
  readonly framesPerSecond: number;
}

/** What the journal says of the channel. use: share of the time that it is held, 0 to 1. meanFrameMs: air time of a frame. */
export interface ChannelLoad {
  readonly use: number;
  readonly meanFrameMs: number;
  readonly senders: readonly Sender[];
}

/** P is a byte: p · 256 − 1 (Chepponis and Karn, The KISS TNC, 1987); 63, a quarter, is its default. */
const USUAL_PERSISTENCE = 0.25;
const LEAST_PERSISTENCE = 0.02;
const MOST_PERSISTENCE = 0.5;

/**
 * How many stations are ready to send when the channel falls silent, ourselves included: each has a frame waiting with the
 * chance that it made one while the channel was held. A held stretch lasts, on average, a frame over the share of time
 * that is free (busy period of a single server; Kleinrock, Queueing Systems I, 1975).
 */
export function contenders({ use, meanFrameMs, senders }: ChannelLoad): number {
  const heldMs = meanFrameMs / Math.max(0.05, 1 - Math.min(1, Math.max(0, use)));
  return senders.reduce(
    (sum, { framesPerSecond }) => sum + 1 - Math.exp((-framesPerSecond * heldMs) / 1000),
    1,
  );
}

/**
 * The chance to send in a free slot: with n stations ready, one over n lets just one go most often (maximum of
 * n·p·(1 − p)^(n − 1)). Not above a half: there may be stations that are not heard here.
 */
export function persistence(load: ChannelLoad | undefined): Reasoned<number> {
  if (!load || load.senders.length === 0)
    return { value: USUAL_PERSISTENCE, because: 'nothing was heard yet: the paper’s default' };
  const n = contenders(load);
  const value = Math.min(MOST_PERSISTENCE, Math.max(LEAST_PERSISTENCE, 1 / n));
  return {
    value: Math.round(value * 256) / 256,
    because: `${load.senders.length} stations hold the channel ${(load.use * 100).toFixed(0)} % of the time: about ${n.toFixed(1)} are ready when it falls silent, and one over that lets just one go most often${1 / n > MOST_PERSISTENCE ? '; not above a half, since some stations are not heard here' : ''}`,
  };
}

/** Key held after the frame, until its last bits are out of the modem. */
export function txTail(baud: number): Reasoned<number> {
  if (!(baud > 0)) throw new RangeError('the rate must be above 0 baud');
  const ms = (TAIL_FLAGS * 8 * 1000) / baud;
  return {
    value: inSteps(ms),
    because: `${TAIL_FLAGS} flags, so that the last bits are out (${ms.toFixed(0)} ms)`,
  };
}

const TAIL_FLAGS = 3;

/** All of them for one way of keying and one channel. */
export function accessParameters(
  keying: Keying,
  baud: number,
  load: ChannelLoad | undefined,
  keyUpMs?: number,
): Readonly<Record<keyof KissParameters, Reasoned<number>>> {
  return {
    txDelayMs: txDelay(keying, baud, keyUpMs),
    persistence: persistence(load),
    slotTimeMs: slotTime(baud),
    txTailMs: txTail(baud),
  };
}
