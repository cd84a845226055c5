import { throughput, type ConnectionTerms, type Choice } from '../throughput/throughput.js';
import { PACKET_OCTETS, WINDOWS } from '../throughput/throughput.js';

/**
 * How good a connection is, from what was counted on it: how often frames of ours had to be sent again tells the loss, and
 * the loss tells what would be faster.
 */
export interface LinkCounts {
  /** Information frames of ours, first sendings and repetitions. */
  readonly framesSent: number;
  readonly framesResent: number;
  readonly octetsConfirmed: number;
  /** While something of ours was on its way or waited, ms. */
  readonly busyMs: number;
}

export interface LinkJudgement {
  /** Chance that a frame of 128 octets is lost on one leg, as reckoned from the repetitions. */
  readonly frameLoss: number;
  readonly octetsPerSecond: number | undefined;
  /** What this channel and loss would allow with the parameters as they are, and with the best ones. */
  readonly asSetOctetsPerSecond: number;
  readonly bestOctetsPerSecond: number;
  /** In the operator's words, and what to set; undefined where it is not worth it or too little was sent to say. */
  readonly advice?: { readonly words: string; readonly choice: Choice };
}

/** Fewer frames than this tell little. */
export const ENOUGH_FRAMES = 12;
/** A line or two says more about the turns of the channel than about its pace. */
export const ENOUGH_OCTETS = 300;
/** A gain below a tenth is not worth a change while a session stands (ours). */
const WORTH = 1.1;
/** A link that loses more than this does not stand. */
const MOST_LOSS = 0.9;

export function judgeLink(
  { framesSent, framesResent, octetsConfirmed, busyMs }: LinkCounts,
  terms: Omit<ConnectionTerms, 'frameLoss'>,
  now: Choice,
): LinkJudgement {
  const share = framesSent > 0 ? framesResent / framesSent : 0;
  const frameLoss = lossOf(share, terms.digipeaters, now.packetOctets);
  const full = { ...terms, frameLoss };
  const asSetOctetsPerSecond = throughput(full, now);
  const windows = terms.selective ? WINDOWS.filter((window) => window <= 4) : WINDOWS;
  const choices = windows.flatMap((window) =>
    PACKET_OCTETS.map((packetOctets) => ({ packetOctets, window })),
  );
  const rated = choices.map((choice) => ({ choice, octetsPerSecond: throughput(full, choice) }));
  const best = rated.reduce((a, b) => (b.octetsPerSecond > a.octetsPerSecond ? b : a));
  const isEnough = busyMs > 0 && octetsConfirmed >= ENOUGH_OCTETS;
  const octetsPerSecond = isEnough ? (1000 * octetsConfirmed) / busyMs : undefined;
  const gain = best.octetsPerSecond / asSetOctetsPerSecond;
  return {
    frameLoss,
    octetsPerSecond,
    asSetOctetsPerSecond,
    bestOctetsPerSecond: best.octetsPerSecond,
    ...(framesSent >= ENOUGH_FRAMES && gain >= WORTH
      ? { advice: { words: adviceWords(best.choice, now, gain, share), choice: best.choice } }
      : {}),
  };
}

/** From the share that was sent again over all legs to the loss of the reference frame on one (bits are lost alike). */
function lossOf(share: number, digipeaters: number, packetOctets: number): number {
  const header = 7 * (2 + digipeaters) + 2;
  const through = Math.max(1 - share, 1e-3) ** (1 / (digipeaters + 1));
  return Math.min(MOST_LOSS, 1 - through ** ((128 + header) / (packetOctets + header)));
}

function adviceWords({ packetOctets, window }: Choice, now: Choice, gain: number, share: number): string {
  const changes = [
    ...(packetOctets === now.packetOctets ? [] : [`frames of ${packetOctets} octets`]),
    ...(window === now.window ? [] : [window === 1 ? 'one frame at a time' : `${window} frames at a time`]),
  ].join(' and ');
  const percent = Math.round((gain - 1) * 100);
  return `${changes} would be about ${percent} % faster where ${Math.round(share * 100)} % have to be sent again`;
}
