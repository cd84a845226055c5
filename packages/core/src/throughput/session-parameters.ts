import type { KissParameters } from '../kiss/parameters.js';
import { meanWaitMs, recommend, type ConnectionTerms } from './throughput.js';
import type { SessionOptions } from '../sessions/session.js';
import { usualTimers } from '../sessions/timers.js';

/** What an operator may set of a session; the rest follows from it. */
export interface SessionParameters {
  /** PACLEN, octets: 1 to 256. */
  readonly packetOctets: number;
  /** MAXFRAME with numbers to 7, and to 127. */
  readonly window8: number;
  readonly window128: number;
  readonly t1Ms: number;
  readonly t2Ms: number;
  readonly t3Ms: number;
  /** N2. */
  readonly retries: number;
  /** Numbers to 127 are asked for first (v2.2). */
  readonly extended: boolean;
}

/** What is known of the link. */
export type LinkTerms = KissParameters & { readonly airRate: number };

/** Until the link itself tells: one frame in twenty (common practice, no source). */
const USUAL_LOSS = 0.05;
/** A window of 127 would hold the channel for minutes; the standard's default is 32 (AX.25 v2.2, "Window size"). */
const MOST_SECONDS_OF_WINDOW = 30;

export function termsOf(
  link: LinkTerms,
  digipeaters: number,
  selective: boolean,
): Omit<ConnectionTerms, 'frameLoss'> {
  const { airRate, txDelayMs, txTailMs, persistence, slotTimeMs } = link;
  return {
    baud: airRate,
    txDelayMs,
    txTailMs,
    // Persistence 0 never sends; a sixteenth is the least that is reckoned with.
    channelWaitMs: meanWaitMs(Math.max(persistence, 1 / 16), slotTimeMs),
    digipeaters,
    selective,
  };
}

/** As the TNC page computes them. */
export function computedParameters(link: LinkTerms, digipeaters: number): SessionParameters {
  const terms = termsOf(link, digipeaters, false);
  const { packetOctets, window, firstT1Ms, retries } = recommend({ ...terms, frameLoss: USUAL_LOSS });
  const { t2Ms, t3Ms } = usualTimers({ ...timing(link, digipeaters), packetOctets, window });
  const frameSeconds = (packetOctets * 8) / link.airRate;
  return {
    packetOctets,
    window8: window,
    window128: Math.max(1, Math.min(32, Math.floor(MOST_SECONDS_OF_WINDOW / frameSeconds))),
    t1Ms: firstT1Ms,
    t2Ms,
    t3Ms,
    retries,
    extended: false,
  };
}

const timing = (
  { airRate, txDelayMs }: LinkTerms,
  digipeaters: number,
): { baud: number; txDelayMs: number; digipeaters: number } => ({
  baud: airRate,
  txDelayMs,
  digipeaters,
});

/** Both ends of a session, and whether it may be called. */
export type SessionEnds = Pick<SessionOptions, 'own' | 'peer' | 'via' | 'accepts'>;

export function optionsOf(ends: SessionEnds, parameters: SessionParameters, link: LinkTerms): SessionOptions {
  const { packetOctets, window8, window128, t1Ms, t2Ms, t3Ms, retries, extended } = parameters;
  const usual = usualTimers({ ...timing(link, ends.via.length), packetOctets, window: window8 });
  return {
    ...ends,
    packetOctets,
    window8,
    window128,
    retries,
    firstT1Ms: t1Ms,
    leastT1Ms: Math.min(t1Ms, usual.leastT1Ms),
    earliestAnswerMs: usual.earliestAnswerMs,
    t2Ms,
    t3Ms,
    extended,
    selective: false,
    negotiates: true,
  };
}
